"""API schemas of older items."""

from datetime import date, datetime

from ninja import Schema
from pydantic import Field

from glyptarch_server.archives.lifecycle import WalkState
from glyptarch_server.common.out import Out

__all__ = ["ExpectedOut", "OlderIn", "WalkOut"]


class OlderIn(Schema):
    """The earliest day to read back to.

    ``pattern`` is an address with ``{page}`` for feeds that name no older pages.
    """

    floor: date
    pattern: str = Field("", max_length=2000)


class ExpectedOut(Out):
    """The expected result.

    ``more`` says that counting stopped after twenty pages.
    """

    pages: int
    items: int
    oldest: datetime | None
    more: bool
    why_ended: str


class WalkOut(Out):
    """The progress of reading older items.

    No state where it was never started.
    """

    state: WalkState | None
    page: int = 0
    found: int = 0
    fresh: int = 0
    oldest: datetime | None = None
    why_ended: str = ""
