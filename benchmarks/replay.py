"""Replay over 10,000 posts: decisions a second, memory, and the plain loop beside it.

The plain loop asks only the core for the same items in the same batches, without a database. The difference is reading,
comparing and storing.
"""

import gc
import json
import random
import resource
import string
import time
from datetime import timedelta
from pathlib import Path
from typing import Any
from unittest.mock import patch

from benchmarks.database import NOW, empty_database

__all__ = ["main"]

_POSTS = 10_000
_BATCH = 200
_FEWEST_A_SECOND = 500.0
_MOST_TIMES = 1.25
_MEGABYTE = 1 << 20


def _now() -> float:
    gc.collect()
    pages = int(Path("/proc/self/statm").read_text().split()[1])
    return pages * resource.getpagesize() / _MEGABYTE


def _rules(**parts: Any) -> dict[str, Any]:  # noqa: ANN401
    shape = {"title": "{{ title }}", "steps": [{"id": "tidy", "kind": "tidy"}]}
    sift = {"rules": [{"id": "long", "kind": "number", "at_least": 10}]}
    rules = {"gather": {"sources": ["s"]}, "sift": sift, "shape": shape, "release": {"mode": "publish"}}
    return {**rules, "place": {"category": "Sky"}, **parts}


def _fill() -> Any:  # noqa: ANN401 - a campaign, whose class is there once Django is set up
    from glyptarch_core.campaign import load_document  # noqa: PLC0415
    from glyptarch_core.item import Item  # noqa: PLC0415
    from glyptarch_server.blogs.actions import create_blog  # noqa: PLC0415
    from glyptarch_server.campaigns.actions import create_campaign, save_revision  # noqa: PLC0415
    from glyptarch_server.items.capturing import capture  # noqa: PLC0415
    from glyptarch_server.runs.actions import begin_run  # noqa: PLC0415
    from glyptarch_server.runs.carry_out import carry_out_alone  # noqa: PLC0415
    from glyptarch_server.sources.models import Source  # noqa: PLC0415

    class Portal:
        def fetch_in_batches(self, requests: Any) -> Any:  # noqa: ANN401, ARG002 - nothing is fetched
            return iter(())

        def fetch_all(self, requests: Any) -> list[Any]:  # noqa: ANN401, ARG002
            return []

    rng = random.Random(11)  # noqa: S311 - made-up texts
    words = ["".join(rng.choices(string.ascii_lowercase, k=rng.randint(3, 9))) for _ in range(4000)]
    blog = create_blog(slug="bench", title="Bench", tagline="", language="en", now=NOW)
    source = Source.objects.create(
        blog=blog, key="s", url="https://s.example/feed", title="S", right="full", added_at=NOW
    )
    for first in range(0, _POSTS, 500):
        items = [
            Item(
                source="s",
                identity=str(number),
                link=f"https://s.example/{number}",
                title=f"{' '.join(rng.choices(words, k=6)).capitalize()} {number}",
                body=f"<p>{' '.join(rng.choices(words, k=160))}.</p>",
                published=NOW - timedelta(minutes=number),
            )
            for number in range(first, first + 500)
        ]
        capture(source, items, now=NOW)
    campaign = create_campaign(blog, "Sky", load_document(_rules()), by=None, now=NOW)
    run = begin_run(campaign, by=None, now=NOW, queue=False)
    carry_out_alone(run.task_id or 0, fetcher=Portal(), clock=lambda: NOW)  # type: ignore[arg-type]
    changed = _rules(place={"category": "Night"}, shape={"title": "{{ title }}!"})
    save_revision(campaign, load_document(changed), base=1, by=None, note="", now=NOW)
    return campaign


def _plain(campaign: Any) -> float:  # noqa: ANN401
    """Return the seconds that the core alone takes for the same batches."""
    from glyptarch_core.pipeline import decide  # noqa: PLC0415
    from glyptarch_core.testing import FakeMemory  # noqa: PLC0415
    from glyptarch_server.campaigns.queries import document_of, latest_revision  # noqa: PLC0415
    from glyptarch_server.items.models import Item  # noqa: PLC0415
    from glyptarch_server.items.queries import as_captured  # noqa: PLC0415

    document, spent = document_of(latest_revision(campaign)), 0.0
    for first in range(0, _POSTS, _BATCH):
        rows = Item.objects.order_by("pk").select_related("source").defer("raw")[first : first + _BATCH]
        captured = as_captured(list(rows))
        begun = time.perf_counter()
        decide(captured, document, memory=FakeMemory(), now=NOW)
        spent += time.perf_counter() - begun
    return spent


def main() -> bool:
    """Print the figures.

    Return whether the replay is fast enough and its memory flat.
    """
    with empty_database():
        campaign = _fill()
        from glyptarch_server.campaigns.queries import latest_revision  # noqa: PLC0415
        from glyptarch_server.posts.models import Post  # noqa: PLC0415
        from glyptarch_server.replay import actions, applying, queries  # noqa: PLC0415
        from glyptarch_server.tasks.carrying import carry  # noqa: PLC0415

        posts = Post.objects.count()
        replay = actions.begin_replay(campaign, latest_revision(campaign), by=None, now=NOW)
        marks: list[tuple[int, float]] = []

        def clock() -> Any:  # noqa: ANN401
            return NOW

        original = queries.next_decisions

        def watched(row: Any) -> Any:  # noqa: ANN401
            found = original(row)
            marks.append((row.last, _now()))
            return found

        begun = time.perf_counter()
        with patch.object(queries, "next_decisions", watched):
            carry(replay.task_id or 0, fetcher=None, clock=clock, gives_way=False)  # type: ignore[arg-type]
        seconds = time.perf_counter() - begun
        replay.refresh_from_db()
        plain = _plain(campaign)
        begun = time.perf_counter()
        applying.begin_applying(replay, outcomes=("changed",), results=(), by=None, now=NOW)
        replay.refresh_from_db()
        carry(replay.task_id or 0, fetcher=None, clock=clock, gives_way=False)  # type: ignore[arg-type]
        applied = time.perf_counter() - begun
    quarter = marks[len(marks) // 4][1]
    figures = {
        "posts": posts,
        "found": replay.counts,
        "decided a second": round(replay.done / seconds),
        "times the plain loop": round(seconds / plain, 2),
        "applied a second": round(replay.counts.get("changed", 0) / applied),
        "MB after a quarter": round(quarter),
        "MB at the end": round(marks[-1][1]),
    }
    print("replay:", json.dumps(figures, indent=1))
    return replay.done / seconds >= _FEWEST_A_SECOND and marks[-1][1] / quarter <= _MOST_TIMES
