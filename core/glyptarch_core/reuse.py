"""Results of earlier passes, kept for as long as the items they belong to.

What a rule finds in an item depends on the rule's settings and the item alone (and, for the few
rules that look at the clock, on the time). A proof that follows an edit of one rule finds
everything else here. Nothing is ever wrong for being kept: a key holds all that a result
depends on.
"""

from collections.abc import Callable
from typing import TypeVar, cast
from weakref import WeakKeyDictionary

from glyptarch_core.item import Captured

__all__ = ["MOST_KEPT", "Reuse", "kept"]

MOST_KEPT = 512
"""How many results are kept for one item; more rules than that are asked anew each time."""

_T = TypeVar("_T")


class Reuse:
    """Results by item and key. At most 512 for an item: the oldest gives way."""

    def __init__(self) -> None:
        self._results: WeakKeyDictionary[Captured, dict[str, object]] = WeakKeyDictionary()

    def of(self, captured: Captured) -> dict[str, object]:
        """Give the results kept for an item."""
        found = self._results.get(captured)
        if found is None:
            found = self._results[captured] = {}
        return found


def kept(results: dict[str, object], key: str, make: Callable[[], _T]) -> _T:
    """Give the result under a key, made and kept when there is none."""
    if key in results:
        return cast("_T", results[key])
    result = make()
    if len(results) >= MOST_KEPT:
        results.pop(next(iter(results)), None)
    results[key] = result
    return result
