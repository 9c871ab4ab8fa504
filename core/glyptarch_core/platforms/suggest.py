"""Suggested search words: phrases much more frequent in kept items than elsewhere."""

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from glyptarch_core.text import Passage, key_phrases

__all__ = ["Suggestion", "Told", "suggestions"]

_PHRASES_OF_ITEM = 8
_FEWEST_KEPT = 2
_TIMES = 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Told:
    """The texts of an item: title, text and language."""

    title: str
    text: str
    language: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Suggestion:
    """A phrase, with the number of kept items and of other items that have it."""

    phrase: str
    kept: int
    elsewhere: int


def suggestions(
    kept: Sequence[Told], elsewhere: Sequence[Told], search_lines: Iterable[str], *, most: int = 8
) -> list[Suggestion]:
    """Return phrases at least twice as frequent in kept items as elsewhere, best first.

    Phrases in the known search lines are left out. The measure is the ratio of shares; add-one smoothing avoids
    division by zero.
    """
    mine, others = _counted(kept), _counted(elsewhere)
    said = [set(line.casefold().split()) for line in search_lines]
    rated: list[tuple[float, Suggestion]] = []
    for phrase, number in mine.items():
        if number < _FEWEST_KEPT or any(set(phrase.split()) <= words for words in said):
            continue
        ratio = (number / len(kept)) / ((others[phrase] + 1) / (len(elsewhere) + 1))
        if ratio >= _TIMES:
            rated.append((ratio * number, Suggestion(phrase=phrase, kept=number, elsewhere=others[phrase])))
    rated.sort(key=lambda rated_phrase: (-rated_phrase[0], rated_phrase[1].phrase))
    return [suggestion for _, suggestion in rated[:most]]


def _counted(items: Sequence[Told]) -> Counter[str]:
    counts: Counter[str] = Counter()
    for item in items:
        title, text = Passage.of_text(item.title), Passage.of_text(item.text)
        counts.update(key_phrases(title, text, language=item.language, at_most=_PHRASES_OF_ITEM))
    return counts
