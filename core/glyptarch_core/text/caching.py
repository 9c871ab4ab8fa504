"""Caches of facts about words, each bounded to a few megabytes."""

from collections.abc import Callable
from functools import lru_cache, wraps
from typing import TypeVar

__all__ = ["LONGEST_CACHED", "MOST_CACHED", "of_words"]

MOST_CACHED = 1 << 15
"""How many words a cache holds."""

LONGEST_CACHED = 40
"""Characters. A longer word comes once more often than it comes again, and would fill the memory."""

_T = TypeVar("_T")


def of_words(function: Callable[[str], _T]) -> Callable[[str], _T]:
    """Cache a function of words.

    The least recently used words go first.
    """
    cached = lru_cache(maxsize=MOST_CACHED)(function)

    @wraps(function)
    def look_up(word: str) -> _T:
        return cached(word) if len(word) <= LONGEST_CACHED else function(word)

    look_up.cache_info = cached.cache_info  # type: ignore[attr-defined]
    return look_up
