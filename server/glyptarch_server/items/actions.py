"""Capturing: what a source gave is kept as it came."""

import hashlib
import logging
from collections.abc import Collection, Sequence
from dataclasses import asdict, dataclass, replace
from datetime import datetime, timedelta
from functools import partial

from django.db import DataError, transaction
from django.db.models import Count
from glyptarch_core.errors import ParseError
from glyptarch_core.item import FEATURES_VERSION, Features, MediaOrigin, features_of, identity_key
from glyptarch_core.item import Item as CoreItem
from glyptarch_core.readers import Feed, ReadWarning

from glyptarch_server import wiring
from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.common.problems import Invalid
from glyptarch_server.items.features import FEATURE_FIELDS, set_features
from glyptarch_server.items.models import Item, Sample
from glyptarch_server.items.page_pictures import look_up_pages
from glyptarch_server.items.queries import as_captured, judge
from glyptarch_server.items.single_page import read_page
from glyptarch_server.sources.adding import add_source, source_by_hand
from glyptarch_server.sources.gathering import SourceAnswer, read_sources
from glyptarch_server.sources.models import Reading, Source
from glyptarch_server.sources.readings import keep_health, lock_sources, log_reading, log_unchanged
from glyptarch_server.wiring import NO_FEATURES, Clock, Fetched, FetchError, FetchPortal, FetchRequest, RawFeed

__all__ = [
    "add_and_capture",
    "capture",
    "keep_answer",
    "keep_answers",
    "keep_sample",
    "known_contents",
    "known_links",
    "read_and_capture",
    "refresh_features",
    "remove_sample",
    "rename_sample",
    "sample_from_address",
    "take_page",
]

_log = logging.getLogger("glyptarch.items")
_UNFIT = (DataError, ValueError)
"""What the database and its driver raise for a value that does not fit."""

_CHANGEABLE = [
    "link",
    "title",
    "summary",
    "body",
    "authors",
    "categories",
    "updated",
    "media",
    "language",
    "credit",
    "facts",
    "raw",
    # The identity, by which it is found, stays.
    *(name for name in FEATURE_FIELDS if name != "identity_key"),
    "content_hash",
    "changed_at",
]


def _identity_hash(identity: str) -> str:
    return hashlib.sha256(identity.encode("utf-8", "surrogatepass")).hexdigest()


def _row(source: Source, item: CoreItem, features: Features, now: datetime) -> Item:
    item = replace(item, source=source.key)
    features = replace(features, identity_key=identity_key(item))
    row = Item(
        source=source,
        identity=item.identity,
        identity_hash=_identity_hash(item.identity),
        link=item.link[:4000],
        title=item.title,
        summary=item.summary,
        body=item.body,
        authors=list(item.authors),
        categories=list(item.categories),
        published=item.published,
        updated=item.updated,
        media=[asdict(medium) for medium in item.media],
        language=item.language[:35],
        credit=asdict(item.credit) if item.credit else None,
        facts=dict(item.facts),
        raw=item.raw,
        content_hash=item.content_hash(),
        captured_at=now,
        changed_at=now,
        dated=item.published or item.updated or now,
    )
    set_features(row, features)
    return row


@dataclass(frozen=True, slots=True, kw_only=True)
class CaptureResult:
    """How many items are new, and the identities of those that could not be kept."""

    fresh: int
    refused: tuple[str, ...]


def capture(
    source: Source, items: Sequence[CoreItem], *, now: datetime, features: Sequence[Features] | None = None
) -> CaptureResult:
    """Keep items: new ones are added, edited ones replaced in place.

    The readers see to it that every item fits. One that the database does not take after all is
    left out alone, and is named.

    The date an item counts from stays as it was first captured, so that an entry without a
    date does not grow younger with every reading.
    """
    given = features if features is not None else [features_of(item) for item in items]
    unique = {_identity_hash(item.identity): (item, features) for item, features in zip(items, given, strict=True)}
    known = dict(
        Item.objects.filter(source=source, identity_hash__in=list(unique)).values_list("identity_hash", "content_hash")
    )
    fresh = [_row(source, *_with_features(pair), now) for key, pair in unique.items() if key not in known]
    edited = {
        key: _with_features(pair)
        for key, pair in unique.items()
        if key in known and pair[0].content_hash() != known[key]
    }
    refused = _add(fresh) + (_replace(source, edited, now) if edited else [])
    return CaptureResult(fresh=len(fresh) - len(refused), refused=tuple(refused))


def _with_features(pair: tuple[CoreItem, Features]) -> tuple[CoreItem, Features]:
    """Give an item with its features, also where they were left out because it was known then."""
    item, features = pair
    return (item, features_of(item)) if features is NO_FEATURES or features == NO_FEATURES else pair


def known_links(source: Source, identities: Collection[str]) -> set[str]:
    """Give of the identities of articles those that a source has captured already."""
    by_hash = {_identity_hash(identity): identity for identity in identities}
    kept = Item.objects.filter(source=source, identity_hash__in=list(by_hash)).values_list("identity_hash", flat=True)
    return {by_hash[one] for one in kept}


_KNOWN_OF = 2000


def known_contents(sources: Sequence[Source]) -> dict[int, frozenset[str]]:
    """Give the content hashes of the newest 2,000 items of each source, by its number."""
    found: dict[int, set[str]] = {source.pk: set() for source in sources}
    # Of most sources these are all their items: they are had at once.
    small = [source.pk for source in sources if source.item_count <= _KNOWN_OF]
    for source, content in Item.objects.filter(AnyOf("source_id", small)).values_list("source_id", "content_hash"):
        found[source].add(content)
    for number in found.keys() - set(small):
        newest = Item.objects.filter(source=number).order_by("-dated")
        found[number].update(newest.values_list("content_hash", flat=True)[:_KNOWN_OF])
    return {number: frozenset(contents) for number, contents in found.items()}


def _add(rows: list[Item]) -> list[str]:
    """Add rows; gives the identities of those that the database does not take."""
    try:
        with transaction.atomic():
            Item.objects.bulk_create(rows, ignore_conflicts=True, batch_size=200)
    except _UNFIT:
        return [row.identity for row in rows if not _fits(row)]
    return []


def _fits(row: Item) -> bool:
    """Write one row, and tell whether the database takes it."""
    try:
        with transaction.atomic():
            row.save()
    except _UNFIT:
        _log.exception("source %s: an entry cannot be kept", row.source_id)
        return False
    return True


def _replace(source: Source, edited: dict[str, tuple[CoreItem, Features]], now: datetime) -> list[str]:
    rows = list(Item.objects.filter(source=source, identity_hash__in=list(edited)))
    for row in rows:
        new = _row(source, *edited[row.identity_hash], now)
        # The entry says nothing of what was found on the page it links to.
        new.media += [medium for medium in row.media if medium["origin"] == MediaOrigin.PAGE.value]
        for name in _CHANGEABLE:
            setattr(row, name, getattr(new, name))
        # Its page is asked again: what it said is gone with the text before.
        row.page, row.page_asked_at = "", None if source.full_text_words else row.page_asked_at
    try:
        with transaction.atomic():
            Item.objects.bulk_update(rows, [*_CHANGEABLE, "page", "page_asked_at"], batch_size=200)
    except _UNFIT:
        return [row.identity for row in rows if not _fits(row)]
    return []


def refresh_features(*, most: int) -> list[Item]:
    """Read the features of items anew that were made by an earlier reading; gives those items.

    Until then readers of rows make them themselves (``items/queries.py``), so that nobody sees stale ones.
    """
    stale = Item.objects.exclude(features_version=FEATURES_VERSION).select_related("source").order_by("pk")
    rows = list(stale[:most])
    for row, captured in zip(rows, as_captured(rows), strict=True):
        set_features(row, captured.features)
    Item.objects.bulk_update(rows, FEATURE_FIELDS, batch_size=200)
    return rows


def keep_answer(source: Source, answer: SourceAnswer, *, now: datetime) -> Reading:
    """Keep what a reading gave, items and log together, in one transaction; then judge how the source does."""
    with transaction.atomic():
        return _keep(source, answer, now=now)


_JUDGED_EVERY = timedelta(hours=1)


def keep_answers(pairs: Sequence[tuple[Source, SourceAnswer]], *, now: datetime) -> list[Reading]:
    """Keep what several readings gave. Those that say that nothing has changed cost a few statements together.

    How an unchanged source does is judged once an hour: only time can change it.
    """
    plain = [pair for pair in pairs if _is_plain(*pair)]
    with transaction.atomic():
        lock_sources([source for source, _ in pairs])
        readings = [keep_answer(source, answer, now=now) for source, answer in pairs if not _is_plain(source, answer)]
        if plain:
            readings += log_unchanged(plain, now=now)
        for source, _ in plain:
            if source.judged_at is None or now - source.judged_at >= _JUDGED_EVERY:
                keep_health(source, judge(source, now=now), now=now)
    return readings


def _is_plain(source: Source, answer: SourceAnswer) -> bool:
    """Tell whether nothing is to be kept but that nothing has changed. A source that failed before is judged anew."""
    unchanged = isinstance(answer.outcome, Fetched) and not answer.moved_to and not source.moved_to
    return unchanged and not source.failures


def _keep(source: Source, answer: SourceAnswer, *, now: datetime) -> Reading:
    outcome, judged = answer.outcome, partial(judge, source, now=now)
    if not isinstance(outcome, Feed):
        return log_reading(source, answer, fresh=0, now=now, judged=judged)
    captured = capture(source, outcome.items, now=now, features=outcome.features)
    refused = tuple(ReadWarning(code="entry_refused", detail=identity[:100]) for identity in captured.refused)
    outcome = replace(outcome, warnings=(*refused, *outcome.warnings))
    return log_reading(source, replace(answer, outcome=outcome), fresh=captured.fresh, now=now, judged=judged)


@dataclass(frozen=True, slots=True, kw_only=True)
class Added:
    """A new source, how many items were captured at once, and the source that has the same items already, if any."""

    source: Source
    captured: int
    same_as: Source | None


def add_and_capture(blog: Blog, url: str, title: str, *, fetcher: FetchPortal, now: datetime) -> Added:
    """Make an address a source and capture its items, so that rules can be proved on them at once."""
    source, feed = add_source(blog, url, title, fetcher=fetcher, now=now)
    same_as = _source_with_same_items(blog, feed.items)
    captured = keep_answer(source, SourceAnswer(outcome=feed), now=now).fresh
    return Added(source=source, captured=captured, same_as=same_as)


@dataclass(frozen=True, slots=True, kw_only=True)
class TakenPage:
    """A page that was taken: its item's title and words, its source, the reader that read it, and whether it is new."""

    title: str
    words: int
    source: Source
    reader: str
    fresh: bool


def take_page(blog: Blog, url: str, *, fetcher: FetchPortal, now: datetime) -> TakenPage:
    """Capture one page by its address. Raises Invalid where it cannot be had or is no article."""
    read = read_page(blog, url, source="taken", fetcher=fetcher, now=now)
    with transaction.atomic():
        source = source_by_hand(blog, now=now)
        captured = capture(source, [read.made.item], now=now, features=[read.made.features])
    if captured.refused:
        raise Invalid("This page cannot be kept: something in it does not fit.")
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
    """Give the source of a blog that has at least half of these items already: most likely the same feed."""
    keys = {_identity_hash(item.identity) for item in items[:_COMPARED]}
    rows = Item.objects.filter(source__blog=blog, source__removed_at=None, identity_hash__in=keys)
    best = rows.values("source").annotate(number=Count("pk")).order_by("-number", "source").first()
    if best is None or best["number"] < _SAME_FROM * len(keys):
        return None
    return Source.objects.get(pk=best["source"])


def read_and_capture(source: Source, *, fetcher: FetchPortal, clock: Clock) -> Reading:
    """Read one source now; the log says how it went, whatever happened."""
    (((_, answer),),) = read_sources([source], fetcher, known=known_contents, known_links=known_links)
    now = clock()
    reading = keep_answer(source, answer, now=now)
    look_up_pages(source, fetcher=fetcher, now=now)
    return reading


_KEPT_SAMPLES = 20


def keep_sample(blog: Blog, body: bytes, *, name: str, url: str = "", content_type: str = "", now: datetime) -> Sample:
    """Keep a feed given by hand. The newest twenty of a blog are kept. Raises Invalid where it is no feed."""
    try:
        feed = wiring.apart().read_feed(RawFeed(body=body, source="sample", url=url, content_type=content_type))
    except ParseError as error:
        raise Invalid(f"This cannot be read as a feed: {error}") from error
    if not feed.items:
        raise Invalid("This feed has no items to prove rules on.")
    made = Sample.objects.create(
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
    return made


def rename_sample(sample: Sample, name: str) -> Sample:
    """Give a sample another name."""
    sample.name = name
    sample.save(update_fields=["name"])
    return sample


def remove_sample(sample: Sample) -> None:
    """Remove a sample."""
    sample.delete()


def sample_from_address(blog: Blog, url: str, *, fetcher: FetchPortal, now: datetime) -> Sample:
    """Fetch an address once and keep what it gives. Raises Invalid where it cannot be had or is no feed."""
    answer = fetcher.fetch_all([FetchRequest(url=url)])[0]
    if isinstance(answer, FetchError):
        raise Invalid(f"{url} cannot be read: {answer}")
    return keep_sample(blog, answer.body, name="", url=answer.url, content_type=answer.content_type, now=now)
