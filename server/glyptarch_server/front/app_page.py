"""The one page of the desk, which loads the front end."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse, HttpResponsePermanentRedirect
from django.views.decorators.http import require_safe

__all__ = ["app_page", "icon"]

_UNBUILT = "<!doctype html><title>Glyptarch</title><p>The front end has not been built. Run: npm run build, in web/"


@require_safe
def app_page(_request: HttpRequest, rest: str = "") -> HttpResponse:
    """Return the built page for any path.

    The front end routes it.
    """
    del rest
    page = settings.WEB_DIST / "index.html"
    if not page.is_file():
        return HttpResponse(_UNBUILT, status=503)
    response = HttpResponse(page.read_bytes())
    response["Cache-Control"] = "no-cache"
    return response


@require_safe
def icon(_request: HttpRequest) -> HttpResponse:
    """Redirect requests for the conventional icon to the present one."""
    return HttpResponsePermanentRedirect("/mark.svg")
