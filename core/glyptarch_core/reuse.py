"""Results of earlier passes, kept for as long as the items they belong to.

What a rule finds in an item depends on the rule's settings and the item alone (and, for the few
rules that look at the clock, on the time). A proof that follows an edit of one rule finds
everything else here. A key names all that a result depends on, so no result is ever stale.
"""

from collections.abc import Callable, Hashable
from typing import ClassVar, TypeVar, cast
from weakref import WeakKeyDictionary

from glyptarch_core.item import Captured

__all__ = ["MOST_KEPT", "Reuse", "remembered"]

MOST_KEPT = 128
"""How many results of rules are kept for one item, or twice those of one pass where that is more."""

_T = TypeVar("_T")


class Reuse:
    """Results by item and key: of rules, which are small, and of Shape and the end, each with the text of a post.

    A thousand edits of a campaign leave no more behind than a hundred: the oldest gives way.
    """

    MOST_TEXTS: ClassVar[int] = 4
    """How many results with the text of a post are kept for one item: edited, saved, compared with."""
    _MOST_MATCHED: ClassVar[int] = 4

    def __init__(self) -> None:
        self._results: WeakKeyDictionary[Captured, dict[str, object]] = WeakKeyDictionary()
        self._shaped: WeakKeyDictionary[Captured, dict[str, object]] = WeakKeyDictionary()
        self._endings: WeakKeyDictionary[Captured, dict[str, object]] = WeakKeyDictionary()
        self._matched: dict[Hashable, object] = {}

    def of(self, captured: Captured) -> dict[str, object]:
        """Give the results of rules kept for an item."""
        return _within(self._results, captured)

    def shaped(self, captured: Captured, key: str, make: Callable[[], _T]) -> _T:
        """Give what Shape made of an item under a key: that of the rules edited, saved or compared with."""
        return remembered(_within(self._shaped, captured), key, make, most=self.MOST_TEXTS)

    def endings(self, captured: Captured) -> dict[str, object]:
        """Give what Place and Release made of an item, at most ``MOST_TEXTS`` results."""
        return _within(self._endings, captured)

    def matched(self, key: Hashable, make: Callable[[], _T]) -> _T:
        """Give what Match said of a whole batch under a key, for the last few batches."""
        return remembered(self._matched, key, make, most=self._MOST_MATCHED)


def _within(results: WeakKeyDictionary[Captured, dict[str, object]], captured: Captured) -> dict[str, object]:
    found = results.get(captured)
    if found is None:
        found = results[captured] = {}
    return found


_K = TypeVar("_K", bound=Hashable)


def remembered(results: dict[_K, object], key: _K, make: Callable[[], _T], *, most: int = MOST_KEPT) -> _T:
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
