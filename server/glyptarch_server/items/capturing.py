"""Capturing: items are stored as their source gave them."""

import hashlib
import logging
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from datetime import datetime
from functools import reduce
from operator import or_
from typing import NamedTuple

from django.db import DataError, transaction
from django.db.models import Q
from glyptarch_core.item import Item as CoreItem
from glyptarch_core.item import MediaOrigin, identity_key
from glyptarch_core.readers import FeedEntry

from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.items.features import FEATURE_FIELDS, set_features
from glyptarch_server.items.models import Item
from glyptarch_server.sources.gathering import KnownEntries
from glyptarch_server.sources.models import Source

__all__ = [
    "NOTHING_CAPTURED",
    "CaptureResult",
    "Given",
    "after_capture",
    "capture",
    "capture_all",
    "capture_entries",
    "identity_hash",
    "known_entries",
    "known_links",
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
    # The identity, which finds the row, stays.
    *(name for name in FEATURE_FIELDS if name != "identity_key"),
    "content_hash",
    "entry_mark",
    "changed_at",
]


after_capture: list[Callable[[Source, Sequence[CoreItem], datetime], None]] = []
"""What is told of the items of each reading, stored already or not: apps above this one add themselves."""


def identity_hash(identity: str) -> str:
    """SHA-256 (hex) of an identity: by it an item is found in its source."""
    return hashlib.sha256(identity.encode("utf-8", "surrogatepass")).hexdigest()


def _row(source: Source, entry: FeedEntry, now: datetime) -> Item:
    """Return the row of a new or edited item.

    Its features were left out where the same content is stored already, which may be under another identity: some feeds
    make new ones at each reading.
    """
    item = replace(entry.item, source=source.key)
    features = replace(entry.computed(), identity_key=identity_key(item))
    row = Item(
        source=source,
        identity=item.identity,
        identity_hash=identity_hash(item.identity),
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
        entry_mark=entry.mark,
        captured_at=now,
        changed_at=now,
        dated=item.published or item.updated or now,
    )
    set_features(row, features)
    return row


@dataclass(frozen=True, slots=True, kw_only=True)
class CaptureResult:
    """The number of new items, and the identities of those that could not be stored."""

    fresh: int
    refused: tuple[str, ...]


NOTHING_CAPTURED = CaptureResult(fresh=0, refused=())


@dataclass(frozen=True, slots=True, kw_only=True)
class Given:
    """Entries of a source.

    With ``only_newer`` a stored item is replaced only by one with a later update time: a replayed old push, although
    signed correctly, must not restore a text that was corrected since.
    """

    source: Source
    entries: Sequence[FeedEntry]
    only_newer: bool = False


def capture(source: Source, items: Sequence[CoreItem], *, now: datetime) -> CaptureResult:
    """Store items of one source.

    See :func:`capture_all`.
    """
    return capture_entries(source, [FeedEntry(item, number) for number, item in enumerate(items, start=1)], now=now)


def capture_entries(source: Source, entries: Sequence[FeedEntry], *, now: datetime) -> CaptureResult:
    """Store entries of one source.

    See :func:`capture_all`.
    """
    (result,) = capture_all([Given(source=source, entries=entries)], now=now)
    return result


def capture_all(captures: Sequence[Given], *, now: datetime) -> list[CaptureResult]:
    """Store items of several sources: new ones are added, edited ones replaced.

    Each source appears once. The readers ensure that every item fits. An item that the database still refuses is left
    out alone and named.

    ``dated`` stays as first captured, so that an entry without a date does not become newer with every reading.
    """
    unique = {given_items.source.pk: _unique(given_items) for given_items in captures}
    stored = _known_of({number: list(read) for number, read in unique.items()})
    fresh: dict[int, list[Item]] = {}
    for given_items in captures:
        new = [read for key, read in unique[given_items.source.pk].items() if key not in stored[given_items.source.pk]]
        fresh[given_items.source.pk] = [_row(given_items.source, read, now) for read in new]
    refused = _add([row for rows in fresh.values() for row in rows])
    _mark_again(unique, stored)
    results = []
    for given_items in captures:
        number = given_items.source.pk
        left_out = list(refused.get(number, ()))
        added = len(fresh[number]) - len(left_out)
        edited = {
            key: read
            for key, read in unique[number].items()
            if key in stored[number]
            and read.item.content_hash() != stored[number][key].content
            and (not given_items.only_newer or _is_newer(read.item, stored[number][key]))
        }
        if edited:
            left_out += _replace(given_items.source, edited, now)
        for tell in after_capture:
            tell(given_items.source, [read.item for read in unique[number].values()], now)
        results.append(CaptureResult(fresh=added, refused=tuple(left_out)))
    return results


def _unique(given: Given) -> dict[str, FeedEntry]:
    """Return entries by the hash of their identity.

    The last of equal ones.
    """
    return {identity_hash(entry.item.identity): entry for entry in given.entries}


class _Known(NamedTuple):
    """The stored state of an item captured before."""

    pk: int
    content: str
    mark: str
    updated: datetime | None


def _is_newer(item: CoreItem, kept: _Known) -> bool:
    return item.updated is not None and (kept.updated is None or item.updated > kept.updated)


def _mark_again(unique: Mapping[int, Mapping[str, FeedEntry]], stored: Mapping[int, Mapping[str, _Known]]) -> None:
    """Update marks of entries with the same content in another form.

    So they are not read again.
    """
    rows = [
        Item(pk=mark.pk, entry_mark=read.mark)
        for number, items in unique.items()
        for key, read in items.items()
        if (mark := stored[number].get(key)) and read.mark != mark.mark and read.item.content_hash() == mark.content
    ]
    if rows:
        Item.objects.bulk_update(rows, ["entry_mark"], batch_size=200)


_ASKED_TOGETHER = 40


def _known_of(hashes: Mapping[int, Sequence[str]]) -> dict[int, dict[str, _Known]]:
    """Return, by source number, the stored state of those identities that it has."""
    stored: dict[int, dict[str, _Known]] = {number: {} for number in hashes}
    asked = [(number, some) for number, some in hashes.items() if some]
    for first in range(0, len(asked), _ASKED_TOGETHER):
        of_each = (Q(AnyOf("identity_hash", some), source=n) for n, some in asked[first : first + _ASKED_TOGETHER])
        rows = Item.objects.filter(reduce(or_, of_each))
        asked_for = rows.values_list("source_id", "identity_hash", "pk", "content_hash", "entry_mark", "updated")
        for number, identity, pk, content, mark, updated in asked_for:
            stored[number][identity] = _Known(pk, content, mark, updated)
    return stored


def known_links(source: Source, identities: Collection[str]) -> set[str]:
    """Return the identities of articles that a source has captured already."""
    by_hash = {identity_hash(identity): identity for identity in identities}
    kept = Item.objects.filter(source=source, identity_hash__in=list(by_hash)).values_list("identity_hash", flat=True)
    return {by_hash[hash_] for hash_ in kept}


_KNOWN_OF = 2000


def known_entries(sources: Sequence[Source]) -> dict[int, KnownEntries]:
    """Return the known entries among the newest 2,000 items of each source, by source number."""
    entries: dict[int, list[tuple[str, str]]] = {source.pk: [] for source in sources}
    # Small sources are loaded whole, in one query.
    small = [source.pk for source in sources if source.state.item_count <= _KNOWN_OF]
    rows = Item.objects.filter(AnyOf("source_id", small)).values_list("source_id", "content_hash", "entry_mark")
    for source, *kept in rows:
        entries[source].append((kept[0], kept[1]))
    for number in entries.keys() - set(small):
        newest = Item.objects.filter(source=number).order_by("-dated")
        entries[number] = list(newest.values_list("content_hash", "entry_mark")[:_KNOWN_OF])
    return {
        number: KnownEntries(frozenset(content for content, _ in kept), frozenset(mark for _, mark in kept if mark))
        for number, kept in entries.items()
    }


def _add(rows: list[Item]) -> dict[int, list[str]]:
    """Insert rows.

    Return the identities that the database refused, by source number.
    """
    refused: dict[int, list[str]] = {}
    if not rows:
        return refused
    try:
        with transaction.atomic():
            Item.objects.bulk_create(rows, ignore_conflicts=True, batch_size=200)
    except _UNFIT:
        for row in rows:
            if not _fits(row):
                refused.setdefault(row.source_id, []).append(row.identity)
    return refused


def _fits(row: Item) -> bool:
    """Write one row, and tell whether the database takes it."""
    try:
        with transaction.atomic():
            row.save()
    except _UNFIT:
        _log.exception("source %s: an entry cannot be stored and is left out", row.source_id)
        return False
    return True


def _replace(source: Source, edited: dict[str, FeedEntry], now: datetime) -> list[str]:
    rows = list(Item.objects.filter(source=source, identity_hash__in=list(edited)))
    for row in rows:
        new = _row(source, edited[row.identity_hash], now)
        # The entry itself lacks the pictures found on its page.
        new.media += [medium for medium in row.media if medium["origin"] == MediaOrigin.PAGE.value]
        for name in _CHANGEABLE:
            setattr(row, name, getattr(new, name))
        row.corrected_at = now
        # The page is fetched again, because its text was replaced with the entry's.
        row.page, row.page_asked_at = "", None if source.full_text.words else row.page_asked_at
    try:
        with transaction.atomic():
            Item.objects.bulk_update(rows, [*_CHANGEABLE, "page", "page_asked_at", "corrected_at"], batch_size=200)
    except _UNFIT:
        return [row.identity for row in rows if not _fits(row)]
    return []
