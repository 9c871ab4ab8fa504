"""Capturing: what a source gave is kept as it came."""

import hashlib
from collections.abc import Iterable
from dataclasses import asdict
from datetime import datetime

from glyptarch_core.item import Item as CoreItem
from glyptarch_core.item import features_of

from glyptarch_server.items.models import Item
from glyptarch_server.sources.models import Source

__all__ = ["capture"]

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
    "raw",
    "words",
    "content_hash",
    "changed_at",
]


def _identity_hash(identity: str) -> str:
    return hashlib.sha256(identity.encode("utf-8", "surrogatepass")).hexdigest()


def _row(source: Source, item: CoreItem, now: datetime) -> Item:
    return Item(
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
        raw=item.raw,
        words=features_of(item).words,
        content_hash=item.content_hash(),
        captured_at=now,
        changed_at=now,
        dated=item.published or item.updated or now,
    )


def capture(source: Source, items: Iterable[CoreItem], *, now: datetime) -> int:
    """Keep items: new ones are added, edited ones replaced in place. Gives how many were new.

    The date an item counts from stays as it was first captured, so that an entry without a
    date does not grow younger with every reading.
    """
    unique = {_identity_hash(item.identity): item for item in items}
    known = dict(
        Item.objects.filter(source=source, identity_hash__in=list(unique)).values_list("identity_hash", "content_hash")
    )
    fresh = [_row(source, item, now) for key, item in unique.items() if key not in known]
    made = len(fresh)
    if fresh:
        Item.objects.bulk_create(fresh, ignore_conflicts=True, batch_size=200)
    edited = {k: i for k, i in unique.items() if k in known and i.content_hash() != known[k]}
    if edited:
        _replace(source, edited, now)
    return made


def _replace(source: Source, edited: dict[str, CoreItem], now: datetime) -> None:
    rows = list(Item.objects.filter(source=source, identity_hash__in=list(edited)))
    for row in rows:
        new = _row(source, edited[row.identity_hash], now)
        for name in _CHANGEABLE:
            setattr(row, name, getattr(new, name))
    Item.objects.bulk_update(rows, _CHANGEABLE, batch_size=200)
