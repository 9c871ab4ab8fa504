"""``./glyptarch benchmark readers``: the cost of public pages, and answers under load.

A blog of 6,000 posts and one web process as on a server. Up to 200 readers each request the next page as soon as they
have one, while an editor works at the desk. Client, web process and PostgreSQL share this machine.
"""

import asyncio
import random
import statistics
import sys
import time
from collections import Counter
from dataclasses import dataclass, field
from unittest.mock import patch

from benchmarks.database import NOW, empty_database, give_defaults, sql
from benchmarks.desk import fill

__all__ = ["main"]

_POSTS = 6_000
_READERS = 200
_SECONDS = 20.0
_PAUSE_OF_EDITOR = 0.25
_ROUNDS = 200


@dataclass(slots=True)
class _Told:
    """The answers: seconds by status."""

    seconds: dict[int, list[float]] = field(default_factory=dict)

    def add(self, status: int, seconds: float) -> None:
        self.seconds.setdefault(status, []).append(seconds)

    def line(self, what: str, over: float) -> str:
        good = sorted(self.seconds.get(200, [])) or [float("nan")]
        others = Counter({status: len(times) for status, times in self.seconds.items() if status != 200})
        return (
            f"{what:8} {len(good) / over:6.1f} answers a second; median {statistics.median(good) * 1000:6.0f} ms, "
            f"95 of 100 within {good[int(0.95 * (len(good) - 1))] * 1000:6.0f} ms, the last {good[-1] * 1000:6.0f} ms"
            + "".join(f"; {number} × {status}" for status, number in sorted(others.items()))
        )


async def _ask(port: int, path: str, cookie: str, kept: list[tuple[asyncio.StreamReader, asyncio.StreamWriter]]) -> int:
    """Request a page over a persistent connection.

    Return the status.
    """
    if not kept:
        kept.append(await asyncio.open_connection("127.0.0.1", port))
    reader, writer = kept[0]
    head = f"GET {path} HTTP/1.1\r\nHost: 127.0.0.1\r\n{cookie}\r\n"
    writer.write(head.encode())
    try:
        lines = (await reader.readuntil(b"\r\n\r\n")).decode("latin-1").split("\r\n")
        headers = dict(line.lower().split(": ", 1) for line in lines[1:] if ": " in line)
        await reader.readexactly(int(headers.get("content-length", 0)))
    except (asyncio.IncompleteReadError, ConnectionError):
        kept.clear()
        return 0
    if headers.get("connection") == "close":
        kept.clear()
    return int(lines[0].split()[1])


async def _read_on(port: int, paths: list[str], end: float, told: _Told, chance: random.Random) -> None:
    kept: list[tuple[asyncio.StreamReader, asyncio.StreamWriter]] = []
    while time.monotonic() < end:
        begun = time.monotonic()
        status = await _ask(port, chance.choice(paths), "", kept)
        told.add(status, time.monotonic() - begun)
        if status != 200:
            await asyncio.sleep(1)


async def _edit(port: int, cookie: str, end: float, told: _Told) -> None:
    kept: list[tuple[asyncio.StreamReader, asyncio.StreamWriter]] = []
    while time.monotonic() < end:
        begun = time.monotonic()
        told.add(await _ask(port, "/api/blogs/bench/posts", cookie, kept), time.monotonic() - begun)
        await asyncio.sleep(_PAUSE_OF_EDITOR)


async def _rush(port: int, paths: list[str], cookie: str, readers: int) -> tuple[_Told, _Told]:
    read, edited = _Told(), _Told()
    end = time.monotonic() + _SECONDS
    each = [_read_on(port, paths, end, read, random.Random(number)) for number in range(readers)]  # noqa: S311
    await asyncio.gather(*each, _edit(port, cookie, end, edited))
    return read, edited


def _cost(paths: list[str]) -> None:
    """Print the parts of a page's cost in this process."""
    from django.db import connection  # noqa: PLC0415 - Django is set up only now
    from django.template.backends.django import Template  # noqa: PLC0415
    from django.test import Client  # noqa: PLC0415

    client, inside = Client(SERVER_NAME="127.0.0.1"), {"queries": 0.0, "template": 0.0, "asked": 0.0}

    def query(execute, *given):  # type: ignore[no-untyped-def]  # noqa: ANN001, ANN002, ANN202
        begun = time.perf_counter()
        try:
            return execute(*given)
        finally:
            inside["queries"] += time.perf_counter() - begun
            inside["asked"] += 1

    def rendered(self, *given, **more):  # type: ignore[no-untyped-def]  # noqa: ANN001, ANN002, ANN003, ANN202
        begun, before = time.perf_counter(), inside["queries"]
        try:
            return render(self, *given, **more)
        finally:
            inside["template"] += time.perf_counter() - begun - (inside["queries"] - before)

    render = Template.render
    for path in paths:
        client.get(path)
        inside |= dict.fromkeys(inside, 0.0)
        begun, busy = time.perf_counter(), time.process_time()
        with connection.execute_wrapper(query), patch.object(Template, "render", rendered):
            for _ in range(_ROUNDS):
                client.get(path)
        whole, busy = (time.perf_counter() - begun) / _ROUNDS, (time.process_time() - busy) / _ROUNDS
        queries, template = inside["queries"] / _ROUNDS, inside["template"] / _ROUNDS
        print(
            f"{path:24} {whole * 1000:5.1f} ms ({busy * 1000:.1f} of this process): "
            f"{inside['asked'] / _ROUNDS:.0f} queries {queries * 1000:.1f}, template {template * 1000:.1f}, "
            f"building queries and the rest {(whole - queries - template) * 1000:.1f}"
        )


def main() -> bool:
    """Print the cost of pages and the answers to readers and an editor.

    Return whether every request was answered.
    """
    with empty_database():
        from django.test import Client  # noqa: PLC0415 - Django is set up only now
        from glyptarch_launcher.ports import free_port  # noqa: PLC0415
        from glyptarch_launcher.processes import wait_for  # noqa: PLC0415
        from glyptarch_server.accounts.actions import ensure_user  # noqa: PLC0415
        from glyptarch_server.blogs.actions import add_member, create_blog  # noqa: PLC0415
        from glyptarch_server.blogs.models import Role  # noqa: PLC0415
        from glyptarch_server.posts.models import Post  # noqa: PLC0415

        from tests.processes import server_group  # noqa: PLC0415

        give_defaults(
            *("sources.Source", "sources.Reading", "campaigns.Campaign", "campaigns.Revision", "items.Item"),
            *("posts.Post", "runs.Run", "runs.Decision", "comments.Comment"),
        )
        blog = create_blog(slug="bench", title="Bench", tagline="", language="en", now=NOW)
        owner = ensure_user("bench", "a long password", full_name="Bench")
        add_member(blog, owner, Role.OWNER)
        fill(blog.pk, _POSTS, 2 * _POSTS)
        sql("VACUUM ANALYZE")
        newest = Post.objects.filter(state="published").order_by("-date").values_list("slug", flat=True)[:300]
        paths = ["/blog/bench/", *(f"/blog/bench/{slug}/" for slug in newest), "/blog/bench/?page=7"]
        _cost([paths[0], paths[1], paths[-1], "/health/live"])
        editor = Client(SERVER_NAME="127.0.0.1")
        editor.force_login(owner)
        cookie = f"Cookie: sessionid={editor.cookies['sessionid'].value}\r\n"
        port, group = free_port(), server_group()
        try:
            command = [sys.executable, "-m", "glyptarch_server.config.web_server", "--port", str(port)]
            wait_for(f"http://127.0.0.1:{port}/health/ready", *group.start("bench-web", command), what="the web server")
            failed = 0
            for readers in (1, 20, _READERS):
                read, edited = asyncio.run(_rush(port, paths, cookie, readers))
                print(f"{readers} readers and an editor:")
                print(read.line("  blog", _SECONDS), edited.line("  desk", _SECONDS), sep="\n")
                failed += sum(len(one.seconds.get(status, ())) for one in (read, edited) for status in (0, 500))
        finally:
            group.stop()
    return not failed
