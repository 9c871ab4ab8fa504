"""Security headers that Django itself does not set."""

from collections.abc import Awaitable, Callable
from inspect import iscoroutinefunction
from typing import TypeAlias

from django.http import HttpRequest, HttpResponseBase
from django.utils.decorators import sync_and_async_middleware

__all__ = ["security_headers"]

# Pictures of posts stay where their sources keep them; everything else comes from here.
_POLICY = (
    "default-src 'self'; img-src 'self' http: https: data:; media-src 'self' http: https:; "
    "style-src 'self' 'unsafe-inline'; script-src 'self'; frame-ancestors 'self'; base-uri 'none'; form-action 'self'"
)

_Answer: TypeAlias = Callable[[HttpRequest], HttpResponseBase]
_AsyncAnswer: TypeAlias = Callable[[HttpRequest], Awaitable[HttpResponseBase]]


@sync_and_async_middleware
def security_headers(get_response: _Answer | _AsyncAnswer) -> _Answer | _AsyncAnswer:
    """Add the content security policy to every answer."""
    if iscoroutinefunction(get_response):

        async def answer_later(request: HttpRequest) -> HttpResponseBase:
            response: HttpResponseBase = await get_response(request)
            response.headers.setdefault("Content-Security-Policy", _POLICY)
            return response

        return answer_later

    def answer(request: HttpRequest) -> HttpResponseBase:
        response = get_response(request)
        assert isinstance(response, HttpResponseBase)  # noqa: S101 - the other kind is handled above
        response.headers.setdefault("Content-Security-Policy", _POLICY)
        return response

    return answer
