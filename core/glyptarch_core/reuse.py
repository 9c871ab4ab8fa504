"""Results of earlier passes, kept for as long as the items they belong to.

What a rule finds in an item depends on the rule's settings and the item alone (and, for the few
rules that look at the clock, on the time). A proof that follows an edit of one rule finds
everything else here. A key names all that a result depends on, so no result is ever stale.
"""

from collections.abc import Callable, Hashable
from typing import Any, ClassVar, TypeVar, cast
from weakref import WeakKeyDictionary

from glyptarch_core.item import Captured

__all__ = ["MOST_KEPT", "MOST_TEXTS", "Kept", "Reuse", "remembered"]

MOST_KEPT = 128
"""How many results of rules are kept for one item, or twice those of one pass where that is more."""

_T = TypeVar("_T")


MOST_TEXTS = 4
"""How many results with the text of a post are kept for one item: edited, saved, compared with."""


class Kept:
    """What earlier passes found out about one item: by rules, which is small, and by Shape and the end, with texts."""

    __slots__ = ("endings", "results", "shapes", "sifted")

    def __init__(self) -> None:
        self.results: dict[str, Any] = {}
        # What the rules of Sift said last; it belongs to them.
        self.sifted: Any = None
        self.shapes: dict[str, Any] = {}
        self.endings: dict[str, Any] = {}

    def shaped(self, key: str, make: Callable[[], _T]) -> _T:
        """Give what Shape made of the item under a key: that of the rules edited, saved or compared with."""
        return remembered(self.shapes, key, make, most=MOST_TEXTS)


class Reuse:
    """What is kept of each item, for as long as the item is.

    A thousand edits of a campaign leave no more behind than a hundred: the oldest gives way.
    """

    _MOST_RECALLED: ClassVar[int] = 4

    def __init__(self) -> None:
        self._kept: WeakKeyDictionary[Captured, Kept] = WeakKeyDictionary()
        self._recalled: dict[Hashable, list[Any]] = {}

    def of(self, captured: Captured) -> Kept:
        """Give what is kept of an item."""
        found = self._kept.get(captured)
        if found is None:
            found = self._kept[captured] = Kept()
        return found

    def recalled(self, key: Hashable) -> list[Any]:
        """Give the list in which is kept what Match knows of a whole batch, for the last few batches."""
        made: Callable[[], list[Any]] = list
        return remembered(self._recalled, key, made, most=self._MOST_RECALLED)


_K = TypeVar("_K", bound=Hashable)


def remembered(results: dict[_K, Any], key: _K, make: Callable[[], _T], *, most: int = MOST_KEPT) -> _T:
    """Give the result under a key, made and kept when there is none; the one not asked for longest gives way."""
    result = cast("_T | None", results.pop(key, None))
    if result is None:
        result = make()
        if len(results) >= most:
            # A list is made in one step, whatever another thread does to the same results.
            oldest, *_ = list(results)
            results.pop(oldest, None)
    results[key] = result
    return result
