"""API schemas of lists of feeds."""

from datetime import datetime
from typing import Annotated, Self

from glyptarch_core.readers.opml import ListFault
from ninja import Schema
from pydantic import Base64Bytes, Field, StringConstraints, model_validator

from glyptarch_server.common.out import Out
from glyptarch_server.feed_lists.lifecycle import EntryOutcome
from glyptarch_server.sources.schemas import SaidRight

__all__ = [
    "FeedListDetailOut",
    "FeedListIn",
    "FeedListOut",
    "FeedListPageOut",
    "FolderOut",
    "ListEntryOut",
    "ListIn",
    "ListPreviewOut",
    "ListedFeedOut",
]

_Address = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=2000)]
_Label = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60)]


class ListIn(Schema):
    """A list of feeds: the bytes of an OPML file in Base64 (RFC 4648), or addresses."""

    content: Base64Bytes = Field(default=b"", max_length=5_600_000)
    addresses: list[_Address] = Field(default=[], max_length=10_000)

    @model_validator(mode="after")
    def _has_one_of_them(self) -> Self:
        if bool(self.content) == bool(self.addresses):
            message = "Send either the content of a file or addresses."
            raise ValueError(message)
        return self


class FeedListIn(ListIn):
    """A list of feeds to bring in, its name, and the labels that all its feeds get."""

    name: str = Field(default="", max_length=200)
    labels: list[_Label] = Field(default=[], max_length=10)
    right: SaidRight = None


class ListedFeedOut(Out):
    """An entry of a list that was not brought in yet.

    ``known_as`` is the source that reads it already. ``fault`` says why it cannot become a source.
    """

    place: int
    url: str
    title: str
    folders: list[str]
    known_as: str
    fault: ListFault | None


class FolderOut(Out):
    """A folder of a list, and the number of feeds in it."""

    name: str
    feeds: int


class ListPreviewOut(Out):
    """What a list would bring: its new feeds, the others, its folders, and its first entries."""

    fresh: int
    known: int
    double: int
    bad: int
    folders: list[FolderOut]
    first: list[ListedFeedOut]


class FeedListOut(Out):
    """A list of feeds, and the number of its entries by outcome."""

    id: int
    name: str
    made_at: datetime
    by: str
    counts: dict[EntryOutcome, int]
    under_way: bool


class FeedListPageOut(Out):
    """One page of the lists of a blog."""

    rows: list[FeedListOut]
    total: int


class ListEntryOut(Out):
    """An entry of a list, its source, and why it could not be read."""

    place: int
    url: str
    title: str
    labels: list[str]
    outcome: EntryOutcome
    code: str
    detail: str
    remedy: str
    source: str = Field(description="The key of its source; empty where it has none.")
    items: int


class FeedListDetailOut(Out):
    """A list of feeds with one page of its entries, and the labels that it gives."""

    feed_list: FeedListOut
    labels: list[str]
    rows: list[ListEntryOut]
    total: int
