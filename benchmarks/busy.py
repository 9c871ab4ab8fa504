"""``./glyptarch benchmark busy``: 200 connections for 30 s while long work goes on.

Runs, a comparison and readings are under way.

A web server and a worker in processes of their own, on the machine of the measurement. The readers ask for pages of the
blog, each its next as soon as it has the last; a person at the desk asks for its lists.
"""

import asyncio
import json
import socket
import time
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from datetime import UTC, datetime
from multiprocessing import get_context
from typing import Any

from benchmarks.database import empty_database
from benchmarks.feed_server import ALLOWED, feed_address, serving_feeds
from benchmarks.processes import one_web_server, one_worker

__all__ = ["main"]

_CONNECTIONS = 200
_SECONDS = 30.0
_FEEDS = 300
_WANTED_P95_MS = 300.0
_ENOUGH_POSTS = 500
_PATIENCE = 300.0
_LISTS = ("today", "posts", "campaign-overview", "sources", "runs", "tasks")


class _Load:
    """What readers and the person at the desk were answered, with times in milliseconds."""

    def __init__(self, port: int, cookie: str) -> None:
        self.port, self.cookie = port, cookie
        self.statuses: Counter[int] = Counter()
        self.faults: Counter[str] = Counter()
        self.desk: dict[str, list[float]] = {}

    async def get(self, path: str, *, desk: str = "") -> None:
        """Ask for a path over a new connection, with a session where it is a list of the desk."""
        begun = time.perf_counter()
        try:
            reader, writer = await asyncio.open_connection("127.0.0.1", self.port)
            cookie = f"Cookie: {self.cookie}\r\n" if desk else ""
            writer.write(f"GET {path} HTTP/1.1\r\nHost: 127.0.0.1\r\n{cookie}Connection: close\r\n\r\n".encode())
            answer = await reader.read()
            writer.close()
            self.statuses[int(answer.split(b" ", 2)[1])] += 1
        except (OSError, IndexError, ValueError) as error:
            self.faults[type(error).__name__] += 1
        if desk:
            self.desk.setdefault(desk, []).append((time.perf_counter() - begun) * 1000)

    async def read(self, paths: list[str], until: float, first: int) -> None:
        """Read page after page of the blog."""
        place = first
        while time.monotonic() < until:
            await self.get(paths[place % len(paths)])
            place += 1

    async def look(self, until: float) -> None:
        """Look at the lists of the desk, as a person does who is in a hurry."""
        while time.monotonic() < until:
            for name in _LISTS:
                await self.get(f"/api/blogs/bench/{name}", desk=name)
            await asyncio.sleep(0.2)

    async def all_readers(self, paths: list[str]) -> None:
        """Let all readers read for thirty seconds."""
        until = time.monotonic() + _SECONDS
        await asyncio.gather(*(self.read(paths, until, number * 7) for number in range(_CONNECTIONS)))


def _read_all(port: int, paths: list[str]) -> _Load:
    load = _Load(port, "")
    asyncio.run(load.all_readers(paths))
    return load


def _look(port: int, cookie: str) -> _Load:
    load = _Load(port, cookie)
    asyncio.run(load.look(time.monotonic() + _SECONDS))
    return load


def _all(port: int, cookie: str, paths: list[str]) -> tuple[_Load, _Load]:
    """Let the readers and the person at the desk work.

    Each has a process: two hundred readers in one event loop would delay the person's clock as well.
    """
    with ProcessPoolExecutor(2, mp_context=get_context("spawn")) as pool:
        readers, person = pool.submit(_read_all, port, paths), pool.submit(_look, port, cookie)
        return readers.result(), person.result()


def _share(times: list[float], part: float) -> int:
    """Return the time, rounded, that this part of the times do not exceed."""
    return round(sorted(times)[int(len(times) * part)])


def _free_port() -> int:
    with socket.socket() as listener:
        listener.bind(("127.0.0.1", 0))
        return int(listener.getsockname()[1])


def _campaign(blog: Any, name: str, label: str) -> Any:  # noqa: ANN401 - Django is set up only now
    from glyptarch_core.campaign import load_document  # noqa: PLC0415
    from glyptarch_server.campaigns.actions import create_campaign  # noqa: PLC0415

    rules = load_document({"gather": {"labels": [label]}, "match": {"rules": []}, "release": {"mode": "publish"}})
    return create_campaign(blog, name, rules, by=None, now=datetime.now(UTC))


def _wait_for(holds: Any) -> None:  # noqa: ANN401
    until = time.monotonic() + _PATIENCE
    while not holds() and time.monotonic() < until:
        time.sleep(0.2)


def main() -> bool:
    """Print the figures.

    Return whether no answer was an error and the lists came in time.
    """
    with serving_feeds(), empty_database():
        from django.test import Client  # noqa: PLC0415 - Django is set up only now
        from glyptarch_server.accounts.actions import ensure_user  # noqa: PLC0415
        from glyptarch_server.blogs.actions import add_member, create_blog  # noqa: PLC0415
        from glyptarch_server.blogs.roles import Role  # noqa: PLC0415
        from glyptarch_server.campaigns.queries import latest_revision  # noqa: PLC0415
        from glyptarch_server.posts.models import Post  # noqa: PLC0415
        from glyptarch_server.replay.actions import begin_replay  # noqa: PLC0415
        from glyptarch_server.runs.actions import begin_run  # noqa: PLC0415
        from glyptarch_server.sources.adding import NewSource, add_sources  # noqa: PLC0415

        now = datetime.now(UTC)
        user = ensure_user("mira", "dark-meadow-bench", full_name="Mira")
        blog = create_blog(slug="bench", title="Bench", tagline="", language="en", now=now)
        add_member(blog, user, Role.OWNER)
        for place, label in enumerate(("One", "Two")):
            numbers = range(place * _FEEDS, (place + 1) * _FEEDS)
            add_sources(
                blog,
                [NewSource(url=feed_address(number), title=f"Club {number}", labels=[label]) for number in numbers],
                now=now,
            )
        first, second = _campaign(blog, "One", "One"), _campaign(blog, "Two", "Two")
        client = Client()
        client.force_login(user)
        cookie = f"sessionid={client.cookies['sessionid'].value}"
        port = _free_port()
        with one_web_server(port=port), one_worker(allowed=ALLOWED):
            begin_run(first, by=None, now=now)
            _wait_for(lambda: Post.objects.count() >= _ENOUGH_POSTS)
            paths = ["/blog/bench/"]
            paths += [f"/blog/bench/{slug}/" for slug in Post.objects.values_list("slug", flat=True)[:200]]
            before = Post.objects.count()
            begin_run(second, by=None, now=datetime.now(UTC))
            begin_replay(first, latest_revision(first), by=None, now=datetime.now(UTC))
            readers, person = _all(port, cookie, paths)
            written = Post.objects.count() - before
    desk = [took for times in person.desk.values() for took in times]
    statuses, faults = readers.statuses + person.statuses, readers.faults + person.faults
    figures = {
        "connections": _CONNECTIONS,
        "seconds": _SECONDS,
        "answers by status": dict(statuses),
        "broken connections": dict(faults),
        "answers a second": round(sum(statuses.values()) / _SECONDS),
        "lists of the desk asked for": len(desk),
        "their p50 and p95, ms": [_share(desk, 0.5), _share(desk, 0.95)],
        "p50 and p95 of each": {name: [_share(took, 0.5), _share(took, 0.95)] for name, took in person.desk.items()},
        "posts written meanwhile": written,
    }
    print("busy:", json.dumps(figures, indent=1))
    fine = set(statuses) == {200} and not faults
    return fine and _share(desk, 0.95) <= _WANTED_P95_MS
