"""Serving stored files, with byte ranges for players (RFC 9110, 14)."""

import re
from collections.abc import AsyncIterator
from http import HTTPStatus

from asgiref.sync import sync_to_async
from django.core.files.base import File
from django.core.files.storage import default_storage
from django.http import Http404, HttpRequest, HttpResponse, HttpResponseBase, StreamingHttpResponse
from django.views.decorators.http import require_safe

from glyptarch_server.media.files import MIMES, is_file_name

__all__ = ["kept_file"]

_PIECE = 256 << 10
_RANGE = re.compile(r"bytes=(\d{0,15})-(\d{0,15})")
_YEAR = "public, max-age=31536000, immutable"


@require_safe
def kept_file(request: HttpRequest, name: str) -> HttpResponseBase:
    """Return a stored file, or the requested range of it.

    The name has the hash of the contents, so the file never changes and may be cached forever.
    """
    if not is_file_name(name):
        raise Http404("There is nothing at this address.")
    try:
        file = default_storage.open(name)
    except FileNotFoundError as error:
        raise Http404("There is nothing at this address.") from error
    size = file.size
    first, last = 0, size - 1
    status = HTTPStatus.OK
    asked = request.headers.get("Range", "")
    if asked and "," not in asked and (match := _RANGE.fullmatch(asked.strip())) and match[0] != "bytes=-":
        first, last = _part(match[1], match[2], size)
        status = HTTPStatus.PARTIAL_CONTENT
    if first > last or first >= size:
        file.close()
        return HttpResponse(
            status=HTTPStatus.REQUESTED_RANGE_NOT_SATISFIABLE, headers={"Content-Range": f"bytes */{size}"}
        )
    headers = {
        "Content-Length": str(last - first + 1),
        "Accept-Ranges": "bytes",
        "Cache-Control": _YEAR,
        "X-Content-Type-Options": "nosniff",
        "Content-Security-Policy": "default-src 'none'; sandbox",
    }
    if status is HTTPStatus.PARTIAL_CONTENT:
        headers["Content-Range"] = f"bytes {first}-{last}/{size}"
    mime = MIMES[name.rpartition(".")[2]]
    if request.method == "HEAD":
        file.close()
        return HttpResponse(status=status, content_type=mime, headers=headers)
    return StreamingHttpResponse(_pieces(file, first, last), status=status, content_type=mime, headers=headers)


def _part(first: str, last: str, size: int) -> tuple[int, int]:
    """Return the first and last byte of a range.

    ``-500`` are the last five hundred.
    """
    if not first:
        return max(0, size - int(last)), size - 1
    return int(first), min(int(last), size - 1) if last else size - 1


async def _pieces(file: "File[bytes]", first: int, last: int) -> AsyncIterator[bytes]:
    """Read a file piece by piece: a film is never in memory as a whole."""
    try:
        await sync_to_async(file.seek)(first)
        left = last - first + 1
        while left > 0:
            piece = await sync_to_async(file.read)(min(_PIECE, left))
            if not piece:
                return
            left -= len(piece)
            yield piece
    finally:
        await sync_to_async(file.close)()
