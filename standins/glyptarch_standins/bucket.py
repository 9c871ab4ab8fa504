"""An S3 service that stores files in memory.

Files are addressed by path (``/s3/bucket/name``), readable by everybody, and written by clients that sign with the
known key. The signature is parsed but not computed: this is no place for secrets. Files come in one piece or in several
parts.
"""

import hashlib
import re
from collections.abc import Iterator
from dataclasses import dataclass, field
from itertools import count
from xml.sax.saxutils import escape

from aiohttp import web

__all__ = ["BUCKET_KEY", "Buckets"]

BUCKET_KEY = "dark-meadow-key"
_KEY = re.compile(r"^AWS4-HMAC-SHA256 Credential=([^/,]+)/")
_RANGE = re.compile(r"bytes=(\d+)-(\d*)")
_LARGEST = 1 << 30


@dataclass(frozen=True, slots=True)
class _File:
    body: bytes
    headers: dict[str, str]

    @property
    def etag(self) -> str:
        return f'"{hashlib.md5(self.body).hexdigest()}"'  # noqa: S324 - what the protocol calls an ETag


@dataclass(slots=True)
class _Upload:
    headers: dict[str, str]
    parts: dict[int, bytes] = field(default_factory=dict)


@dataclass(slots=True)
class Buckets:
    """All files, by bucket and name.

    ``fault`` is the simulated fault: none, full or broken.
    """

    fault: str = ""
    files: dict[tuple[str, str], _File] = field(default_factory=dict)
    _uploads: dict[str, _Upload] = field(default_factory=dict)
    _numbers: Iterator[int] = field(default_factory=lambda: count(1))

    def routes(self) -> list[web.RouteDef]:
        """Return the routes under ``/s3``."""
        path = "/s3/{bucket}/{name:.+}"
        made = [web.put(path, self._put), web.post(path, self._post), web.delete(path, self._delete)]
        return [*made, web.get(path, self._get, allow_head=True)]

    async def _put(self, request: web.Request) -> web.Response:
        self._refuse(request)
        body = await _body(request)
        if "uploadId" in request.query:
            upload = self._uploads.get(request.query["uploadId"])
            if upload is None:
                return _error(404, "NoSuchUpload")
            upload.parts[int(request.query["partNumber"])] = body
            return web.Response(headers={"ETag": _File(body, {}).etag})
        made = self.files[_place(request)] = _File(body, _kept_headers(request))
        return web.Response(headers={"ETag": made.etag})

    async def _post(self, request: web.Request) -> web.Response:
        """Begin an upload in parts, or end it."""
        self._refuse(request)
        bucket, name = _place(request)
        if "uploads" in request.query:
            number = f"upload-{next(self._numbers)}"
            self._uploads[number] = _Upload(_kept_headers(request))
            return _xml(
                "InitiateMultipartUploadResult",
                f"<Bucket>{escape(bucket)}</Bucket><Key>{escape(name)}</Key><UploadId>{number}</UploadId>",
            )
        upload = self._uploads.pop(request.query.get("uploadId", ""), None)
        if upload is None:
            return _error(404, "NoSuchUpload")
        whole = b"".join(upload.parts[number] for number in sorted(upload.parts))
        made = self.files[bucket, name] = _File(whole, upload.headers)
        return _xml(
            "CompleteMultipartUploadResult",
            f"<Bucket>{escape(bucket)}</Bucket><Key>{escape(name)}</Key><ETag>{escape(made.etag)}</ETag>",
        )

    async def _get(self, request: web.Request) -> web.Response:
        kept = self.files.get(_place(request))
        if kept is None:
            return _error(404, "NoSuchKey")
        headers = {**kept.headers, "ETag": kept.etag, "Accept-Ranges": "bytes"}
        asked = _RANGE.fullmatch(request.headers.get("Range", ""))
        if asked is None:
            return web.Response(body=kept.body, headers=headers)
        first, size = int(asked[1]), len(kept.body)
        last = min(int(asked[2]) if asked[2] else size - 1, size - 1)
        if first > last:
            return _error(416, "InvalidRange")
        headers["Content-Range"] = f"bytes {first}-{last}/{size}"
        return web.Response(status=206, body=kept.body[first : last + 1], headers=headers)

    async def _delete(self, request: web.Request) -> web.Response:
        self._refuse(request)
        if "uploadId" in request.query:
            self._uploads.pop(request.query["uploadId"], None)
        else:
            self.files.pop(_place(request), None)
        return web.Response(status=204)

    def _refuse(self, request: web.Request) -> None:
        """Refuse who has no key, and everybody while something is wrong."""
        signed = _KEY.match(request.headers.get("Authorization", ""))
        if signed is None or signed[1] != BUCKET_KEY:
            raise web.HTTPForbidden(text=_error_xml("InvalidAccessKeyId"), content_type="application/xml")
        if self.fault == "full" and request.method != "DELETE":
            raise web.HTTPForbidden(text=_error_xml("QuotaExceeded"), content_type="application/xml")
        if self.fault == "broken":
            raise web.HTTPServiceUnavailable(text=_error_xml("ServiceUnavailable"), content_type="application/xml")


def _place(request: web.Request) -> tuple[str, str]:
    return request.match_info["bucket"], request.match_info["name"]


def _kept_headers(request: web.Request) -> dict[str, str]:
    return {name: request.headers[name] for name in ("Content-Type", "Cache-Control") if name in request.headers}


async def _body(request: web.Request) -> bytes:
    body = await request.content.read(_LARGEST)
    while not request.content.at_eof():
        body += await request.content.read(_LARGEST)
    return _unchunked(body) if "aws-chunked" in request.headers.get("Content-Encoding", "") else body


def _unchunked(body: bytes) -> bytes:
    """Return a body sent in signed chunks, each after its size in hexadecimal digits."""
    pieces, rest = [], body
    while rest:
        head, _, rest = rest.partition(b"\r\n")
        size = int(head.partition(b";")[0], 16)
        if not size:
            break
        pieces.append(rest[:size])
        rest = rest[size + 2 :]
    return b"".join(pieces)


def _xml(name: str, inside: str) -> web.Response:
    text = f'<?xml version="1.0" encoding="UTF-8"?><{name}>{inside}</{name}>'
    return web.Response(text=text, content_type="application/xml")


def _error_xml(code: str) -> str:
    return f'<?xml version="1.0" encoding="UTF-8"?><Error><Code>{code}</Code><Message>{code}</Message></Error>'


def _error(status: int, code: str) -> web.Response:
    return web.Response(status=status, text=_error_xml(code), content_type="application/xml")
