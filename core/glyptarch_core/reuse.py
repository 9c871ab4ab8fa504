"""Results of earlier passes, kept as long as their items.

A rule's finding depends only on its settings and the item and, for a few rules, on the time. A proof after an edit of
one rule finds all other results here. A key names everything that a result depends on, so no result is stale.
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
    """Results of earlier passes about one item.

    Small ones are kept by rule; those of Shape and later stages have texts.
    """

    __slots__ = ("endings", "results", "shapes", "sifted")

    def __init__(self) -> None:
        self.results: dict[str, Any] = {}
        # The last results of Sift, in a form of its own.
        self.sifted: Any = None
        self.shapes: dict[str, Any] = {}
        self.endings: dict[str, Any] = {}

    def shaped(self, key: str, make: Callable[[], _T]) -> _T:
        """Return the Shape result under a key.

        Those of the edited, saved and compared rules are kept.
        """
        return remembered(self.shapes, key, make, most=MOST_TEXTS)


class Reuse:
    """Results kept for each item, as long as the item lives.

    The number of results per item is bounded; the oldest is dropped first.
    """

    _MOST_RECALLED: ClassVar[int] = 4

    def __init__(self) -> None:
        self._kept: WeakKeyDictionary[Captured, Kept] = WeakKeyDictionary()
        self._recalled: dict[Hashable, list[Any]] = {}

    def of(self, captured: Captured) -> Kept:
        """Return the results kept for an item."""
        kept = self._kept.get(captured)
        if kept is None:
            kept = self._kept[captured] = Kept()
        return kept

    def recalled(self, key: Hashable) -> list[Any]:
        """Return the list of recent Match lookups under a key, for the last few batches."""
        new_list: Callable[[], list[Any]] = list
        return remembered(self._recalled, key, new_list, most=self._MOST_RECALLED)


_K = TypeVar("_K", bound=Hashable)


def remembered(results: dict[_K, Any], key: _K, make: Callable[[], _T], *, most: int = MOST_KEPT) -> _T:
    """Return the result under a key, computed when missing.

    The least recently used goes first.
    """
    result = cast("_T | None", results.pop(key, None))
    if result is None:
        result = make()
        if len(results) >= most:
            # list() copies in one step, whatever another thread does to the same results.
            oldest, *_ = list(results)
            results.pop(oldest, None)
    results[key] = result
    return result
