"""The API of lists of feeds."""

from collections import Counter
from typing import TYPE_CHECKING, Annotated

from django.http import HttpRequest
from glyptarch_core.causes import CAUSES
from glyptarch_core.errors import ParseError
from glyptarch_core.readers.opml import ListedFeed, ListFault, listed_addresses, read_opml
from ninja import Query, Router

from glyptarch_server import wiring
from glyptarch_server.accounts.queries import person_of
from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.common.fields import RowNumber
from glyptarch_server.common.paging import PAGE, Limit, Offset
from glyptarch_server.common.problems import Invalid
from glyptarch_server.feed_lists import actions, queries
from glyptarch_server.feed_lists.lifecycle import EntryOutcome
from glyptarch_server.feed_lists.schemas import (
    FeedListDetailOut,
    FeedListIn,
    FeedListOut,
    FeedListPageOut,
    FolderOut,
    ListedFeedOut,
    ListEntryOut,
    ListIn,
    ListPreviewOut,
)
from glyptarch_server.sources.checking import normal_address
from glyptarch_server.sources.queries import addresses_among

if TYPE_CHECKING:
    from glyptarch_server.feed_lists.models import FeedList, ListEntry

__all__ = ["router"]

router = Router(tags=["sources"])


def _feed_list(row: "FeedList") -> FeedListOut:
    return FeedListOut(
        id=row.pk,
        name=row.name,
        made_at=row.made_at,
        by=(row.by.first_name or row.by.username) if row.by else "",
        counts={EntryOutcome(name): number for name, number in queries.counted(row).items()},
        under_way=row.task is not None and row.task.ended_at is None,
    )


def _entry(row: "ListEntry") -> ListEntryOut:
    source = row.source if row.source and row.source.removed_at is None else None
    return ListEntryOut(
        place=row.place,
        url=row.url,
        title=row.title,
        labels=row.labels,
        outcome=EntryOutcome(row.outcome),
        code=row.code,
        detail=row.detail,
        remedy=CAUSES[row.code].remedy if row.code in CAUSES else "",
        source=source.key if source else "",
        items=source.state.item_count if source else 0,
    )


def _feeds(payload: ListIn) -> list[ListedFeed]:
    if payload.addresses:
        return listed_addresses([normal_address(address) for address in payload.addresses])
    try:
        return read_opml(payload.content)
    except ParseError as error:
        raise Invalid(str(error)) from error


_MOST_SHOWN = 200


@router.post("/blogs/{blog}/feed-list-preview", response=ListPreviewOut, operation_id="previewFeeds")
def preview(request: HttpRequest, blog: str, payload: ListIn) -> ListPreviewOut:
    """Return what a list would bring.

    Nothing is saved or fetched.
    """
    owned = blog_for(request.user, blog, Role.EDITOR)
    feeds = _feeds(payload)
    good = [feed for feed in feeds if feed.fault is None]
    known = addresses_among(owned, [feed.url for feed in good])
    folders = Counter(folder for feed in good for folder in feed.folders)
    return ListPreviewOut(
        fresh=len(good) - len(known),
        known=len(known),
        double=sum(feed.fault is ListFault.DOUBLE for feed in feeds),
        bad=sum(feed.fault not in {None, ListFault.DOUBLE} for feed in feeds),
        folders=[FolderOut(name=name, feeds=number) for name, number in folders.most_common(_MOST_SHOWN)],
        first=[
            ListedFeedOut(
                place=place,
                url=feed.url,
                title=feed.title,
                folders=list(feed.folders),
                known_as=known[feed.url].title if feed.url in known else "",
                fault=feed.fault,
            )
            for place, feed in enumerate(feeds[:_MOST_SHOWN], start=1)
        ],
    )


@router.get("/blogs/{blog}/feed-lists", response=FeedListPageOut, operation_id="listFeedLists")
def list_feed_lists(request: HttpRequest, blog: str, limit: Limit = PAGE, offset: Offset = 0) -> FeedListPageOut:
    """List the lists of feeds that were brought in, newest first."""
    rows = queries.feed_lists_of(blog_for(request.user, blog))
    return FeedListPageOut(rows=[_feed_list(row) for row in rows[offset : offset + limit]], total=rows.count())


@router.post("/blogs/{blog}/feed-lists", response=FeedListOut, operation_id="bringInFeeds")
def bring_in(request: HttpRequest, blog: str, payload: FeedListIn) -> FeedListOut:
    """Make all feeds of a list sources, and have them read."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    row = actions.bring_in(
        owned,
        payload.name,
        _feeds(payload),
        labels=payload.labels,
        right=payload.right,
        by=person_of(request),
        now=wiring.clock()(),
    )
    return _feed_list(row)


@router.get("/blogs/{blog}/feed-lists/{number}", response=FeedListDetailOut, operation_id="getFeedList")
def get_feed_list(
    request: HttpRequest,
    blog: str,
    number: RowNumber,
    outcome: EntryOutcome | None = None,
    search: Annotated[str, Query(max_length=200)] = "",
    limit: Limit = PAGE,
    offset: Offset = 0,
) -> FeedListDetailOut:
    """Return a list of feeds with what became of its entries."""
    row = queries.feed_list_of(blog_for(request.user, blog), number)
    entries = queries.entries_of(row, outcome=outcome, search=search.strip())
    return FeedListDetailOut(
        feed_list=_feed_list(row),
        labels=queries.labels_among(row),
        rows=[_entry(entry) for entry in entries[offset : offset + limit]],
        total=entries.count(),
    )


@router.post("/blogs/{blog}/feed-lists/{number}/again", response=FeedListOut, operation_id="readFeedListAgain")
def read_again(request: HttpRequest, blog: str, number: RowNumber) -> FeedListOut:
    """Read the feeds of a list once more that could not be read."""
    row = queries.feed_list_of(blog_for(request.user, blog, Role.EDITOR), number)
    actions.read_again(row, by=person_of(request), now=wiring.clock()())
    return _feed_list(row)
