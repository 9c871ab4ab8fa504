"""The health of a source, judged by its own rhythm and past."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from enum import StrEnum
from itertools import pairwise
from statistics import median

from glyptarch_core.trace import Json

__all__ = ["Health", "ItemFacts", "Readings", "Report", "health_of"]


class Health(StrEnum):
    """The health of a source.

    ``unsteady`` means that some of its last readings failed. ``gone`` means that it answered 410 and is no longer read
    automatically.
    """

    UNREAD = "unread"
    OK = "ok"
    QUIET = "quiet"
    CHANGED = "changed"
    UNSTEADY = "unsteady"
    FAILING = "failing"
    GONE = "gone"


@dataclass(frozen=True, slots=True, kw_only=True)
class ItemFacts:
    """The facts about an item that health is judged by: its date, length and filled fields."""

    dated: datetime
    has_date: bool
    words: int
    has_picture: bool
    has_author: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Report:
    """The health of a source, with the values that explain it."""

    health: Health
    data: Mapping[str, Json] = field(default_factory=dict)


_FEWEST_GAPS = 5
_FEWEST_NEW = 5
_FEWEST_OLD = 10
_MOST_NEW = 10
_NEARLY_ALL, _NEARLY_NONE = 0.9, 0.1
_HALF, _TWICE = 0.5, 2.0
_SHORTEST_SILENCE = timedelta(days=1)
_FACTOR = 2


@dataclass(frozen=True, slots=True, kw_only=True)
class Readings:
    """What is known of the readings of a source.

    ``failures`` are those in a row up to now, since ``failing_since``; ``failed_lately`` those among the last ten.
    ``given`` is whether it ever gave something to read. ``gone`` is an answer 410.
    """

    failures: int = 0
    failing_since: datetime | None = None
    failed_lately: int = 0
    given: bool = True
    gone: bool = False


_FEWEST_FAILURES = 3
_SHORTEST_PATIENCE, _LONGEST_PATIENCE = timedelta(minutes=30), timedelta(days=1)


def health_of(items: Sequence[ItemFacts], readings: Readings, *, now: datetime, layout_changed: bool = False) -> Report:
    """Judge a source by its last items, newest first, and its readings.

    **Failing**: three readings in a row failed, over at least the usual gap between its items, which is taken as at
    least half an hour and at most a day. **Unsteady**: it fails for a shorter time, or three of its last ten readings
    failed; so a source that comes and goes keeps one state. **Quiet**: nothing new for more than a day and for more
    than twice the longest gap between items so far. This needs five gaps, since fewer show no rhythm. **Changed**: of
    the newest five to ten items nearly none has a field that nearly all earlier ones had, or they are half or twice as
    long, or the layout of a site has changed under its page reader.
    """
    by_readings = _judged_by_readings(items, readings, now)
    if by_readings is not None:
        return by_readings
    if layout_changed:
        return Report(health=Health.CHANGED, data={"layout": True})
    changed = _changed(items)
    if changed:
        return Report(health=Health.CHANGED, data=changed)
    quiet = _quiet(items, now)
    return Report(health=Health.QUIET, data=quiet) if quiet else Report(health=Health.OK)


def _judged_by_readings(items: Sequence[ItemFacts], readings: Readings, now: datetime) -> Report | None:
    failing_for = now - readings.failing_since if readings.failing_since else timedelta(0)
    data: dict[str, Json] = {"failures": readings.failures}
    if readings.gone:
        return Report(health=Health.GONE)
    if readings.failures >= _FEWEST_FAILURES and failing_for >= _patience(items, now):
        return Report(health=Health.FAILING, data=data)
    if not readings.given:
        return Report(health=Health.UNREAD, data=data)
    if readings.failures or readings.failed_lately >= _FEWEST_FAILURES:
        return Report(health=Health.UNSTEADY, data={**data, "failed_lately": readings.failed_lately})
    return None


def _gaps(items: Sequence[ItemFacts], now: datetime) -> list[timedelta]:
    # Items without a date are dated by their capture, which is as good for a rhythm.
    dates = sorted({item.dated for item in items if item.dated <= now}, reverse=True)
    return [newer - older for newer, older in pairwise(dates)]


def _patience(items: Sequence[ItemFacts], now: datetime) -> timedelta:
    """Return how long a source may fail before somebody should look at it."""
    gaps = _gaps(items, now)
    usual = timedelta(seconds=median(gap.total_seconds() for gap in gaps)) if gaps else _SHORTEST_PATIENCE
    return min(max(usual, _SHORTEST_PATIENCE), _LONGEST_PATIENCE)


def _quiet(items: Sequence[ItemFacts], now: datetime) -> Mapping[str, Json]:
    gaps = _gaps(items, now)
    if len(gaps) < _FEWEST_GAPS:
        return {}
    silence, longest = now - max(item.dated for item in items if item.dated <= now), max(gaps)
    if silence <= max(_SHORTEST_SILENCE, _FACTOR * longest):
        return {}
    return {
        "hours": round(silence / timedelta(hours=1)),
        "longest_hours": round(longest / timedelta(hours=1), 1),
        "usual_hours": round(median(gap / timedelta(hours=1) for gap in gaps), 1),
        "gaps": len(gaps),
    }


_FIELDS: Mapping[str, Callable[[ItemFacts], bool]] = {
    "date": lambda item: item.has_date,
    "picture": lambda item: item.has_picture,
    "author": lambda item: item.has_author,
}


def _changed(items: Sequence[ItemFacts]) -> Mapping[str, Json]:
    new = items[: min(_MOST_NEW, max(_FEWEST_NEW, len(items) // 3))]
    old = items[len(new) :]
    if len(new) < _FEWEST_NEW or len(old) < _FEWEST_OLD:
        return {}

    def share(part: Sequence[ItemFacts], has: Callable[[ItemFacts], bool]) -> float:
        return sum(map(has, part)) / len(part)

    lost = [name for name, has in _FIELDS.items() if share(old, has) >= _NEARLY_ALL and share(new, has) <= _NEARLY_NONE]
    words, before = median(item.words for item in new), median(item.words for item in old)
    resized = before > 0 and not _HALF < words / before < _TWICE
    if not lost and not resized:
        return {}
    return {"lost": list(lost), "words": round(words), "words_before": round(before) if resized else round(words)}
