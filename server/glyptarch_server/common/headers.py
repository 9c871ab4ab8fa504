"""Security headers that Django itself does not set."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

__all__ = ["SecurityHeaders"]

# Pictures of posts stay where their sources keep them; everything else comes from here.
_POLICY = (
    "default-src 'self'; img-src 'self' http: https: data:; media-src 'self' http: https:; "
    "style-src 'self' 'unsafe-inline'; script-src 'self'; frame-ancestors 'self'; base-uri 'none'; form-action 'self'"
)


class SecurityHeaders:
    """Adds the content security policy to every answer."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer as the next one does, with the policy added."""
        response = self._get_response(request)
        response.headers.setdefault("Content-Security-Policy", _POLICY)
        return response
