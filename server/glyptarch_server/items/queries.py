"""Reads about captured items, and rows as the core knows them."""

import threading
from collections.abc import Collection, Iterable
from datetime import datetime

from django.db.models import QuerySet
from glyptarch_core.item import (
    Captured,
    Credit,
    Features,
    Media,
    MediaKind,
    MediaOrigin,
    Right,
    Rights,
    SourceCard,
)
from glyptarch_core.item import Item as CoreItem
from glyptarch_core.text import Passage, TextPrint

from glyptarch_server.items.models import Item
from glyptarch_server.sources.models import Source

__all__ = ["TEXTS", "as_captured", "item_of", "items_of", "recent_captured"]


_SOURCE_FIELDS = ("source__title", "source__link", "source__right", "source__right_words", "source__attribution")
TEXTS = ("raw", "body", "summary", "text", "summary_text", "folded", "print")
"""The columns that a list of items has no use for."""

_Key = tuple[object, ...]
_known: dict[_Key, Captured] = {}
_known_lock = threading.Lock()
_MOST_KNOWN = 5000


def items_of(sources: Collection[Source]) -> QuerySet[Item]:
    """Give the items of some sources, with their sources; raw payloads are left in the database."""
    return Item.objects.filter(source__in=list(sources)).select_related("source").defer("raw")


def recent_captured(sources: Collection[Source], *, since: datetime, limit: int) -> dict[int, Captured]:
    """Give the newest items dated since then as the core takes them, by row number, newest first.

    Items that this process has given before are given again, the same objects: what has been
    found out about them is found again with them. Only those that are new or have changed are
    read from the database whole.
    """
    rows = items_of(sources).filter(dated__gte=since).order_by("-dated", "-pk")
    keys = list(rows.values_list("pk", "content_hash", *_SOURCE_FIELDS)[:limit])
    with _known_lock:
        found = {key: _known[key] for key in keys if key in _known}
    missing = [key[0] for key in keys if key not in found]
    if missing:
        fresh = {row.pk: _captured(row) for row in items_of(sources).filter(pk__in=missing)}
        found |= {key: fresh[key[0]] for key in keys if key[0] in fresh}
    with _known_lock:
        for key in keys:
            _known.pop(key, None)
            if key in found:
                _known[key] = found[key]
        while len(_known) > _MOST_KNOWN:
            _known.pop(next(iter(_known)))
    return {key[0]: found[key] for key in keys if key in found}


def item_of(item_id: int) -> Item:
    """Give one item with its source."""
    return Item.objects.select_related("source").defer("raw").get(pk=item_id)


def _media(value: dict[str, object]) -> Media:
    return Media(**{**value, "kind": MediaKind(value["kind"]), "origin": MediaOrigin(value["origin"])})  # type: ignore[arg-type]


def as_captured(rows: Iterable[Item]) -> list[Captured]:
    """Give rows as the core takes them; features are read from the row, none is computed again."""
    return [_captured(row) for row in rows]


def _features(row: Item) -> Features:
    return Features(
        title=Passage.of_text(row.title),
        text=Passage(row.text, folded=row.folded),
        summary=Passage.of_text(row.summary_text),
        words=row.words,
        identity_key=row.identity_key,
        link_key=row.link_key,
        title_key=row.title_key,
        print=TextPrint.unpacked(row.print),
    )


def _captured(row: Item) -> Captured:
    source = row.source
    item = CoreItem(
        source=source.key,
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
    )
    return Captured(
        item=item,
        features=_features(row),
        source=SourceCard(
            key=source.key,
            title=source.title,
            link=source.link,
            rights=Rights(right=Right(source.right), words=source.right_words, attribution=source.attribution),
        ),
        captured_at=row.captured_at,
    )
