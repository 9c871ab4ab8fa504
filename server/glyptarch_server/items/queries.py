"""Reads about captured items, and rows as the core knows them."""

import threading
from collections import Counter
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from django.db.models import Count, Exists, OuterRef, QuerySet, TextField
from django.db.models.functions import Cast
from glyptarch_core.health import ItemFacts, Readings, Report, health_of
from glyptarch_core.item import (
    FEATURES_VERSION,
    Captured,
    Credit,
    Features,
    Media,
    MediaKind,
    MediaOrigin,
    Right,
    Rights,
    SourceCard,
    features_of,
)
from glyptarch_core.item import Item as CoreItem
from glyptarch_core.text import Fingerprint, Passage, hashtags

from glyptarch_server import wiring
from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.common.problems import NotFound
from glyptarch_server.items.models import Block, Item, Sample
from glyptarch_server.sources.models import Source
from glyptarch_server.sources.queries import load_states, shop_of
from glyptarch_server.tasks.queries import active_task
from glyptarch_server.wiring import RawFeed

__all__ = [
    "TEXTS",
    "PageTexts",
    "SourceFacts",
    "as_captured",
    "facts_of",
    "items_numbered",
    "items_of",
    "judge",
    "page_texts",
    "pages_waiting",
    "picked_captured",
    "recent_captured",
    "sample_captured",
    "sample_of",
    "samples_of",
    "seen_categories",
]


TEXTS = ("raw", "body", "summary", "text", "summary_text", "folded", "fingerprint")
"""The columns that a list of items has no use for."""

_UNUSED = ("raw", "identity_hash", "content_hash", "changed_at", "dated", "page_asked_at")
"""The columns that the core has no use for: reading a date costs more than a line of text."""

_Key = tuple[int, str, str]
_known: dict[_Key, Captured] = {}
_cards: dict[SourceCard, SourceCard] = {}
_known_lock = threading.Lock()
_MOST_KNOWN = 5000


def items_of(sources: Collection[Source]) -> QuerySet[Item]:
    """Return the items of sources that are not blocked, with their sources and without payloads."""
    return _open(sources).select_related("source").defer("raw")


def items_numbered(numbers: Sequence[int]) -> list[Item]:
    """Return items by their numbers in this order, with their sources and without payloads."""
    rows = Item.objects.filter(AnyOf("pk", numbers)).select_related("source").defer("raw")
    found = {row.pk: row for row in rows}
    return [found[number] for number in numbers if number in found]


def _open(sources: Collection[Source]) -> QuerySet[Item]:
    """Return items without those of blocked sources and blocked links."""
    blocked = Block.objects.filter(blog__in={source.blog_id for source in sources}, link_key=OuterRef("link_key"))
    # A source may have been withdrawn since it was loaded.
    rows = Item.objects.filter(AnyOf("source", [source.pk for source in sources]), source__blocked_at=None)
    return rows.exclude(Exists(blocked))


def still_open(rows: Sequence[Item]) -> list[Item]:
    """Return the items whose source or link was not blocked since they were loaded."""
    allowed = _open({row.source for row in rows}).filter(AnyOf("pk", [row.pk for row in rows]))
    numbers = set(allowed.values_list("pk", flat=True))
    return [row for row in rows if row.pk in numbers]


def recent_captured(sources: Collection[Source], *, since: datetime, limit: int) -> dict[int, Captured]:
    """Return the newest items dated since ``since``, by row number, newest first.

    Items are in the core's form. This process returns the same objects again, so that results cached for them are
    reused. Only new and changed items are read from the database.
    """
    cards = {source.pk: _card(source) for source in sources}
    return _captured_rows(_open(sources).filter(dated__gte=since), cards, limit)


def picked_captured(sources: Collection[Source], numbers: Collection[int], *, limit: int) -> dict[int, Captured]:
    """Return chosen items of these sources by row number, in the core's form, newest first."""
    cards = {source.pk: _card(source) for source in sources}
    return _captured_rows(_open(sources).filter(AnyOf("pk", numbers)), cards, limit)


def _captured_rows(rows: QuerySet[Item], cards: Mapping[int, SourceCard], limit: int) -> dict[int, Captured]:
    rows = rows.order_by("-dated", "-pk")
    # As text, because parsing a thousand dates takes longer than the query.
    rows = rows.annotate(changed=Cast("changed_at", TextField()))
    found_rows = list(rows.values_list("pk", "content_hash", "changed", "source_id")[:limit])
    keys: list[_Key] = [row[:3] for row in found_rows]
    with _known_lock:
        cached = list(map(_known.get, keys))
    # Cached items are valid only while their source's card is the same.
    fresh = {
        row[0]: item
        for row, item in zip(found_rows, cached, strict=True)
        if item is not None and item.source is cards[row[3]]
    }
    missing = [key[0] for key in keys if key[0] not in fresh]
    if missing:
        whole = Item.objects.filter(AnyOf("pk", missing)).defer(*_UNUSED)
        fresh |= {row.pk: _captured(row, cards[row.source_id]) for row in whole}
    used = [key for key in keys if key[0] in fresh]
    with _known_lock:
        # Least recently used goes first.
        for key in used:
            _known.pop(key, None)
        _known.update({key: fresh[key[0]] for key in used})
        while len(_known) > _MOST_KNOWN:
            _known.pop(next(iter(_known)))
    return {key[0]: fresh[key[0]] for key in used}


def _media(value: dict[str, object]) -> Media:
    return Media(**{**value, "kind": MediaKind(value["kind"]), "origin": MediaOrigin(value["origin"])})  # type: ignore[arg-type]


def as_captured(rows: Iterable[Item]) -> list[Captured]:
    """Return rows in the core's form, with stored features."""
    rows = list(rows)
    sources = {row.source for row in rows}
    load_states(sources)
    cards = {source.pk: _card(source) for source in sources}
    return [_captured(row, cards[row.source_id]) for row in rows]


def _features(row: Item) -> Features:
    return Features(
        title=Passage.of_text(row.title),
        text=Passage(row.text, folded=row.folded),
        summary=Passage.of_text(row.summary_text),
        words=row.words,
        identity_key=row.identity_key,
        link_key=row.link_key,
        title_key=row.title_key,
        fingerprint=Fingerprint.unpacked(row.fingerprint),
        language=row.found_language,
    )


def _card(source: Source) -> SourceCard:
    card = SourceCard(
        key=source.key,
        title=source.title,
        labels=frozenset(source.labels),
        link=source.state.link,
        keyword=source.keyword,
        shop=shop_of(source),
        in_doubt=source.state.in_doubt,
        rights=Rights(right=Right(source.right), words=source.right_words, attribution=source.attribution),
    )
    # Equal cards share one object, so that they compare by identity.
    with _known_lock:
        while len(_cards) > _MOST_KNOWN:
            _cards.pop(next(iter(_cards)))
        return _cards.setdefault(card, card)


def _captured(row: Item, card: SourceCard) -> Captured:
    item = CoreItem(
        source=card.key,
        identity=row.identity,
        link=row.link,
        title=row.title,
        summary=row.summary,
        body=row.body,
        authors=tuple(row.authors),
        categories=tuple(row.categories),
        published=row.published,
        updated=row.updated,
        media=tuple(_media(value) for value in row.media),
        language=row.language,
        credit=Credit(**row.credit) if row.credit else None,
        facts=row.facts,
        page=row.page,
    )
    return Captured(
        item=item,
        features=_features(row) if row.features_version == FEATURES_VERSION else features_of(item),
        source=card,
        captured_at=row.captured_at,
    )


_LOOKED_AT = 2_000
_MOST_CATEGORIES = 60


def seen_categories(sources: Collection[Source]) -> list[tuple[str, int]]:
    """Return the categories of sources' newest 2,000 items with counts, most frequent first."""
    rows = (
        Item.objects.filter(AnyOf("source", [source.pk for source in sources]))
        .order_by("-dated")
        .values_list("categories", flat=True)
    )
    counted = Counter(name for categories in rows[:_LOOKED_AT] for name in set(categories))
    return sorted(counted.items(), key=lambda counted_category: (-counted_category[1], counted_category[0]))[
        :_MOST_CATEGORIES
    ]


_FACTS_OF = 500
_FACT_COLUMNS = (*("title", "link", "body", "summary", "authors", "categories", "published", "media", "words", "text"),)


@dataclass(frozen=True, slots=True, kw_only=True)
class SourceFacts:
    """Facts about a source's newest items: filled fields, words, categories and hashtags."""

    items: int
    fields: Mapping[str, int]
    words: int
    categories: Sequence[tuple[str, int]]
    hashtags: Sequence[tuple[str, int]]


def facts_of(source: Source) -> SourceFacts:
    """Return facts about the newest 500 items of a source."""
    rows = list(
        Item.objects.filter(source=source)
        .order_by("-dated")
        .only("title", "link", "body", "summary", "authors", "categories", "published", "media", "words", "text")[
            :_FACTS_OF
        ]
    )
    kinds = [{medium["kind"] for medium in row.media} for row in rows]
    tags = Counter(tag for row in rows for tag in set(hashtags(f"{row.title} {row.text}")))
    categories = Counter(name for row in rows for name in set(row.categories))
    return SourceFacts(
        items=len(rows),
        fields={
            "title": sum(bool(row.title) for row in rows),
            "link": sum(bool(row.link) for row in rows),
            "body": sum(bool(row.body) for row in rows),
            "summary": sum(bool(row.summary) for row in rows),
            "author": sum(bool(row.authors) for row in rows),
            "categories": sum(bool(row.categories) for row in rows),
            "published": sum(row.published is not None for row in rows),
            "picture": sum(MediaKind.PICTURE.value in kind for kind in kinds),
            "film": sum(MediaKind.FILM.value in kind for kind in kinds),
            "sound": sum(MediaKind.SOUND.value in kind for kind in kinds),
        },
        words=round(sum(row.words for row in rows) / len(rows)) if rows else 0,
        categories=categories.most_common(12),
        hashtags=tags.most_common(12),
    )


_JUDGED_BY = 45
"""How many of its newest items a source is judged by."""


def judge(source: Source, *, now: datetime) -> Report:
    """Return the health of a source from its newest items and last readings."""
    rows = Item.objects.filter(source=source).order_by("-dated")
    facts = [
        ItemFacts(
            dated=dated,
            has_date=published is not None,
            words=words,
            has_picture=any(medium["kind"] == MediaKind.PICTURE.value for medium in media),
            has_author=bool(authors),
        )
        for dated, published, words, media, authors in rows.values_list(
            "dated", "published", "words", "media", "authors"
        )[:_JUDGED_BY]
    ]
    return health_of(
        facts,
        Readings(
            failures=source.state.failures,
            failing_since=source.state.failing_since,
            failed_lately=source.state.lately.bit_count(),
            given=source.state.given_at is not None,
            gone=source.state.gone_at is not None,
        ),
        now=now,
        layout_changed=source.state.in_doubt,
    )


def samples_of(blog: Blog) -> list[Sample]:
    """Return the samples of a blog, newest first, without their bodies."""
    return list(Sample.objects.filter(blog=blog).order_by("-made_at", "-pk").defer("body")[:50])


def sample_of(blog: Blog, number: int) -> Sample:
    """Return one sample. Raises NotFound."""
    sample = Sample.objects.filter(blog=blog, pk=number).first()
    if sample is None:
        raise NotFound("This sample is no longer stored. Upload it again.")
    return sample


_samples: dict[tuple[int, SourceCard, str], dict[int, Captured]] = {}
_MOST_SAMPLES = 6


def sample_captured(sample: Sample, source: Source) -> dict[int, Captured]:
    """Return the items of a sample as if a source had them, by position (from 1).

    Relative addresses of one without an address begin at that of the source.
    """
    card, url = _card(source), sample.url or source.url
    key = (sample.pk, card, url)
    with _known_lock:
        captured_items = _samples.get(key)
    if captured_items is None:
        raw = RawFeed(body=bytes(sample.body), source=source.key, url=url, content_type=sample.content_type)
        feed = wiring.apart().read_feed(raw)
        captured_items = {
            place: Captured(item=entry.item, features=entry.computed(), source=card, captured_at=sample.made_at)
            for place, entry in enumerate(feed.entries, start=1)
        }
        with _known_lock:
            _samples[key] = captured_items
            while len(_samples) > _MOST_SAMPLES:
                _samples.pop(next(iter(_samples)))
    return captured_items


@dataclass(frozen=True, slots=True, kw_only=True)
class PageTexts:
    """Outcomes of fetching a source's pages for texts, with counts.

    Also the number of pages not fetched yet.
    """

    outcomes: Mapping[str, int]
    waiting: int
    titles: Sequence[str]
    under_way: bool


_SHOWN_TITLES = 5


def page_texts(source: Source) -> PageTexts:
    """Return the outcomes of fetching a source's pages for texts."""
    items = Item.objects.filter(source=source)
    rows = items.exclude(page_asked_at=None).values_list("page").annotate(number=Count("pk"))
    waiting = items.filter(page_asked_at=None, link__startswith="http")
    return PageTexts(
        outcomes={page: number for page, number in rows if page},
        waiting=waiting.count(),
        titles=list(waiting.order_by("-dated").values_list("title", flat=True)[:_SHOWN_TITLES]),
        under_way=active_task("texts", source.pk) is not None,
    )


def pages_waiting(source: Source) -> int:
    """Return how many items of a source have a page that was not asked yet."""
    return Item.objects.filter(source=source, page_asked_at=None, link__startswith="http").count()
