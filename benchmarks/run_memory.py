"""The memory of a run of 5,000 items from 100 sources, which must not grow with the items."""

import gc
import json
import resource
from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import Any

from benchmarks.database import NOW, empty_database
from benchmarks.pairs import _Writer, story

__all__ = ["main"]

_SOURCES = 100
_ITEMS = 50
_MOST_TIMES = 1.35
_MEGABYTE = 1 << 20


def _now() -> float:
    gc.collect()
    pages = int(Path("/proc/self/statm").read_text().split()[1])
    return pages * resource.getpagesize() / _MEGABYTE


def _feed(writer: _Writer, number: int) -> bytes:
    items = "".join(
        f"<item><title>{' '.join(writer.common[(number * 53 + one * 7 + word) % 900] for word in range(7))} {number}"
        f"</title><guid>{number}-{one}</guid><link>https://s.example/{number}/{one}</link>"
        f"<pubDate>Tue, 24 Nov 2026 {one % 12:02}:00:00 GMT</pubDate><description>{' '.join(story(writer))}</description></item>"
        for one in range(_ITEMS)
    )
    return f"<rss version='2.0'><channel><title>S{number}</title>{items}</channel></rss>".encode()


def _measure() -> tuple[float, float, int]:
    """Run 10 sources, then 100.

    Return the memory after each in MB, and the number of posts.
    """
    from glyptarch_core.campaign import load_document  # noqa: PLC0415 - Django is set up only now
    from glyptarch_server.blogs.actions import create_blog  # noqa: PLC0415
    from glyptarch_server.campaigns.actions import create_campaign  # noqa: PLC0415
    from glyptarch_server.posts.models import Post  # noqa: PLC0415
    from glyptarch_server.runs.actions import begin_run  # noqa: PLC0415
    from glyptarch_server.runs.carry_out import carry_out_alone  # noqa: PLC0415
    from glyptarch_server.sources.models import Source  # noqa: PLC0415
    from glyptarch_server.wiring import Fetched, FetchRequest  # noqa: PLC0415

    writer = _Writer(seed=5)

    class Portal:
        """A portal that writes each source's feed on request."""

        def fetch_in_batches(self, requests: Sequence[FetchRequest]) -> Iterator[list[tuple[int, Fetched]]]:
            for place, request in enumerate(requests):
                body = _feed(writer, int(request.url.rpartition("/")[2]))
                yield [(place, Fetched(url=request.url, body=body, not_modified=False, content_type="", etag="",
                                       last_modified="", milliseconds=1))]  # fmt: skip

        def fetch_all(self, requests: Sequence[FetchRequest]) -> list[Any]:
            return [answer for come in self.fetch_in_batches(requests) for _, answer in come]

    blog = create_blog(slug="bench", title="Bench", tagline="", language="en", now=NOW)
    keys = [f"s{number}" for number in range(_SOURCES)]
    Source.objects.bulk_create(
        Source(blog=blog, key=key, url=f"https://s.example/{key[1:]}", title=key, added_at=NOW) for key in keys
    )
    after = []
    for name, chosen in (("Few", keys[:10]), ("Many", keys)):
        document = load_document({"gather": {"sources": chosen}, "match": {"rules": []}})
        campaign = create_campaign(blog, name, document, by=None, now=NOW)
        run = begin_run(campaign, by=None, now=NOW, queue=False)
        carry_out_alone(run.task_id or 0, fetcher=Portal(), clock=lambda: NOW)  # type: ignore[arg-type]
        after.append(_now())
    return after[0], after[1], Post.objects.count()


def main() -> bool:
    """Print the figures.

    Return whether ten times the items need about the same memory.
    """
    with empty_database():
        few, many, posts = _measure()
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    figures = {
        "posts": posts,
        "MB after 500 items": round(few),
        "MB after 5,000 items more": round(many),
        "MB at the peak": round(peak),
        "times": round(many / few, 2),
    }
    print("run_memory:", json.dumps(figures, indent=1))
    return many / few <= _MOST_TIMES
