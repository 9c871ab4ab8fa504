"""Reads about captured items, and rows as the core knows them."""

from collections.abc import Collection, Iterable
from datetime import datetime
from functools import lru_cache

from django.db.models import QuerySet
from glyptarch_core.item import (
    Captured,
    Credit,
    Features,
    Media,
    MediaKind,
    MediaOrigin,
    SourceCard,
)
from glyptarch_core.item import Item as CoreItem
from glyptarch_core.text import Passage

from glyptarch_server.items.models import Item
from glyptarch_server.sources.models import Source

__all__ = ["as_captured", "items_of", "recent_items"]


def items_of(sources: Collection[Source]) -> QuerySet[Item]:
    """Give the items of some sources, with their sources; raw payloads are left in the database."""
    return Item.objects.filter(source__in=list(sources)).select_related("source").defer("raw")


def recent_items(sources: Collection[Source], *, since: datetime, limit: int) -> list[Item]:
    """Give the newest items dated since then."""
    return list(items_of(sources).filter(dated__gte=since).order_by("-dated", "-pk")[:limit])


def _media(value: dict[str, object]) -> Media:
    return Media(**{**value, "kind": MediaKind(value["kind"]), "origin": MediaOrigin(value["origin"])})  # type: ignore[arg-type]


def as_captured(rows: Iterable[Item]) -> list[Captured]:
    """Give rows as the core takes them; features are read from the row, none is computed again."""
    return [_captured(row) for row in rows]


# Passages keep the words of a text once they have been asked for; the next proof finds them here.
@lru_cache(maxsize=20_000)
def _passage(text: str) -> Passage:
    return Passage.of_text(text)


def _features(row: Item) -> Features:
    return Features(
        title=_passage(row.title),
        text=_passage(row.text),
        summary=_passage(row.summary_text),
        words=row.words,
        identity_key=row.identity_key,
        link_key=row.link_key,
        title_key=row.title_key,
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
    )
    return Captured(
        item=item,
        features=_features(row),
        source=SourceCard(key=source.key, title=source.title, link=source.link),
        captured_at=row.captured_at,
    )
