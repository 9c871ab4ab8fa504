"""Polling sources that mostly have nothing new, over fresh TLS connections, beside a script of httpx and feedparser.

Nine of ten answers are 304. The server is a process of its own, closes each connection after its
answer, and answers for many hosts of loopback, so that the limit of two connections a host is no bound.
"""

import asyncio
import contextlib
import io
import json
import multiprocessing
import socket
import ssl
import tempfile
import threading
import time
from collections.abc import Iterator
from contextlib import closing
from datetime import UTC, datetime, timedelta
from functools import partial
from http import HTTPStatus
from pathlib import Path
from statistics import median
from typing import Any
from unittest.mock import patch

import feedparser
import httpx
from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import NameOID

from benchmarks.database import NOW, empty_database

__all__ = ["main"]

_SOURCES = 4000
_HOSTS = 200
_PORT = 18443
_AT_ONCE = 40
_SERVING = 12
_WANTED_A_MINUTE = 15_000
_WANTED_TIMES = 2.0
_ITEMS = 20
_ROUNDS = 3


def _certificate(folder: Path) -> Path:
    key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "localhost")])
    made = x509.CertificateBuilder().subject_name(name).issuer_name(name).public_key(key.public_key())
    made = made.serial_number(1).not_valid_before(datetime(2020, 1, 1, tzinfo=UTC))
    signed = made.not_valid_after(datetime(2120, 1, 1, tzinfo=UTC)).sign(key, hashes.SHA256())
    path = folder / "pem"
    path.write_bytes(
        signed.public_bytes(serialization.Encoding.PEM)
        + key.private_bytes(serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption())
    )
    return path


def _feed(number: int, turn: int) -> bytes:
    """Give a feed of twenty stories; each time that it is asked for, one of them is new."""
    items = "".join(
        f"<item><title>Story {number}-{one} of the night</title><guid>{number}-{one}</guid>"
        f"<link>https://club.example/{number}/{one}</link><pubDate>Tue, 24 Nov 2026 10:00:00 GMT</pubDate>"
        f"<description>{'Seen above the reservoir wall, faint and low. ' * 12}</description></item>"
        for one in range(turn, _ITEMS + turn)
    )
    return f"<rss version='2.0'><channel><title>Club {number}</title>{items}</channel></rss>".encode()


def _serve(pem: str, ready: Any) -> None:  # noqa: ANN401 - an event of multiprocessing
    """Answer at once, and cheaply: on the machines of others this takes none of our processors."""
    context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    context.load_cert_chain(pem)
    # Nobody resumes a session: each poll is a whole handshake.
    context.num_tickets = 0
    context.options |= ssl.OP_NO_TICKET
    feeds = {(number, turn): _feed(number, turn) for number in range(0, _SOURCES, 10) for turn in range(_ROUNDS + 1)}
    listener = socket.create_server(("0.0.0.0", _PORT), backlog=512)  # noqa: S104

    def answer(asked: bytes) -> bytes:
        number = int(asked.split(b" ", 2)[1][1:])
        if number % 10:
            return b"HTTP/1.1 304 Not Modified\r\nConnection: close\r\n\r\n"
        body = feeds[number, int(asked.split(b'If-None-Match: "', 1)[1].split(b'"', 1)[0]) - 1]
        head = (
            f"HTTP/1.1 200 OK\r\nConnection: close\r\nContent-Type: application/rss+xml\r\nContent-Length: {len(body)}"
        )
        return head.encode() + b"\r\n\r\n" + body

    def serve() -> None:
        while True:
            connection, _ = listener.accept()
            # A client that goes away is no fault of the measurement.
            with contextlib.suppress(OSError), context.wrap_socket(connection, server_side=True) as secured:
                asked = b""
                while b"\r\n\r\n" not in asked and (more := secured.recv(16_384)):
                    asked += more
                secured.sendall(answer(asked))

    for _ in range(_SERVING):
        threading.Thread(target=serve).start()
    ready.set()


def _address(number: int) -> str:
    return f"https://127.0.1.{number % _HOSTS + 1}:{_PORT}/{number}"


def _entries(status: int, body: bytes) -> int:
    return 0 if status == HTTPStatus.NOT_MODIFIED else len(feedparser.parse(io.BytesIO(body)).entries)


async def _script() -> int:
    """Poll every source as a careful script would: one client, forty at once, feedparser on what has changed."""
    turns = asyncio.Semaphore(_AT_ONCE)
    found = 0

    async with httpx.AsyncClient(verify=False, limits=httpx.Limits(max_keepalive_connections=0)) as client:  # noqa: S501

        async def poll(number: int) -> int:
            async with turns:
                answer = await client.get(_address(number), headers={"If-None-Match": '"2"'})
            return _entries(answer.status_code, answer.content)

        for count in await asyncio.gather(*(poll(number) for number in range(_SOURCES))):
            found += count
    return found


def _loop() -> int:
    """Poll every tenth source as a script of ten lines would: one after the other."""
    found = 0
    for number in range(0, _SOURCES, 10):
        answer = httpx.get(_address(number + number // 10 % 10), headers={"If-None-Match": '"2"'}, verify=False)  # noqa: S501
        found += _entries(answer.status_code, answer.content)
    return found


def _at(turn: int) -> datetime:
    return NOW + timedelta(minutes=turn)


def _ours() -> Iterator[tuple[float, int]]:
    """Gather the same sources as a run does, with everything that is kept of it. Gives seconds and items, each time."""
    from glyptarch_core.campaign import CampaignDocument  # noqa: PLC0415
    from glyptarch_server import wiring  # noqa: PLC0415 - Django is set up only now
    from glyptarch_server.blogs.actions import create_blog  # noqa: PLC0415
    from glyptarch_server.campaigns.actions import create_campaign  # noqa: PLC0415
    from glyptarch_server.campaigns.queries import latest_revision  # noqa: PLC0415
    from glyptarch_server.items.models import Item  # noqa: PLC0415
    from glyptarch_server.runs.carry_out import gather  # noqa: PLC0415
    from glyptarch_server.runs.models import Run  # noqa: PLC0415
    from glyptarch_server.sources.models import Source  # noqa: PLC0415
    from glyptarch_server.wiring import FetchPortal  # noqa: PLC0415

    blog = create_blog(slug="bench", title="Bench", tagline="", language="en", now=NOW)
    sources = Source.objects.bulk_create(
        Source(blog=blog, key=f"s{number}", url=_address(number), title=f"S {number}", etag='"1"', added_at=NOW,
               any_certificate=True, judged_at=NOW, health="ok")
        for number in range(_SOURCES)
    )  # fmt: skip
    campaign = create_campaign(blog, "Bench", CampaignDocument(), by=None, now=NOW)
    run = Run.objects.create(campaign=campaign, revision=latest_revision(campaign), state="gathering", asked_at=NOW)
    portal = FetchPortal(allowed=frozenset(f"127.0.1.{host + 1}:{_PORT}" for host in range(_HOSTS)))
    with patch.object(wiring, "clock"), closing(portal):
        gather(run, sources[::10], fetcher=portal, clock=lambda: NOW)
        for turn in range(1, _ROUNDS + 1):
            Source.objects.update(etag=f'"{turn + 1}"')
            sources = list(Source.objects.order_by("pk"))
            begun = time.perf_counter()
            gather(run, sources, fetcher=portal, clock=partial(_at, turn))
            yield time.perf_counter() - begun, Item.objects.count()


def main() -> bool:
    """Print the figures; True where they are as wanted."""
    ours: list[float] = []
    careful: list[float] = []
    plain: list[float] = []
    right = True
    with tempfile.TemporaryDirectory() as folder, empty_database():
        ready = multiprocessing.Event()
        server = multiprocessing.Process(target=_serve, args=(str(_certificate(Path(folder))), ready), daemon=True)
        server.start()
        ready.wait(10)
        try:
            # In turns, since the machine is not always as fast.
            for turn, (seconds, items) in enumerate(_ours(), start=1):
                ours.append(seconds)
                begun = time.perf_counter()
                found = asyncio.run(_script())
                careful.append(time.perf_counter() - begun)
                begun = time.perf_counter()
                found += _loop()
                plain.append((time.perf_counter() - begun) * 10)
                right = right and items == _SOURCES // 10 * (_ITEMS + turn)
                right = right and found == (_SOURCES // 10 + _SOURCES // 100) * _ITEMS
        finally:
            server.terminate()
            server.join()
    figures = {
        "sources": _SOURCES,
        "polls a minute": round(_SOURCES / median(ours) * 60),
        "polls a minute of a script, forty at once": round(_SOURCES / median(careful) * 60),
        "polls a minute of a script, one after the other": round(_SOURCES / median(plain) * 60),
        "times the script with forty at once": round(median(careful) / median(ours), 2),
        "times the script with one after the other": round(median(plain) / median(ours), 2),
    }
    print("polling:", json.dumps(figures, indent=1))
    fast = figures["polls a minute"] >= _WANTED_A_MINUTE and median(careful) / median(ours) >= _WANTED_TIMES
    return right and fast
