"""Plain feeds of many hosts on loopback, in a process of its own.

They are given as they were first, then as unchanged.
"""

import multiprocessing
import random
import socket
import socketserver
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

__all__ = ["ALLOWED", "feed_address", "serving_feeds"]

_HOSTS = 200
_PORT = 18444
_STORIES = 10
_BEGINNINGS = ("lan", "mor", "tel", "fen", "wick", "or", "hal", "sed", "bar", "cold", "pen", "net", "thist", "god")
_ENDS = ("tern", "row", "ver", "nel", "ling", "rin", "low", "ge", "ley", "der", "nance", "tle", "wood", "mer")
ALLOWED = frozenset(f"127.0.2.{host + 1}:{_PORT}" for host in range(_HOSTS))


def feed_address(number: int) -> str:
    """Return the address of a feed."""
    return f"http://127.0.2.{number % _HOSTS + 1}:{_PORT}/{number}"


def _text(seed: int) -> str:
    """Return sixty words that no other story has in this order."""
    chosen = random.Random(seed)  # noqa: S311 - not for secrets
    return " ".join(f"{chosen.choice(_BEGINNINGS)}{chosen.choice(_ENDS)}" for _ in range(60))


def _feed(number: int) -> bytes:
    items = "".join(
        f"<item><title>Story {number}-{one} of the night</title><guid>{number}-{one}</guid>"
        f"<link>https://club.example/{number}/{one}</link><pubDate>Tue, 24 Nov 2026 10:00:00 GMT</pubDate>"
        f"<description>{_text(number * _STORIES + one)}</description></item>"
        for one in range(_STORIES)
    )
    return f"<rss version='2.0'><channel><title>Club {number}</title>{items}</channel></rss>".encode()


class _Answering(socketserver.BaseRequestHandler):
    request: socket.socket

    def handle(self) -> None:
        """Answer one request: with the feed, or that it has not changed."""
        asked = b""
        while b"\r\n\r\n" not in asked and (more := self.request.recv(16_384)):
            asked += more
        if b"if-none-match:" in asked.lower():
            self.request.sendall(b"HTTP/1.1 304 Not Modified\r\nConnection: close\r\n\r\n")
            return
        body = _feed(int(asked.split(b" ", 2)[1][1:]))
        head = f'HTTP/1.1 200 OK\r\nConnection: close\r\nETag: "1"\r\nContent-Length: {len(body)}\r\n\r\n'
        self.request.sendall(head.encode() + body)


class _Server(socketserver.ThreadingTCPServer):
    daemon_threads = True
    allow_reuse_address = True
    request_queue_size = 512


def _serve(ready: Any) -> None:  # noqa: ANN401 - an event of multiprocessing
    with _Server(("0.0.0.0", _PORT), _Answering) as server:  # noqa: S104
        threading.Thread(target=ready.set).start()
        server.serve_forever()


@contextmanager
def serving_feeds() -> Iterator[None]:
    """Run the server in a process of its own."""
    ready = multiprocessing.Event()
    server = multiprocessing.Process(target=_serve, args=(ready,), daemon=True)
    server.start()
    ready.wait(30)
    try:
        yield
    finally:
        server.terminate()
        server.join()
