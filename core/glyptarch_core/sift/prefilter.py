"""One pass over a text that selects the rules that can match there.

Only those are checked afterwards.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from functools import cached_property

import re2

from glyptarch_core.item import Captured
from glyptarch_core.sift.base import Prefilter
from glyptarch_core.sift.fields import TextField, passages

__all__ = ["PrefilterIndex", "finder"]

# Bytes, enough for the longest word lists of a rule.
_MEMORY = 128 << 20
# Up to this number, searching one by one is faster than one pattern for all.
_FEW_RUNS = 12


@dataclass
class _Index:
    """The prefilters of one field: rules by word, and by beginning of a word."""

    words: dict[str, list[int]] = field(default_factory=dict)
    starts: dict[str, list[int]] = field(default_factory=dict)

    @cached_property
    def _pattern(self) -> "re2._Regexp[str]":
        """Return the pattern of all words and beginnings, for one pass over the text."""
        options = re2.Options()
        options.max_mem = _MEMORY
        return re2.compile(" (?:" + "|".join(map(re2.escape, {*self.words, *self.starts})) + ")", options)

    @cached_property
    def _lengths(self) -> list[int]:
        return sorted({len(start) for start in self.starts})

    def rules(self, text: str) -> Iterator[int]:
        """Yield the rules whose prefilter occurs in folded words, each between spaces."""
        for match in self._pattern.finditer(text):
            first = match.start() + 1
            word = text[first : text.index(" ", first)]
            yield from self.words.get(word, ())
            for length in self._lengths:
                yield from self.starts.get(word[:length], ()) if length <= len(word) else ()


class PrefilterIndex:
    """The prefilters of numbered rules.

    None for a rule that is always evaluated.
    """

    def __init__(self, prefilters: Sequence[Prefilter | None]) -> None:
        self._indexes: dict[tuple[TextField, str], _Index] = {}
        for number, prefilter in enumerate(prefilters):
            if prefilter is None:
                continue
            index = self._indexes.setdefault((prefilter.field, prefilter.name), _Index())
            for word in prefilter.words:
                index.words.setdefault(word, []).append(number)
            for start in prefilter.starts:
                index.starts.setdefault(start, []).append(number)

    def found_in(self, captured: Captured) -> frozenset[int]:
        """Return the numbers of the rules whose prefilter occurs in the item."""
        return frozenset(
            number
            for (text, name), index in self._indexes.items()
            if index.words or index.starts
            for _, passage in passages(text, name, captured)
            for number in index.rules(passage.padded)
        )


def finder(prefilter: Prefilter) -> Callable[[Captured], bool]:
    """Return a function that tests whether a prefilter occurs in an item."""
    runs = [*(f" {word} " for word in prefilter.words), *(f" {start}" for start in prefilter.starts)]
    if len(runs) > _FEW_RUNS:
        index = PrefilterIndex([prefilter])
        return lambda captured: bool(index.found_in(captured))

    def is_in(captured: Captured) -> bool:
        for _, passage in passages(prefilter.field, prefilter.name, captured):
            padded = passage.padded
            for run in runs:
                if run in padded:
                    return True
        return False

    return is_in
