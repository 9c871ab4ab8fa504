"""Finished pages of the blogs, answered before Django sees the request.

Each web process has a shared cache (RFC 9111). It keeps answers that are ``public``, set no cookie and name their blog,
for requests without a session. The changes of a blog end its pages (``blog_changes.py``). A page is made once, however
many ask for it.

Where a blog only grew, its pages are made anew one after the other, and readers who come meanwhile get the old ones, at
most half a minute old. So a run that writes posts all the time does not make every reader wait.
"""

import asyncio
import gzip
import hashlib
import re
import time
from collections import OrderedDict, defaultdict
from collections.abc import Awaitable, Callable, Iterable, Iterator, Mapping, MutableMapping
from dataclasses import dataclass, field
from http import HTTPStatus
from typing import Any, Final, TypeAlias

import brotli

from glyptarch_server.common.blog_changes import GOODS, GROWN, BlogChanges, Change
from glyptarch_server.common.from_readers import is_from_reader

__all__ = ["ANY_GOODS", "BLOG_HEADER", "ENDS_HEADER", "GOODS_HEADER", "POST_HEADER", "PageCache"]

BLOG_HEADER = "Glyptarch-Blog"
"""The header by which an answer names the blog that it shows, by its number."""

ENDS_HEADER = "Glyptarch-Ends"
"""The header by which an answer says from when on it may no longer be shown, in Unix seconds: its first price ends."""

GOODS_HEADER = "Glyptarch-Goods"
"""The header by which an answer names the products that it shows, by their rows.

A change of another product leaves it as it is. ``*`` stands for any, for a list that a price can enter or leave.
"""

POST_HEADER = "Glyptarch-Post"
"""The header by which an answer names the post that it shows, by its number."""

ANY_GOODS = "*"

_Message: TypeAlias = MutableMapping[str, Any]
_Receive: TypeAlias = Callable[[], Awaitable[_Message]]
_Send: TypeAlias = Callable[[_Message], Awaitable[None]]
_App: TypeAlias = Callable[..., Awaitable[None]]
_Headers: TypeAlias = list[tuple[bytes, bytes]]
_Key: TypeAlias = tuple[str, bytes, bytes, str, bytes]

_PLACE = "/blog/"
# Of people at the desk, and of readers with a list of products.
_PERSONAL: Final = (b"sessionid=", b"basket=")
_LONGEST_PATH = 300
_QUERY: Final = re.compile(rb"(page=\d{1,6})?\Z")
_OWN_BLOG: Final = BLOG_HEADER.lower().encode()
_ENDS: Final = ENDS_HEADER.lower().encode()
_GOODS: Final = GOODS_HEADER.lower().encode()
_POST: Final = POST_HEADER.lower().encode()
_OF_ONE_ANSWER: Final = frozenset({b"x-request-id", b"content-length", b"etag", b"content-encoding"})
_OF_ONE_REQUEST: Final = frozenset({b"if-none-match", b"if-modified-since", b"accept-encoding", b"range", b"cookie"})
_SENT_WITH_304: Final = frozenset({b"cache-control", b"vary", b"last-modified", b"expires", b"content-location"})
_ROOM = 64 << 20
_LONGEST_STALE = 30.0
_MADE_ANEW_AT_ONCE = 1
_SERVER_ERRORS = 500
_BROTLI_QUALITY = 5
_GZIP_LEVEL = 6


@dataclass(slots=True)
class _Answer:
    """A whole answer of the application."""

    status: int = 500
    headers: _Headers = field(default_factory=list)
    body: bytes = b""

    def header(self, name: bytes) -> bytes:
        """Return the value of a header.

        Empty for none.
        """
        return next((value for known, value in self.headers if known.lower() == name), b"")

    @property
    def for_everybody(self) -> bool:
        """Whether others may be given it as well."""
        return not self.header(b"set-cookie")


@dataclass(slots=True)
class _Page:
    """A kept answer, with its body in the encodings that were asked for."""

    blog: int
    headers: _Headers
    body: bytes
    etag: bytes
    # When it may no longer be shown at all, in Unix seconds.
    ends: float = float("inf")
    # The products that it shows, and whether any product of the blog could come onto it.
    products: frozenset[int] = frozenset()
    shows_any: bool = False
    # The post that it shows, for counting its readers. 0 for none.
    post: int = 0
    # When a post came in that it does not show; None for a page that shows everything.
    old_since: float | None = None
    encoded: dict[bytes, bytes] = field(default_factory=dict)

    def in_encoding(self, name: bytes) -> bytes:
        """Return the body in ``br``, ``gzip`` or, for an empty name, as it is."""
        if not name:
            return self.body
        if name not in self.encoded:
            self.encoded[name] = (
                brotli.compress(self.body, quality=_BROTLI_QUALITY)
                if name == b"br"
                else gzip.compress(self.body, _GZIP_LEVEL)
            )
        return self.encoded[name]


class PageCache:
    """Wraps an ASGI application.

    ``listen`` is called with each request that could be answered from the cache, before the number of the last change
    is asked for. ``read`` is called with the number of each post that a reader is shown.
    """

    def __init__(
        self,
        app: _App,
        changes: BlogChanges,
        *,
        listen: Callable[[], None],
        read: Callable[[int], None] = lambda _post: None,
        clock: Callable[[], float] = time.monotonic,
        wall_clock: Callable[[], float] = time.time,
        room: int = _ROOM,
    ) -> None:
        self._app, self._changes, self._listen, self._clock = app, changes, listen, clock
        self._read = read
        self._wall_clock = wall_clock
        self._room, self._size = room, 0
        self._pages: OrderedDict[_Key, _Page] = OrderedDict()
        self._of_blog: defaultdict[int, set[_Key]] = defaultdict(set)
        self._showing: defaultdict[int, set[_Key]] = defaultdict(set)
        self._showing_any: defaultdict[int, set[_Key]] = defaultdict(set)
        self._making: dict[_Key, asyncio.Task[_Answer]] = {}
        self._made_anew = self._others = 0
        self._turn = asyncio.Lock()
        changes.call(self._changed)

    async def __call__(self, scope: _Message, receive: _Receive, send: _Send) -> None:
        """Answer from the cache, or let the application answer."""
        headers = _asked(scope)
        if headers is None:
            await self._pass_on(scope, receive, send)
            return
        self._listen()
        key = _key(scope, headers)
        page = self._pages.get(key)
        if page is not None and page.ends <= self._wall_clock():
            self._drop(key)
            page = None
        if page is not None and not self._is_too_old(page):
            self._pages.move_to_end(key)
            await self._let_others_in()
            await _send_page(page, headers, send, head=scope["method"] == "HEAD")
            self._count(page.post, scope["method"], headers)
        elif scope["method"] == "HEAD":
            await self._pass_on(scope, receive, send)
        else:
            await self._make(key, scope, headers, receive, send)

    async def _pass_on(self, scope: _Message, receive: _Receive, send: _Send) -> None:
        self._others += 1
        try:
            await self._app(scope, receive, send)
        finally:
            self._others -= 1

    async def _let_others_in(self) -> None:
        """While the application works on other requests, allow one page in each loop round.

        Hundreds of pages in one round would hold up the desk by half a second at each of its steps.
        """
        if self._others:
            async with self._turn:
                await asyncio.sleep(0)

    def _is_too_old(self, page: _Page) -> bool:
        """Whether a page must be made anew before it is shown."""
        if page.old_since is None:
            return False
        return self._made_anew < _MADE_ANEW_AT_ONCE or self._clock() - page.old_since > _LONGEST_STALE

    async def _make(
        self, key: _Key, scope: _Message, headers: Mapping[bytes, bytes], receive: _Receive, send: _Send
    ) -> None:
        making = self._making.get(key)
        is_first = making is None
        if making is None:
            making = self._making[key] = asyncio.create_task(self._ask(key, scope))
        answer = await asyncio.shield(making)
        page = self._pages.get(key)
        if page is not None and page.ends > self._wall_clock():
            await _send_page(page, headers, send, head=False)
            self._count(page.post, "GET", headers)
        elif is_first or answer.for_everybody:
            await _send_answer(answer, send)
            self._count(_post_of(answer), "GET", headers)
        else:
            await self._pass_on(scope, receive, send)

    def _count(self, post: int, method: str, headers: Mapping[bytes, bytes]) -> None:
        if post and is_from_reader(method, lambda name: headers.get(name.encode(), b"").decode("latin-1")):
            self._read(post)

    async def _ask(self, key: _Key, scope: _Message) -> _Answer:
        """Let the application make an answer, and keep it where it may be kept."""
        anew = key in self._pages
        self._made_anew += anew
        number = self._changes.number
        try:
            answer = await _answer_of(self._app, scope)
        finally:
            self._made_anew -= anew
            del self._making[key]
        # An old page is better than none (RFC 5861, 4); a wrong one has gone before.
        if answer.status < _SERVER_ERRORS:
            self._drop(key)
            self._keep(key, answer, number)
        return answer

    def _keep(self, key: _Key, answer: _Answer, number: int | None) -> None:
        blog = answer.header(_OWN_BLOG)
        is_public = b"public" in answer.header(b"cache-control").lower()
        if (
            number is None
            or answer.status != HTTPStatus.OK
            or not blog.isdigit()
            or not is_public
            or not answer.for_everybody
        ):
            return
        page = _page_of(int(blog), answer)
        if self._is_overtaken(page, number) or len(page.body) > self._room:
            return
        if self._changes.grew_since(page.blog, number):
            page.old_since = self._clock()
        self._pages[key] = page
        for index in self._indexes(page):
            index.add(key)
        self._size += len(page.body)
        while self._size > self._room:
            self._drop(next(iter(self._pages)))

    def _drop(self, key: _Key) -> None:
        page = self._pages.pop(key, None)
        if page is not None:
            self._size -= len(page.body)
            for index in self._indexes(page):
                index.discard(key)
            for product in page.products:
                if not self._showing[product]:
                    del self._showing[product]

    def _is_overtaken(self, page: _Page, number: int) -> bool:
        """Whether a page that was begun at a number shows what has changed since."""
        changes = self._changes
        return (
            changes.changed_since(page.blog, number)
            or changes.goods_changed_since(page.products, number)
            or (page.shows_any and changes.any_goods_changed_since(number))
        )

    def _indexes(self, page: _Page) -> Iterator[set[_Key]]:
        yield self._of_blog[page.blog]
        if page.shows_any:
            yield self._showing_any[page.blog]
        for product in page.products:
            yield self._showing[product]

    def _touched(self, change: Change) -> list[_Key]:
        """Return the pages that a change is seen on."""
        if change.blog is None:
            return list(self._pages)
        if change.kind == GOODS and change.product is not None:
            return [*self._showing.get(change.product, ()), *self._showing_any.get(change.blog, ())]
        return list(self._of_blog.get(change.blog, ()))

    def _changed(self, change: Change) -> None:
        for key in self._touched(change):
            page = self._pages.get(key)
            if page is None:
                continue
            if change.kind != GROWN:
                self._drop(key)
            elif page.old_since is None:
                page.old_since = self._clock()


def _asked(scope: _Message) -> dict[bytes, bytes] | None:
    """Return the headers of a request that may be answered from the cache. None for any other."""
    if scope["type"] != "http" or scope["method"] not in {"GET", "HEAD"} or not scope["path"].startswith(_PLACE):
        return None
    if len(scope["path"]) > _LONGEST_PATH or not _QUERY.match(scope["query_string"]):
        return None
    headers = dict(scope["headers"])
    if b"authorization" in headers or any(name in headers.get(b"cookie", b"") for name in _PERSONAL):
        return None
    return headers


def _key(scope: _Message, headers: Mapping[bytes, bytes]) -> _Key:
    # Pages have whole addresses in them, which the host and a proxy's header decide.
    host, proto = headers.get(b"host", b""), headers.get(b"x-forwarded-proto", b"")
    return scope["scheme"], host, proto, scope["path"], scope["query_string"]


async def _answer_of(app: _App, scope: _Message) -> _Answer:
    """Ask the application for the whole page, whatever the reader has of it."""
    answer = _Answer()
    begun = False

    async def receive() -> _Message:
        nonlocal begun
        if not begun:
            begun = True
            return {"type": "http.request", "body": b"", "more_body": False}
        # The reader may leave; the page is made for all.
        await asyncio.Event().wait()
        raise AssertionError

    async def send(message: _Message) -> None:
        if message["type"] == "http.response.start":
            answer.status, answer.headers = message["status"], list(message.get("headers", ()))
        elif message["type"] == "http.response.body":
            answer.body += message.get("body", b"")

    headers = [pair for pair in scope["headers"] if pair[0] not in _OF_ONE_REQUEST]
    await app({**scope, "method": "GET", "headers": headers}, receive, send)
    return answer


def _page_of(blog: int, answer: _Answer) -> _Page:
    etag = b'W/"' + hashlib.blake2b(answer.body, digest_size=16).hexdigest().encode() + b'"'
    headers = [(name.lower(), value) for name, value in answer.headers if name.lower() not in _OF_ONE_ANSWER]
    vary = {value.strip().lower() for name, value in headers if name == b"vary" for value in value.split(b",")}
    vary = vary - {b"cookie", b""} | {b"accept-encoding"}
    headers = [(name, value) for name, value in headers if name != b"vary"]
    ends, goods = answer.header(_ENDS), answer.header(_GOODS).decode("ascii", "replace")
    return _Page(
        blog,
        [*headers, (b"vary", b", ".join(sorted(vary))), (b"etag", etag)],
        answer.body,
        etag,
        ends=float(ends) if ends.isdigit() else float("inf"),
        products=frozenset(int(row) for row in goods.split() if row.isdecimal()),
        shows_any=goods == ANY_GOODS,
        post=_post_of(answer),
    )


def _post_of(answer: _Answer) -> int:
    number = answer.header(_POST)
    return int(number) if answer.status == HTTPStatus.OK and number.isdigit() else 0


def _accepted(headers: Mapping[bytes, bytes]) -> bytes:
    """Return the best encoding that a reader takes (RFC 9110, 12.5.3)."""
    names = set()
    for part in headers.get(b"accept-encoding", b"").lower().split(b","):
        name, _, weight = part.partition(b";")
        if weight.replace(b" ", b"") not in {b"q=0", b"q=0.0", b"q=0.00", b"q=0.000"}:
            names.add(name.strip())
    return next((name for name in (b"br", b"gzip") if name in names), b"")


def _has(page: _Page, headers: Mapping[bytes, bytes]) -> bool:
    """Whether a reader has this very page (RFC 9110, 13.1.2: weak comparison)."""
    known = headers.get(b"if-none-match", b"")
    tags: Iterable[bytes] = (tag.strip().removeprefix(b"W/") for tag in known.split(b","))
    return bool(known) and any(tag in {b"*", page.etag.removeprefix(b"W/")} for tag in tags)


async def _send_page(page: _Page, headers: Mapping[bytes, bytes], send: _Send, *, head: bool) -> None:
    if _has(page, headers):
        kept = [pair for pair in page.headers if pair[0] in _SENT_WITH_304 or pair[0] == b"etag"]
        await send({"type": "http.response.start", "status": HTTPStatus.NOT_MODIFIED, "headers": kept})
        await send({"type": "http.response.body", "body": b""})
        return
    encoding = _accepted(headers)
    body = page.in_encoding(encoding)
    more: _Headers = [(b"content-length", str(len(body)).encode())]
    if encoding:
        more.append((b"content-encoding", encoding))
    await send({"type": "http.response.start", "status": HTTPStatus.OK, "headers": [*page.headers, *more]})
    await send({"type": "http.response.body", "body": b"" if head else body})


async def _send_answer(answer: _Answer, send: _Send) -> None:
    await send({"type": "http.response.start", "status": answer.status, "headers": answer.headers})
    await send({"type": "http.response.body", "body": answer.body})
