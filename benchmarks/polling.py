"""Polling sources that mostly have nothing new, over fresh TLS connections, beside a script of httpx and feedparser.

Nine of ten answers are 304. The server is a process of its own, closes each connection after its
answer, and answers for many hosts of loopback, so that the limit of two connections a host is no bound.
"""

import asyncio
import io
import json
import multiprocessing
import ssl
import tempfile
import time
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from unittest.mock import patch

import feedparser
import httpx
from aiohttp import web
from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import NameOID

from benchmarks.database import NOW, empty_database

__all__ = ["main"]

_SOURCES = 2000
_HOSTS = 200
_PORT = 18443
_AT_ONCE = 40
_WANTED_A_MINUTE = 15_000
_WANTED_TIMES = 2.0
_ITEMS = 20


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


def _feed(number: int, *, fresh: bool) -> bytes:
    """Give a feed of twenty stories, one of which is new where it is asked for the second time."""
    items = "".join(
        f"<item><title>Story {number}-{one} of the night</title><guid>{number}-{one}</guid>"
        f"<link>https://club.example/{number}/{one}</link><pubDate>Tue, 24 Nov 2026 10:00:00 GMT</pubDate>"
        f"<description>{'Seen above the reservoir wall, faint and low. ' * 12}</description></item>"
        for one in range(int(fresh), _ITEMS + int(fresh))
    )
    return f"<rss version='2.0'><channel><title>Club {number}</title>{items}</channel></rss>".encode()


def _serve(pem: str, ready: Any) -> None:  # noqa: ANN401 - an event of multiprocessing
    async def answer(request: web.Request) -> web.Response:
        number = int(request.match_info["number"])
        closing = {"Connection": "close"}
        if number % 10:
            return web.Response(status=304, headers=closing)
        fresh = request.headers.get("If-None-Match") == '"2"'
        return web.Response(body=_feed(number, fresh=fresh), headers={**closing, "Content-Type": "application/rss+xml"})

    async def run() -> None:
        app = web.Application()
        app.router.add_get("/{number}", answer)
        runner = web.AppRunner(app, access_log=None)
        await runner.setup()
        context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
        context.load_cert_chain(pem)
        # Nobody resumes a session: each poll is a whole handshake.
        context.num_tickets = 0
        context.options |= ssl.OP_NO_TICKET
        await web.TCPSite(runner, "0.0.0.0", _PORT, ssl_context=context, backlog=512).start()  # noqa: S104
        ready.set()
        await asyncio.Event().wait()

    asyncio.run(run())


def _address(number: int) -> str:
    return f"https://127.0.1.{number % _HOSTS + 1}:{_PORT}/{number}"


async def _script() -> int:
    """Poll every source as a plain script would: httpx, forty at once, and feedparser on what has changed."""
    turns = asyncio.Semaphore(_AT_ONCE)
    found = 0

    async with httpx.AsyncClient(verify=False, limits=httpx.Limits(max_keepalive_connections=0)) as client:  # noqa: S501

        async def poll(number: int) -> int:
            async with turns:
                answer = await client.get(_address(number), headers={"If-None-Match": '"2"'})
            return 0 if answer.status_code == 304 else len(feedparser.parse(io.BytesIO(answer.content)).entries)

        for count in await asyncio.gather(*(poll(number) for number in range(_SOURCES))):
            found += count
    return found


def _ours() -> tuple[float, int]:
    """Gather the same sources as a run does, with everything that is kept of it. Gives seconds, and items found."""
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
    with patch.object(wiring, "clock"):
        changing = [source for number, source in enumerate(sources) if number % 10 == 0]
        gather(run, changing, fetcher=portal, clock=lambda: NOW)
        Source.objects.update(etag='"2"')
        sources = list(Source.objects.order_by("pk"))
        begun = time.perf_counter()
        gather(run, sources, fetcher=portal, clock=lambda: NOW + timedelta(minutes=1))
        seconds = time.perf_counter() - begun
    portal.close()
    return seconds, Item.objects.count()


def main() -> bool:
    """Print the figures; True where they are as wanted."""
    with tempfile.TemporaryDirectory() as folder:
        ready = multiprocessing.Event()
        server = multiprocessing.Process(target=_serve, args=(str(_certificate(Path(folder))), ready), daemon=True)
        server.start()
        ready.wait(10)
        try:
            begun = time.perf_counter()
            theirs = asyncio.run(_script())
            script = time.perf_counter() - begun
            with empty_database():
                ours, items = _ours()
        finally:
            server.terminate()
            server.join()
    figures = {
        "sources": _SOURCES,
        "polls a minute": round(_SOURCES / ours * 60),
        "polls a minute of the script": round(_SOURCES / script * 60),
        "times the script": round(script / ours, 2),
        "items kept": items,
    }
    print("polling:", json.dumps(figures, indent=1))
    fast = figures["polls a minute"] >= _WANTED_A_MINUTE and script / ours >= _WANTED_TIMES
    return bool(fast and items == _SOURCES // 10 * (_ITEMS + 1) and theirs == _SOURCES // 10 * _ITEMS)
