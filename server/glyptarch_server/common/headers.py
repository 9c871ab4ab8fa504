"""Security headers that Django itself does not set."""

from collections.abc import Awaitable, Callable, Sequence
from inspect import iscoroutinefunction
from typing import TypeAlias

from django.http import HttpRequest, HttpResponseBase
from django.utils.decorators import sync_and_async_middleware

__all__ = ["policy_with_frames", "security_headers"]

# Pictures may come from the sources' hosts, everything else from here.
_POLICY = (
    "default-src 'self'; img-src 'self' http: https: data:; media-src 'self' http: https:; "
    "style-src 'self' 'unsafe-inline'; script-src 'self'; frame-ancestors 'self'; base-uri 'none'; form-action 'self'"
)


def policy_with_frames(origins: Sequence[str]) -> str:
    """Return the content security policy of a page that may frame some other origins."""
    return f"{_POLICY}; frame-src 'self' {' '.join(origins)}"


_Answer: TypeAlias = Callable[[HttpRequest], HttpResponseBase]
_AsyncAnswer: TypeAlias = Callable[[HttpRequest], Awaitable[HttpResponseBase]]


def _with_headers(request: HttpRequest, response: HttpResponseBase) -> HttpResponseBase:
    response.headers.setdefault("Content-Security-Policy", _POLICY)
    # frame-ancestors for browsers without CSP support (RFC 7034).
    response.headers.setdefault("X-Frame-Options", "SAMEORIGIN")
    if request.path_info.startswith("/api/"):
        response.headers.setdefault("Cache-Control", "no-store")
    return response


@sync_and_async_middleware
def security_headers(get_response: _Answer | _AsyncAnswer) -> _Answer | _AsyncAnswer:
    """Add the content security policy to every answer, and keep API answers out of caches."""
    if iscoroutinefunction(get_response):

        async def answer_later(request: HttpRequest) -> HttpResponseBase:
            return _with_headers(request, await get_response(request))

        return answer_later

    def answer(request: HttpRequest) -> HttpResponseBase:
        response = get_response(request)
        assert isinstance(response, HttpResponseBase)  # noqa: S101 - the other kind is handled above
        return _with_headers(request, response)

    return answer
