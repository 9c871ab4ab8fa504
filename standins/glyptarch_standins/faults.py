"""Faults that can be switched on for a site, to see how a reader of feeds bears them."""

import asyncio
import contextlib
import time
from collections.abc import Awaitable, Callable
from typing import TypeAlias

from aiohttp import web

__all__ = ["FAULTS", "Fault"]

Fault: TypeAlias = Callable[[web.Request, bytes, str], Awaitable[web.StreamResponse]]
"""Takes the request, the sound body and its content type, and spoils the answer."""


async def _missing(_request: web.Request, _body: bytes, _kind: str) -> web.StreamResponse:
    return web.Response(status=404, text="No such page.")


async def _gone(_request: web.Request, _body: bytes, _kind: str) -> web.StreamResponse:
    return web.Response(status=410, text="This feed is no more.")


async def _too_often(_request: web.Request, _body: bytes, _kind: str) -> web.StreamResponse:
    return web.Response(status=429, headers={"Retry-After": "1800"}, text="Not so often, please.")


async def _broken(_request: web.Request, _body: bytes, _kind: str) -> web.StreamResponse:
    return web.Response(status=500, text="Something broke.")


async def _slow(_request: web.Request, body: bytes, kind: str) -> web.StreamResponse:
    await asyncio.sleep(60)
    return web.Response(body=body, headers={"Content-Type": kind})


async def _cut_off(request: web.Request, body: bytes, kind: str) -> web.StreamResponse:
    answer = web.StreamResponse(headers={"Content-Type": kind, "Content-Length": str(len(body))})
    await answer.prepare(request)
    await answer.write(body[: len(body) // 2])
    if request.transport is not None:
        request.transport.close()
    return answer


async def _wrong_encoding(_request: web.Request, body: bytes, kind: str) -> web.StreamResponse:
    spoiled = body.decode().encode("cp1252", "replace")
    return web.Response(body=spoiled, headers={"Content-Type": kind.partition(";")[0] + "; charset=utf-8"})


async def _no_feed(_request: web.Request, _body: bytes, _kind: str) -> web.StreamResponse:
    return web.Response(text="This was a feed once.", content_type="text/plain")


async def _loop(request: web.Request, _body: bytes, _kind: str) -> web.StreamResponse:
    raise web.HTTPFound(f"{request.path}?again={time.monotonic_ns()}")


async def _huge(request: web.Request, body: bytes, kind: str) -> web.StreamResponse:
    answer = web.StreamResponse(headers={"Content-Type": kind})
    await answer.prepare(request)
    await answer.write(body[:-20])
    filler = b"<!-- more and more of it -->" * 4096
    # The client may close the connection.
    with contextlib.suppress(ConnectionError):
        for _ in range(400):
            await answer.write(filler)
    return answer


async def _sign_in(_request: web.Request, _body: bytes, _kind: str) -> web.StreamResponse:
    return web.Response(status=401, headers={"WWW-Authenticate": 'Basic realm="members"'}, text="Who are you?")


async def _forbidden(_request: web.Request, _body: bytes, _kind: str) -> web.StreamResponse:
    return web.Response(status=403, text="Not for programs.")


async def _login_page(_request: web.Request, _body: bytes, _kind: str) -> web.StreamResponse:
    fields = "<form><input name=name><input type=password name=word><button>Enter</button></form>"
    return web.Response(text=f"<!doctype html><html><body>{fields}</body></html>", content_type="text/html")


async def _no_target(_request: web.Request, _body: bytes, _kind: str) -> web.StreamResponse:
    return web.Response(status=302, text="Somewhere else.")


async def _moved_to_nothing(_request: web.Request, _body: bytes, _kind: str) -> web.StreamResponse:
    raise web.HTTPFound("/nowhere/feed")


async def _bad_encoding(_request: web.Request, body: bytes, kind: str) -> web.StreamResponse:
    answer = web.Response(body=body, headers={"Content-Type": kind, "Content-Encoding": "gzip"})
    answer.headers["Content-Length"] = str(len(body))
    return answer


async def _never_changed(_request: web.Request, _body: bytes, _kind: str) -> web.StreamResponse:
    return web.Response(status=304)


FAULTS: dict[str, tuple[str, Fault]] = {
    "missing": ("404: the address does not exist", _missing),
    "gone": ("410: the feed is gone for good", _gone),
    "too_often": ("429: asks to be left alone for half an hour", _too_often),
    "broken": ("500: the server has trouble", _broken),
    "slow": ("answers after a minute", _slow),
    "cut_off": ("the body breaks off half-way", _cut_off),
    "wrong_encoding": ("says UTF-8, sends something else", _wrong_encoding),
    "no_feed": ("plain text in place of the feed", _no_feed),
    "redirect_loop": ("redirects to itself for ever", _loop),
    "huge": ("a body of some 45 MB", _huge),
    "sign_in": ("401: asks for a user name and a password", _sign_in),
    "forbidden": ("403: lets nobody in", _forbidden),
    "login_page": ("a page with a login in place of the feed", _login_page),
    "no_target": ("302 without a target", _no_target),
    "moved_to_nothing": ("302 to an address that does not exist", _moved_to_nothing),
    "bad_encoding": ("says gzip, and is not", _bad_encoding),
    "never_changed": ("304 to everything", _never_changed),
}
