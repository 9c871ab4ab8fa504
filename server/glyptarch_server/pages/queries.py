"""Reads about readers and snapshots."""

import re
import zlib

from django.db.models import Count, Q, QuerySet
from glyptarch_core.pages.desk import RawPage
from glyptarch_core.pages.document import ReaderDocument
from glyptarch_core.pages.drift import Known, Tally

from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.problems import NotFound
from glyptarch_server.pages.models import Reader, Snapshot

__all__ = [
    "counted_readers",
    "document_of",
    "kept_pages",
    "keys_of_sources",
    "known_of",
    "last_lists",
    "last_page",
    "raw_of",
    "reader_by_id",
    "reader_for_host",
    "reader_of",
    "readers_of",
    "shown_tallies",
    "snapshot_of",
    "sources_using",
    "tallies_of",
]


def readers_of(blog: Blog) -> QuerySet[Reader]:
    """Return the readers of a blog by name."""
    return Reader.objects.filter(blog=blog, removed_at=None).order_by("name", "pk")


_MOST_READERS = 500


def counted_readers(blog: Blog) -> list[tuple[Reader, int]]:
    """Return the readers of a blog by name with their number of sources, at most 500."""
    rows = readers_of(blog).annotate(used=Count("sources", filter=Q(sources__removed_at=None)))
    return [(row, row.used) for row in rows[:_MOST_READERS]]


def keys_of_sources(reader: Reader) -> list[str]:
    """Return the keys of the sources that a reader reads or completes."""
    return [key for key, _ in sources_using(reader)]


def sources_using(reader: Reader) -> list[tuple[str, str]]:
    """Return key and title of the sources that a reader reads or completes."""
    reads = reader.sources.filter(removed_at=None).values_list("key", "title")
    completes = reader.full_texts.filter(source__removed_at=None).values_list("source__key", "source__title")
    return sorted({*reads, *completes})


def reader_of(blog: Blog, key: str) -> Reader:
    """Return a reader by its key. Raises NotFound."""
    row = readers_of(blog).filter(key=key).first()
    if row is None:
        raise NotFound(f"There is no page reader “{key}” in this blog.")
    return row


def reader_for_host(blog: Blog, host: str) -> Reader | None:
    """Return the reader of a blog for a host (with port).

    The latest changed of several.
    """
    mine = readers_of(blog).filter(url__iregex=rf"^https?://{re.escape(host)}(/|$)").order_by("-changed_at", "pk")
    return mine.first() if host else None


def reader_by_id(number: int) -> Reader:
    """Return a reader by its number, with its blog."""
    return Reader.objects.select_related("blog").get(pk=number)


def snapshot_of(blog: Blog, number: int) -> Snapshot:
    """Return a stored page. Raises NotFound."""
    row = Snapshot.objects.filter(blog=blog, pk=number).first()
    if row is None:
        raise NotFound("This page is not kept any more. Open its address again.")
    return row


def raw_of(snapshot: Snapshot) -> RawPage:
    """Return the bytes of a stored page."""
    return RawPage(
        body=zlib.decompress(bytes(snapshot.body)),
        url=snapshot.url,
        content_type=snapshot.content_type,
        at=snapshot.taken_at,
    )


def last_page(reader: Reader, *, lists: bool) -> Snapshot | None:
    """Return the last stored page of a reader, a list of articles or an article."""
    return Snapshot.objects.filter(reader=reader, lists=lists).order_by("-taken_at", "-pk").first()


_MOST_LISTS = 6


def last_lists(reader: Reader) -> list[Snapshot]:
    """Return the list pages of a reader's last reading, one per section, at most six."""
    last = last_page(reader, lists=True)
    if last is None:
        return []
    rows = Snapshot.objects.filter(reader=reader, lists=True, taken_at=last.taken_at)
    number = min(len(document_of(reader).addresses()), _MOST_LISTS)
    return list(rows.order_by("-pk")[:number])


_MOST_PAGES = 24


def kept_pages(reader: Reader) -> list[Snapshot]:
    """Return the stored pages of a reader, newest first, without their bodies."""
    return list(Snapshot.objects.filter(reader=reader).order_by("-taken_at", "-pk").defer("body")[:_MOST_PAGES])


def document_of(reader: Reader) -> ReaderDocument:
    """Return the document of a reader."""
    return ReaderDocument.model_validate(reader.document)


def tallies_of(reader: Reader) -> list[Tally]:
    """Return the counts of the last readings, oldest first."""
    return [Tally(**kept) for kept in reader.tallies]


def shown_tallies(reader: Reader) -> list[dict[str, object]]:
    """Return the counts of the last readings of one list.

    The changed list, else the reader's first.
    """
    of = reader.drifted_of or reader.url
    own = [tally for tally in reader.tallies if tally["of"] == of]
    return own or reader.tallies


def known_of(reader: Reader) -> list[Known]:
    """Return the known values of the newest articles."""
    return [Known(**kept) for kept in reader.known]
