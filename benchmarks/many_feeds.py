"""``./glyptarch benchmark many_feeds``: 5,000 feeds are brought in at once.

One worker reads them and polls them.

Meanwhile the lists of the desk are asked for again and again.
"""

import json
import threading
import time
from collections import defaultdict
from datetime import UTC, datetime
from typing import Any, Self

from benchmarks.database import empty_database
from benchmarks.feed_server import ALLOWED, feed_address, serving_feeds
from benchmarks.processes import one_worker

__all__ = ["main"]

_FEEDS = 5_000
_PATIENCE = 900.0
_WANTED_SECONDS = 300.0
_WANTED_P95_MS = 300.0


class _Desk:
    """A person who looks at lists all the while. The times are in milliseconds."""

    def __init__(self, paths: list[str]) -> None:
        from django.contrib.auth import get_user_model  # noqa: PLC0415 - Django is set up only now
        from django.test import Client  # noqa: PLC0415

        self.times: dict[str, list[float]] = defaultdict(list)
        self._paths = paths
        self._over = threading.Event()
        self._client = Client(SERVER_NAME="127.0.0.1")
        self._client.force_login(get_user_model().objects.get())
        self._thread = threading.Thread(target=self._look)

    def __enter__(self) -> Self:
        """Begin to look."""
        self._thread.start()
        return self

    def __exit__(self, *_: object) -> None:
        """Stop looking."""
        self._over.set()
        self._thread.join()

    def _look(self) -> None:
        from django.db import connection  # noqa: PLC0415

        while not self._over.wait(0.2):
            for path in self._paths:
                begun = time.perf_counter()
                answer = self._client.get(f"/api/blogs/bench/{path}")
                assert answer.status_code == 200, (path, answer.status_code)  # noqa: S101
                self.times[path].append((time.perf_counter() - begun) * 1000)
        connection.close()

    def p95(self) -> dict[str, float]:
        """Return the 95th percentile of each path."""
        return {path: round(sorted(times)[int(len(times) * 0.95)], 1) for path, times in self.times.items()}


def _seconds_until(holds: Any, begun: float) -> float:  # noqa: ANN401
    while not holds() and time.perf_counter() - begun < _PATIENCE:
        time.sleep(0.2)
    return round(time.perf_counter() - begun, 1)


def main() -> bool:
    """Print the figures.

    Return whether they meet the targets.
    """
    with serving_feeds(), empty_database():
        from glyptarch_core.campaign import load_document  # noqa: PLC0415 - Django is set up only now
        from glyptarch_core.readers.opml import listed_addresses  # noqa: PLC0415
        from glyptarch_server.accounts.actions import ensure_user  # noqa: PLC0415
        from glyptarch_server.blogs.actions import add_member, create_blog  # noqa: PLC0415
        from glyptarch_server.blogs.roles import Role  # noqa: PLC0415
        from glyptarch_server.campaigns.actions import create_campaign  # noqa: PLC0415
        from glyptarch_server.feed_lists.actions import bring_in  # noqa: PLC0415
        from glyptarch_server.feed_lists.queries import counted  # noqa: PLC0415
        from glyptarch_server.runs.actions import begin_run  # noqa: PLC0415
        from glyptarch_server.runs.models import Decision, Run  # noqa: PLC0415
        from glyptarch_server.sources.models import Source  # noqa: PLC0415
        from glyptarch_server.tasks.models import Task  # noqa: PLC0415

        now = datetime.now(UTC)
        user = ensure_user("mira", "dark-meadow-bench", full_name="Mira")
        blog = create_blog(slug="bench", title="Bench", tagline="", language="en", now=now)
        add_member(blog, user, Role.OWNER)
        feeds = listed_addresses([feed_address(number) for number in range(_FEEDS)])
        begun = time.perf_counter()
        row = bring_in(blog, "many.opml", feeds, labels=["Many"], by=user, now=now)
        asked = round(time.perf_counter() - begun, 2)
        with one_worker(allowed=ALLOWED), _Desk(["sources", "today", f"feed-lists/{row.pk}", "tasks"]) as desk:
            made = _seconds_until(lambda: Source.objects.count() >= _FEEDS, begun)
            read = _seconds_until(lambda: Task.objects.filter(kind="feed_list", ended_at__isnull=False).exists(), begun)
            outcomes = dict(counted(row))
            rules = load_document({"gather": {"labels": ["Many"]}, "release": {"mode": "hold"}})
            campaign = create_campaign(blog, "Many", rules, by=None, now=now)
            again = time.perf_counter()
            run = begin_run(campaign, by=None, now=datetime.now(UTC))
            polled = _seconds_until(lambda: Run.objects.get(pk=run.pk).state == "deciding", again)
            decided = _seconds_until(lambda: Decision.objects.count() >= 2_000, again)
    figures = {
        "feeds": _FEEDS,
        "seconds to put the list on record": asked,
        "seconds until all are sources": made,
        "seconds until all have been read": read,
        "outcomes": outcomes,
        "items": _FEEDS * 10,
        "seconds to poll all of them for a run": polled,
        "polls a minute": round(_FEEDS / polled * 60),
        "seconds until its first 2,000 items are decided": decided,
        "p95 of the desk meanwhile, ms": desk.p95(),
    }
    print("many_feeds:", json.dumps(figures, indent=1))
    usable = max(desk.p95().values()) <= _WANTED_P95_MS
    return outcomes == {"read": _FEEDS} and read <= _WANTED_SECONDS and usable
