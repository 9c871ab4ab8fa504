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
    features_of,
)
from glyptarch_core.item import Item as CoreItem

from glyptarch_server.items.models import Item
from glyptarch_server.sources.models import Source

__all__ = ["as_captured", "items_of", "recent_items"]


def items_of(sources: Collection[Source]) -> QuerySet[Item]:
    """Give the items of some sources, with their sources; raw payloads are left in the database."""
    return Item.objects.filter(source__in=list(sources)).select_related("source").defer("raw")


def recent_items(sources: Collection[Source], *, since: datetime, limit: int) -> list[Item]:
    """Give the newest items dated since then."""
    return list(items_of(sources).filter(dated__gte=since).order_by("-dated", "-pk")[:limit])


@lru_cache(maxsize=4000)
def _features(_key: tuple[int, str], holder: "_Holder") -> Features:
    return features_of(holder.item)


class _Holder:
    """Carries an item past the cache, which goes by row and content hash alone."""

    __slots__ = ("item",)

    def __init__(self, item: CoreItem) -> None:
        self.item = item

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Holder)

    def __hash__(self) -> int:
        return 0


def _media(value: dict[str, object]) -> Media:
    return Media(**{**value, "kind": MediaKind(value["kind"]), "origin": MediaOrigin(value["origin"])})  # type: ignore[arg-type]


def as_captured(rows: Iterable[Item]) -> list[Captured]:
    """Give rows as the core takes them; features come from a cache where the content is unchanged."""
    return [_captured(row) for row in rows]


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
        features=_features((row.pk, row.content_hash), _Holder(item)),
        source=SourceCard(key=source.key, title=source.title, link=source.link),
        captured_at=row.captured_at,
    )
