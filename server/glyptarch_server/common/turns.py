"""Concurrency limits of a web process: requests at work, and requests that wait.

Readers of the blogs and people at the desk wait in separate lanes, so that a rush of one does not stop the other. A
request that would wait too long gets 503 with ``Retry-After`` (RFC 9110, 10.2.3 and 15.6.4).
"""

import asyncio
import html
from collections.abc import AsyncIterator, Awaitable, Callable
from contextlib import asynccontextmanager
from http import HTTPStatus
from inspect import iscoroutinefunction
from typing import TypeAlias

from asgiref.sync import sync_to_async
from django.conf import settings
from django.db import close_old_connections
from django.http import HttpRequest, HttpResponse, HttpResponseBase
from django.utils.decorators import sync_and_async_middleware

from glyptarch_server.common.problems import problem_response

__all__ = ["BusyError", "Lane", "in_turn"]

_Answer: TypeAlias = Callable[[HttpRequest], HttpResponseBase]
_AsyncAnswer: TypeAlias = Callable[[HttpRequest], Awaitable[HttpResponseBase]]

_READERS = ("/blog/", "/media/")
_PROBES = "/health/"
_READERS_AT_ONCE = 2
"""Making a page is mostly computing, and a process computes one thing at a time: more at once only delay the desk."""
_WAITING_READERS = 400
_WAITING_PER_TURN = 8
"""How many wait for each turn at the desk."""
_LONGEST_WAIT = 5.0
_READERS_LONGEST_WAIT = 20.0
"""Seconds. At 40 ms a page, four hundred different pages of an empty cache take about sixteen."""
_SECONDS_TO_ASK_AGAIN = 3
_TITLE = "Too busy"
_DETAIL = "More is asked of this server than it can answer now. Try again in a few seconds."


class BusyError(Exception):
    """Raised where a request would wait too long for its turn."""


class Lane:
    """Turns for requests of one kind, first come, first served."""

    def __init__(self, turns: int, *, waiting: int, longest_wait: float = _LONGEST_WAIT) -> None:
        self._turns = asyncio.Semaphore(turns)
        self._may_wait = waiting
        self._longest_wait = longest_wait
        self._waiting = 0

    @asynccontextmanager
    async def turn(self) -> AsyncIterator[None]:
        """Hold a turn. Raises BusyError where too many wait, or after the longest wait in seconds."""
        if self._turns.locked() and self._waiting >= self._may_wait:
            raise BusyError
        self._waiting += 1
        try:
            async with asyncio.timeout(self._longest_wait):
                await self._turns.acquire()
        except TimeoutError as error:
            raise BusyError from error
        finally:
            self._waiting -= 1
        try:
            yield
        finally:
            self._turns.release()


@sync_and_async_middleware
def in_turn(get_response: _Answer | _AsyncAnswer) -> _Answer | _AsyncAnswer:
    """Admit as many requests of the desk as half the database connections, and a few of readers.

    The connection is released as soon as the answer is made. Django itself keeps it until the answer has been sent, so
    that a few readers with slow lines could use up all connections.
    """
    if not iscoroutinefunction(get_response):
        return get_response
    each = max(1, settings.GLYPTARCH_REQUESTS_AT_ONCE // 2)
    readers = Lane(min(each, _READERS_AT_ONCE), waiting=_WAITING_READERS, longest_wait=_READERS_LONGEST_WAIT)
    desk = Lane(each, waiting=each * _WAITING_PER_TURN)

    async def answer(request: HttpRequest) -> HttpResponseBase:
        if request.path.startswith(_PROBES):
            return await worked_on(request)
        try:
            async with (readers if request.path.startswith(_READERS) else desk).turn():
                return await worked_on(request)
        except BusyError:
            return _busy(request)

    async def worked_on(request: HttpRequest) -> HttpResponseBase:
        try:
            response: HttpResponseBase = await get_response(request)
        finally:
            await sync_to_async(close_old_connections)()
        return response

    return answer


def _busy(request: HttpRequest) -> HttpResponse:
    if request.path.startswith("/api/"):
        response: HttpResponse = problem_response(HTTPStatus.SERVICE_UNAVAILABLE, _TITLE, _DETAIL)
    else:
        page = (
            f"<!doctype html><html lang=en><title>{_TITLE}</title><h1>{_TITLE}</h1><p>{html.escape(_DETAIL)}</p></html>"
        )
        response = HttpResponse(page, status=HTTPStatus.SERVICE_UNAVAILABLE)
    response["Content-Length"] = str(len(response.content))
    response["Retry-After"] = str(_SECONDS_TO_ASK_AGAIN)
    response["Cache-Control"] = "no-store"
    return response
