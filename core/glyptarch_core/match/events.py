"""Texts of other words about one event, or one matter: the same names, numbers and things.

Texts are vectors of their words weighed by rarity (tf-idf; Spärck Jones 1972), compared by the cosine, as for the
detection of topics in news (Allan, Papka and Lavrenko 1998). Words are cut to five letters, which joins their forms in
most languages (Can et al. 2008); in scripts without spaces they come from a dictionary.

Nothing is decided by it: a person is told which post may be about the same event, and by which words.
"""

import math
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from glyptarch_core.text import fold
from glyptarch_core.text.words import folded_words, has_unspaced, is_unspaced, spans_of

__all__ = ["LOOKED_AT", "SameEvent", "same_events", "similar_texts"]

LOOKED_AT = 3_000
"""Characters. News says what happened at its beginning."""

_LEAST = 0.18
# So many shared words must be rare: in three texts, or in one of fifty.
_LEAST_RARE = 3
_FEW_TEXTS = 3
_SHARE_OF_TEXTS = 50
_MOST_REASONS = 6
# For further reading less is enough: two words that one text of ten has, and a tenth of the direction.
_LEAST_SIMILAR = 0.1
_LEAST_SHARED = 2
_SHARE_OF_SIMILAR = 10
_STEM = 5
_SHORTEST = 4
_SHORTEST_UNSPACED = 2
_SHORTEST_NUMBER = 2
_RUN = 5
_CHARACTERS_OF_A_WORD = 2
# The share of runs of five words that two tellings of one event may have in common: names and quoted sentences.
_MOST_SHARED_RUNS = 0.1


@dataclass(frozen=True, slots=True)
class SameEvent:
    """Another text that may be about the same event.

    Its number, its likeness from 0 to 1, and the rarest words in both.
    """

    number: int
    likeness: float
    words: tuple[str, ...]


def same_events(text: str, others: Sequence[str], around: Sequence[str] = ()) -> list[SameEvent]:
    """Return those of other texts that may be about the same event as a text.

    The most similar comes first; texts that share passages are left out. What is rare is judged by all of them, and by
    texts ``around`` them.
    """
    shown: dict[str, str] = {}
    mine = _words_of(text, shown)
    counted = [_words_of(other) for other in others]
    documents, rarity = _rarity_in([mine, *counted, *map(_words_of, around)])
    number = 1 + len(others) + len(around)
    most_told = max(_FEW_TEXTS, number // _SHARE_OF_TEXTS)
    own = _weighed(mine, rarity)
    found = []
    for place, words in enumerate(counted):
        shared = own.keys() & words.keys()
        if sum(documents[word] <= most_told for word in shared) < _LEAST_RARE:
            continue
        weights = _weighed(words, rarity)
        likeness = _cosine(own, weights)
        if likeness >= _LEAST and not _shares_text(text, others[place]):
            # Of equally rare words, names say most.
            order = sorted((-round(own[word] * weights[word]), not shown[word][0].isupper(), word) for word in shared)
            found.append(SameEvent(place, likeness, tuple(shown[word] for *_, word in order[:_MOST_REASONS])))
    return sorted(found, key=lambda event: -event.likeness)


def similar_texts(text: str, others: Sequence[str]) -> list[int]:
    """Return the places of texts on the same matter as a text, most similar first.

    They are for further reading: a post on the same comet, or the same village.
    """
    mine, counted = _kept_words_of(text), list(map(_kept_words_of, others))
    documents, rarity = _rarity_in([mine, *counted])
    most_told = max(_FEW_TEXTS, len(others) // _SHARE_OF_SIMILAR)
    own, found = _weighed(mine, rarity), []
    for place, words in enumerate(counted):
        if sum(documents[word] <= most_told for word in own.keys() & words.keys()) < _LEAST_SHARED:
            continue
        likeness = _cosine(own, _weighed(words, rarity))
        if likeness >= _LEAST_SIMILAR:
            found.append((-likeness, place))
    return [place for _, place in sorted(found)]


@lru_cache(2_000)
def _kept_words_of(text: str) -> Counter[str]:
    """Count the words of a short text that is compared with many others.

    Nobody changes the answer.
    """
    return _words_of(text)


def _rarity_in(texts: Sequence[Counter[str]]) -> tuple[Counter[str], dict[str, float]]:
    """Return in how many texts each word is, and how rare that makes it."""
    documents = Counter(word for words in texts for word in words)
    return documents, {word: math.log((len(texts) + 1) / times) for word, times in documents.items()}


def _cosine(own: Mapping[str, float], other: Mapping[str, float]) -> float:
    product = math.fsum(own[word] * other[word] for word in own.keys() & other.keys())
    return product / (math.hypot(*own.values()) * math.hypot(*other.values()) or 1)


def _shares_text(text: str, other: str) -> bool:
    """Whether two texts share passages: those are compared by Match."""
    runs, others = (set(_runs(folded_words(told[:LOOKED_AT]))) for told in (text, other))
    return len(runs & others) > _MOST_SHARED_RUNS * min(len(runs), len(others))


def _runs(words: Sequence[str]) -> Iterator[tuple[str, ...]]:
    length = _RUN * (_CHARACTERS_OF_A_WORD if is_unspaced(words) else 1)
    return (tuple(words[start : start + length]) for start in range(len(words) - length + 1))


def _weighed(words: Counter[str], rarity: dict[str, float]) -> dict[str, float]:
    return {word: (1 + math.log(times)) * rarity[word] for word, times in words.items()}


def _words_of(text: str, shown: dict[str, str] | None = None) -> Counter[str]:
    """Count the words that may name something. ``shown`` gets each as it is written."""
    words: Counter[str] = Counter()
    text = text[:LOOKED_AT]
    for start, end in spans_of(text):
        written = text[start:end]
        word = _key(written)
        if word:
            words[word] += 1
            if shown is not None:
                shown.setdefault(word, written)
    return words


def _key(written: str) -> str:
    folded = fold(written.lower())
    if has_unspaced(written):
        return folded if len(written) >= _SHORTEST_UNSPACED else ""
    if folded.isdecimal():
        # The zeros of “40 000” say nothing by themselves.
        return folded if len(folded) >= _SHORTEST_NUMBER and folded.strip("0") else ""
    return folded[:_STEM] if len(folded) >= _SHORTEST else ""
