"""How many requests are worked on at once: more wait for their turn, and none fails for want of a connection."""

import asyncio
from collections.abc import Awaitable, Callable
from inspect import iscoroutinefunction
from typing import TypeAlias

from asgiref.sync import sync_to_async
from django.conf import settings
from django.db import close_old_connections
from django.http import HttpRequest, HttpResponseBase
from django.utils.decorators import sync_and_async_middleware

__all__ = ["in_turn"]

_Answer: TypeAlias = Callable[[HttpRequest], HttpResponseBase]
_AsyncAnswer: TypeAlias = Callable[[HttpRequest], Awaitable[HttpResponseBase]]


@sync_and_async_middleware
def in_turn(get_response: _Answer | _AsyncAnswer) -> _Answer | _AsyncAnswer:
    """Let so many requests in at once as there are connections to the database.

    The connection goes back as soon as the answer is made. Django itself would keep it until the
    answer has been sent, so that a few readers with slow lines could use up all there are.
    """
    if not iscoroutinefunction(get_response):
        return get_response
    turns = asyncio.Semaphore(settings.GLYPTARCH_REQUESTS_AT_ONCE)

    async def answer(request: HttpRequest) -> HttpResponseBase:
        async with turns:
            try:
                response: HttpResponseBase = await get_response(request)
            finally:
                await sync_to_async(close_old_connections)()
        return response

    return answer
