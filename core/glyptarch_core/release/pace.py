"""How many posts go out in a while, and in which order they are taken."""

from collections.abc import Callable
from datetime import datetime, timedelta
from enum import StrEnum

from pydantic import Field

from glyptarch_core.item import Captured
from glyptarch_core.ports import Memory
from glyptarch_core.settings import Settings
from glyptarch_core.trace import Json

__all__ = ["Gate", "Order", "Pace", "Per", "WhenFull", "order_of"]


class Order(StrEnum):
    """Which items are taken first. ``random`` is the same every time: it goes by a hash of the identity."""

    OLDEST = "oldest"
    NEWEST = "newest"
    RANDOM = "random"


class Per(StrEnum):
    """The length of time that posts are counted over."""

    HOUR = "hour"
    DAY = "day"


class WhenFull(StrEnum):
    """What becomes of a post beyond the pace: a later run decides it, or it gets the next free time."""

    WAIT = "wait"
    SCHEDULE = "schedule"


class Pace(Settings):
    """At most so many posts an hour or a day."""

    posts: int = Field(default=3, ge=1, le=1000)
    per: Per = Per.HOUR
    when_full: WhenFull = WhenFull.WAIT


_SPANS = {Per.HOUR: timedelta(hours=1), Per.DAY: timedelta(days=1)}


def order_of(order: Order) -> Callable[[Captured], tuple[object, ...]]:
    """Give the key by which items are sorted; a tie goes by source and identity."""

    def key(captured: Captured) -> tuple[object, ...]:
        tie = (captured.item.source, captured.item.identity)
        match order:
            case Order.OLDEST:
                return (captured.dated.timestamp(), *tie)
            case Order.NEWEST:
                return (-captured.dated.timestamp(), *tie)
            case Order.RANDOM:
                return (captured.item.identity_hash(), *tie)

    return key


class Gate:
    """What one pass may still put out. ``made`` is how many posts the run has made before this pass."""

    def __init__(self, at_most: int | None, pace: Pace | None, memory: Memory, now: datetime, made: int) -> None:
        self._at_most = at_most
        self._pace = pace
        self._now = now
        self._made = made
        self._span = _SPANS[pace.per] if pace else timedelta()
        self._out = memory.put_out(now - self._span) if pace else 0
        self._step = self._span / pace.posts if pace else timedelta()
        ahead = memory.dates(now, now + timedelta(days=3650)) if pace and pace.when_full is WhenFull.SCHEDULE else ()
        self._latest = max(ahead, default=now)

    def full(self) -> dict[str, Json] | None:
        """Say why no more posts are made in this run, or None where there is room."""
        if self._at_most is not None and self._made >= self._at_most:
            return {"limit": self._at_most, "per": "run"}
        if self._pace and self._pace.when_full is WhenFull.WAIT and self._out >= self._pace.posts:
            return {"limit": self._pace.posts, "per": self._pace.per.value}
        return None

    def made(self) -> None:
        """Count a post that is made, whatever becomes of it."""
        self._made += 1

    def time_out(self) -> datetime:
        """Count a post that goes out, and give when: now, or the next free time where the pace is reached."""
        self._out += 1
        if self._pace is None or self._out <= self._pace.posts:
            return self._now
        self._latest += self._step
        return self._latest
