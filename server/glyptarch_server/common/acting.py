"""The acting person of the current request, for the audit."""

from collections.abc import Awaitable, Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import datetime
from inspect import iscoroutinefunction
from typing import TypeAlias

from django.contrib.auth.models import AbstractUser
from django.http import HttpRequest, HttpResponseBase
from django.utils.decorators import sync_and_async_middleware

__all__ = ["acting_as", "acting_at", "acting_person", "remember_request"]

_Answer: TypeAlias = Callable[[HttpRequest], HttpResponseBase]
_AsyncAnswer: TypeAlias = Callable[[HttpRequest], Awaitable[HttpResponseBase]]

_request: ContextVar[HttpRequest | None] = ContextVar("request", default=None)
_stand_in: ContextVar[tuple[AbstractUser, datetime] | None] = ContextVar("stand_in", default=None)


@contextmanager
def acting_as(person: AbstractUser, at: datetime) -> Iterator[None]:
    """Make a command act for a person at a past moment, for the demo's history."""
    kept = _stand_in.set((person, at))
    try:
        yield
    finally:
        _stand_in.reset(kept)


def acting_at() -> datetime | None:
    """Return the moment at which a command acts.

    None for the present.
    """
    stand_in = _stand_in.get()
    return stand_in[1] if stand_in else None


def acting_person() -> AbstractUser | None:
    """Return the person of the current request.

    None in jobs and in commands without a person.
    """
    if stand_in := _stand_in.get():
        return stand_in[0]
    request = _request.get()
    user = getattr(request, "user", None)
    return user if isinstance(user, AbstractUser) else None


@sync_and_async_middleware
def remember_request(get_response: _Answer | _AsyncAnswer) -> _Answer | _AsyncAnswer:
    """Store the current request for the audit while it is answered."""
    if iscoroutinefunction(get_response):

        async def answer_later(request: HttpRequest) -> HttpResponseBase:
            kept = _request.set(request)
            try:
                response: HttpResponseBase = await get_response(request)
            finally:
                _request.reset(kept)
            return response

        return answer_later

    def answer(request: HttpRequest) -> HttpResponseBase:
        kept = _request.set(request)
        try:
            response = get_response(request)
        finally:
            _request.reset(kept)
        assert isinstance(response, HttpResponseBase)  # noqa: S101 - the other kind is handled above
        return response

    return answer
