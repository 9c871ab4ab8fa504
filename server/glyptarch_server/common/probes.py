"""Health probes: any host name, by number, and without TLS."""

from collections.abc import Awaitable, Callable
from inspect import iscoroutinefunction
from typing import TypeAlias

from django.http import HttpRequest, HttpResponseBase
from django.utils.decorators import sync_and_async_middleware

__all__ = ["any_host"]

_PATHS = ("/health/live", "/health/ready", "/metrics")

_Answer: TypeAlias = Callable[[HttpRequest], HttpResponseBase]
_AsyncAnswer: TypeAlias = Callable[[HttpRequest], Awaitable[HttpResponseBase]]


def _forget_host(request: HttpRequest) -> None:
    """Remove the host of a probe, so that none is refused for its name.

    The answers do not depend on it.
    """
    if request.path_info in _PATHS:
        request.META["HTTP_HOST"] = "localhost"
        request.META.pop("HTTP_X_FORWARDED_HOST", None)
        # Bypasses Django's check of allowed hosts, as its own test client does.
        request.get_host = lambda: "localhost"  # type: ignore[method-assign]


@sync_and_async_middleware
def any_host(get_response: _Answer | _AsyncAnswer) -> _Answer | _AsyncAnswer:
    """Answer health probes for any host."""
    if iscoroutinefunction(get_response):

        async def answer_later(request: HttpRequest) -> HttpResponseBase:
            _forget_host(request)
            response: HttpResponseBase = await get_response(request)
            return response

        return answer_later

    def answer(request: HttpRequest) -> HttpResponseBase:
        _forget_host(request)
        response = get_response(request)
        assert isinstance(response, HttpResponseBase)  # noqa: S101 - the other kind is handled above
        return response

    return answer
