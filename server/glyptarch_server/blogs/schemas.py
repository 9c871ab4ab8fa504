"""API schemas of blogs."""

from datetime import datetime
from typing import Annotated, Any

from glyptarch_core.appearance import Look
from ninja import Schema
from pydantic import Field, StringConstraints

from glyptarch_server.blogs.queries import Role
from glyptarch_server.common.out import Out
from glyptarch_server.common.versions import Begun

__all__ = [
    "AppearanceIn",
    "AuditEntryOut",
    "AuditPageOut",
    "BlogOut",
    "BlogSummaryOut",
    "ChangeBlogIn",
    "MakeBlogIn",
    "RemovedBlogOut",
    "TermTableIn",
    "TermTableOut",
    "WordListIn",
    "WordListOut",
]

_Title = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)]
_Tagline = Annotated[str, StringConstraints(strip_whitespace=True, max_length=300)]
_Language = Annotated[str, StringConstraints(strip_whitespace=True, min_length=2, max_length=35)]


class MakeBlogIn(Schema):
    """A blog that is to be made. ``slug`` is the last part of its address."""

    slug: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60)]
    title: _Title
    tagline: _Tagline = ""
    language: _Language = "en"
    time_zone: str = Field("UTC", max_length=64)


class ChangeBlogIn(Schema):
    """The settings of a blog."""

    title: _Title
    tagline: _Tagline = ""
    language: _Language
    player_hosts: list[Annotated[str, StringConstraints(max_length=200)]] = Field(
        default=[], max_length=30, description="Hosts whose players its posts may show."
    )
    full_feeds: bool = Field(default=False, description="Whether its feeds carry whole texts instead of excerpts.")
    hub: str = Field(default="", max_length=2000, description="The WebSub hub that is told of new posts.")
    version: Begun = None


class AppearanceIn(Schema):
    """The look of a blog."""

    appearance: Look
    version: Begun = None


class RemovedBlogOut(Out):
    """A removed blog, which can still be brought back."""

    slug: str
    title: str
    removed_at: datetime


class AuditEntryOut(Out):
    """One action: person, kind (``campaign.renamed``), subject, and values before and after."""

    id: int
    at: datetime
    name: str
    action: str
    subject: str
    before: Any
    after: Any


class AuditPageOut(Out):
    """A page of the audit list, newest first."""

    rows: list[AuditEntryOut]
    total: int


class BlogSummaryOut(Out):
    """A blog as the switch in the top bar shows it."""

    slug: str
    title: str
    role: Role


class BlogOut(Out):
    """A blog with the names that editors choose from."""

    slug: str
    title: str
    tagline: str
    language: str
    time_zone: str
    player_hosts: list[str]
    full_feeds: bool
    hub: str
    appearance: Look
    version: int
    categories: list[str]
    tags: list[str]
    bylines: list[str]
    word_lists: list["WordListOut"]
    term_tables: list["TermTableOut"]


class WordListIn(Schema):
    """A word list as a person gives it."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
    words: list[Annotated[str, StringConstraints(max_length=200)]] = Field(max_length=5000)
    version: Begun = None


class WordListOut(Out):
    """A word list of the blog."""

    key: str
    name: str
    words: list[str]
    version: int


class TermTableIn(Schema):
    """A table of terms as a person gives it: a line for each term, as CSV: what, by, link."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
    text: str = Field(max_length=500_000)
    version: Begun = None


class TermTableOut(Out):
    """A table of terms of the blog."""

    key: str
    name: str
    lines: int
    text: str
    version: int


BlogOut.model_rebuild()
