"""A number for each request, in its answer and in every line of the log that belongs to it."""

import re
import uuid
from collections.abc import Awaitable, Callable
from inspect import iscoroutinefunction
from typing import TypeAlias

from django.http import HttpRequest, HttpResponseBase
from django.utils.decorators import sync_and_async_middleware
from structlog.contextvars import bound_contextvars

__all__ = ["HEADER", "numbered"]

HEADER = "X-Request-ID"
_GIVEN = re.compile(r"[A-Za-z0-9._-]{8,64}\Z")

_Answer: TypeAlias = Callable[[HttpRequest], HttpResponseBase]
_AsyncAnswer: TypeAlias = Callable[[HttpRequest], Awaitable[HttpResponseBase]]


def _number(request: HttpRequest) -> str:
    """Return the request number set by a proxy, or a new one."""
    number = request.headers.get(HEADER, "")
    return number if _GIVEN.match(number) else uuid.uuid4().hex


@sync_and_async_middleware
def numbered(get_response: _Answer | _AsyncAnswer) -> _Answer | _AsyncAnswer:
    """Assign a number to every request."""
    if iscoroutinefunction(get_response):

        async def answer_later(request: HttpRequest) -> HttpResponseBase:
            number = _number(request)
            with bound_contextvars(request=number):
                response: HttpResponseBase = await get_response(request)
            response.headers[HEADER] = number
            return response

        return answer_later

    def answer(request: HttpRequest) -> HttpResponseBase:
        number = _number(request)
        with bound_contextvars(request=number):
            response = get_response(request)
        assert isinstance(response, HttpResponseBase)  # noqa: S101 - the other kind is handled above
        response.headers[HEADER] = number
        return response

    return answer
