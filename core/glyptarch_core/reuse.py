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

MOST_KEPT = 128
"""How many results of rules are kept for one item, or twice those of one pass where that is more."""
_MOST_SHAPED = 4

_T = TypeVar("_T")


class Reuse:
    """Results by item and key: of rules, which are small, and of Shape, each with the whole text of a post.

    A thousand edits of a campaign leave no more behind than a hundred: the oldest gives way.
    """

    def __init__(self) -> None:
        self._results: WeakKeyDictionary[Captured, dict[str, object]] = WeakKeyDictionary()
        self._shaped: WeakKeyDictionary[Captured, dict[str, object]] = WeakKeyDictionary()

    def of(self, captured: Captured) -> dict[str, object]:
        """Give the results of rules kept for an item."""
        return _within(self._results, captured)

    def shaped(self, captured: Captured, key: str, make: Callable[[], _T]) -> _T:
        """Give what Shape made of an item under a key: that of the rules edited, saved or compared with."""
        return kept(_within(self._shaped, captured), key, make, most=_MOST_SHAPED)


def _within(results: WeakKeyDictionary[Captured, dict[str, object]], captured: Captured) -> dict[str, object]:
    found = results.get(captured)
    if found is None:
        found = results[captured] = {}
    return found


def kept(results: dict[str, object], key: str, make: Callable[[], _T], *, most: int = MOST_KEPT) -> _T:
    """Give the result under a key, made and kept when there is none; the one not asked for longest gives way."""
    result = cast("_T | None", results.pop(key, None))
    if result is None:
        result = make()
        if len(results) >= most:
            results.pop(next(iter(results)), None)
    results[key] = result
    return result
