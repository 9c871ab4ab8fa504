"""What differs between two texts that share most of their words.

A story that is told again is cut, goes on, or has its sentences moved: words are missing on one side. A notice of next
week puts other facts into the same places: short runs of words are replaced, one for one. So two texts are laid side by
side, and the places where both have words of their own are weighed.

The texts are aligned at the runs of words that each has once (patience diff; Cohen 2010), the longest chain of them
without a crossing (Fredman 1975), each grown in both directions. Nothing here knows a language: capitals count as the
mark of a name only in a text that uses them rarely.
"""

import re
import unicodedata
from bisect import bisect_left
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from difflib import SequenceMatcher
from functools import cached_property

from glyptarch_core.text.passage import Passage
from glyptarch_core.text.words import is_unspaced

__all__ = ["Differences", "Replaced", "differences"]

_MOST_WORDS = 4000
_MOST_REPLACED = 64
_MOST_DIGITS = 15
# Zero, as in 00:20, is a number too.
_ZERO = 0.1
# An anchor is a run of so many words, twice as long where each character counts as a word.
_ANCHOR = 3
_CHARACTERS_PER_WORD = 2
# A passage of so many words that stands elsewhere was moved; a name that stands elsewhere plays another part.
_LEAST_MOVED = 7
# Beyond this many words a replaced run is a passage of its own and holds no single fact.
_LONGEST_FACT = 5
_SHORT = 3
_LONGEST_FORM = 60
_PASSAGE_WEIGHT = 0.2
# A longer replaced run is a form with several facts where this part of its words stands in both.
_LEAST_FORM = 0.35
_NAME_WEIGHT = 2.0
_NOUN_WEIGHT = 1.5
_WORD_WEIGHT = 1.25
_MORE_WORDS = 0.25
# A figure that is corrected stays near, one of another story does not.
_NEAR_NUMBER = 0.5
_OTHER_NUMBER = 1.25
# Two spellings of one word or name, such as another case ending.
_ONE_WORD = 0.7
_ONE_WORD_WEIGHT = 0.5
# In characters. What is longer is no word, and would take quadratic time to compare.
_LONGEST_WORD = 60
_MOST_CAPITALS = 0.22
_UNITS = frozenset("年月日号號点點时時分度元円人名歳岁")
_SENTENCE_END = re.compile(r"[.!?:…。！？॥।]")


@dataclass(frozen=True, slots=True)
class Replaced:
    """A place where each text has words of its own, and how much that weighs."""

    mine: str
    theirs: str
    weight: float
    facts: int


@dataclass(frozen=True, slots=True)
class Differences:
    """Two texts side by side.

    ``shared`` is the number of words that stand at the same place in both; ``replaced`` are the places where both have
    words of their own, in text order.
    """

    shared: float
    shared_facts: int
    replaced: tuple[Replaced, ...]

    @property
    def replaced_facts(self) -> int:
        """The number of numbers and names that were replaced."""
        return sum(place.facts for place in self.replaced)

    @property
    def share(self) -> float:
        """The weight of what was replaced for each shared word."""
        weight = sum(place.weight for place in self.replaced)
        return weight / self.shared if self.shared else float(bool(weight))


class _Side:
    """One text as words, with the runs that serve as anchors."""

    def __init__(self, passage: Passage, length: int) -> None:
        self.passage = passage
        self.words = passage.words[:_MOST_WORDS]
        self.length = length
        self.scale = length - _ANCHOR + 1

    @cached_property
    def runs(self) -> list[tuple[str, ...]]:
        return [self.words[start : start + self.length] for start in range(len(self.words) - self.length + 1)]

    @cached_property
    def places(self) -> dict[tuple[str, ...], int]:
        """The runs that occur once, with their places."""
        times = Counter(self.runs)
        return {run: place for place, run in enumerate(self.runs) if times[run] == 1}

    @cached_property
    def known(self) -> frozenset[tuple[str, ...]]:
        return frozenset(self.runs)

    @cached_property
    def capitals_tell(self) -> bool:
        """Whether a capital marks a name: not in German, nor in a text set in capitals."""
        words = [self.written(place) for place in range(min(len(self.words), 300))]
        cased = [word for word in words if word[:1].lower() != word[:1].upper()]
        return len(cased) > 0 and sum(word[:1].isupper() for word in cased) < _MOST_CAPITALS * len(cased)

    def written(self, number: int) -> str:
        first, last = self.passage.spans[number]
        return self.passage.text[first:last]

    def begins_sentence(self, number: int) -> bool:
        if number == 0:
            return True
        spans = self.passage.spans
        return bool(_SENTENCE_END.search(self.passage.text[spans[number - 1][1] : spans[number][0]]))

    def is_name(self, number: int) -> bool:
        return self.capitals_tell and self.is_capital(number)

    def is_capital(self, number: int) -> bool:
        return self.written(number)[:1].isupper() and not self.begins_sentence(number)

    def value(self, number: int) -> float:
        """Return the value of a word that is a number, 0 for others.

        Chinese and Japanese numerals count before a unit; elsewhere they are parts of words.
        """
        word = self.words[number]
        if word.isdecimal():
            return float(word[:_MOST_DIGITS]) or _ZERO
        value = unicodedata.numeric(word, 0.0) if len(word) == 1 else 0.0
        after = number + 1
        while value and after < len(self.words) and len(self.words[after]) == 1 and self.words[after].isnumeric():
            after += 1
        return value if value and self.words[after : after + 1] and self.words[after] in _UNITS else 0.0

    def figure(self, numbers: Sequence[int]) -> float:
        """Return the first value among words, 0 for none: the day of a date, the hour of a time."""
        return next((value for number in numbers if (value := self.value(number))), 0.0)

    def facts(self, first: int, last: int) -> int:
        """Return how many numbers and names a range of words has.

        Those that follow each other are one.
        """
        told = [self.value(number) > 0 or self.is_name(number) for number in range(first, last)]
        return sum(now and not before for before, now in zip([False, *told], told, strict=False))

    def moved(self, first: int, last: int, other: "_Side") -> set[int]:
        """Return the places of a range in a passage that the other text has elsewhere."""
        places: set[int] = set()
        start = None
        for run in range(first, last - self.length + 2):
            known = run <= last - self.length and self.runs[run] in other.known
            if known and start is None:
                start = run
            elif not known and start is not None:
                end = run + self.length - 1
                if end - start >= _LEAST_MOVED * self.scale:
                    places.update(range(start, end))
                start = None
        return places


def differences(passage: Passage, other: Passage) -> Differences:
    """Lay two texts side by side. Words beyond the first 4,000 are not looked at."""
    if passage == other:
        return Differences(float(passage.word_count), 0, ())
    unspaced = is_unspaced(passage.words) or is_unspaced(other.words)
    per_word = _CHARACTERS_PER_WORD if unspaced else 1
    mine, theirs = (_Side(side, _ANCHOR + unspaced) for side in (passage, other))
    blocks = _blocks(mine, theirs)
    shared = sum(length for _, _, length in blocks) / per_word
    replaced: list[Replaced] = []
    at = other_at = 0
    for start, other_start, length in [*blocks, (len(mine.words), len(theirs.words), 0)]:
        place = _replaced(mine, (at, start), theirs, (other_at, other_start), per_word)
        if place is not None and len(replaced) < _MOST_REPLACED:
            replaced.append(place)
        at, other_at = start + length, other_start + length
    facts = sum(mine.facts(start, start + length) for start, _, length in blocks)
    return Differences(shared, facts, tuple(replaced))


def _blocks(mine: _Side, theirs: _Side) -> list[tuple[int, int, int]]:
    """Return the shared runs in the order of both texts: their places and their length."""
    pairs = [(place, theirs.places[run]) for run, place in mine.places.items() if run in theirs.places]
    blocks: list[tuple[int, int, int]] = []
    for first, second in _rising(pairs):
        place, other_place = first, second
        end, other_end = (blocks[-1][0] + blocks[-1][2], blocks[-1][1] + blocks[-1][2]) if blocks else (0, 0)
        if place < end or other_place < other_end:
            continue
        while place > end and other_place > other_end and mine.words[place - 1] == theirs.words[other_place - 1]:
            place, other_place = place - 1, other_place - 1
        length = 0
        while (
            place + length < len(mine.words)
            and other_place + length < len(theirs.words)
            and mine.words[place + length] == theirs.words[other_place + length]
        ):
            length += 1
        blocks.append((place, other_place, length))
    return _without_swaps(blocks, mine, theirs)


def _without_swaps(blocks: list[tuple[int, int, int]], mine: _Side, theirs: _Side) -> list[tuple[int, int, int]]:
    """Return the blocks without short ones between words of one side and words of the other.

    Where “A beats B” and “B beats C” are aligned at B, words would be missing here and new there, and none replaced.
    """
    kept: list[tuple[int, int, int]] = []
    following = [*blocks[1:], (len(mine.words), len(theirs.words), 0)][: len(blocks)]
    for block, after in zip(blocks, following, strict=True):
        place, other_place, length = block
        end, other_end = (kept[-1][0] + kept[-1][2], kept[-1][1] + kept[-1][2]) if kept else (0, 0)
        before = (place > end, other_place > other_end)
        behind = (after[0] > place + length, after[1] > other_place + length)
        swapped = {before, behind} == {(True, False), (False, True)}
        if not (swapped and length < _LEAST_MOVED * mine.scale):
            kept.append(block)
    return kept


def _rising(pairs: Sequence[tuple[int, int]]) -> list[tuple[int, int]]:
    """Return the longest chain of pairs that rise on both sides. The first sides rise already."""
    ends: list[int] = []
    last: list[int] = []
    before: list[int] = []
    for number, (_, second) in enumerate(pairs):
        place = bisect_left(ends, second)
        before.append(last[place - 1] if place else -1)
        if place == len(ends):
            ends.append(second)
            last.append(number)
        else:
            ends[place], last[place] = second, number
    chain = []
    number = last[-1] if last else -1
    while number >= 0:
        chain.append(pairs[number])
        number = before[number]
    return chain[::-1]


def _replaced(
    mine: _Side, span: tuple[int, int], theirs: _Side, other_span: tuple[int, int], per_word: int
) -> Replaced | None:
    """Weigh the words between two shared runs. None where one side has none of its own."""
    moved, other_moved = mine.moved(*span, theirs), theirs.moved(*other_span, mine)
    own = [place for place in range(*span) if place not in moved]
    others = [place for place in range(*other_span) if place not in other_moved]
    if not own or not others:
        return None
    words, other_words = [mine.words[place] for place in own], [theirs.words[place] for place in others]
    size = min(len(own), len(others))
    matched = _matching(words, other_words) if max(len(own), len(others)) <= _LONGEST_FORM * per_word else []
    if size == len(matched):
        return None
    # At the beginning and the end of a text a passage may be short: only one side of it is a shared run.
    inside = span[0] and other_span[0] and span[1] < len(mine.words) and other_span[1] < len(theirs.words)
    telling = sum(len(words[number]) > _SHORT for number, _ in matched)
    form = len(matched) >= _LEAST_FORM * size or telling >= _SHORT
    passage = size > _LONGEST_FACT * per_word and not form
    if passage or not (inside or matched or size <= _SHORT * per_word):
        facts, weight = 0, max((size - len(matched)) / per_word * _PASSAGE_WEIGHT, _WORD_WEIGHT if inside else 0.0)
    else:
        told = [
            _fact(mine, own[first:last], theirs, others[other_first:other_last], per_word)
            for first, last, other_first, other_last in _between(matched, len(own), len(others))
            if last > first and other_last > other_first
        ]
        facts, weight = sum(fact for fact, _ in told), sum(weight for _, weight in told)
    return Replaced(
        mine.passage.between(own[0], own[-1] + 1), theirs.passage.between(others[0], others[-1] + 1), weight, facts
    )


def _matching(words: Sequence[str], others: Sequence[str]) -> list[tuple[int, int]]:
    """Return the pairs of equal words under the fewest changes.

    Changes are insertions, removals and replacements (Wagner and Fischer 1974). So “A beats B” and “B beats C” meet at
    “beats”, not at B.
    """
    row = list(range(len(others) + 1))
    rows = [row]
    for number, word in enumerate(words, 1):
        row = [number]
        for place, other in enumerate(others):
            above = rows[-1]
            row.append(min(above[place] + (word != other), above[place + 1] + 1, row[place] + 1))
        rows.append(row)
    pairs: list[tuple[int, int]] = []
    number, place = len(words), len(others)
    while number and place:
        same = words[number - 1] == others[place - 1]
        if rows[number][place] == rows[number - 1][place - 1] + (not same):
            number, place = number - 1, place - 1
            if same:
                pairs.append((number, place))
        elif rows[number][place] == rows[number - 1][place] + 1:
            number -= 1
        else:
            place -= 1
    return pairs[::-1]


def _between(pairs: Sequence[tuple[int, int]], size: int, other_size: int) -> Iterator[tuple[int, int, int, int]]:
    """Yield the ranges of both sides before, between and after pairs of equal words."""
    first = other_first = 0
    for number, place in [*pairs, (size, other_size)]:
        yield first, number, other_first, place
        first, other_first = number + 1, place + 1


def _fact(mine: _Side, own: list[int], theirs: _Side, others: list[int], per_word: int) -> tuple[bool, float]:
    """Weigh one replaced run, and say whether it is a number or a name."""
    figure, other_figure = mine.figure(own), theirs.figure(others)
    if figure and other_figure:
        nearness = min(figure, other_figure) / max(figure, other_figure)
        return True, _OTHER_NUMBER - (_OTHER_NUMBER - _NEAR_NUMBER) * nearness
    pairs = list(zip(own, others, strict=False))
    if len(own) == len(others) and all(_spelt_alike(mine.words[place], theirs.words[other]) for place, other in pairs):
        return False, _ONE_WORD_WEIGHT
    size = min(len(own), len(others)) / per_word
    name = any(map(mine.is_name, own)) and any(map(theirs.is_name, others))
    capital = any(map(mine.is_capital, own)) and any(map(theirs.is_capital, others))
    weight = _NAME_WEIGHT if name else _NOUN_WEIGHT if capital else _WORD_WEIGHT
    return name, weight * min(1.0, 0.5 + size / 2) + _MORE_WORDS * max(0.0, size - 1)


def _spelt_alike(word: str, other: str) -> bool:
    if max(len(word), len(other)) > _LONGEST_WORD:
        return False
    return SequenceMatcher(None, word, other, autojunk=False).ratio() >= _ONE_WORD
