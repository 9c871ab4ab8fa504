"""A page reader as a document: where a site's articles are listed, and where each field stands."""

import re
from datetime import UTC, date, datetime
from enum import StrEnum
from functools import lru_cache
from typing import Annotated, Any, Literal

import re2
from pydantic import Field, StringConstraints, field_validator, model_validator

from glyptarch_core.errors import SelectorError
from glyptarch_core.pages.selector import compile_selector
from glyptarch_core.settings import Settings

__all__ = [
    "ArticlePage",
    "DataList",
    "FieldReader",
    "ListPage",
    "ReaderDocument",
    "Section",
    "Way",
    "WayKind",
    "compile_pattern",
]


_MOST_PAGES = 50
Address = Annotated[str, StringConstraints(strip_whitespace=True, max_length=2000)]
Name = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60, pattern=r"^[a-z][a-z0-9_ -]*$")
]


def _selects(text: str) -> str:
    if text:
        try:
            compile_selector(text)
        except SelectorError as error:
            where = f"character {error.place}: " if error.place else ""
            raise ValueError(f"{where}{error}") from error
    return text.strip()


class _WithSelectors(Settings):
    @field_validator("selector", "link", "next", "next_part", mode="after", check_fields=False)
    @classmethod
    def _is_selector(cls, value: str) -> str:
        return _selects(value)


@lru_cache(maxsize=256)
def compile_pattern(text: str) -> Any:  # noqa: ANN401 - the library has no types
    """Compile a pattern of RE2, whose time grows with the text only. Raises re2.error."""
    options = re2.Options()
    options.log_errors = False
    return re2.compile(text, options)


class WayKind(StrEnum):
    """How a field is found: by a selector, by what the page states for machines, or by how the page is built.

    Where a page is empty without its scripts, what is built is looked for in the data that it carries for them.
    """

    SELECTOR = "selector"
    STATED = "stated"
    FOUND = "found"


class Take(StrEnum):
    """What is taken of an element: its text, its HTML, or one of its attributes."""

    TEXT = "text"
    HTML = "html"
    ATTRIBUTE = "attribute"


class Way(_WithSelectors):
    """One way to a field. ``pattern`` (RE2) keeps of the text its first group, or all that it matches.

    ``format`` is how a date is written, in the letters of C89 (``%d.%m.%y``); without one it is found by itself.
    """

    kind: WayKind = WayKind.SELECTOR
    selector: Annotated[str, StringConstraints(max_length=500)] = ""
    take: Take = Take.TEXT
    attribute: Annotated[str, StringConstraints(strip_whitespace=True, max_length=60)] = ""
    pattern: Annotated[str, StringConstraints(max_length=500)] = ""
    format: Annotated[str, StringConstraints(strip_whitespace=True, max_length=60)] = ""

    @field_validator("format", mode="after")
    @classmethod
    def _is_format(cls, value: str) -> str:
        if not value:
            return value
        day = datetime(2026, 11, 24, tzinfo=UTC)
        try:
            holds = datetime.strptime(day.strftime(value), value).replace(tzinfo=UTC) == day
        except (ValueError, re.error) as error:
            raise ValueError(f"this format of a date cannot be read: {error}") from error
        if not holds:
            raise ValueError("the format of a date says day, month and year: %d.%m.%Y")
        return value

    @field_validator("pattern", mode="after")
    @classmethod
    def _is_pattern(cls, value: str) -> str:
        try:
            compile_pattern(value)
        except re2.error as error:
            raise ValueError(f"this pattern cannot be read: {error}") from error
        return value

    @model_validator(mode="after")
    def _says_where(self) -> "Way":
        if self.kind is WayKind.SELECTOR and not self.selector:
            raise ValueError("a selector is missing")
        if self.take is Take.ATTRIBUTE and not self.attribute:
            raise ValueError("name the attribute to take")
        return self


class FieldReader(Settings):
    """A field and the ways to it, tried in order until one gives something."""

    name: Name
    ways: tuple[Way, ...] = Field(default=(Way(kind=WayKind.FOUND),), min_length=1, max_length=5)


class Section(Settings):
    """A part of a site; what comes from it carries its category. One that is not ``on`` is not read."""

    url: Address
    name: Annotated[str, StringConstraints(strip_whitespace=True, max_length=100)] = ""
    category: Annotated[str, StringConstraints(strip_whitespace=True, max_length=100)] = ""
    on: bool = True


Path = Annotated[str, StringConstraints(strip_whitespace=True, max_length=300)]


class DataList(Settings):
    """A list in the data that a page carries for its scripts, as paths of names and numbers with dots between.

    ``list`` begins with the name of the data; the others stand in each of its entries.
    """

    list: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=300)]
    url: Path = "url"
    title: Path = "title"
    date: Path = ""
    picture: Path = ""
    excerpt: Path = ""


class ListPage(_WithSelectors):
    """A page that lists articles: the links, what stands beside each, and how the list goes on.

    With ``data`` the list is taken from the data that the page carries, and no selector is used for it.
    ``pattern`` is an address with ``{page}``, where the page has no link to its next one; ``pages`` is how many
    are read of each section.
    """

    link: Annotated[str, StringConstraints(max_length=500)] = ""
    data: DataList | None = None
    fields: tuple[FieldReader, ...] = Field(default=(), max_length=10)
    next: Annotated[str, StringConstraints(max_length=500)] = ""
    pattern: Address = ""
    pages: int = Field(default=1, ge=1, le=_MOST_PAGES)

    @field_validator("pattern", mode="after")
    @classmethod
    def _has_place(cls, value: str) -> str:
        if value and value.count("{page}") != 1:
            raise ValueError("write {page} where the number of the page stands")
        return value


def _by_build() -> tuple[FieldReader, ...]:
    return tuple(
        FieldReader(name=name, ways=(Way(kind=WayKind.STATED), Way(kind=WayKind.FOUND)))
        for name in ("title", "text", "date", "author", "picture", "tags", "description")
    )


class ArticlePage(_WithSelectors):
    """A page with one article: its fields, what is taken out of its text, and the link to its next part."""

    fields: tuple[FieldReader, ...] = Field(default=_by_build(), max_length=30)
    remove: tuple[Annotated[str, StringConstraints(max_length=500)], ...] = Field(default=(), max_length=20)
    next_part: Annotated[str, StringConstraints(max_length=500)] = ""

    @field_validator("remove", mode="after")
    @classmethod
    def _are_selectors(cls, value: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(_selects(one) for one in value if one.strip())

    @model_validator(mode="after")
    def _names_are_unique(self) -> "ArticlePage":
        names = [field.name for field in self.fields]
        twice = next((name for name in names if names.count(name) > 1), "")
        if twice:
            raise ValueError(f"two fields are named “{twice}”")
        return self


class ReaderDocument(Settings):
    """How a site's pages become items. ``version`` is that of this format.

    Articles that a list dates before ``since`` are left, and the list is followed no further.
    """

    version: Literal[1] = 1
    url: Address = ""
    list_page: ListPage = ListPage()
    sections: tuple[Section, ...] = Field(default=(), max_length=60)
    article: ArticlePage = ArticlePage()
    at_most: int = Field(default=20, ge=1, le=200)
    since: date | None = None

    def addresses(self) -> tuple[tuple[str, str], ...]:
        """Give the list pages to begin with, each with the category of what it lists."""
        chosen = tuple((one.url, one.category) for one in self.sections if one.on and one.url)
        return chosen or ((self.url, ""),)
