"""What the API takes and gives about older items."""

from datetime import date, datetime

from ninja import Schema
from pydantic import Field

from glyptarch_server.archives.lifecycle import WalkState
from glyptarch_server.common.out import Out

__all__ = ["ExpectedOut", "OlderIn", "WalkOut"]


class OlderIn(Schema):
    """How far back to go. ``pattern`` is an address with ``{page}``, where the feed does not name its older pages."""

    floor: date
    pattern: str = Field("", max_length=2000)


class ExpectedOut(Out):
    """What going back would bring; ``more`` says that only the first twenty pages were counted."""

    pages: int
    items: int
    oldest: datetime | None
    more: bool
    why_ended: str


class WalkOut(Out):
    """How reading older items stands; no state where it was never asked for."""

    state: WalkState | None
    page: int = 0
    found: int = 0
    fresh: int = 0
    oldest: datetime | None = None
    why_ended: str = ""
