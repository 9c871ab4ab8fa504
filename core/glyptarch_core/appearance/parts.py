"""The parts of a front: what each shows, how much of it, and where it stands."""

from enum import StrEnum
from typing import Annotated, Literal, TypeAlias

from pydantic import Field, StringConstraints

from glyptarch_core.settings import Settings

__all__ = [
    "BriefsPart",
    "ChosenPart",
    "DayPart",
    "FindPart",
    "HighlightsPart",
    "MostReadPart",
    "NewestPart",
    "OpenerPart",
    "Part",
    "Place",
    "SourcesPart",
    "StillsPart",
    "TablePart",
    "TracksPart",
    "Which",
    "WordsPart",
]

_MOST = 24
_Slug = Annotated[str, StringConstraints(max_length=100)]
_Kind = Annotated[str, StringConstraints(pattern=r"^$|^[a-z][a-z0-9-]{0,39}$")]


class Place(StrEnum):
    """Where a part stands.

    Over the whole width, in the wide column, or in the narrow one beside it.
    """

    WHOLE = "whole"
    WIDE = "wide"
    NARROW = "narrow"


class Which(Settings):
    """The posts that a part takes: those of a section, tag and source, and of a kind.

    Empty takes any.
    """

    section: _Slug = Field(default="", description="Last part of the address of a section.")
    tag: _Slug = Field(default="", description="Last part of the address of a tag.")
    source: _Slug = Field(default="", description="Key of a source.")
    post_kind: _Kind = Field(default="", description="Kind that Place gives to posts, such as film.")


class _Part(Settings):
    """What all parts have.

    ``heading`` stands above the part. Most have a usual one.
    """

    id: Annotated[str, StringConstraints(pattern=r"^[a-z0-9-]{1,40}$")] = Field(description="Unique on the front.")
    heading: Annotated[str, StringConstraints(strip_whitespace=True, max_length=80)] = ""
    place: Place = Place.WHOLE


class DayPart(_Part):
    """The newest day: its date, and how many stories from how many sources it has."""

    kind: Literal["day"] = "day"


class OpenerPart(_Part):
    """One post, large, with its picture."""

    kind: Literal["opener"] = "opener"
    which: Which = Which()


class HighlightsPart(_Part):
    """Posts beside each other, with pictures and a few lines."""

    kind: Literal["highlights"] = "highlights"
    which: Which = Which()
    count: int = Field(default=3, ge=1, le=_MOST)


class BriefsPart(_Part):
    """Titles with their source and time, one below the other."""

    kind: Literal["briefs"] = "briefs"
    which: Which = Which()
    count: int = Field(default=6, ge=1, le=_MOST)


class StillsPart(_Part):
    """A row of wide stills that is scrolled sideways: for films."""

    kind: Literal["stills"] = "stills"
    which: Which = Which(post_kind="film")
    count: int = Field(default=8, ge=1, le=_MOST)


class TracksPart(_Part):
    """Episodes with their dates, one below the other."""

    kind: Literal["tracks"] = "tracks"
    which: Which = Which(post_kind="episode")
    count: int = Field(default=5, ge=1, le=_MOST)


class TableOrder(StrEnum):
    """Which posts a table takes first.

    The newest, or those whose offer is reduced most or costs least.

    With an order of offers only posts with a fresh price are taken.
    """

    NEWEST = "newest"
    REDUCED = "reduced"
    CHEAPEST = "cheapest"


class TablePart(_Part):
    """Posts as rows, with the values of their fields in columns."""

    kind: Literal["table"] = "table"
    which: Which = Which()
    count: int = Field(default=10, ge=1, le=_MOST)
    order: TableOrder = TableOrder.NEWEST


class ChosenPart(_Part):
    """Posts that a person has chosen, in this order.

    One that is no longer on the blog is left out.
    """

    kind: Literal["chosen"] = "chosen"
    posts: tuple[Annotated[int, Field(ge=1, le=2**63 - 1)], ...] = Field(default=(), max_length=_MOST)


class MostReadPart(_Part):
    """The titles that were read most in the last days, also those that stand elsewhere."""

    kind: Literal["most-read"] = "most-read"
    count: int = Field(default=5, ge=1, le=_MOST)
    days: int = Field(default=7, ge=1, le=90)


class SourcesPart(_Part):
    """Whom the blog gathers, with their marks, those with most posts first."""

    kind: Literal["sources"] = "sources"
    count: int = Field(default=8, ge=1, le=_MOST)


class WordsPart(_Part):
    """A text of the blog's own: paragraphs, in which addresses become links."""

    kind: Literal["words"] = "words"
    text: Annotated[str, StringConstraints(strip_whitespace=True, max_length=4000)] = ""


class FindPart(_Part):
    """The field for searching the blog."""

    kind: Literal["find"] = "find"


class NewestPart(_Part):
    """All other posts, newest first, with pages for the older ones."""

    kind: Literal["newest"] = "newest"


_OfPosts: TypeAlias = OpenerPart | HighlightsPart | BriefsPart | StillsPart | TracksPart | TablePart | ChosenPart
_Other: TypeAlias = DayPart | MostReadPart | SourcesPart | WordsPart | FindPart | NewestPart
Part: TypeAlias = Annotated[_OfPosts | _Other, Field(discriminator="kind")]
