"""API schemas of pictures and copies."""

from datetime import datetime
from typing import Annotated

from ninja import Schema
from pydantic import Field

from glyptarch_server.common.out import Out
from glyptarch_server.media.lifecycle import CopyState

__all__ = [
    "CopiesOut",
    "CopyOut",
    "PictureIn",
    "PictureOut",
    "PicturePageOut",
    "PictureUseOut",
    "RecordingOut",
    "RecordingPageOut",
]

_Part = Annotated[float, Field(ge=0, le=1)]


class PictureOut(Out):
    """A picture of the blog. ``shown_by`` is the number of its posts.

    The focus is in fractions.
    """

    id: int
    name: str
    alt: str
    credit: str
    labels: list[str]
    url: str
    small: str
    width: int
    height: int
    size: int
    focus_x: float
    focus_y: float
    uploaded: bool
    shown_by: int
    made_at: datetime


class PicturePageOut(Out):
    """One page of pictures, and the labels that there are."""

    rows: list[PictureOut]
    total: int
    labels: list[str]


class PictureIn(Schema):
    """A person's description of a picture."""

    name: Annotated[str, Field(min_length=1, max_length=200)]
    alt: Annotated[str, Field(max_length=300)] = ""
    credit: Annotated[str, Field(max_length=300)] = ""
    labels: Annotated[list[Annotated[str, Field(max_length=60)]], Field(max_length=20)] = []
    focus_x: _Part
    focus_y: _Part


class PictureUseOut(Out):
    """A post that shows a picture."""

    id: int
    title: str


class CopyOut(Out):
    """A failed copy of a picture: its address, the error, and the next try."""

    id: int
    url: str
    state: CopyState
    fault: str
    why: str
    tries: int
    next_at: datetime | None


class CopiesOut(Out):
    """The number of copies in each state, and one page of the failed ones."""

    states: dict[str, int]
    rows: list[CopyOut]
    total: int


class RecordingOut(Out):
    """A film or sound that the blog copies.

    Sizes in bytes.
    """

    id: int
    url: str
    address: str
    mime: str
    state: CopyState
    done: int
    size: int
    fault: str
    why: str
    next_at: datetime | None
    shown_by: int
    asked_at: datetime


class RecordingPageOut(Out):
    """One page of films and sound."""

    rows: list[RecordingOut]
    total: int
