"""Bringing a file of a blog in: all chosen parts, or none of them."""

from collections.abc import Callable, Collection, Mapping
from datetime import datetime
from typing import Any

from django.db import transaction
from glyptarch_core.campaign import load_document
from glyptarch_core.schedule import Schedule

from glyptarch_server.accounts.models import User
from glyptarch_server.audit.actions import record
from glyptarch_server.blog_files.document import (
    BlogFile,
    CampaignPart,
    DefaultsPart,
    ListPart,
    PartKind,
    ReaderPart,
    SourcePart,
    TablePart,
)
from glyptarch_server.blog_files.queries import Compared, PartState, compare, table_text
from glyptarch_server.blogs.actions import add_term_table, add_word_list, change_term_table, change_word_list
from glyptarch_server.blogs.models import Blog
from glyptarch_server.blogs.queries import term_table_of, word_list_of
from glyptarch_server.campaigns.actions import (
    create_campaign,
    rename_campaign,
    save_revision,
    set_blog_defaults,
    set_schedule,
)
from glyptarch_server.campaigns.queries import campaign_of, latest_revision, schedule_of
from glyptarch_server.common.problems import Conflict, Invalid, ProblemError
from glyptarch_server.pages.actions import checked_document, make_reader, save_reader
from glyptarch_server.pages.queries import reader_of
from glyptarch_server.sources.access import access_of
from glyptarch_server.sources.actions import change_access, change_asks, change_many, change_source
from glyptarch_server.sources.adding import NewSource, add_page_source, add_platform_source, add_sources
from glyptarch_server.sources.models import Source
from glyptarch_server.sources.queries import source_of

__all__ = ["bring_in"]

_NOTE = "brought in from a file"


def bring_in(
    blog: Blog,
    file: BlogFile,
    chosen: Collection[tuple[PartKind, str]],
    *,
    stamp: str,
    by: User | None,
    now: datetime,
) -> int:
    """Bring the chosen parts of a file into a blog, and return how many were new or changed.

    What only the blog has stays. A new campaign comes paused. Raises Conflict where the blog is not as it was
    when the file was compared with it, Invalid for a part that cannot be brought in; then nothing is changed.
    """
    compared = compare(blog, file)
    parts = [
        part
        for part in compared.parts
        if (part.kind, part.key) in chosen and part.state in {PartState.NEW, PartState.CHANGED}
    ]
    faulty = next((part for part in compared.parts if part.fault and (part.kind, part.key) in chosen), None)
    if faulty is not None:
        raise Invalid(f"“{faulty.name}” cannot be brought in. {faulty.fault}")
    if not parts:
        return 0
    if compared.stamp != stamp:
        raise Conflict("Somebody has changed the blog since the file was compared. Look at the differences again.")
    with transaction.atomic():
        for part in parts:
            try:
                _BRING[part.kind](blog, part, part.part, by, now)
            except ProblemError as error:
                raise type(error)(f"“{part.name}”: {error.detail}", faults=error.faults) from error
        after = {kind.value: sum(part.kind is kind for part in parts) for kind in PartKind}
        record("blog_file.brought_in", blog.title, blog=blog.pk, after={kind: n for kind, n in after.items() if n})
    return len(parts)


def _bring_list(blog: Blog, known: Compared, part: ListPart, _by: User | None, now: datetime) -> None:
    if known.target:
        change_word_list(word_list_of(blog, known.target), part.name, part.words, now=now)
    else:
        add_word_list(blog, part.name, part.words, key=part.key, now=now)


def _bring_table(blog: Blog, known: Compared, part: TablePart, _by: User | None, now: datetime) -> None:
    if known.target:
        change_term_table(term_table_of(blog, known.target), part.name, table_text(part), now=now)
    else:
        add_term_table(blog, part.name, table_text(part), key=part.key, now=now)


def _bring_reader(blog: Blog, known: Compared, part: ReaderPart, _by: User | None, now: datetime) -> None:
    document = checked_document(part.document)
    row = (
        reader_of(blog, known.target) if known.target else make_reader(blog, part.name, document, key=part.key, now=now)
    )
    save_reader(row, part.name, document, mends_itself=part.mends_itself, begun=None, now=now)


def _bring_source(blog: Blog, known: Compared, part: SourcePart, _by: User | None, now: datetime) -> None:
    row = source_of(blog, known.target) if known.target else _new_source(blog, part, now)
    asks, access = part.asks, part.access
    if known.target and asks is not None:
        change_asks(row, connection=asks.connection, parameters=asks.parameters, search_words=list(asks.search_words))
    change_source(
        row,
        part.name,
        right=part.right,
        words=part.right_words,
        attribution=part.attribution,
        keyword=part.keyword,
        reads_pages=part.reads_pages,
        full_text_words=part.full_text.words,
        text_reader=part.full_text.reader,
        text_selector=part.full_text.selector,
        rendered=part.rendered,
        rendered_hosts=part.rendered_hosts,
        said=part.right_said,
    )
    if known.before is None or known.before["access"] != access.model_dump(mode="json"):
        kept = access_of(row)
        change_access(
            row,
            headers=[{"name": name, "value": ""} for name, _ in kept.headers],
            user=kept.user,
            password="",
            **access.model_dump(),
        )
    _label(blog, row, part, now)


def _new_source(blog: Blog, part: SourcePart, now: datetime) -> Source:
    if part.asks is not None:
        return add_platform_source(
            blog,
            part.asks.platform,
            part.name,
            connection=part.asks.connection,
            parameters=part.asks.parameters,
            search_words=list(part.asks.search_words),
            key=part.key,
            now=now,
        )
    if part.reader:
        reader = reader_of(blog, part.reader)
        return add_page_source(blog, reader, part.address, part.name, rendered=part.rendered, key=part.key, now=now)
    rows = add_sources(blog, [NewSource(url=part.address, title=part.name, key=part.key)], now=now)
    if not rows:
        raise Conflict("A source of this blog reads its address already.")
    record("source.added", rows[0].title, blog=blog.pk, after=rows[0].url)
    return rows[0]


def _label(blog: Blog, row: Source, part: SourcePart, now: datetime) -> None:
    for label in set(row.labels) - set(part.labels):
        change_many(blog, [row], "unlabel", label, now=now)
    for label in set(part.labels) - set(row.labels):
        change_many(blog, [row], "label", label, now=now)
    if row.paused != part.paused:
        change_many(blog, [row], "pause" if part.paused else "resume", now=now)


def _bring_campaign(blog: Blog, known: Compared, part: CampaignPart, by: User | None, now: datetime) -> None:
    document, schedule = load_document(part.document), Schedule.model_validate(part.schedule)
    if not known.target:
        made = create_campaign(blog, part.name, document, by=by, now=now)
        # Nothing runs before a person has looked at it.
        set_schedule(made, schedule, paused=True, now=now)
        return
    campaign = campaign_of(blog, known.target)
    save_revision(campaign, document, base=latest_revision(campaign).number, by=by, note=_NOTE, now=now)
    if campaign.name != part.name:
        rename_campaign(campaign, part.name)
    if schedule_of(campaign) != schedule:
        set_schedule(campaign, schedule, paused=campaign.paused, now=now)


def _bring_defaults(blog: Blog, _known: Compared, part: DefaultsPart, _by: User | None, _now: datetime) -> None:
    set_blog_defaults(blog, load_document(part.document))


_BRING: Mapping[PartKind, Callable[[Blog, Compared, Any, User | None, datetime], None]] = {
    PartKind.WORD_LIST: _bring_list,
    PartKind.TERM_TABLE: _bring_table,
    PartKind.READER: _bring_reader,
    PartKind.SOURCE: _bring_source,
    PartKind.CAMPAIGN: _bring_campaign,
    PartKind.DEFAULTS: _bring_defaults,
}
