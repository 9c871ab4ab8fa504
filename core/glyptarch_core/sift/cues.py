"""Which of many rules have anything to look for in an item, found out in one go for all of them."""

from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass, field

from glyptarch_core.item import Captured
from glyptarch_core.sift.base import Cue
from glyptarch_core.sift.fields import Text, passages
from glyptarch_core.text import HEAD

__all__ = ["Cues"]


@dataclass(slots=True)
class _Index:
    """The cues of one field: rules by word, and by beginning of a word."""

    words: dict[str, list[int]] = field(default_factory=dict)
    starts: dict[str, list[int]] = field(default_factory=dict)
    by_head: dict[str, list[str]] = field(default_factory=dict)


class Cues:
    """The cues of numbered rules; None for a rule that is to be asked always."""

    def __init__(self, cues: Sequence[Cue | None]) -> None:
        self._indexes: dict[tuple[Text, str], _Index] = {}
        for number, cue in enumerate(cues):
            if cue is None:
                continue
            index = self._indexes.setdefault((cue.field, cue.name), _Index())
            for word in cue.words:
                index.words.setdefault(word, []).append(number)
            for start in cue.starts:
                index.starts.setdefault(start, []).append(number)
        for index in self._indexes.values():
            for start in index.starts:
                index.by_head.setdefault(start[:HEAD], []).append(start)
        self._words = {name: frozenset(index.words) for name, index in self._indexes.items()}
        self._heads = {
            name: frozenset(head for head in index.by_head if len(head) == HEAD)
            for name, index in self._indexes.items()
        }
        # Beginnings shorter than a head are few; they are looked for one by one.
        self._short = {
            name: [head for head in index.by_head if len(head) < HEAD] for name, index in self._indexes.items()
        }

    def standing_in(self, captured: Captured) -> frozenset[int]:
        """Give the numbers of the rules whose cue stands in the item."""
        found: set[int] = set()
        for (text, name), index in self._indexes.items():
            for _, passage in passages(text, name, captured):
                for word in self._words[text, name] & passage.distinct:
                    found.update(index.words[word])
                heads = [*(self._heads[text, name] & passage.heads), *self._short[text, name]]
                for start in (start for head in heads for start in index.by_head[head]):
                    known = passage.vocabulary
                    place = bisect_left(known, start)
                    if place < len(known) and known[place].startswith(start):
                        found.update(index.starts[start])
        return frozenset(found)
