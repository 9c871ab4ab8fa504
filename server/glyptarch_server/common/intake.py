"""Limits on size and pace of request bodies, checked before Django reads them.

Django's ASGI handler writes any body to a temporary file before it asks for permission.
"""

import asyncio
import json
import re
import time
from collections.abc import Awaitable, Callable, MutableMapping
from dataclasses import dataclass
from typing import Any, Final, TypeAlias

__all__ = ["Intake", "limit_of"]

_Scope: TypeAlias = MutableMapping[str, Any]
_Receive: TypeAlias = Callable[[], Awaitable[MutableMapping[str, Any]]]
_Send: TypeAlias = Callable[[MutableMapping[str, Any]], Awaitable[None]]
_App: TypeAlias = Callable[..., Awaitable[None]]

_KILOBYTE, _MEGABYTE = 1 << 10, 1 << 20
_STRANGER = 256 * _KILOBYTE
_BY_PATH: Final = (
    (re.compile(r"/api/blogs/[^/]+/pictures"), 21 * _MEGABYTE),
    (re.compile(r"/api/"), 6 * _MEGABYTE),
    # A hub authenticates by the key in the address and by its signature, never by a session.
    (re.compile(r"/websub/[^/]+"), 4 * _MEGABYTE),
)
_OF_STRANGERS: Final = re.compile(r"/websub/|/blog/")
_ELSEWHERE = 64 * _KILOBYTE
_SECONDS_TO_BEGIN = 20.0
_SLOWEST = 16 * _KILOBYTE
"""Bytes a second that a body must come with in the mean, after it has begun."""

_WORDS = {
    408: ("Request timeout", "The request came too slowly and was broken off. Try again."),
    413: ("Too much at once", "The request is larger than what is taken at this address."),
}


def limit_of(path: str, *, shows_who: bool) -> int:
    """Return the largest body in bytes for a path.

    Small for requests without credentials.
    """
    limit = next((limit for pattern, limit in _BY_PATH if pattern.match(path)), _ELSEWHERE)
    return limit if shows_who or _OF_STRANGERS.match(path) else min(limit, _STRANGER)


class _RefusedError(Exception):
    def __init__(self, status: int) -> None:
        super().__init__(status)
        self.status = status


@dataclass(slots=True)
class _Body:
    """The body of one request as it comes in."""

    receive: _Receive
    limit: int
    taken: int = 0
    begun: float = 0.0

    async def next(self) -> MutableMapping[str, Any]:
        """Receive the next message. Raises _RefusedError when the body is too large or too slow."""
        self.begun = self.begun or time.monotonic()
        until = self.begun + _SECONDS_TO_BEGIN + self.taken / _SLOWEST
        try:
            async with asyncio.timeout(max(0.0, until - time.monotonic())):
                message = await self.receive()
        except TimeoutError as error:
            raise _RefusedError(408) from error
        if message["type"] == "http.request":
            self.taken += len(message.get("body", b""))
            if self.taken > self.limit:
                raise _RefusedError(413)
        return message


class Intake:
    """Wraps an ASGI application."""

    def __init__(self, app: _App) -> None:
        self._app = app

    async def __call__(self, scope: _Scope, receive: _Receive, send: _Send) -> None:
        """Answer a request, or refuse it for its size or its pace."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        headers = {name.lower(): value for name, value in scope["headers"]}
        shows_who = b"authorization" in headers or b"sessionid=" in headers.get(b"cookie", b"")
        body = _Body(receive, limit_of(scope["path"], shows_who=shows_who))
        stated = headers.get(b"content-length", b"0")
        if stated.isdigit() and (len(stated) > 12 or int(stated) > body.limit):  # noqa: PLR2004 - a terabyte has 13 digits
            await _refuse(send, 413)
            return
        whole = begun = False

        async def checked() -> MutableMapping[str, Any]:
            nonlocal whole
            if whole:
                # After the body comes only the disconnect, which may take any time.
                return await receive()
            message = await body.next()
            whole = not message.get("more_body", False)
            return message

        async def noted(message: MutableMapping[str, Any]) -> None:
            nonlocal begun
            begun = True
            await send(message)

        try:
            await self._app(scope, checked, noted)
        except _RefusedError as error:
            if begun:
                raise
            await _refuse(send, error.status)


async def _refuse(send: _Send, status: int) -> None:
    title, detail = _WORDS[status]
    problem = {"type": "about:blank", "status": status, "title": title, "detail": detail, "faults": []}
    headers = [(b"content-type", b"application/problem+json"), (b"connection", b"close")]
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": json.dumps(problem).encode()})
