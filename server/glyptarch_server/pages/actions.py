"""Opening pages, saving page readers, detecting layout changes, and repairing readers."""

import zlib
from collections.abc import Mapping
from dataclasses import asdict, dataclass
from datetime import datetime
from typing import Any

from django.db import IntegrityError, transaction
from glyptarch_core.errors import Fault, ParseError
from glyptarch_core.pages.desk import Looked, RawPage, look_at, mended
from glyptarch_core.pages.document import ReaderDocument
from glyptarch_core.pages.drift import Mend, Tally, changes
from glyptarch_core.text import name_key
from glyptarch_core.text.slug import slugify
from pydantic import ValidationError

from glyptarch_server import wiring
from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.common.versions import lock_version
from glyptarch_server.pages import queries
from glyptarch_server.pages.fetching import fetch_pages
from glyptarch_server.pages.gathering import SiteRead
from glyptarch_server.pages.models import Reader, Snapshot
from glyptarch_server.wiring import FetchError, FetchPortal, FetchRequest

__all__ = [
    "Mended",
    "checked_document",
    "find_mend",
    "keep_reading",
    "look_again",
    "make_reader",
    "open_page",
    "remove_reader",
    "save_reader",
    "take_mend",
]

_KEPT_OPENED = 30
_KEPT_OF_READER = 12
_TALLIES = 14
_TALLIES_OF_OTHERS = 140
_KNOWN = 60


def checked_document(settings: Mapping[str, Any]) -> ReaderDocument:
    """Read a document. Raises Invalid, which names each part at fault."""
    try:
        return ReaderDocument.model_validate(settings)
    except ValidationError as error:
        faults = [
            Fault(path=".".join(map(str, fault["loc"])), message=fault["msg"].removeprefix("Value error, "))
            for fault in error.errors()
        ]
        raise Invalid(f"{faults[0].path}: {faults[0].message}", faults=faults) from error


def _keep(blog: Blog, raw: RawPage, *, now: datetime, reader: Reader | None = None, lists: bool = False) -> Snapshot:
    return Snapshot.objects.create(
        blog=blog,
        reader=reader,
        url=raw.url[:2000],
        content_type=raw.content_type[:200],
        body=zlib.compress(raw.body, 6),
        size=len(raw.body),
        taken_at=now,
        lists=lists,
    )


def open_page(blog: Blog, wanted: FetchRequest, *, fetcher: FetchPortal, now: datetime) -> tuple[Snapshot, Looked]:
    """Fetch a page, store it, and analyse it. Raises Invalid where it is unreachable or no page."""
    (answer,) = fetch_pages([wanted.url], request_for=lambda _: wanted, fetcher=fetcher, now=now)
    if isinstance(answer, FetchError):
        raise Invalid(str(answer))
    raw = RawPage(body=answer.body, url=answer.url, content_type=answer.content_type, at=now)
    try:
        looked = wiring.apart().ask(look_at, raw)
    except ParseError as error:
        raise Invalid(str(error)) from error
    snapshot = _keep(blog, raw, now=now)
    opened = Snapshot.objects.filter(blog=blog, reader=None).order_by("-taken_at", "-pk")
    kept = list(opened.values_list("pk", flat=True)[:_KEPT_OPENED])
    Snapshot.objects.filter(blog=blog, reader=None).exclude(pk__in=kept).delete()
    return snapshot, looked


def look_again(snapshot: Snapshot) -> Looked:
    """Analyse a stored page. Raises Invalid where it is none."""
    try:
        return wiring.apart().ask(look_at, queries.raw_of(snapshot))
    except ParseError as error:
        raise Invalid(str(error)) from error


def _free_key(blog: Blog, name: str) -> str:
    # The screen for a new reader uses the address “new”.
    taken = {*Reader.objects.filter(blog=blog).values_list("key", flat=True), "new"}
    stem = (slugify(name_key(name) or name) or "reader")[:50]
    return next(key for number in range(len(taken) + 1) if (key := f"{stem}-{number}" if number else stem) not in taken)


def make_reader(blog: Blog, name: str, document: ReaderDocument, *, key: str = "", now: datetime) -> Reader:
    """Create a reader, under a free ``key`` or one made of its name.

    Raises Conflict where the name was taken at the same moment.
    """
    try:
        with transaction.atomic():
            row = Reader.objects.create(
                blog=blog,
                key=key or _free_key(blog, name),
                name=name,
                url=document.url,
                document=document.model_dump(mode="json"),
                made_at=now,
                changed_at=now,
            )
            record("reader.made", row.name, blog=blog.pk, after=row.url)
            return row
    except IntegrityError as error:
        raise Conflict("A reader of this name has just been made.") from error


def save_reader(
    reader: Reader, name: str, document: ReaderDocument, *, mends_itself: bool, begun: int | None, now: datetime
) -> Reader:
    """Change a reader. Raises Conflict where somebody has changed it since."""
    with transaction.atomic():
        row = Reader.objects.select_for_update().get(pk=reader.pk)
        _set(row, name, document, begun=begun, now=now)
        row.mends_itself = mends_itself
        row.save(update_fields=["mends_itself"])
    return row


def _set(row: Reader, name: str, document: ReaderDocument, *, begun: int | None = None, now: datetime) -> None:
    lock_version(row, begun, row.name)
    before = {"name": row.name, "document": row.document}
    row.name, row.url, row.document = name, document.url, document.model_dump(mode="json")
    row.changed_at = now
    # Tallies of the former rules say nothing about these.
    row.tallies, row.drift, row.drifted_at, row.drifted_of = [], [], None, ""
    rules = ["name", "url", "document", "changed_at", "version"]
    row.save(update_fields=[*rules, "tallies", "drift", "drifted_at", "drifted_of"])
    # Unchanged lists are read again, because these rules may find other items.
    for source in row.sources.all():
        state = source.state
        state.in_doubt, state.etag, state.last_modified = False, "", ""
        state.save(update_fields=["in_doubt", "etag", "last_modified"])
    record(
        "reader.changed", row.name, blog=row.blog_id, before=before, after={"name": row.name, "document": row.document}
    )


def remove_reader(reader: Reader, *, now: datetime) -> None:
    """Remove a reader that no source uses any more. Raises Conflict while one does."""
    with transaction.atomic():
        row = Reader.objects.select_for_update().get(pk=reader.pk)
        for _, title in queries.sources_using(row):
            raise Conflict(f"The source “{title}” is read by it. Remove the source first.")
        row.removed_at = now
        row.save(update_fields=["removed_at"])
        record("reader.removed", row.name, blog=row.blog_id, before=row.url)


def keep_reading(reader: Reader, read: SiteRead, *, now: datetime) -> bool:
    """Store the findings and pages of a reading.

    Return whether the layout has changed. A reader that repairs itself then applies a repair that is certain.
    """
    with transaction.atomic():
        row = Reader.objects.select_for_update().get(pk=reader.pk)
        for page in read.pages:
            _keep(row.blog, page.raw, now=now, reader=row, lists=page.lists)
        for lists in (True, False):
            rows = Snapshot.objects.filter(reader=row, lists=lists).order_by("-taken_at", "-pk")
            rows.exclude(pk__in=list(rows.values_list("pk", flat=True)[:_KEPT_OF_READER])).delete()
        if read.whole:
            _judge(row, read.tally, now=now)
        fresh = [asdict(article) for article in read.known]
        urls = {article["url"] for article in fresh}
        row.known = [*fresh, *(article for article in row.known if article["url"] not in urls)][:_KNOWN]
        row.save(update_fields=["drift", "drifted_at", "drifted_of", "tallies", "known"])
    if row.drift and row.mends_itself:
        repair = find_mend(row)
        if repair.mend is not None and repair.mend.sure:
            take_mend(row, repair.document, now=now, by_itself=True)
            return False
    return bool(row.drift) and row.drifted_of == read.tally.of


def _judge(row: Reader, tally: Tally, *, now: datetime) -> None:
    """Compare a reading with earlier ones.

    The row keeps what dropped until it is repaired.
    """
    dropped = changes(queries.tallies_of(row), tally)
    if dropped:
        row.drift = [asdict(change) for change in dropped]
        row.drifted_at, row.drifted_of = row.drifted_at or now, tally.of
        return
    if row.drift and row.drifted_of == tally.of and tally.counts.get("link", 0):
        row.drift, row.drifted_at, row.drifted_of = [], None, ""
    if not row.drift or row.drifted_of != tally.of:
        mine = [earlier for earlier in row.tallies if earlier["of"] == tally.of]
        others = [earlier for earlier in row.tallies if earlier["of"] != tally.of][-_TALLIES_OF_OTHERS:]
        row.tallies = [*others, *mine[-_TALLIES + 1 :], _plain(tally)]


def _plain(tally: Tally) -> dict[str, Any]:
    counts = asdict(tally)
    return {**counts, "counts": dict(counts["counts"]), "filled": dict(counts["filled"])}


@dataclass(frozen=True, slots=True, kw_only=True)
class Mended:
    """A repaired document, how certain it is, and the stored page it fits."""

    document: ReaderDocument
    mend: Mend | None
    page: int


def find_mend(reader: Reader) -> Mended:
    """Look for a reader's known values in its last stored pages.

    Raises Invalid where none is stored.
    """
    listings, article = queries.last_lists(reader), queries.last_page(reader, lists=False)
    if not listings:
        raise Invalid("No page of this site is kept yet. Read the source first.")
    document, known_articles = queries.document_of(reader), queries.known_of(reader)
    raw_article = queries.raw_of(article) if article is not None else None
    try:
        repairs = [
            (wiring.apart().ask(mended, queries.raw_of(listing), raw_article, document, known_articles), listing.pk)
            for listing in listings
        ]
    except ParseError as error:
        raise Invalid(str(error)) from error
    # The section that still has the most known articles is the best evidence.
    (best, mend), page = max(repairs, key=lambda outcome: outcome[0][1].found if outcome[0][1] else -1)
    return Mended(document=best, mend=mend, page=page)


def take_mend(reader: Reader, document: ReaderDocument, *, now: datetime, by_itself: bool = False) -> Reader:
    """Apply a repaired document, by a person or automatically."""
    with transaction.atomic():
        row = Reader.objects.select_for_update().get(pk=reader.pk)
        _set(row, row.name, document, now=now)
        row.mended_at = now
        row.save(update_fields=["mended_at"])
        record("reader.mended", row.name, blog=row.blog_id, after={"by_itself": by_itself})
    return row
