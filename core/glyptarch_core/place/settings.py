"""The settings of Place."""

from enum import StrEnum
from typing import Annotated, Self

from pydantic import Field, StringConstraints, model_validator

from glyptarch_core.draft import Visibility
from glyptarch_core.place.base import Name, NamesByWord
from glyptarch_core.place.categories import CategoryRule
from glyptarch_core.place.dates import DateFrom, DateSettings
from glyptarch_core.place.tags import TagRule
from glyptarch_core.settings import LibraryKey, Settings
from glyptarch_core.term_text import TermText

__all__ = ["BylineFrom", "Canonical", "PlaceSettings"]


class BylineFrom(StrEnum):
    """The origin of a post's byline."""

    FIXED = "fixed"
    AUTHOR = "author"


class Canonical(StrEnum):
    """The address named to search engines as the original of a post (RFC 6596).

    ``copied`` is the source's where the post carries most of its text, and the post's own elsewhere: an excerpt, a
    translation or a text that steps have reworded is the blog's own page.
    """

    COPIED = "copied"
    ORIGINAL = "original"
    ITSELF = "itself"


Kind = Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9-]{0,39}$")]
Language = Annotated[str, StringConstraints(pattern=r"^$|^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$", max_length=35)]


class PlaceSettings(Settings):
    """Categories, tags, byline, address and date of a post.

    ``category`` is the default where no rule finds another. ``tags`` are always added; names in ``remove_tags`` or in
    the word lists ``remove_lists`` are never tags. A byline ``from`` the author is one that the table names or that
    exists under the author's name, else the fixed one. With ``comments`` readers may comment. An empty language means
    the item's own.
    """

    category: str = Field(default="", max_length=80)
    category_rules: tuple[CategoryRule, ...] = Field(default=(), max_length=50)
    at_most_categories: int = Field(default=3, ge=1, le=20)
    tags: tuple[Name, ...] = Field(default=(), max_length=50)
    tag_rules: tuple[TagRule, ...] = Field(default=(), max_length=20)
    remove_tags: tuple[TermText, ...] = Field(default=(), max_length=500)
    remove_lists: tuple[LibraryKey, ...] = Field(default=(), max_length=20)
    only_existing_tags: bool = False
    at_most_tags: int | None = Field(default=None, ge=1, le=50)
    byline: str = Field(default="", max_length=80)
    byline_from: BylineFrom = BylineFrom.FIXED
    byline_table: NamesByWord = ()
    date: DateFrom = DateFrom.ORIGINAL
    dates: DateSettings = DateSettings()
    kind: Kind = "article"
    comments: bool = False
    pinned: bool = False
    visibility: Visibility = Visibility.PUBLIC
    pass_phrase: str = Field(default="", max_length=80)
    language: Language = ""
    canonical: Canonical = Canonical.COPIED

    @property
    def uses_lists(self) -> tuple[str, ...]:
        """Return the keys of the word lists used by rules and for removed tags."""
        return (*self.remove_lists, *(key for rule in self.category_rules for key in rule.uses_lists))

    @model_validator(mode="after")
    def _complete(self) -> Self:
        if self.date is DateFrom.BETWEEN and not (self.dates.first and self.dates.last):
            raise ValueError("to spread dates between two moments, give both")
        if self.visibility is Visibility.PHRASE and not self.pass_phrase.strip():
            raise ValueError("give the pass phrase that opens these posts")
        return self
