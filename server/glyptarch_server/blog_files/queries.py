"""A blog as a file, and what a file would change in a blog."""

import csv
import hashlib
import io
from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum
from typing import Any

from django.db.models import Prefetch
from glyptarch_core.campaign import CampaignDocument, load_document
from glyptarch_core.errors import DocumentError
from glyptarch_core.schedule import Schedule
from glyptarch_core.text import unused
from pydantic import ValidationError

from glyptarch_server.blog_files.document import (
    AccessPart,
    AsksPart,
    BlogFile,
    CampaignPart,
    DefaultsPart,
    FullTextPart,
    ListPart,
    Part,
    PartKind,
    ReaderPart,
    SourcePart,
    TablePart,
    parts_in_order,
    write_file,
)
from glyptarch_server.blogs.actions import clean_words, table_rows
from glyptarch_server.blogs.models import Blog, TermTable, WordList
from glyptarch_server.campaigns.models import Campaign, Revision
from glyptarch_server.common.problems import Invalid, ProblemError
from glyptarch_server.pages.actions import checked_document
from glyptarch_server.pages.models import Reader
from glyptarch_server.platforms.actions import checked_parameters
from glyptarch_server.platforms.models import Connection
from glyptarch_server.services.queries import services_by_key
from glyptarch_server.sources.adding import SINGLE_PAGES
from glyptarch_server.sources.models import Source

__all__ = ["Compared", "Comparison", "PartState", "compare", "file_of", "table_text"]


def file_of(blog: Blog) -> BlogFile:
    """Return all parts of a blog, each kind by its key.

    Archived campaigns and removed sources are left out.
    """
    return BlogFile(
        blog=blog.slug,
        word_lists=tuple(
            ListPart(key=row.key, name=row.name, words=tuple(row.words))
            for row in WordList.objects.filter(blog=blog).order_by("key")
        ),
        term_tables=tuple(
            TablePart(key=row.key, name=row.name, lines=tuple(tuple(line) for line in row.rows))
            for row in TermTable.objects.filter(blog=blog).order_by("key")
        ),
        readers=tuple(
            ReaderPart(
                key=row.key, name=row.name, mends_itself=row.mends_itself, document=_reader_document(row.document)
            )
            for row in Reader.objects.filter(blog=blog, removed_at=None).order_by("key")
        ),
        sources=tuple(_source_part(row) for row in _sources(blog)),
        campaigns=tuple(_campaign_part(row) for row in _campaigns(blog)),
        defaults=DefaultsPart(document=_written(load_document(blog.defaults))) if blog.defaults else None,
    )


def _sources(blog: Blog) -> list[Source]:
    rows = Source.objects.filter(blog=blog, removed_at=None).exclude(state__format=SINGLE_PAGES)
    return list(rows.select_related("reader", "full_text_row__reader", "ask_row__connection").order_by("key"))


def _source_part(row: Source) -> SourcePart:
    text, access, ask = row.full_text, row.access, row.ask
    return SourcePart(
        key=row.key,
        name=row.title,
        # The address of a platform is that of the connection.
        address="" if ask else row.url,
        reader=row.reader.key if row.reader else "",
        asks=AsksPart(
            platform=ask.platform,
            connection=ask.connection.key if ask.connection else "",
            parameters=ask.parameters,
            search_words=tuple(ask.search_words),
        )
        if ask
        else None,
        right=row.right,
        right_said=row.right_said,
        right_words=row.right_words,
        attribution=row.attribution,
        keyword=row.keyword,
        labels=tuple(row.labels),
        paused=row.paused,
        reads_pages=row.reads_pages,
        full_text=FullTextPart(words=text.words, reader=text.reader.key if text.reader else "", selector=text.selector),
        rendered=row.rendered,
        rendered_hosts=tuple(row.rendered_hosts),
        access=AccessPart(
            any_certificate=access.any_certificate,
            pause_ms=access.pause_ms,
            patience_s=access.patience_s,
            tries=access.tries,
        ),
    )


def _campaigns(blog: Blog) -> list[Campaign]:
    latest = Revision.objects.order_by("campaign", "-number").distinct("campaign")
    rows = Campaign.objects.filter(blog=blog, removed_at=None).order_by("slug")
    return list(rows.prefetch_related(Prefetch("revisions", queryset=latest, to_attr="latest")))


def _campaign_part(row: Campaign) -> CampaignPart:
    (latest,) = row.latest  # type: ignore[attr-defined]  # prefetched above
    return CampaignPart(
        key=row.slug,
        name=row.name,
        schedule=Schedule.model_validate(row.schedule).model_dump(mode="json"),
        document=_written(load_document(latest.document)),
    )


def _written(document: CampaignDocument) -> dict[str, Any]:
    written: dict[str, Any] = document.model_dump(mode="json")
    return written


def _reader_document(document: Mapping[str, Any]) -> dict[str, Any]:
    written: dict[str, Any] = checked_document(document).model_dump(mode="json")
    return written


class PartState(StrEnum):
    """What bringing in a part does."""

    NEW = "new"
    CHANGED = "changed"
    SAME = "same"
    # Only the blog has it: it stays.
    STAYS = "stays"
    # It cannot be brought in.
    FAULTY = "faulty"


@dataclass(frozen=True, slots=True, kw_only=True)
class Compared:
    """A part of a file beside that of the blog.

    ``part`` is the part in the form of this blog, whose keys may be others. ``target`` is the key of the blog's own
    part, empty where there is none.
    """

    kind: PartKind
    key: str
    name: str
    state: PartState
    target: str = ""
    before: dict[str, Any] | None = None
    after: dict[str, Any] | None = None
    fault: str = ""
    part: Part | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Comparison:
    """All parts of a file and of a blog.

    ``stamp`` names the state of the blog that the file was compared with.
    """

    stamp: str
    parts: list[Compared] = field(default_factory=list)


def compare(blog: Blog, file: BlogFile) -> Comparison:
    """Compare a file with a blog. Nothing is written.

    A source is known by its address, so that a feed that the blog has under another key is not taken twice; rules that
    name it then name the blog's own key.
    """
    own = file_of(blog)
    by_key = {(kind, part.key): part for kind, part in parts_in_order(own)}
    sources, readers = _source_keys(blog, file, own), _reader_keys(blog, file, own)
    targets = {PartKind.SOURCE: sources, PartKind.READER: readers}
    reach = _Reach(blog, file, own, sources, readers)
    parts: list[Compared] = []
    named: set[tuple[PartKind, str]] = set()
    for kind, part in parts_in_order(file):
        target = targets.get(kind, {}).get(part.key, part.key)
        mine = by_key.get((kind, target))
        named.add((kind, target))
        parts.append(_compared(kind, part, mine, target, reach))
    parts += [
        Compared(kind=kind, key=part.key, name=part.name, state=PartState.STAYS, target=part.key)
        for (kind, key), part in by_key.items()
        if (kind, key) not in named
    ]
    stamp = hashlib.sha256(write_file(own).encode()).hexdigest()
    return Comparison(stamp=stamp, parts=parts)


def _source_keys(blog: Blog, file: BlogFile, own: BlogFile) -> dict[str, str]:
    """Return the keys that the sources of a file have in a blog.

    They are new ones where theirs are taken by other feeds.
    """
    by_address = {part.address: part.key for part in own.sources if part.address}
    by_key = {part.key: part for part in own.sources}
    # The screen for new sources uses the address “add”. A removed source keeps its key.
    taken = {"add", *Source.objects.filter(blog=blog).values_list("key", flat=True)}
    keys: dict[str, str] = {}
    for part in file.sources:
        holder = by_key.get(part.key)
        if part.address in by_address:
            keys[part.key] = by_address[part.address]
        elif part.asks and holder and holder.asks and holder.asks.platform == part.asks.platform:
            # What is asked of a platform has no address: it is known by its key.
            keys[part.key] = part.key
        else:
            keys[part.key] = _free(part.key, taken)
            taken.add(keys[part.key])
    return keys


def _reader_keys(blog: Blog, file: BlogFile, own: BlogFile) -> dict[str, str]:
    """Return the keys that the readers of a file have in a blog.

    They are new ones where theirs are those of removed readers.
    """
    mine = {part.key for part in own.readers}
    taken = {"new", *Reader.objects.filter(blog=blog).values_list("key", flat=True)}
    return {part.key: part.key if part.key in mine else _free(part.key, taken) for part in file.readers}


# A key has sixty characters, and room for a number is left.
_STEM = 56


def _free(key: str, taken: Collection[str]) -> str:
    return key if key not in taken else unused(key[:_STEM], taken)


class _Reach:
    """What parts of a file may name: parts of the file and of the blog."""

    def __init__(
        self, blog: Blog, file: BlogFile, own: BlogFile, sources: Mapping[str, str], readers: Mapping[str, str]
    ) -> None:
        self.sources = {part.key: part.key for part in own.sources} | dict(sources)
        self.readers = {part.key: part.key for part in own.readers} | dict(readers)
        self._lists = {part.key for part in (*own.word_lists, *file.word_lists)}
        self._tables = {part.key for part in (*own.term_tables, *file.term_tables)}
        self._services = services_by_key(blog.pk)
        self.connections = {row.key: row for row in Connection.objects.filter(blog=blog, removed_at=None)}

    def check(self, document: CampaignDocument) -> None:
        """Raise Invalid where rules name what neither the file nor the blog has."""
        for what, names, known in (
            ("sources", document.gather.sources, self.sources),
            ("word lists", document.uses_lists, self._lists),
            ("tables of terms", document.uses_tables, self._tables),
            ("language services", document.uses_services, self._services),
        ):
            missing = ", ".join(f"“{name}”" for name in sorted(set(names).difference(known)))
            if missing:
                raise Invalid(f"It names {what} that neither the file nor the blog has: {missing}.")


def _read_list(part: ListPart, _target: str, _reach: _Reach) -> ListPart:
    return part.model_copy(update={"words": tuple(clean_words(part.words))})


def _read_table(part: TablePart, _target: str, _reach: _Reach) -> TablePart:
    rows = table_rows(table_text(part))
    return part.model_copy(update={"lines": tuple((what, by, link) for what, by, link in rows)})


def table_text(part: TablePart) -> str:
    """Return the lines of a table as CSV."""
    text = io.StringIO()
    csv.writer(text, lineterminator="\n").writerows(part.lines)
    return text.getvalue()


def _read_reader(part: ReaderPart, target: str, _reach: _Reach) -> ReaderPart:
    return part.model_copy(update={"key": target, "document": _reader_document(part.document)})


def _read_source(part: SourcePart, target: str, reach: _Reach) -> SourcePart:
    asks, text = part.asks, part.full_text
    if asks is None and not part.address.startswith(("http://", "https://")):
        raise Invalid("It has no address that begins with http:// or https://.")
    for reader in {part.reader, text.reader} - {""}:
        if reader not in reach.readers:
            raise Invalid(f"It names the page reader “{reader}”, which neither the file nor the blog has.")
    if asks is not None:
        connection = reach.connections.get(asks.connection)
        if asks.connection and (connection is None or connection.platform != asks.platform):
            raise Invalid(f"It needs a connection “{asks.connection}”. Make one under Settings, Connections.")
        asks = asks.model_copy(update={"parameters": checked_parameters(asks.platform, asks.parameters)})
    update = {
        "key": target,
        "asks": asks,
        "reader": reach.readers.get(part.reader, ""),
        "full_text": text.model_copy(update={"reader": reach.readers.get(text.reader, "")}),
        "labels": tuple(sorted(set(part.labels))),
    }
    return part.model_copy(update=update)


def _read_campaign(part: CampaignPart, _target: str, reach: _Reach) -> CampaignPart:
    document = load_document(part.document)
    reach.check(document)
    gather = document.gather.model_copy(
        update={"sources": tuple(dict.fromkeys(reach.sources[key] for key in document.gather.sources))}
    )
    schedule = Schedule.model_validate(part.schedule).model_dump(mode="json")
    written = _written(document.model_copy(update={"gather": gather}))
    return part.model_copy(update={"document": written, "schedule": schedule})


def _read_defaults(part: DefaultsPart, _target: str, reach: _Reach) -> DefaultsPart:
    document = load_document(part.document)
    gather = document.gather.model_copy(update={"sources": (), "labels": ()})
    bare = document.model_copy(update={"gather": gather})
    reach.check(bare)
    return DefaultsPart(document=_written(bare))


_READ: Mapping[PartKind, Callable[[Any, str, _Reach], Part]] = {
    PartKind.WORD_LIST: _read_list,
    PartKind.TERM_TABLE: _read_table,
    PartKind.READER: _read_reader,
    PartKind.SOURCE: _read_source,
    PartKind.CAMPAIGN: _read_campaign,
    PartKind.DEFAULTS: _read_defaults,
}


def _compared(kind: PartKind, part: Part, mine: Part | None, target: str, reach: _Reach) -> Compared:
    known = Compared(kind=kind, key=part.key, name=part.name, state=PartState.FAULTY, target=target if mine else "")
    try:
        wanted = _READ[kind](part, target, reach)
    except DocumentError as error:
        return replace(known, fault=f"{error}.")
    except ValidationError as error:
        first = error.errors()[0]
        return replace(known, fault=f"{'.'.join(map(str, first['loc']))}: {first['msg']}.")
    except ProblemError as error:
        place = f"{error.faults[0].path}: " if error.faults else ""
        return replace(known, fault=f"{place}{error.detail}")
    after = wanted.model_dump(mode="json", exclude={"key"})
    before = mine.model_dump(mode="json", exclude={"key"}) if mine else None
    state = PartState.NEW if before is None else PartState.SAME if before == after else PartState.CHANGED
    return replace(known, state=state, before=before, after=after, part=wanted)
