"""Words that go with the given ones: phrases that stand much more often in kept items than elsewhere."""

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
    """What an item says: its title, its text, and the language it is in."""

    title: str
    text: str
    language: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Suggestion:
    """A phrase, in how many kept items it stands, and in how many others."""

    phrase: str
    kept: int
    elsewhere: int


def suggestions(
    kept: Sequence[Told], elsewhere: Sequence[Told], known: Iterable[str], *, most: int = 8
) -> list[Suggestion]:
    """Give phrases of kept items that stand at least twice as often there as elsewhere, best first.

    What the known lines of words say already is left out. The measure is the ratio of shares, with one item
    added to the others so that a phrase that stands nowhere else is not endless.
    """
    mine, others = _counted(kept), _counted(elsewhere)
    said = [set(line.casefold().split()) for line in known]
    rated: list[tuple[float, Suggestion]] = []
    for phrase, number in mine.items():
        if number < _FEWEST_KEPT or any(set(phrase.split()) <= words for words in said):
            continue
        ratio = (number / len(kept)) / ((others[phrase] + 1) / (len(elsewhere) + 1))
        if ratio >= _TIMES:
            rated.append((ratio * number, Suggestion(phrase=phrase, kept=number, elsewhere=others[phrase])))
    rated.sort(key=lambda one: (-one[0], one[1].phrase))
    return [one for _, one in rated[:most]]


def _counted(items: Sequence[Told]) -> Counter[str]:
    counts: Counter[str] = Counter()
    for item in items:
        title, text = Passage.of_text(item.title), Passage.of_text(item.text)
        counts.update(key_phrases(title, text, language=item.language, at_most=_PHRASES_OF_ITEM))
    return counts
