"""API schemas of pages and page readers."""

from datetime import datetime
from typing import Annotated, Any

from glyptarch_core.pages.document import ListPage, ReaderDocument
from ninja import Schema
from pydantic import Field, StringConstraints

from glyptarch_server.common.fields import RowNumber
from glyptarch_server.common.out import Out
from glyptarch_server.common.versions import Begun

__all__ = [
    "ArticleCellOut",
    "ArticleTestOut",
    "ChangeOut",
    "EntryOut",
    "KeptPageOut",
    "ListTestOut",
    "MarksOut",
    "MatchIn",
    "MendOut",
    "OpenIn",
    "PageFeedOut",
    "PageOut",
    "PointIn",
    "PointedOut",
    "ProposalOut",
    "ReaderIn",
    "ReaderOut",
    "ReaderRowOut",
    "ReaderYaml",
    "ReadingTallyOut",
    "SaveReaderIn",
    "SectionOut",
    "TestIn",
]

Address = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=2000)]
Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=300)]
Document = dict[str, Any]


Hosts = Annotated[list[Annotated[str, StringConstraints(max_length=200)]], Field(max_length=10)]


class OpenIn(Schema):
    """The address of a page to look at, and whether its scripts are to run first."""

    url: Address
    rendered: bool = False
    hosts: Hosts = []


class ProposalOut(Out):
    """A likely list of the page: its settings, the number of articles, and sample titles."""

    list_page: ListPage
    count: int
    titles: list[str]


class SectionOut(Out):
    """A section of the site, as its navigation names it."""

    url: str
    name: str


class PageFeedOut(Out):
    """A feed that the page names: reading it is simpler than reading pages."""

    url: str
    title: str
    format: str


class PageOut(Out):
    """A stored page and its analysis."""

    id: int
    url: str
    title: str
    kind: str
    taken_at: datetime
    words: int
    lists: list[ProposalOut]
    sections: list[SectionOut]
    feeds: list[PageFeedOut]


class PointIn(Schema):
    """Numbers of elements that a selector must match, and of elements that it must not match.

    With ``only``, it must match nothing beside the examples.
    """

    examples: list[RowNumber] = Field(min_length=1, max_length=10)
    without: list[RowNumber] = Field(default_factory=list, max_length=10)
    only: bool = False


class PointedOut(Out):
    """A selector made from examples, its matches, and whether they are exactly those meant."""

    selector: str
    places: list[int]
    samples: list[str]
    exact: bool


class MatchIn(Schema):
    """A selector as a person types it."""

    selector: str = Field(max_length=500)


class MarksOut(Out):
    """The matches of a selector.

    ``error`` and ``at`` (a character from 1, 0 for unknown) say what is wrong.
    """

    places: list[int]
    samples: list[str]
    error: str
    at: int


class EntryOut(Out):
    """One article on a list page."""

    url: str
    title: str
    date: datetime | None
    picture: str
    price: str
    excerpt: str


class ListTestOut(Out):
    """The result of reading a list page by a document."""

    entries: list[EntryOut]
    next_url: str
    counts: dict[str, int]


class TestIn(Schema):
    """A document to be tried on articles: those named, or some from each section."""

    document: Document
    urls: list[Address] = Field(default_factory=list, max_length=12)
    rendered: bool = False
    hosts: Hosts = []


class ArticleCellOut(Out):
    """One field of a test: the start of its value, the way that found it, and a doubt."""

    value: str
    way: str
    odd: str


class RepeatedOut(Out):
    """A part that other articles of its site have as well: its beginning, and its words.

    ``kept`` says that the document keeps it in the text.
    """

    key: str
    text: str
    words: int
    kept: bool


class ArticleTestOut(Out):
    """The result of reading one article.

    ``kind`` is the kind of page, ``error`` the failure, ``repeated`` what other articles of the site have as well.
    """

    url: str
    kind: str
    words: int
    cells: dict[str, ArticleCellOut]
    html: str
    error: str
    repeated: list[RepeatedOut]


class ReaderIn(Schema):
    """A new reader."""

    name: Name
    document: Document


class SaveReaderIn(ReaderIn):
    """A changed reader."""

    mends_itself: bool = False
    version: Begun = None


class ChangeOut(Out):
    """Something that has dropped since the layout changed."""

    part: str
    was: float
    now: float


class ReaderRowOut(Out):
    """A reader in the list."""

    key: str
    name: str
    url: str
    sources: int
    drifted_at: datetime | None
    changed_at: datetime


class KeptPageOut(Out):
    """A stored page of a reader.

    ``lists`` distinguishes a list from an article.
    """

    id: int
    url: str
    taken_at: datetime
    lists: bool


class ReadingTallyOut(Out):
    """The counts of one reading."""

    counts: dict[str, int]
    filled: dict[str, float]
    words: int
    articles: int


class ReaderOut(Out):
    """A reader with its document, its history, and its dropped counts."""

    key: str
    name: str
    url: str
    document: ReaderDocument
    version: int
    changed_at: datetime
    mends_itself: bool
    mended_at: datetime | None
    drifted_at: datetime | None
    drift: list[ChangeOut]
    tallies: list[ReadingTallyOut]
    page: int | None
    sources: list[str]
    rendered: bool = Field(description="Whether a source reads by it after the scripts of pages have run.")


class ReaderYaml(Schema):
    """A reader as YAML."""

    yaml: str = Field(max_length=200_000)


class MendOut(Out):
    """A repaired document, and how many of the known articles it finds."""

    document: ReaderDocument
    found: int
    known: int
    sure: bool
    page: int
