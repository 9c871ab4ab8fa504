"""A slow site on loopback: a feed with an archive, articles, pictures, and a recording."""

import asyncio
import io

from aiohttp import web
from PIL import Image

__all__ = ["NUMBER_OF_OLDER_ITEMS", "RECORDING_SIZE", "application"]

_PAGES = 25
_ON_A_PAGE = 8
_PIECE = 256 << 10
_PIECES = 40
RECORDING_SIZE = 12 + _PIECE * _PIECES
"""Bytes of each recording."""


def _item(base: str, number: int) -> str:
    return (
        f"<item><guid>{base}-{number}</guid><title>Story {number} of the night</title>"
        f"<link>{base}/article/{number}</link>"
        f"<description>Words of story {number}.</description></item>"
    )


async def _feed(request: web.Request) -> web.Response:
    """Return a page of the archive, which names the next one (RFC 5005, 3)."""
    await asyncio.sleep(0.1)
    page, base = int(request.query.get("page", "1")), f"http://{request.host}/{request.match_info['name']}"
    older = f'<atom:link rel="next" href="{base}/feed?page={page + 1}"/>' if page < _PAGES else ""
    items = "".join(_item(base, page * _ON_A_PAGE + place) for place in range(_ON_A_PAGE))
    text = (
        '<rss version="2.0" xmlns:atom="http://www.w3.org/2005/Atom"><channel><title>Slow</title>'
        f"{older}{items}</channel></rss>"
    )
    return web.Response(text=text, content_type="application/rss+xml")


async def _article(_request: web.Request) -> web.Response:
    await asyncio.sleep(0.1)
    text = "The dome opens at nine in the evening, and everybody may come. " * 20
    page = f"<html><head><title>Story</title></head><body><article><h1>Story</h1><p>{text}</p></article></body></html>"
    return web.Response(text=page, content_type="text/html")


async def _picture(request: web.Request) -> web.Response:
    await asyncio.sleep(0.1)
    number = int(request.match_info["number"])
    file = io.BytesIO()
    Image.new("RGB", (400 + number, 300), (number % 255, 80, 120)).save(file, "PNG")
    return web.Response(body=file.getvalue(), content_type="image/png")


async def _recording(request: web.Request) -> web.StreamResponse:
    answer = web.StreamResponse(headers={"Content-Type": "video/mp4", "Content-Length": str(RECORDING_SIZE)})
    await answer.prepare(request)
    await answer.write(b"\x00\x00\x00\x20ftypisom")
    for _ in range(_PIECES):
        await answer.write(bytes(_PIECE))
        await asyncio.sleep(0.1)
    return answer


def application() -> web.Application:
    """Return the site."""
    app = web.Application()
    app.router.add_get("/{name}/feed", _feed)
    app.router.add_get("/{name}/article/{number}", _article)
    app.router.add_get("/{name}/picture/{number}.png", _picture)
    app.router.add_get("/{name}/film.mp4", _recording)
    return app


NUMBER_OF_OLDER_ITEMS = (_PAGES - 1) * _ON_A_PAGE
"""How many items the pages before the first have."""
