"""The one HTTP client: redirects, limits, and errors in plain words."""

import asyncio
import random
import re
import time
from collections.abc import AsyncIterator, Callable, Mapping
from contextlib import AbstractAsyncContextManager, ExitStack, asynccontextmanager, nullcontext
from dataclasses import dataclass, field
from datetime import UTC, datetime
from email.utils import parsedate_to_datetime
from http import HTTPStatus
from pathlib import Path
from types import TracebackType
from typing import BinaryIO, Self
from urllib.parse import urlencode, urljoin, urlsplit
from urllib.request import parse_http_list
from weakref import WeakValueDictionary

import pycurl
from yarl import URL

from glyptarch_server.adapters.fetch.errors import FetchCode, FetchError, utf8
from glyptarch_server.adapters.fetch.guard import PortError
from glyptarch_server.adapters.fetch.host_turns import HostStore, HostTurns
from glyptarch_server.adapters.fetch.transport import Answer, CurlError, Transport

__all__ = ["USER_AGENT", "FetchLimits", "FetchRequest", "Fetched", "Fetcher", "may_share_secrets"]

USER_AGENT = "Glyptarch (feed reader)"


def user_agent(contact: str) -> str:
    """Return what requests say of themselves (RFC 9110, 10.1.5): the program, and whom to ask."""
    return f"Glyptarch (feed reader; +{contact})" if contact else USER_AGENT


_ACCEPT = (
    "application/atom+xml, application/rss+xml, application/feed+json, application/xml;q=0.9, "
    "application/json;q=0.9, text/xml;q=0.9, text/html;q=0.5, */*;q=0.1"
)
_AT_ONCE = 40
_AT_ONCE_PER_HOST = 2
_MOST_PAUSED = 1000
# Seconds until a host whose turns other processes have is tried again. At random, so that no process is always late.
_TRIED_AGAIN = (0.05, 0.25)
# Seconds before an address is asked again, doubled for each further try.
_FIRST_PAUSE = 1.0
_MAY_PASS = frozenset(
    {FetchCode.TOO_SLOW, FetchCode.UNREACHABLE, FetchCode.CUT_OFF, FetchCode.SERVER_ERROR, FetchCode.UNKNOWN_HOST}
)
_REDIRECTS = {301, 302, 303, 307, 308}
_PERMANENT = {301, 308}


@dataclass(frozen=True, slots=True, kw_only=True)
class FetchLimits:
    """Limits on an answer: bytes after decompression, seconds, redirects."""

    bytes: int = 8 << 20
    seconds: float = 20.0
    connect_seconds: float = 6.0
    redirects: int = 5


@dataclass(frozen=True, slots=True, kw_only=True)
class FetchRequest:
    """An address, with what the last answer said of its state (RFC 9110, 13.1)."""

    url: str
    etag: str = ""
    last_modified: str = ""
    # Sent to the host of the address only, never to the target of a redirect.
    headers: tuple[tuple[str, str], ...] = field(default=(), repr=False)
    # Whether an untrusted certificate of this host is accepted.
    any_certificate: bool = False
    # A form, or a body of JSON, sent with POST; redirects are then not followed.
    form: tuple[tuple[str, str], ...] = field(default=(), repr=False)
    body: str = field(default="", repr=False)
    # Further parameters of the address, sent to its own host only; no message or answer names them.
    secret_query: tuple[tuple[str, str], ...] = field(default=(), repr=False)
    # The minimum pause between two requests to the host, in milliseconds.
    pause_ms: int = 0
    # Whether a redirect to an address may be followed, besides what holds for all (robots.txt).
    may_follow: Callable[[str], bool] | None = field(default=None, repr=False, compare=False)
    # Whether the page is wanted after its scripts have run (``adapters/rendering.py``).
    rendered: bool = False
    # Further hosts that a rendered page may load from.
    hosts: tuple[str, ...] = ()
    # Whether the beginning of an error's body is wanted, because it may name the reason.
    keeps_error: bool = False
    # Limits in bytes and seconds other than those of feeds and pages; 0 for the default.
    most_bytes: int = 0
    seconds: float = 0
    # How often it is asked at most, where a failure may pass: no answer, a broken one, trouble of the server.
    tries: int = 1
    # A file that the body is written to; ``body`` is then only its beginning.
    into: Path | None = None
    # Called after each piece with the received and the expected bytes (0: unknown). False aborts.
    on_progress: Callable[[int, int], bool] | None = field(default=None, repr=False)


@dataclass(frozen=True, slots=True, kw_only=True)
class Fetched:
    """An answer. ``url`` is its final address.

    ``body`` is empty when nothing has changed. ``max_age`` is its freshness in seconds (RFC 9111, 5.2.2.1).
    ``moved_to`` is where the permanent redirects (301, 308) at the beginning lead; empty without any.
    """

    url: str
    body: bytes
    not_modified: bool
    content_type: str
    etag: str
    last_modified: str
    milliseconds: int
    max_age: int = 0
    status: int = HTTPStatus.OK
    moved_to: str = ""
    # ``Link`` (RFC 8288) and rate limit headers, by lower-case name.
    headers: Mapping[str, str] = field(default_factory=dict)


_LIMITS = ("limit", "remaining", "reset")
_KEPT_HEADERS = frozenset(("link", *(f"{prefix}ratelimit-{part}" for prefix in ("", "x-") for part in _LIMITS)))
_MOST_OF_ERROR = 4096
_LONGEST_NUMBER = 19
_SECONDS = re.compile(r"\d{1,9}")


def _max_age(headers: Mapping[str, str]) -> int:
    """Return the freshness of an answer in seconds (RFC 9111, 5.2.2.1).

    0 where it names none or may not be used again unasked.
    """
    directives = dict[str, str]()
    for directive in parse_http_list(headers.get("cache-control", "")[:1000]):
        name, _, value = directive.partition("=")
        directives.setdefault(name.strip().lower(), value.strip(' "'))
    seconds = directives.get("max-age", "")
    if "no-cache" in directives or "no-store" in directives or not _SECONDS.fullmatch(seconds):
        return 0
    return int(seconds)


def _retry_after(headers: Mapping[str, str], now: datetime) -> int:
    """Return the seconds of ``Retry-After``, a number or a date (RFC 9110, 10.2.3).

    0 for anything else.
    """
    text = headers.get("retry-after", "")[:100].strip()
    if _SECONDS.fullmatch(text):
        return int(text)
    try:
        at = parsedate_to_datetime(text)
    except (ValueError, OverflowError):
        return 0
    at = at if at.tzinfo else at.replace(tzinfo=UTC)
    return max(0, round((at - now).total_seconds()))


def _check(url: str) -> str:
    try:
        parts = urlsplit(url)
        port_is_fine = parts.port is None or parts.port > 0
    except ValueError:
        port_is_fine = False
        parts = urlsplit("")
    if parts.scheme not in {"http", "https"} or not parts.hostname or not port_is_fine:
        raise FetchError(
            FetchCode.BAD_ADDRESS, f"“{url[:200]}” is not an address that begins with http:// or https://."
        )
    if parts.username or parts.password:
        raise FetchError(FetchCode.BAD_ADDRESS, "An address may not carry a user name or password.")
    return url


def may_share_secrets(first: str, other: str) -> bool:
    """Whether credentials for one address may be sent to another.

    Host and port must be the same, and TLS must be kept.
    """
    mine, theirs = urlsplit(first), urlsplit(other)
    return mine.netloc.lower() == theirs.netloc.lower() and not (mine.scheme == "https" and theirs.scheme != "https")


def _status_error(status: int, url: str, retry_after: int, *, has_target: bool) -> FetchError:
    named = {
        401: (FetchCode.SIGN_IN, "asks for a user name and a password (401)"),
        403: (FetchCode.REFUSED, "does not let us read it (403)"),
        404: (FetchCode.NOT_FOUND, "does not exist there (404)"),
        410: (FetchCode.GONE, "is gone for good (410): it is not read by itself any more"),
        429: (FetchCode.TOO_MANY_REQUESTS, "was asked too often (429); it can be tried again later"),
    }
    code, what = named.get(status, (FetchCode.STATUS, f"answered with status {status}"))
    if status in _REDIRECTS and not has_target:
        code, what = FetchCode.NO_TARGET, f"answers with a redirect (status {status}) that names no target"
    elif status >= HTTPStatus.INTERNAL_SERVER_ERROR:
        code, what = FetchCode.SERVER_ERROR, f"has trouble on its side (status {status})"
    return FetchError(code, f"{url} {what}.", retry_after=retry_after, status=status)


class _Host:
    """The open connections of this process to a host, and the time of its last request."""

    def __init__(self) -> None:
        self.turns = asyncio.Semaphore(_AT_ONCE_PER_HOST)
        self._free_at = 0.0

    async def pause(self, seconds: float) -> None:
        """Wait until so many seconds have passed since the last request.

        Callers queue for the next slots.
        """
        now = time.monotonic()
        begin = max(now, self._free_at)
        self._free_at = begin + seconds
        if begin > now:
            await asyncio.sleep(begin - now)


class Fetcher:
    """Fetches over shared connections.

    Use it as an async context manager.
    """

    def __init__(
        self,
        *,
        allowed: frozenset[str] = frozenset(),
        limits: FetchLimits | None = None,
        hosts: HostStore | None = None,
        contact: str = "",
    ) -> None:
        self._allowed = allowed
        self._agent = user_agent(contact)
        self._limits = limits or FetchLimits()
        self._store = hosts
        self._shared: HostTurns | None = None
        self._transport: Transport | None = None
        self._all = asyncio.Semaphore(_AT_ONCE)
        self._hosts: WeakValueDictionary[str, _Host] = WeakValueDictionary()
        self._paused: dict[str, _Host] = {}

    async def __aenter__(self) -> Self:
        # Open connections are limited here, before the time of a fetch begins.
        self._transport = Transport(allowed=self._allowed, connect_seconds=self._limits.connect_seconds)
        self._shared = HostTurns(self._store) if self._store else None
        return self

    async def __aexit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        if self._transport is not None:
            self._transport.close()
        if self._shared is not None:
            await self._shared.close()

    async def fetch(self, request: FetchRequest) -> Fetched:
        """Fetch one address, following redirects. Raises FetchError, and nothing else.

        A failure that may pass is tried again as often as the request allows, unless the server named a pause itself.
        What is sent with POST is sent once.
        """
        tries = 1 if request.form or request.body else request.tries
        for tried in range(1, tries):
            try:
                return await self._fetch_once(request)
            except FetchError as error:
                if error.code not in _MAY_PASS or error.retry_after:
                    raise
            await asyncio.sleep(_FIRST_PAUSE * 2 ** (tried - 1))
        return await self._fetch_once(request)

    async def _fetch_once(self, request: FetchRequest) -> Fetched:
        chain = [_check(request.url)]
        try:
            return await self._follow(chain, request)
        except TimeoutError as error:
            url = chain[-1]
            seconds = request.seconds or self._limits.seconds
            message = f"{url} did not answer in full within {seconds:g} seconds."
            raise FetchError(FetchCode.TOO_SLOW, message) from error
        except CurlError as error:
            raise _client_error(error, chain[-1]) from error
        except (ValueError, UnicodeError) as error:
            raise FetchError(FetchCode.BAD_ADDRESS, f"“{chain[-1][:200]}” cannot be read as an address.") from error
        except OSError as error:
            raise FetchError(FetchCode.UNREACHABLE, f"{chain[-1]} cannot be reached.") from error

    async def _follow(self, chain: list[str], request: FetchRequest) -> Fetched:
        """Fetch the last address of a chain and those that it redirects to, which are added to it."""
        url = chain[-1]
        spent, permanent, moved_to = 0.0, True, ""
        for _ in range(self._limits.redirects + 1):
            async with self._slot(url, request.pause_ms):
                begun = time.monotonic()
                async with asyncio.timeout((request.seconds or self._limits.seconds) - spent):
                    answer, body = await self._one(url, request)
                spent += time.monotonic() - begun
            location = "" if request.form or request.body else answer.headers.get("location")
            if answer.status not in _REDIRECTS or not location:
                return _fetched(url, answer, body, milliseconds=round(spent * 1000), moved_to=moved_to)
            permanent = permanent and answer.status in _PERMANENT
            url = _check(urljoin(url, location))
            if request.may_follow is not None and not request.may_follow(url):
                message = f"{request.url} leads to {url}, which the robots.txt of that site does not let us read."
                raise FetchError(FetchCode.ROBOTS, message)
            chain.append(url)
            moved_to = utf8(url) if permanent else moved_to
        message = f"{request.url} leads from one address to the next, more than {self._limits.redirects} times."
        raise FetchError(FetchCode.REDIRECTS, message)

    @asynccontextmanager
    async def _slot(self, url: str, pause_ms: int) -> AsyncIterator[None]:
        """Wait for a free connection, to this host and in total.

        The wait does not count as the host's time.
        """
        host = urlsplit(url).netloc.lower()
        slots = self._hosts.setdefault(host, _Host())
        if pause_ms:
            # Other hosts are dropped when nobody waits; a pause must outlast its request.
            self._paused[host] = slots
            while len(self._paused) > _MOST_PAUSED:
                self._paused.pop(next(iter(self._paused)))
        async with slots.turns:
            await slots.pause(pause_ms / 1000)
            while True:
                async with self._all, self._shared_turn(host, pause_ms) as granted:
                    if granted:
                        yield
                        return
                await asyncio.sleep(random.uniform(*_TRIED_AGAIN))  # noqa: S311 - no secret

    def _shared_turn(self, host: str, pause_ms: int) -> AbstractAsyncContextManager[bool]:
        """Return a turn at the host among all processes."""
        return nullcontext(enter_result=True) if self._shared is None else self._shared.turn(host, pause_ms / 1000)

    async def _one(self, url: str, request: FetchRequest) -> tuple[Answer, bytes]:
        """Request one address once and return its answer with the body or its beginning."""
        assert self._transport is not None  # noqa: S101 - only reachable inside the context
        own = url == request.url or may_share_secrets(request.url, url)
        headers = {"User-Agent": self._agent, "Accept": _ACCEPT}
        if request.etag:
            headers["If-None-Match"] = request.etag
        if request.last_modified:
            headers["If-Modified-Since"] = request.last_modified
        for name, value in request.headers if own else ():
            headers = {other: kept for other, kept in headers.items() if other.lower() != name.lower()} | {name: value}
        with ExitStack() as stack:
            taken = _Taken(request, url, self._limits.bytes)
            if request.into is not None:
                taken.file = stack.enter_context(request.into.open("wb"))
            target = URL(url).with_fragment(None)
            if own and request.secret_query:
                target = target.extend_query(request.secret_query)
            answer = await self._transport.ask(
                str(target),
                headers=headers,
                data=_sent(request, headers),
                trusts_all=own and request.any_certificate,
                sink=taken.piece,
            )
        return answer, bytes(taken.body)


def _sent(request: FetchRequest, headers: dict[str, str]) -> bytes | None:
    """Return the body of a request, and name its type in the headers."""
    if request.form:
        headers.setdefault("Content-Type", "application/x-www-form-urlencoded")
        return urlencode(request.form).encode()
    if request.body:
        headers.setdefault("Content-Type", "application/json")
        return request.body.encode()
    return None


def _fetched(url: str, answer: Answer, body: bytes, *, milliseconds: int, moved_to: str) -> Fetched:
    """Return the result of an answer. Raises FetchError for an error status."""
    unchanged = answer.status == HTTPStatus.NOT_MODIFIED
    if not unchanged and answer.status >= HTTPStatus.MULTIPLE_CHOICES:
        error = _status_error(
            answer.status,
            url,
            _retry_after(answer.headers, datetime.now(UTC)),
            has_target=bool(answer.headers.get("location")),
        )
        error.body = body
        raise error
    return Fetched(
        url=utf8(url),
        body=body,
        not_modified=unchanged,
        content_type=utf8(answer.headers.get("content-type", "")),
        etag=utf8(answer.headers.get("etag", ""))[:500],
        last_modified=utf8(answer.headers.get("last-modified", ""))[:100],
        milliseconds=milliseconds,
        max_age=_max_age(answer.headers),
        status=answer.status,
        moved_to=moved_to,
        headers={name: utf8(answer.headers[name])[:8000] for name in _KEPT_HEADERS & answer.headers.keys()},
    )


class _Taken:
    """The received part of a body, within the limits of its request."""

    def __init__(self, request: FetchRequest, url: str, most: int) -> None:
        self.body = bytearray()
        self.file: BinaryIO | None = None
        self._request, self._url = request, url
        self._most, self._come = request.most_bytes or most, 0

    def piece(self, answer: Answer, piece: bytes) -> bool:
        """Add a piece.

        Return False where the rest is useless. Raises FetchError beyond the limits.
        """
        if answer.status >= HTTPStatus.MULTIPLE_CHOICES:
            # Only the beginning of an error is wanted, and nothing of a redirect.
            if self._request.keeps_error:
                self.body += piece[: _MOST_OF_ERROR - len(self.body)]
            return self._request.keeps_error and len(self.body) < _MOST_OF_ERROR
        length = answer.headers.get("content-length", "")
        expected = int(length) if length.isascii() and length.isdigit() and len(length) < _LONGEST_NUMBER else 0
        self._come += len(piece)
        if max(self._come, expected) > self._most:
            message = f"{self._url} is larger than {self._most >> 20} MB, the most that is read."
            raise FetchError(FetchCode.TOO_LARGE, message)
        if self.file is None:
            self.body += piece
        else:
            self.body += piece[: _MOST_OF_ERROR - len(self.body)]
            self.file.write(piece)
        if self._request.on_progress is not None and not self._request.on_progress(self._come, expected):
            raise FetchError(FetchCode.CUT_OFF, f"Reading {self._url} was stopped.")
        return True


# libcurl's errors (libcurl-errors(3)) in our words.
_FAULTS: Mapping[int, tuple[FetchCode, str]] = {
    pycurl.E_COULDNT_RESOLVE_HOST: (FetchCode.UNKNOWN_HOST, "No site is known by the name {host}."),
    pycurl.E_URL_MALFORMAT: (FetchCode.BAD_ADDRESS, "“{url}” cannot be read as an address."),
    pycurl.E_OPERATION_TIMEDOUT: (FetchCode.TOO_SLOW, "{host} did not take the connection in time."),
    **dict.fromkeys(
        (
            pycurl.E_SSL_CONNECT_ERROR,
            pycurl.E_PEER_FAILED_VERIFICATION,
            pycurl.E_SSL_CERTPROBLEM,
            pycurl.E_SSL_CIPHER,
            pycurl.E_SSL_CACERT_BADFILE,
            pycurl.E_SSL_ISSUER_ERROR,
        ),
        (FetchCode.TLS, "{host} does not answer over TLS with a valid certificate."),
    ),
    pycurl.E_BAD_CONTENT_ENCODING: (
        FetchCode.BAD_ENCODING,
        "The answer from {url} says that it is compressed, but it cannot be unpacked (Content-Encoding).",
    ),
    **dict.fromkeys(
        (
            pycurl.E_PARTIAL_FILE,
            pycurl.E_GOT_NOTHING,
            pycurl.E_RECV_ERROR,
            pycurl.E_SEND_ERROR,
            pycurl.E_UNSUPPORTED_PROTOCOL,
            pycurl.E_FTP_WEIRD_SERVER_REPLY,
        ),
        (FetchCode.CUT_OFF, "The answer from {url} broke off before its end."),
    ),
}
_UNREACHABLE = (FetchCode.UNREACHABLE, "{place} cannot be reached: nothing answers there.")
_PORT = (
    FetchCode.PORT,
    "{url} names a port that is not read: only 80 and 443 are, and those that the server's settings allow.",
)
_PRIVATE = (
    FetchCode.PRIVATE_ADDRESS,
    "{host} is an address inside a private network; only public addresses are read.",
)


def _client_error(error: CurlError, url: str) -> FetchError:
    code, words = _FAULTS.get(error.code, _UNREACHABLE)
    if error.refused is not None:
        code, words = _PORT if isinstance(error.refused, PortError) else _PRIVATE
    parts = urlsplit(url)
    return FetchError(code, words.format(host=parts.hostname, place=parts.netloc, url=url[:2000]))
