"""A page reader as a document: where a site lists its articles, and where each field is."""

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
    "LONGEST_PATH",
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
    """Compile an RE2 pattern, which runs in linear time. Raises re2.error."""
    options = re2.Options()
    options.log_errors = False
    return re2.compile(text, options)


class WayKind(StrEnum):
    """The kinds of ways to a field: a selector, stated data (schema.org), or page structure.

    On a page that is empty without its scripts, structure means the data that it carries for them.
    """

    SELECTOR = "selector"
    STATED = "stated"
    FOUND = "found"


class Take(StrEnum):
    """The part of an element to take: its text, its HTML, or one of its attributes."""

    TEXT = "text"
    HTML = "html"
    ATTRIBUTE = "attribute"


class Way(_WithSelectors):
    """One way to find a field.

    ``pattern`` (RE2) keeps its first group, or the whole match. ``format`` is the format of a date in C89 letters
    (``%d.%m.%y``); without it dates are recognised.
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
    """A part of a site whose items get its category. A section that is not ``on`` is not read."""

    url: Address
    name: Annotated[str, StringConstraints(strip_whitespace=True, max_length=100)] = ""
    category: Annotated[str, StringConstraints(strip_whitespace=True, max_length=100)] = ""
    on: bool = True


Path = Annotated[str, StringConstraints(strip_whitespace=True, max_length=300)]


LONGEST_PATH = 300
"""The characters of a path to a list in the data of a page."""


class DataList(Settings):
    """A list in the data that a page carries, as dotted paths of names and numbers.

    ``list`` begins with the name of the data; the other paths begin at an entry.
    """

    list: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=LONGEST_PATH)]
    url: Path = "url"
    title: Path = "title"
    date: Path = ""
    picture: Path = ""
    excerpt: Path = ""


class ListPage(_WithSelectors):
    """A page that lists articles: the links, the fields beside each, and the next page.

    With ``data`` the list comes from the page's data and no selector is used. ``pattern`` is an address with ``{page}``
    for lists without a link to the next page. ``pages`` is the number of pages read of each section.
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
    """A page with one article: its fields, removed elements, and the link to its next part.

    ``keep`` are the keys of parts that stay, although all articles of the site have them.
    """

    fields: tuple[FieldReader, ...] = Field(default=_by_build(), max_length=30)
    remove: tuple[Annotated[str, StringConstraints(max_length=500)], ...] = Field(default=(), max_length=20)
    keep: tuple[Annotated[str, StringConstraints(pattern=r"^(a:)?[0-9a-f]{16}$")], ...] = Field(
        default=(), max_length=100
    )
    next_part: Annotated[str, StringConstraints(max_length=500)] = ""

    @field_validator("remove", mode="after")
    @classmethod
    def _are_selectors(cls, value: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(_selects(selector) for selector in value if selector.strip())

    @model_validator(mode="after")
    def _names_are_unique(self) -> "ArticlePage":
        names = [field.name for field in self.fields]
        twice = next((name for name in names if names.count(name) > 1), "")
        if twice:
            raise ValueError(f"two fields are named “{twice}”")
        return self


class ReaderDocument(Settings):
    """The rules for turning pages of a site into items. ``version`` is that of this format.

    Articles dated before ``since`` are left out, and the list is followed no further.
    """

    version: Literal[1] = 1
    url: Address = ""
    list_page: ListPage = ListPage()
    sections: tuple[Section, ...] = Field(default=(), max_length=60)
    article: ArticlePage = ArticlePage()
    at_most: int = Field(default=20, ge=1, le=200)
    since: date | None = None

    def addresses(self) -> tuple[tuple[str, str], ...]:
        """Return the first list pages, each with the category of its items."""
        chosen = tuple((section.url, section.category) for section in self.sections if section.on and section.url)
        return chosen or ((self.url, ""),)
