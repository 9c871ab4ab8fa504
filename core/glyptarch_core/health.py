"""The health of a source, judged by its own rhythm and past."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from enum import StrEnum
from itertools import pairwise
from statistics import median

from glyptarch_core.trace import Json

__all__ = ["Health", "ItemFacts", "Report", "health_of"]


class Health(StrEnum):
    """The health of a source.

    ``gone`` means that it answered 410 and is no longer read automatically.
    """

    UNREAD = "unread"
    OK = "ok"
    QUIET = "quiet"
    CHANGED = "changed"
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


def health_of(
    items: Sequence[ItemFacts], *, now: datetime, failures: int, gone: bool, read: bool, layout_changed: bool = False
) -> Report:
    """Judge a source by its last items, newest first, and its number of failures in a row.

    **Quiet**: nothing new for more than a day and for more than twice the longest gap between items so far. This needs
    five gaps, since fewer show no rhythm. **Changed**: of the newest five to ten items nearly none has a field that
    nearly all earlier ones had, or they are half or twice as long, or the layout of a site has changed under its page
    reader.
    """
    if gone:
        return Report(health=Health.GONE)
    if failures:
        return Report(health=Health.FAILING, data={"failures": failures})
    if not read:
        return Report(health=Health.UNREAD)
    if layout_changed:
        return Report(health=Health.CHANGED, data={"layout": True})
    changed = _changed(items)
    if changed:
        return Report(health=Health.CHANGED, data=changed)
    quiet = _quiet(items, now)
    return Report(health=Health.QUIET, data=quiet) if quiet else Report(health=Health.OK)


def _quiet(items: Sequence[ItemFacts], now: datetime) -> Mapping[str, Json]:
    # Items without a date are dated by their capture, which is as good for a rhythm.
    dates = sorted({item.dated for item in items if item.dated <= now}, reverse=True)
    gaps = [newer - older for newer, older in pairwise(dates)]
    if len(gaps) < _FEWEST_GAPS:
        return {}
    silence, longest = now - dates[0], max(gaps)
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
