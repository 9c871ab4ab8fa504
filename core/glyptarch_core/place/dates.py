"""The date of a post: its own, that of the run, or a slot of a calendar.

Dates that depend on other posts are assigned one after another, in the order of the stage; slots taken by earlier runs
come from the memory. Therefore a run in many batches gives the same dates as one proof of all items.
"""

import hashlib
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from enum import StrEnum
from typing import Self

from pydantic import AwareDatetime, Field, model_validator

from glyptarch_core.item import Captured
from glyptarch_core.ports import Memory
from glyptarch_core.settings import Settings

__all__ = ["Calendar", "DateFrom", "DateSettings", "share_of"]

_EPOCH = datetime(1970, 1, 1, tzinfo=UTC)
_DAY = timedelta(days=1)
_FAR = timedelta(days=3650)


class DateFrom(StrEnum):
    """The date that a post gets.

    ``a_day`` assigns so many slots a day; ``between`` fills the time between two moments evenly, for any number of
    posts; ``random`` draws a moment by the item's identity.
    """

    ORIGINAL = "original"
    IMPORT = "import"
    A_DAY = "a_day"
    BETWEEN = "between"
    RANDOM = "random"


class DateSettings(Settings):
    """The span of the dates. Without ``first``, slots begin at the time of the pass.

    A random date without both moments is within the last ``hours`` and the next ``hours_ahead``.
    """

    a_day: int = Field(default=3, ge=1, le=1440)
    first: AwareDatetime | None = None
    last: AwareDatetime | None = None
    hours: int = Field(default=24, ge=0, le=87_600)
    hours_ahead: int = Field(default=0, ge=0, le=87_600)

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.first and self.last and self.first >= self.last:
            raise ValueError("the first moment must lie before the last one")
        if not self.hours and not self.hours_ahead:
            raise ValueError("a date is drawn from the hours before, from those after, or both: give one of them")
        return self


def share_of(captured: Captured) -> float:
    """Return a pseudo-random number from 0 to 1 that is always the same for an item."""
    identity = captured.features.identity_key.encode("utf-8", "surrogatepass")
    return int.from_bytes(hashlib.blake2b(identity, digest_size=7).digest()) / (1 << 56)


def _van_der_corput(number: int) -> float:
    """Return 1/2, 1/4, 3/4, 1/8, 5/8 …, each in the middle of a gap (van der Corput 1935)."""
    share, step = 0.0, 0.5
    number += 1
    while number:
        number, bit = divmod(number, 2)
        share += bit * step
        step /= 2
    return share


class Calendar:
    """Assigns the dates of one pass, one after another."""

    def __init__(self, taken_from: DateFrom, settings: DateSettings, memory: Memory, now: datetime) -> None:
        self._from = taken_from
        self._settings = settings
        self._memory = memory
        self._now = now
        self._next: Callable[[], datetime] | None = None

    @property
    def is_in_order(self) -> bool:
        """Whether the date of a post depends on the dates assigned before it."""
        return self._from in {DateFrom.A_DAY, DateFrom.BETWEEN}

    def date_for(self, captured: Captured, *, may_be_ahead: bool) -> tuple[datetime, str]:
        """Return a post's date and its origin.

        ``ahead`` where a future date was not allowed.
        """
        wanted = self._wanted(captured)
        if wanted > self._now and not may_be_ahead:
            return self._now, "ahead"
        return wanted, self._from.value

    def _wanted(self, captured: Captured) -> datetime:
        match self._from:
            case DateFrom.ORIGINAL:
                return captured.dated
            case DateFrom.IMPORT:
                return self._now
            case DateFrom.RANDOM:
                return self._drawn(share_of(captured))
            case _:
                if self._next is None:
                    self._next = self._places() if self._from is DateFrom.A_DAY else self._gaps()
                return self._next()

    def _drawn(self, share: float) -> datetime:
        first, last = self._settings.first, self._settings.last
        if first is None or last is None:
            first = self._now - timedelta(hours=self._settings.hours)
            last = self._now + timedelta(hours=self._settings.hours_ahead)
        return first + share * (last - first)

    def _places(self) -> Callable[[], datetime]:
        """Return a function that yields the next free daily slot."""
        step = _DAY / self._settings.a_day
        start = self._settings.first
        if start is None:
            # Slots are multiples of the step since 1970, so they do not depend on the time of the pass.
            start = _EPOCH + -((_EPOCH - self._now) // step) * step
        taken = {round((date - start) / step) for date in self._memory.dates(start, start + _FAR)}
        number = -1

        def following() -> datetime:
            nonlocal number
            number += 1
            while number in taken:
                number += 1
            return start + number * step

        return following

    def _gaps(self) -> Callable[[], datetime]:
        """Return a function that yields the middle of the largest gap between two moments."""
        first, last = self._settings.first or self._now - _DAY, self._settings.last or self._now
        taken = set(self._memory.dates(first, last))
        number = len(taken) - 1

        def following() -> datetime:
            nonlocal number
            number += 1
            # Where a post is gone, fewer are there than dates were given.
            while (date := first + _van_der_corput(number) * (last - first)) in taken:
                number += 1
            return date

        return following
