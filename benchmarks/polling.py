"""Polling mostly unchanged sources over new TLS connections, compared with a script.

The script uses httpx and feedparser. Nine of ten answers are 304. The server is a process of its own, closes each
connection after its answer, and answers for many hosts of loopback, so that the limit of two connections per host does
not matter.
"""

import asyncio
import io
import json
import time
from collections.abc import Iterator
from contextlib import closing
from datetime import datetime, timedelta
from functools import partial
from http import HTTPStatus
from statistics import median
from unittest.mock import patch

import feedparser
import httpx

from benchmarks.database import NOW, empty_database
from benchmarks.polling_server import ALLOWED, ITEMS, SOURCES, address, serving
from benchmarks.polling_workers import workers

__all__ = ["main"]

_AT_ONCE = 40
_WANTED_A_MINUTE = 15_000
_WANTED_TIMES = 2.0
_ROUNDS = 3


def _entries(status: int, body: bytes) -> int:
    return 0 if status == HTTPStatus.NOT_MODIFIED else len(feedparser.parse(io.BytesIO(body)).entries)


async def _script() -> int:
    """Poll every source as a careful script would.

    One client, forty requests in parallel, and feedparser on changed feeds.
    """
    turns = asyncio.Semaphore(_AT_ONCE)
    found = 0

    async with httpx.AsyncClient(verify=False, limits=httpx.Limits(max_keepalive_connections=0)) as client:  # noqa: S501

        async def poll(number: int) -> int:
            async with turns:
                answer = await client.get(address(number), headers={"If-None-Match": '"2"'})
            return _entries(answer.status_code, answer.content)

        for count in await asyncio.gather(*(poll(number) for number in range(SOURCES))):
            found += count
    return found


def _loop() -> int:
    """Poll every tenth source as a script of ten lines would: one after the other."""
    found = 0
    for number in range(0, SOURCES, 10):
        answer = httpx.get(address(number + number // 10 % 10), headers={"If-None-Match": '"2"'}, verify=False)  # noqa: S501
        found += _entries(answer.status_code, answer.content)
    return found


def _at(turn: int) -> datetime:
    return NOW + timedelta(minutes=turn)


def _ours() -> Iterator[tuple[float, int]]:
    """Read the same sources as a worker does for a run, with everything it stores.

    Yield seconds and items of each turn.
    """
    from glyptarch_core.campaign import CampaignDocument  # noqa: PLC0415
    from glyptarch_server import wiring  # noqa: PLC0415 - Django is set up only now
    from glyptarch_server.blogs.actions import create_blog  # noqa: PLC0415
    from glyptarch_server.campaigns.actions import create_campaign  # noqa: PLC0415
    from glyptarch_server.items.models import Item  # noqa: PLC0415
    from glyptarch_server.items.reader import ReaderLoop  # noqa: PLC0415
    from glyptarch_server.runs.actions import begin_run  # noqa: PLC0415
    from glyptarch_server.sources.asking import any_pending, ask_for  # noqa: PLC0415
    from glyptarch_server.sources.models import Source, SourceAccess, SourceState  # noqa: PLC0415
    from glyptarch_server.throttle.hosts import SharedHosts  # noqa: PLC0415
    from glyptarch_server.wiring import FetchPortal  # noqa: PLC0415

    blog = create_blog(slug="bench", title="Bench", tagline="", language="en", now=NOW)
    sources = Source.objects.bulk_create(
        Source(blog=blog, key=f"s{number}", url=address(number), title=f"S {number}", added_at=NOW)
        for number in range(SOURCES)
    )  # fmt: skip
    SourceAccess.objects.bulk_create(SourceAccess(source=source, any_certificate=True) for source in sources)
    SourceState.objects.update(etag='"1"', judged_at=NOW, health="ok")
    campaign = create_campaign(blog, "Bench", CampaignDocument(), by=None, now=NOW)
    task = begin_run(campaign, by=None, now=NOW, queue=False).task_id or 0
    portal = FetchPortal(allowed=ALLOWED, hosts=SharedHosts())
    with patch.object(wiring, "clock"), closing(portal):
        ask_for(task, sources[::10])
        ReaderLoop(fetcher=portal, clock=lambda: NOW).run(lambda: not any_pending())
        for turn in range(1, _ROUNDS + 1):
            SourceState.objects.update(etag=f'"{turn + 1}"')
            sources = list(Source.objects.order_by("pk"))
            reader = ReaderLoop(fetcher=portal, clock=partial(_at, turn))
            begun = time.perf_counter()
            ask_for(task, sources)
            reader.run(lambda: not any_pending())
            yield time.perf_counter() - begun, Item.objects.count()


def main() -> bool:
    """Print the figures.

    Return whether they meet the targets.
    """
    ours: list[float] = []
    careful: list[float] = []
    plain: list[float] = []
    right = True
    with serving() as server, empty_database():
        # Alternating, because the speed of the machine varies.
        for turn, (seconds, items) in enumerate(_ours(), start=1):
            ours.append(seconds)
            begun = time.perf_counter()
            found = asyncio.run(_script())
            careful.append(time.perf_counter() - begun)
            begun = time.perf_counter()
            found += _loop()
            plain.append((time.perf_counter() - begun) * 10)
            right = right and items == SOURCES // 10 * (ITEMS + turn)
            right = right and found == (SOURCES // 10 + SOURCES // 100) * ITEMS
        one, two = [workers(number, turn=_ROUNDS + number, server=server) for number in (1, 2)]
    figures = {
        "sources": SOURCES,
        "polls a minute": round(SOURCES / median(ours) * 60),
        "polls a minute of a script, forty at once": round(SOURCES / median(careful) * 60),
        "polls a minute of a script, one after the other": round(SOURCES / median(plain) * 60),
        "times the script with forty at once": round(median(careful) / median(ours), 2),
        "times the script with one after the other": round(median(plain) / median(ours), 2),
        "polls a minute of one worker on one core, with server and database": round(SOURCES / one * 60),
        "of two workers on two cores": round(SOURCES / two * 60),
        "times one worker": round(one / two, 2),
    }
    print("polling:", json.dumps(figures, indent=1))
    fast = figures["polls a minute"] >= _WANTED_A_MINUTE and median(careful) / median(ours) >= _WANTED_TIMES
    return right and fast
