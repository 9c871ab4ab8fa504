"""HTTP/1.1 by libcurl, which handles connections, TLS and parsing in C.

Most of what a server does all day is to ask whether a feed has changed. libcurl needs a quarter of the time for it that
a client in Python needs, and lets other threads run meanwhile.
"""

import asyncio
import os
import select
import ssl
from collections.abc import Callable, Mapping
from contextlib import suppress
from dataclasses import dataclass, field
from pathlib import Path
from socket import socket
from typing import Any
from urllib.parse import urlsplit

import certifi
import pycurl

from glyptarch_server.adapters.fetch.guard import guarded_socket

__all__ = ["Answer", "CurlError", "Transport"]

_IDLE_SECONDS = 15
_KEPT_HANDLES = 64
_MOST_HEADERS = 200


class CurlError(Exception):
    """A request that libcurl could not carry out.

    ``code`` is its ``CURLE_…``, ``refused`` what the guard said.
    """

    def __init__(self, code: int, message: str, refused: OSError | None) -> None:
        self.code = code
        self.refused = refused
        super().__init__(message)


@dataclass(slots=True)
class Answer:
    """The status and the headers of an answer, by names in lower case.

    Of those that come twice the first; of lists all, joined (RFC 9110, 5.3).
    """

    status: int = 0
    headers: dict[str, str] = field(default_factory=dict)


_LISTS = frozenset({"link", "cache-control"})
_LONGEST_LIST = 16_000
_EVENTS = {
    pycurl.POLL_NONE: 0,
    pycurl.POLL_IN: select.EPOLLIN,
    pycurl.POLL_OUT: select.EPOLLOUT,
    pycurl.POLL_INOUT: select.EPOLLIN | select.EPOLLOUT,
}


def _flags(events: int) -> int:
    """Return the events of a socket in libcurl's form (curl_multi_socket_action(3))."""
    readable = pycurl.CSELECT_IN if events & (select.EPOLLIN | select.EPOLLHUP) else 0
    writable = pycurl.CSELECT_OUT if events & select.EPOLLOUT else 0
    return readable | writable | (pycurl.CSELECT_ERR if events & select.EPOLLERR else 0)


Sink = Callable[[Answer, bytes], bool]
"""Takes a piece of the body, decompressed; False breaks off without a fault."""


@dataclass(slots=True, eq=False)
class _Exchange:
    """A request under way."""

    handle: pycurl.Curl
    done: asyncio.Future[Answer]
    sink: Sink
    answer: Answer = field(default_factory=Answer)
    refused: OSError | None = None
    fault: BaseException | None = None
    broken_off: bool = False

    def header(self, line: bytes) -> None:
        """Add one header line.

        Headers of an interim answer (RFC 9110, 15.2) are dropped at the next status line.
        """
        if line.startswith(b"HTTP/"):
            words = line.split(None, 2)
            status = words[1] if len(words) > 1 else b""
            self.answer.status = int(status) if status.isdigit() else 0
            self.answer.headers.clear()
            return
        name, colon, value = line.partition(b":")
        if colon and len(self.answer.headers) < _MOST_HEADERS:
            # Invalid UTF-8 becomes lone surrogates, as in the standard library.
            written = value.strip().decode("utf-8", "surrogateescape")
            named = name.strip().decode("latin-1").lower()
            if named in _LISTS and named in self.answer.headers:
                written = f"{self.answer.headers[named]}, {written}"
                self.answer.headers[named] = written[:_LONGEST_LIST]
            self.answer.headers.setdefault(named, written)

    def body(self, piece: bytes) -> int:
        """Add a piece of the body.

        Any result other than its length makes libcurl abort the transfer.
        """
        try:
            goes_on = self.sink(self.answer, piece)
        except BaseException as error:  # noqa: BLE001 - it is raised where the answer is waited for
            self.fault = error
            return -1
        self.broken_off = not goes_on
        return len(piece) if goes_on else -1


class Transport:
    """Carries out requests in the running event loop.

    Connections stay open for a quarter of a minute.
    """

    def __init__(self, *, allowed: frozenset[str], connect_seconds: float) -> None:
        self._allowed = allowed
        self._connect_ms = round(connect_seconds * 1000)
        self._trusted = _trusted_certificates()
        self._loop = asyncio.get_running_loop()
        self._timer: asyncio.TimerHandle | None = None
        self._watched: set[int] = set()
        self._epoll = select.epoll()
        self._loop.add_reader(self._epoll.fileno(), self._act_on_sockets)
        self._under_way: dict[pycurl.Curl, _Exchange] = {}
        self._free: list[pycurl.Curl] = []
        self._multi = pycurl.CurlMulti()
        self._multi.setopt(pycurl.M_SOCKETFUNCTION, self._watch)
        self._multi.setopt(pycurl.M_TIMERFUNCTION, self._set_timer)

    async def ask(
        self,
        url: str,
        *,
        headers: Mapping[str, str],
        data: bytes | None,
        trusts_all: bool,
        sink: Sink,
    ) -> Answer:
        """Ask one address once, and give its answer when all of it has come.

        Raises CurlError, and what ``sink`` does. Raises ValueError for a header that holds the end of a line.
        """
        handle = self._free.pop() if self._free else pycurl.Curl()
        exchange = _Exchange(handle, self._loop.create_future(), sink)
        try:
            self._prepare(exchange, url, headers, data, trusts_all=trusts_all)
            self._under_way[handle] = exchange
            self._multi.add_handle(handle)
            return await exchange.done
        finally:
            if self._under_way.pop(handle, None) is not None:
                self._multi.remove_handle(handle)
            handle.reset()
            if len(self._free) < _KEPT_HANDLES:
                self._free.append(handle)

    def close(self) -> None:
        """Abort all transfers and close all connections."""
        for exchange in list(self._under_way.values()):
            exchange.done.cancel()
            self._multi.remove_handle(exchange.handle)
        self._under_way.clear()
        if self._timer is not None:
            self._timer.cancel()
        for handle in self._free:
            handle.close()
        self._multi.close()
        self._loop.remove_reader(self._epoll.fileno())
        self._epoll.close()

    def _prepare(
        self,
        exchange: _Exchange,
        url: str,
        headers: Mapping[str, str],
        data: bytes | None,
        *,
        trusts_all: bool,
    ) -> None:
        handle, host = exchange.handle, urlsplit(url).hostname or ""

        def open_socket(_purpose: int, address: Any) -> socket | int:  # noqa: ANN401 - pycurl's named tuple
            try:
                return guarded_socket(address, self._allowed, name=host)
            except OSError as error:
                exchange.refused = error
                return int(pycurl.SOCKET_BAD)

        handle.setopt(pycurl.URL, url)
        # Names, redirects and numeric hosts all end here, so nothing bypasses the check.
        handle.setopt(pycurl.OPENSOCKETFUNCTION, open_socket)
        handle.setopt(pycurl.PROTOCOLS, pycurl.PROTO_HTTP | pycurl.PROTO_HTTPS)
        handle.setopt(pycurl.PROXY, "")
        handle.setopt(pycurl.NOSIGNAL, 1)
        handle.setopt(pycurl.HTTP_VERSION, pycurl.CURL_HTTP_VERSION_1_1)
        handle.setopt(pycurl.ACCEPT_ENCODING, "gzip, deflate, br")
        handle.setopt(pycurl.CONNECTTIMEOUT_MS, self._connect_ms)
        handle.setopt(pycurl.MAXAGE_CONN, _IDLE_SECONDS)
        handle.setopt(pycurl.HTTPHEADER, [_written(name, value) for name, value in headers.items()])
        handle.setopt(pycurl.HEADERFUNCTION, exchange.header)
        handle.setopt(pycurl.WRITEFUNCTION, exchange.body)
        if data is not None:
            handle.setopt(pycurl.POSTFIELDS, data)
        if trusts_all:
            handle.setopt(pycurl.SSL_VERIFYPEER, 0)
            handle.setopt(pycurl.SSL_VERIFYHOST, 0)
        else:
            handle.setopt(pycurl.CAINFO, self._trusted)

    def _watch(self, event: int, number: int, _multi: object, _data: object) -> None:
        """Watch a socket for libcurl.

        All sockets are in one epoll set, which the loop watches as one.
        """
        if event == pycurl.POLL_REMOVE:
            if number in self._watched:
                self._watched.remove(number)
                with suppress(OSError):
                    # A closed socket has left the set already.
                    self._epoll.unregister(number)
        elif number in self._watched:
            self._epoll.modify(number, _EVENTS[event])
        else:
            self._watched.add(number)
            self._epoll.register(number, _EVENTS[event])

    def _set_timer(self, milliseconds: int) -> None:
        if self._timer is not None:
            self._timer.cancel()
            self._timer = None
        if milliseconds >= 0:
            self._timer = self._loop.call_later(milliseconds / 1000, self._act_on_time)

    def _act_on_time(self) -> None:
        self._multi.socket_action(pycurl.SOCKET_TIMEOUT, 0)
        self._give_out()

    def _act_on_sockets(self) -> None:
        for number, events in self._epoll.poll(0):
            # libcurl may have ended this watch while handling another socket.
            if number in self._watched:
                self._multi.socket_action(number, _flags(events))
        self._give_out()

    def _give_out(self) -> None:
        """Complete the exchanges that have ended."""
        left = 1
        while left:
            left, ended, failed = self._multi.info_read()
            for handle in ended:
                self._end(handle, 0, "")
            for handle, code, message in failed:
                self._end(handle, code, message)

    def _end(self, handle: pycurl.Curl, code: int, message: str) -> None:
        exchange = self._under_way.pop(handle)
        self._multi.remove_handle(handle)
        if exchange.done.done():
            return
        if exchange.fault is not None:
            exchange.done.set_exception(exchange.fault)
        elif code and not exchange.broken_off:
            exchange.done.set_exception(CurlError(code, message, exchange.refused))
        else:
            exchange.done.set_result(exchange.answer)


def _written(name: str, value: str) -> bytes:
    line = f"{name}: {value}" if value else f"{name};"
    if any(sign in line for sign in "\r\n\0"):
        raise ValueError("A header may not hold the end of a line.")
    return line.encode("utf-8", "surrogateescape")


def _trusted_certificates() -> str:
    """Return the file of trusted authorities: the machine's, else the packaged one."""
    paths = ssl.get_default_verify_paths()
    places = (os.environ.get(paths.openssl_cafile_env), paths.openssl_cafile, "/etc/ssl/certs/ca-certificates.crt")
    return next((place for place in places if place and Path(place).is_file()), certifi.where())
