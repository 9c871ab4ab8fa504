"""One HTTP client for everything that is fetched, on aiohttp."""

import asyncio
import re
import time
from collections.abc import AsyncIterator, Callable, Mapping
from contextlib import asynccontextmanager, nullcontext
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime
from email.utils import parsedate_to_datetime
from http import HTTPStatus
from pathlib import Path
from types import TracebackType
from typing import Self
from urllib.parse import urljoin, urlsplit
from weakref import WeakValueDictionary

import aiohttp

from glyptarch_server.adapters.fetch.errors import FetchCode, FetchError, utf8
from glyptarch_server.adapters.fetch.guard import PortError, PrivateAddressError, asked_for, guarded_sockets

__all__ = ["USER_AGENT", "FetchLimits", "FetchRequest", "Fetched", "Fetcher", "may_share_secrets"]

USER_AGENT = "Glyptarch (feed reader)"
_ACCEPT = (
    "application/atom+xml, application/rss+xml, application/feed+json, application/xml;q=0.9, "
    "application/json;q=0.9, text/xml;q=0.9, text/html;q=0.5, */*;q=0.1"
)
_CHUNK = 64 << 10
_AT_ONCE = 40
_AT_ONCE_PER_HOST = 2
_MOST_PAUSED = 1000
_REDIRECTS = {301, 302, 303, 307, 308}
_PERMANENT = {301, 308}


@dataclass(frozen=True, slots=True, kw_only=True)
class FetchLimits:
    """How much of a stranger's answer is borne: bytes after decompression, seconds, redirects."""

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
    # Sent to the host of the address alone, never to one that it redirects to.
    headers: tuple[tuple[str, str], ...] = field(default=(), repr=False)
    # Whether a certificate of this host is taken that nobody vouches for.
    any_certificate: bool = False
    # Sent with POST, as forms are; redirects are not followed then.
    form: tuple[tuple[str, str], ...] = field(default=(), repr=False)
    # The least pause between two requests to the host, in milliseconds.
    pause_ms: int = 0
    # Whether a page is wanted as it stands after its scripts have run (``adapters/rendering.py``).
    rendered: bool = False
    # Hosts that a rendered page may be given from besides its own.
    hosts: tuple[str, ...] = ()
    # Whether the beginning of an answer that is an error is wanted: it may say what is wrong.
    keeps_error: bool = False
    # Another limit of bytes and seconds than that of feeds and pages; 0 for the usual one.
    most_bytes: int = 0
    seconds: float = 0
    # A file that the answer is written to as it comes; its ``body`` is then only the beginning.
    into: Path | None = None
    # Told after each piece how many bytes have come, and how many are to come (0: not known). False breaks off.
    on_progress: Callable[[int, int], bool] | None = field(default=None, repr=False)


@dataclass(frozen=True, slots=True, kw_only=True)
class Fetched:
    """An answer. ``url`` is the address that gave it; ``body`` is empty when nothing has changed.

    ``max_age`` is for how many seconds the answer counts as fresh (RFC 9111, 5.2.2.1). ``moved_to`` is the
    address that only permanent redirects (301, 308) led to; empty where none or others did.
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
    # ``Link`` (RFC 8288) and the headers of rate limits, by names in lower case.
    headers: Mapping[str, str] = field(default_factory=dict)


_LIMITS = ("limit", "remaining", "reset")
_KEPT_HEADERS = ("link", *(f"{prefix}ratelimit-{part}" for prefix in ("", "x-") for part in _LIMITS))
_MOST_OF_ERROR = 4096
_MAX_AGE = re.compile(r"(?:^|[\s,])max-age=\"?(\d{1,9})", re.IGNORECASE)
_SECONDS = re.compile(r"\d{1,9}")


def _max_age(headers: Mapping[str, str]) -> int:
    found = _MAX_AGE.search(headers.get("Cache-Control", "")[:1000])
    return int(found[1]) if found else 0


def _retry_after(headers: Mapping[str, str], now: datetime) -> int:
    """Give the seconds of ``Retry-After``: a number of them, or a date (RFC 9110, 10.2.3). 0 for anything else."""
    text = headers.get("Retry-After", "")[:100].strip()
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
    """Tell whether what is meant for one address may be sent to another: the same host and port, and TLS is kept."""
    mine, theirs = urlsplit(first), urlsplit(other)
    return mine.netloc.lower() == theirs.netloc.lower() and not (mine.scheme == "https" and theirs.scheme != "https")


def _status_error(status: int, url: str, retry_after: int) -> FetchError:
    named = {
        401: (FetchCode.REFUSED, "asks for a sign-in"),
        403: (FetchCode.REFUSED, "does not let us read it"),
        404: (FetchCode.NOT_FOUND, "does not exist there (404)"),
        410: (FetchCode.GONE, "is gone for good (410): it is not read by itself any more"),
        429: (FetchCode.TOO_MANY_REQUESTS, "was asked too often (429); it can be tried again later"),
    }
    code, what = named.get(status, (FetchCode.STATUS, f"answered with status {status}"))
    if status >= HTTPStatus.INTERNAL_SERVER_ERROR:
        code, what = FetchCode.SERVER_ERROR, f"has trouble on its side (status {status})"
    return FetchError(code, f"{url} {what}.", retry_after=retry_after, status=status)


class _Host:
    """How many connections to a host are open, and when it was asked last."""

    def __init__(self) -> None:
        self.turns = asyncio.Semaphore(_AT_ONCE_PER_HOST)
        self._free_at = 0.0

    async def pause(self, seconds: float) -> None:
        """Wait until so long has passed since the last request; each caller takes the next moment for itself."""
        now = time.monotonic()
        begin = max(now, self._free_at)
        self._free_at = begin + seconds
        await asyncio.sleep(max(0.0, begin - now))


class Fetcher:
    """Fetches with one shared session; use it as an async context."""

    def __init__(self, *, allowed: frozenset[str] = frozenset(), limits: FetchLimits | None = None) -> None:
        self._allowed = allowed
        self._limits = limits or FetchLimits()
        self._session: aiohttp.ClientSession | None = None
        self._all = asyncio.Semaphore(_AT_ONCE)
        self._hosts: WeakValueDictionary[str, _Host] = WeakValueDictionary()
        self._paused: dict[str, _Host] = {}

    async def __aenter__(self) -> Self:
        # How many connections are open at once is counted here, before the time of a fetch begins.
        connector = aiohttp.TCPConnector(limit=0, socket_factory=guarded_sockets(self._allowed), ttl_dns_cache=60)
        self._session = aiohttp.ClientSession(
            connector=connector,
            headers={"User-Agent": USER_AGENT, "Accept": _ACCEPT},
            cookie_jar=aiohttp.DummyCookieJar(),
            trust_env=False,
        )
        return self

    async def __aexit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        if self._session is not None:
            await self._session.close()

    async def fetch(self, request: FetchRequest) -> Fetched:
        """Fetch one address, following redirects. Raises FetchError, and nothing else."""
        url = _check(request.url)
        try:
            return await self._follow(url, request)
        except TimeoutError as error:
            seconds = request.seconds or self._limits.seconds
            message = f"{url} did not answer in full within {seconds:g} seconds."
            raise FetchError(FetchCode.TOO_SLOW, message) from error
        except aiohttp.ClientError as error:
            raise _client_error(error, url) from error
        except (ValueError, UnicodeError) as error:
            raise FetchError(FetchCode.BAD_ADDRESS, f"“{url[:200]}” cannot be read as an address.") from error
        except OSError as error:
            raise FetchError(FetchCode.UNREACHABLE, f"{url} cannot be reached.") from error

    async def _follow(self, url: str, request: FetchRequest) -> Fetched:
        spent, permanent = 0.0, True
        for hop in range(self._limits.redirects + 1):
            async with self._slot(url, request.pause_ms):
                begun = time.monotonic()
                async with asyncio.timeout((request.seconds or self._limits.seconds) - spent):
                    answer = await self._one(url, request)
                spent += time.monotonic() - begun
            if isinstance(answer, Fetched):
                moved_to = utf8(url) if hop and permanent else ""
                return replace(answer, milliseconds=round(spent * 1000), moved_to=moved_to)
            status, location = answer
            permanent = permanent and status in _PERMANENT
            url = _check(urljoin(url, location))
        message = f"{request.url} leads from one address to the next, more than {self._limits.redirects} times."
        raise FetchError(FetchCode.REDIRECTS, message)

    @asynccontextmanager
    async def _slot(self, url: str, pause_ms: int) -> AsyncIterator[None]:
        """Wait until one more connection may be open, to this host and in all; the wait is not the host's fault."""
        host = urlsplit(url).netloc.lower()
        slots = self._hosts.setdefault(host, _Host())
        if pause_ms:
            # The others are forgotten when nobody waits for them; a pause has to outlast its request.
            self._paused[host] = slots
            while len(self._paused) > _MOST_PAUSED:
                self._paused.pop(next(iter(self._paused)))
        async with slots.turns:
            await slots.pause(pause_ms / 1000)
            async with self._all:
                yield

    async def _one(self, url: str, request: FetchRequest) -> Fetched | tuple[int, str]:
        """Ask one address once. Gives its answer, or the status and the place of a redirect."""
        assert self._session is not None  # noqa: S101 - only reachable inside the context
        asked_for.set(urlsplit(url).hostname or "")
        own = may_share_secrets(request.url, url)
        headers = dict(request.headers) if own else {}
        if request.etag:
            headers["If-None-Match"] = request.etag
        if request.last_modified:
            headers["If-Modified-Since"] = request.last_modified
        timeout = aiohttp.ClientTimeout(total=None, sock_connect=self._limits.connect_seconds)
        trust = not (own and request.any_certificate)
        method, data = ("POST", dict(request.form)) if request.form else ("GET", None)
        async with self._session.request(
            method, url, data=data, headers=headers, allow_redirects=False, timeout=timeout, ssl=trust
        ) as answer:
            unchanged = answer.status == HTTPStatus.NOT_MODIFIED
            if answer.status in _REDIRECTS and answer.headers.get("Location") and not request.form:
                return answer.status, answer.headers["Location"]
            if not unchanged and answer.status >= HTTPStatus.MULTIPLE_CHOICES:
                error = _status_error(answer.status, url, _retry_after(answer.headers, datetime.now(UTC)))
                error.body = await answer.content.read(_MOST_OF_ERROR) if request.keeps_error else b""
                raise error
            body = b"" if unchanged else await self._read(answer, url, request)
            return Fetched(
                url=utf8(url),
                body=body,
                not_modified=unchanged,
                content_type=utf8(answer.headers.get("Content-Type", "")),
                etag=utf8(answer.headers.get("ETag", ""))[:500],
                last_modified=utf8(answer.headers.get("Last-Modified", ""))[:100],
                milliseconds=0,
                max_age=_max_age(answer.headers),
                status=answer.status,
                headers={name: utf8(answer.headers[name])[:8000] for name in _KEPT_HEADERS if name in answer.headers},
            )

    async def _read(self, answer: aiohttp.ClientResponse, url: str, request: FetchRequest) -> bytes:
        most = request.most_bytes or self._limits.bytes
        too_large = FetchError(FetchCode.TOO_LARGE, f"{url} is larger than {most >> 20} MB, the most that is read.")
        expected = answer.content_length or 0
        if expected > most:
            raise too_large
        body, come = bytearray(), 0
        with request.into.open("wb") if request.into else nullcontext() as file:
            async for chunk in answer.content.iter_chunked(_CHUNK):
                come += len(chunk)
                if come > most:
                    raise too_large
                if file is None:
                    body += chunk
                else:
                    body += chunk[: _MOST_OF_ERROR - len(body)]
                    file.write(chunk)
                if request.on_progress is not None and not request.on_progress(come, expected):
                    raise FetchError(FetchCode.CUT_OFF, f"Reading {url} was stopped.")
        return bytes(body)


def _is_caused_by(error: BaseException, kind: type[Exception]) -> bool:
    cause: BaseException | None = error
    while cause is not None:
        if isinstance(cause, kind):
            return True
        cause = cause.__cause__ or cause.__context__ or getattr(cause, "os_error", None)
    return False


def _client_error(error: aiohttp.ClientError, url: str) -> FetchError:
    host = urlsplit(url).hostname
    known: tuple[tuple[bool, FetchCode, str], ...] = (
        (
            _is_caused_by(error, PortError),
            FetchCode.PORT,
            f"{url} names a port that is not read: only 80 and 443 are, and those that the server's settings allow.",
        ),
        (
            _is_caused_by(error, PrivateAddressError),
            FetchCode.PRIVATE_ADDRESS,
            f"{host} is an address inside a private network; only public addresses are read.",
        ),
        (
            isinstance(error, aiohttp.ClientConnectorDNSError),
            FetchCode.UNKNOWN_HOST,
            f"No site is known by the name {host}.",
        ),
        (
            isinstance(error, aiohttp.ClientSSLError),
            FetchCode.TLS,
            f"{host} does not answer over TLS with a valid certificate.",
        ),
        (
            isinstance(error, aiohttp.ClientPayloadError | aiohttp.ServerDisconnectedError),
            FetchCode.CUT_OFF,
            f"The answer from {url} broke off before its end.",
        ),
        (
            isinstance(error, aiohttp.InvalidURL),
            FetchCode.BAD_ADDRESS,
            f"“{url[:200]}” cannot be read as an address.",
        ),
        (
            isinstance(error, aiohttp.ServerTimeoutError),
            FetchCode.TOO_SLOW,
            f"{host} did not take the connection in time.",
        ),
    )
    unreachable = (True, FetchCode.UNREACHABLE, f"{host} cannot be reached: nothing answers there.")
    _, code, message = next((one for one in known if one[0]), unreachable)
    return FetchError(code, message)
