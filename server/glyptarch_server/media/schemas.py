"""What the API takes and gives about pictures and copies."""

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
    """A picture of the blog. ``shown_by`` is the number of posts that show it; the focus is in parts of its sides."""

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
    """What a person says about a picture."""

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
    """The copy of a picture that could not be made: its address, what was wrong, and when it is tried again."""

    id: int
    url: str
    state: CopyState
    fault: str
    why: str
    tries: int
    next_at: datetime | None


class CopiesOut(Out):
    """How many copies are in each state, and one page of those that could not be made."""

    states: dict[str, int]
    rows: list[CopyOut]
    total: int


class RecordingOut(Out):
    """A film or sound that the blog copies; sizes in bytes."""

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
