"""The pace and the order of publication."""

from bisect import bisect_left, bisect_right, insort
from collections.abc import Callable, Iterator
from datetime import datetime, timedelta
from enum import StrEnum

from pydantic import Field

from glyptarch_core.item import Captured
from glyptarch_core.ports import Memory
from glyptarch_core.settings import Settings
from glyptarch_core.trace import Json

__all__ = ["Gate", "Order", "Pace", "Per", "WhenFull", "order_of"]


class Order(StrEnum):
    """The order in which items are taken.

    ``random`` is stable: it sorts by a hash of the identity.
    """

    OLDEST = "oldest"
    NEWEST = "newest"
    RANDOM = "random"


class Per(StrEnum):
    """The length of time that posts are counted over."""

    HOUR = "hour"
    DAY = "day"


class WhenFull(StrEnum):
    """The outcome of a post beyond the pace: a later run, or the next free time."""

    WAIT = "wait"
    SCHEDULE = "schedule"


class Pace(Settings):
    """At most so many posts an hour or a day."""

    posts: int = Field(default=3, ge=1, le=1000)
    per: Per = Per.HOUR
    when_full: WhenFull = WhenFull.WAIT


_AHEAD = timedelta(days=3650)
_SPANS = {Per.HOUR: timedelta(hours=1), Per.DAY: timedelta(days=1)}


def order_of(order: Order) -> Callable[[Captured], tuple[object, ...]]:
    """Return the sort key of an order.

    Ties go by source and identity.
    """

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
    """The posts that one pass may still publish.

    ``posts_made`` counts posts of the run before this pass. No stretch of time as long as the pace's contains more
    posts than it allows, wherever the stretch begins.
    """

    def __init__(
        self, at_most: int | None, pace: Pace | None, memory: Memory, now: datetime, *, posts_made: int, may_wait: bool
    ) -> None:
        self._at_most = at_most
        self._pace = pace
        self._now = now
        self._made = posts_made
        self._waits = may_wait and pace is not None and pace.when_full is WhenFull.WAIT
        self._span = _SPANS[pace.per] if pace else timedelta()
        self._step = self._span / pace.posts if pace else timedelta()
        self._times: list[datetime] = []
        if pace is not None:
            ahead = [date for date in memory.dates(now, now + _AHEAD) if date > now]
            self._times = sorted([*memory.put_out(now - self._span), *ahead])

    def full(self) -> dict[str, Json] | None:
        """Return the reason why the run makes no more posts.

        None where there is room.
        """
        if self._at_most is not None and self._made >= self._at_most:
            return {"limit": self._at_most, "per": "run"}
        if self._pace and self._waits and not self._is_free(self._now):
            return {"limit": self._pace.posts, "per": self._pace.per.value}
        return None

    def made(self) -> None:
        """Count a post, whatever its state."""
        self._made += 1

    def next_slot(self, earliest: datetime) -> datetime:
        """Return and count the time of a post: the earliest allowed, or the next free one."""
        slot = earliest
        if self._pace is not None and not self._is_free(slot):
            slot = next(time for time in self._later(earliest) if self._is_free(time) and self._is_apart(time))
        insort(self._times, slot)
        return slot

    def _later(self, earliest: datetime) -> Iterator[datetime]:
        """Yield times at which a slot can become free.

        A span after each post, or a step after the last slot.
        """
        for time in self._times[max(0, bisect_right(self._times, earliest - self._span)) :]:
            for candidate in (time + self._step, time + self._span):
                if candidate > earliest:
                    yield candidate
        yield max([earliest, *self._times]) + self._span

    def _is_apart(self, time: datetime) -> bool:
        """Whether a time keeps its distance from all others.

        So waiting posts are published evenly.
        """
        first = bisect_right(self._times, time - self._step)
        return first == bisect_left(self._times, time + self._step)

    def _is_free(self, time: datetime) -> bool:
        """Whether one more post fits at a time without exceeding the pace in any stretch around it."""
        if self._pace is None:
            return True
        first = bisect_right(self._times, time - self._span)
        last = bisect_left(self._times, time + self._span)
        around = sorted([*self._times[first:last], time])
        most = self._pace.posts
        return all(later - sooner >= self._span for sooner, later in zip(around, around[most:], strict=False))
