"""What the API gives about blogs."""

from typing import Annotated

from ninja import Schema
from pydantic import Field, StringConstraints

__all__ = ["BlogOut", "BlogSummaryOut", "TermTableIn", "TermTableOut", "WordListIn", "WordListOut"]


class BlogSummaryOut(Schema):
    """A blog as the switch in the top bar shows it."""

    slug: str
    title: str
    role: str


class BlogOut(Schema):
    """A blog with the names that editors choose from."""

    slug: str
    title: str
    tagline: str
    language: str
    categories: list[str]
    tags: list[str]
    bylines: list[str]
    word_lists: list["WordListOut"]
    term_tables: list["TermTableOut"]


class WordListIn(Schema):
    """A word list as a person gives it."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
    words: list[Annotated[str, StringConstraints(max_length=200)]] = Field(max_length=5000)


class WordListOut(Schema):
    """A word list of the blog."""

    key: str
    name: str
    words: list[str]


class TermTableIn(Schema):
    """A table of terms as a person gives it: a line for each term, as CSV: what, by, link."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
    text: str = Field(max_length=500_000)


class TermTableOut(Schema):
    """A table of terms of the blog."""

    key: str
    name: str
    lines: int
    text: str


BlogOut.model_rebuild()
