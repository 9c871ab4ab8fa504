"""Storing the answers of sources: their items, and the log of readings."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import partial

from django.db import transaction
from django.db.models import Count
from glyptarch_core.errors import ParseError
from glyptarch_core.item import FEATURES_VERSION, Right
from glyptarch_core.item import Item as CoreItem
from glyptarch_core.readers import Feed, FeedEntry, ReadWarning

from glyptarch_server import wiring
from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.items.capturing import (
    NOTHING_CAPTURED,
    Given,
    capture_all,
    capture_entries,
    identity_hash,
    known_entries,
    known_links,
)
from glyptarch_server.items.features import FEATURE_FIELDS, set_features
from glyptarch_server.items.models import Item, Sample
from glyptarch_server.items.page_pictures import look_up_pages
from glyptarch_server.items.queries import as_captured, judge
from glyptarch_server.items.single_page import read_page
from glyptarch_server.sources.adding import add_source, source_by_hand
from glyptarch_server.sources.gathering import SourceAnswer, read_sources
from glyptarch_server.sources.models import Reading, Source
from glyptarch_server.sources.readings import Logged, keep_health, lock_sources, log_readings, log_unchanged
from glyptarch_server.wiring import Clock, Fetched, FetchError, FetchPortal, FetchRequest, RawFeed

__all__ = [
    "add_and_capture",
    "keep_answer",
    "keep_answers",
    "keep_sample",
    "read_and_capture",
    "refresh_features",
    "remove_sample",
    "rename_sample",
    "sample_from_address",
    "take_page",
]


def refresh_features(*, most: int) -> list[Item]:
    """Recompute features of items made by an earlier version.

    Return those items. Until then queries recompute them on reading (``items/queries.py``), so that no stale ones are
    used.
    """
    stale = Item.objects.exclude(features_version=FEATURES_VERSION).select_related("source").order_by("pk")
    rows = list(stale[:most])
    for row, captured in zip(rows, as_captured(rows), strict=True):
        set_features(row, captured.features)
    Item.objects.bulk_update(rows, FEATURE_FIELDS, batch_size=200)
    return rows


def keep_answer(source: Source, answer: SourceAnswer, *, now: datetime) -> Reading:
    """Store a reading, its items and log in one transaction.

    Then update the source's health. Raises Conflict when the source was withdrawn or removed meanwhile.
    """
    with transaction.atomic():
        if not lock_sources([source]):
            raise Conflict(f"“{source.title}” has been withdrawn or removed: nothing of it is kept.")
        (reading,) = _keep([(source, answer)], now=now)
    return reading


_JUDGED_EVERY = timedelta(hours=1)


def keep_answers(pairs: Sequence[tuple[Source, SourceAnswer]], *, now: datetime) -> list[Reading]:
    """Store several readings in few statements.

    Answers of removed sources are dropped. The health of an unchanged source is updated once an hour, since only time
    can change it.
    """
    with transaction.atomic():
        locked_keys = lock_sources([source for source, _ in pairs])
        left = [pair for pair in pairs if pair[0].pk in locked_keys]
        plain = [pair for pair in left if _is_plain(*pair)]
        readings = _keep([pair for pair in left if not _is_plain(*pair)], now=now)
        if plain:
            readings += log_unchanged(plain, now=now)
        for source, _ in plain:
            if source.state.judged_at is None or now - source.state.judged_at >= _JUDGED_EVERY:
                keep_health(source, judge(source, now=now), now=now)
    return readings


def _is_plain(source: Source, answer: SourceAnswer) -> bool:
    """Whether an answer only says that nothing changed.

    A source that failed before needs a new judgement.
    """
    state = source.state
    unchanged = isinstance(answer.outcome, Fetched) and not answer.moved_to and not state.moved_to
    return unchanged and not state.lately and state.given_at is not None


def _keep(pairs: Sequence[tuple[Source, SourceAnswer]], *, now: datetime) -> list[Reading]:
    read = [
        Given(source=source, entries=feed.entries, only_newer=answer.pushed)
        for source, answer in pairs
        if isinstance(feed := answer.outcome, Feed)
    ]
    captured = {
        given_items.source.pk: result for given_items, result in zip(read, capture_all(read, now=now), strict=True)
    }
    logged: list[Logged] = []
    for source, answer in pairs:
        result = captured.get(source.pk, NOTHING_CAPTURED)
        logged.append(Logged(source=source, answer=_with_refused(answer, result.refused), fresh=result.fresh))
    return log_readings(logged, now=now, judged=partial(judge, now=now))


def _with_refused(answer: SourceAnswer, refused: Sequence[str]) -> SourceAnswer:
    """Return an answer whose warnings name the entries that could not be stored."""
    if not isinstance(answer.outcome, Feed) or not refused:
        return answer
    named = tuple(ReadWarning(code="entry_refused", detail=identity[:100]) for identity in refused)
    return replace(answer, outcome=replace(answer.outcome, warnings=(*named, *answer.outcome.warnings)))


@dataclass(frozen=True, slots=True, kw_only=True)
class Added:
    """A new source, and the number of captured items.

    ``same_as`` is a source that has the same items.
    """

    source: Source
    captured: int
    same_as: Source | None


def add_and_capture(
    blog: Blog, url: str, title: str, *, right: Right | None = None, fetcher: FetchPortal, now: datetime
) -> Added:
    """Add an address as a source and capture its items, so that rules can be proved immediately."""
    source, feed = add_source(blog, url, title, right=right, fetcher=fetcher, now=now)
    same_as = _source_with_same_items(blog, feed.items)
    captured = keep_answer(source, SourceAnswer(outcome=feed), now=now).fresh
    return Added(source=source, captured=captured, same_as=same_as)


@dataclass(frozen=True, slots=True, kw_only=True)
class TakenPage:
    """An imported page: title, words, source, page reader, and whether it is new."""

    title: str
    words: int
    source: Source
    reader: str
    fresh: bool


def take_page(blog: Blog, url: str, *, fetcher: FetchPortal, now: datetime) -> TakenPage:
    """Capture one page by its address.

    Raises Invalid where it cannot be fetched or is no article.
    """
    read = read_page(blog, url, source="taken", fetcher=fetcher, now=now)
    with transaction.atomic():
        source = source_by_hand(blog, now=now)
        captured = capture_entries(source, [FeedEntry(read.made.item, 1, features=read.made.features)], now=now)
    if captured.refused:
        raise Invalid("This page cannot be stored: one of its values is outside the limits.")
    return TakenPage(
        title=read.made.item.title,
        words=read.made.features.words,
        source=source,
        reader=read.reader,
        fresh=bool(captured.fresh),
    )


_SAME_FROM = 0.5
_COMPARED = 20


def _source_with_same_items(blog: Blog, items: Sequence[CoreItem]) -> Source | None:
    """Return the source of a blog with at least half of these items: most likely the same feed."""
    keys = {identity_hash(item.identity) for item in items[:_COMPARED]}
    rows = Item.objects.filter(source__blog=blog, source__removed_at=None, identity_hash__in=keys)
    best = rows.values("source").annotate(number=Count("pk")).order_by("-number", "source").first()
    if best is None or best["number"] < _SAME_FROM * len(keys):
        return None
    return Source.objects.get(pk=best["source"])


def read_and_capture(source: Source, *, fetcher: FetchPortal, clock: Clock) -> Reading:
    """Read one source now.

    The log records any outcome. Raises Conflict for a withdrawn source.
    """
    if source.blocked_at is not None:
        raise Conflict(f"“{source.title}” has been withdrawn. It can be read again once that is lifted.")
    (((_, answer),),) = read_sources([source], fetcher, known_entries=known_entries, known_links=known_links)
    now = clock()
    reading = keep_answer(source, answer, now=now)
    look_up_pages(source, fetcher=fetcher, now=now)
    return reading


_KEPT_SAMPLES = 20


def keep_sample(blog: Blog, body: bytes, *, name: str, url: str = "", content_type: str = "", now: datetime) -> Sample:
    """Store a pasted or uploaded feed.

    The newest twenty of a blog are kept. Raises Invalid.
    """
    try:
        feed = wiring.apart().read_feed(RawFeed(body=body, source="sample", url=url, content_type=content_type))
    except ParseError as error:
        raise Invalid(f"This cannot be read as a feed: {error}") from error
    if not feed.items:
        raise Invalid("This feed has no items to prove rules on.")
    sample = Sample.objects.create(
        blog=blog,
        name=(name.strip() or feed.title or "Sample")[:300],
        url=url[:2000],
        content_type=content_type[:200],
        body=body,
        items=len(feed.items),
        made_at=now,
    )
    kept = Sample.objects.filter(blog=blog).order_by("-made_at", "-pk").values("pk")[:_KEPT_SAMPLES]
    Sample.objects.filter(blog=blog).exclude(pk__in=list(kept.values_list("pk", flat=True))).delete()
    return sample


def rename_sample(sample: Sample, name: str) -> Sample:
    """Rename a sample."""
    sample.name = name
    sample.save(update_fields=["name"])
    return sample


def remove_sample(sample: Sample) -> None:
    """Remove a sample."""
    sample.delete()


def sample_from_address(blog: Blog, url: str, *, fetcher: FetchPortal, now: datetime) -> Sample:
    """Fetch an address once and store it as a sample.

    Raises Invalid where it is unreachable or no feed.
    """
    answer = fetcher.fetch_all([FetchRequest(url=url)])[0]
    if isinstance(answer, FetchError):
        raise Invalid(f"{url} cannot be read: {answer}")
    return keep_sample(blog, answer.body, name="", url=answer.url, content_type=answer.content_type, now=now)
