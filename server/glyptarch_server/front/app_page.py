"""The one page of the desk: it loads the front end, which does the rest."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import require_safe

__all__ = ["app_page"]

_UNBUILT = "<!doctype html><title>Glyptarch</title><p>The front end has not been built. Run: npm run build, in web/"


@require_safe
def app_page(_request: HttpRequest) -> HttpResponse:
    """Give the built page, whatever the path: the front end reads it."""
    page = settings.WEB_DIST / "index.html"
    if not page.is_file():
        return HttpResponse(_UNBUILT, status=503)
    response = HttpResponse(page.read_bytes())
    response["Cache-Control"] = "no-cache"
    return response
