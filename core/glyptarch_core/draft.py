"""A post as the rules make it, before anything is written."""

from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum

from glyptarch_core.item import Media

__all__ = ["Draft", "FieldType", "FieldValue", "Visibility"]


class Visibility(StrEnum):
    """The readers of a post: everybody, members of the blog, or readers with the pass phrase."""

    PUBLIC = "public"
    PRIVATE = "private"
    PHRASE = "phrase"


class FieldType(StrEnum):
    """The type of a custom field.

    Dates are ISO 8601, pictures and links http(s) addresses, rich text is HTML.
    """

    TEXT = "text"
    NUMBER = "number"
    YES_NO = "yes_no"
    DATE = "date"
    PICTURE = "picture"
    LINK = "link"
    RICH_TEXT = "rich_text"


@dataclass(frozen=True, slots=True, kw_only=True)
class FieldValue:
    """A custom field of a post, as the blog's templates and the outlets get it."""

    name: str
    label: str
    type: FieldType
    value: str | float | bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Draft:
    """A post as the rules make it.

    ``body`` is sanitised HTML; title, excerpt and description are plain text. The last part of the post's address is
    made from ``address``. ``categories`` begins with the main one; ``branches``
    are those that stand in a tree, each with the names above it. ``canonical`` is empty where the post itself is the
    original. ``spare_leads`` replace a lead that cannot be fetched. ``copies_recordings_mb`` is the largest size of
    films and sound to copy; 0 copies none.
    """

    title: str
    body: str
    excerpt: str
    lead: Media | None
    date: datetime
    link: str
    language: str
    address: str = ""
    description: str = ""
    fields: tuple[FieldValue, ...] = ()
    categories: tuple[str, ...] = ()
    branches: tuple[tuple[str, ...], ...] = ()
    tags: tuple[str, ...] = ()
    byline: str = ""
    attribution: str = ""
    kind: str = "article"
    comments: bool = False
    pinned: bool = False
    visibility: Visibility = Visibility.PUBLIC
    pass_phrase: str = ""
    canonical: str = ""
    spare_leads: tuple[Media, ...] = ()
    copies_pictures: bool = False
    copies_recordings_mb: int = 0

    @property
    def category(self) -> str:
        """The main category, or nothing."""
        return self.categories[0] if self.categories else ""
