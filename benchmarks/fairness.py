"""``./glyptarch benchmark fairness``: small campaigns beside large ones, with one worker.

Four campaigns read 100 new feeds of twenty stories each. While they do, 21 campaigns of another blog begin, each with one
feed that has not changed and twenty stories to decide.
"""

import json
import time
from typing import Any

from benchmarks.database import NOW, empty_database
from benchmarks.polling_server import ALLOWED, address, serving
from benchmarks.processes import one_worker

__all__ = ["main"]

_LARGE = 4
_FEEDS = 100
_SMALL = 21
_STORIES = 20
_WANTED_SECONDS = 5.0
_PATIENCE = 300.0


def _source(blog: Any, number: int) -> Any:  # noqa: ANN401 - Django is set up only now
    from glyptarch_server.sources.models import Source  # noqa: PLC0415 - Django is set up only now

    key = f"s{number}"
    return Source(blog=blog, key=key, url=address(number), title=key, added_at=NOW)


def _campaigns(slug: str, names: list[tuple[str, list[int]]]) -> list[Any]:
    """Create a blog with campaigns, each over sources of its own."""
    from glyptarch_core.campaign import load_document  # noqa: PLC0415
    from glyptarch_server.blogs.actions import create_blog  # noqa: PLC0415
    from glyptarch_server.campaigns.actions import create_campaign  # noqa: PLC0415
    from glyptarch_server.sources.models import Source, SourceAccess  # noqa: PLC0415

    blog = create_blog(slug=slug, title=slug, tagline="", language="en", now=NOW)
    made = Source.objects.bulk_create(_source(blog, number) for _, numbers in names for number in numbers)
    SourceAccess.objects.bulk_create(SourceAccess(source=source, any_certificate=True) for source in made)
    campaigns = []
    for name, numbers in names:
        rules = {"gather": {"sources": [f"s{number}" for number in numbers]}, "release": {"mode": "publish"}}
        campaigns.append(create_campaign(blog, name, load_document(rules), by=None, now=NOW))
    return campaigns


def _fill() -> tuple[list[Any], list[Any]]:
    """Return the large campaigns and the small ones."""
    from glyptarch_core.item import Item  # noqa: PLC0415
    from glyptarch_server.items.capturing import capture  # noqa: PLC0415
    from glyptarch_server.sources.models import Source, SourceState  # noqa: PLC0415

    large = [
        (f"Large {place}", [10 * number for number in range(place * _FEEDS, (place + 1) * _FEEDS)])
        for place in range(_LARGE)
    ]
    small = [(f"Small {place}", [10 * place + 1]) for place in range(_SMALL)]
    campaigns = _campaigns("large", large), _campaigns("small", small)
    # The server tells by this how often a feed was asked for.
    SourceState.objects.update(etag='"1"')
    for source in Source.objects.filter(blog__slug="small"):
        stories = [
            Item(
                source=source.key,
                identity=str(number),
                link=f"https://{source.key}.example/{number}",
                title=f"{source.key} saw story {number} of the night",
                body=f"<p>Words of story {number} of {source.key}, told in the field by the dome.</p>",
                published=NOW,
            )
            for number in range(_STORIES)
        ]
        capture(source, stories, now=NOW)
    return campaigns


def _seconds_until_ended(tasks: list[int], begun: float) -> list[float]:
    """Return for each task the seconds until it has ended, in order of their ends."""
    from glyptarch_server.tasks.models import Task  # noqa: PLC0415

    ended: list[float] = []
    while len(ended) < len(tasks) and time.perf_counter() - begun < _PATIENCE:
        number = Task.objects.filter(pk__in=tasks, ended_at__isnull=False).count()
        ended += [time.perf_counter() - begun] * (number - len(ended))
        time.sleep(0.1)
    return ended


def _seconds_until_begun(tasks: list[int]) -> float:
    """Return the longest time from asking for a task to its beginning."""
    from glyptarch_server.tasks.models import Task  # noqa: PLC0415

    rows = Task.objects.filter(pk__in=tasks).values_list("asked_at", "begun_at")
    return max((begun - asked).total_seconds() for asked, begun in rows if begun is not None)


def _begin(campaigns: list[Any]) -> list[int]:
    from datetime import UTC, datetime  # noqa: PLC0415

    from glyptarch_server.runs.actions import begin_run  # noqa: PLC0415

    return [begin_run(campaign, by=None, now=datetime.now(UTC)).task_id or 0 for campaign in campaigns]


def main() -> bool:
    """Print the figures.

    Return whether the small campaigns begin in time.
    """
    with serving(), empty_database():
        from glyptarch_server.runs.models import Decision  # noqa: PLC0415

        large, small = _fill()
        with one_worker(allowed=ALLOWED):
            begun = time.perf_counter()
            many = _begin(large)
            # Until the large ones are well under way.
            while Decision.objects.count() < _STORIES:
                time.sleep(0.1)
            later = time.perf_counter()
            few = _begin(small)
            ended = _seconds_until_ended(few, later)
            waited = _seconds_until_begun(few)
            took = _seconds_until_ended(many, begun)
        decided = Decision.objects.count()
    figures = {
        "large campaigns, feeds each": [_LARGE, _FEEDS],
        "seconds until they have ended": [round(seconds, 1) for seconds in took],
        "small campaigns": _SMALL,
        "seconds until the last of them has begun": round(waited, 1),
        "seconds until the first of them has ended": round(ended[0], 1),
        "seconds until the last has ended": round(ended[-1], 1),
        "items decided": decided,
    }
    print("fairness:", json.dumps(figures, indent=1))
    whole = len(ended) == _SMALL and len(took) == _LARGE
    return whole and waited <= _WANTED_SECONDS
