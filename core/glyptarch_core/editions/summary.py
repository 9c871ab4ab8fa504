"""Summaries of the most telling sentences of a text, word for word, without a service.

LexRank (Erkan and Radev, “LexRank: Graph-based Lexical Centrality as Salience in Text Summarization”, 2004): a sentence
tells much if many sentences that tell much are like it. Its random jumps prefer the beginning of the text (biased
LexRank; Otterbacher, Erkan and Radev 2009), where news tells what matters.
"""

from collections import Counter
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from glyptarch_core.text import Passage, Unit, count_words, cut, sentences
from glyptarch_core.text.phrases import stop_words

__all__ = ["summary"]

_MOST_SENTENCES = 150
# Of a sentence: one without an end would fill the memory.
_MOST_WORDS = 200
_FEWEST_WORDS = 5
_JUMP = 0.15
_ROUNDS = 60
_STEADY = 1e-6
_TOO_ALIKE = 0.7


def summary(paragraphs: Sequence[str], *, unit: Unit, count: int, language: str = "", ellipsis: str = "…") -> list[str]:
    """Return the most telling sentences in the order of the text.

    They have at most ``count`` words or sentences. Each text of the result has the sentences of one paragraph.
    Sentences after the 150th are not looked at. Where no sentence fits, the first is cut. Raises ValueError for a unit
    other than words and sentences.
    """
    if unit not in {Unit.WORDS, Unit.SENTENCES}:
        raise ValueError(f"a summary is measured in words or sentences, not {unit.value}")
    placed = [
        (place, sentence) for place, text in enumerate(paragraphs) for sentence in sentences(text, language=language)
    ][:_MOST_SENTENCES]
    # Headings and lists of names end without a mark, and say little out of their place.
    whole = [one for one in placed if not one[1][-1].isalnum()] or placed
    lengths = [count_words(sentence) for _, sentence in whole]
    chosen = _chosen([sentence for _, sentence in whole], lengths, unit=unit, count=count, language=language)
    if not chosen:
        return [cut([sentence for _, sentence in placed], unit=unit, count=count, ellipsis=ellipsis, language=language)]
    texts: dict[int, list[str]] = {}
    for number in sorted(chosen):
        place, sentence = whole[number]
        texts.setdefault(place, []).append(sentence)
    return [" ".join(of_one) for of_one in texts.values()]


def _chosen(texts: Sequence[str], lengths: Sequence[int], *, unit: Unit, count: int, language: str) -> list[int]:
    """Return the numbers of the sentences to keep, the most telling first."""
    if not texts:
        return []
    alike = _likeness(texts, language)
    left, chosen = count, list[int]()
    for number in np.argsort(-_ranks(alike), kind="stable").tolist():
        cost = lengths[number] if unit is Unit.WORDS else 1
        is_short = lengths[number] < _FEWEST_WORDS and len(texts) > 1
        if cost > left or is_short or any(alike[number, other] > _TOO_ALIKE for other in chosen):
            continue
        chosen.append(number)
        left -= cost
    return chosen


def _likeness(texts: Sequence[str], language: str) -> NDArray[np.float64]:
    """Return the cosine of each pair of sentences by their words (tf-idf)."""
    known = stop_words(language)
    counts = [Counter(word for word in Passage(text).words[:_MOST_WORDS] if word not in known) for text in texts]
    columns = {word: column for column, word in enumerate({word: None for count in counts for word in count})}
    weights = np.zeros((len(texts), max(1, len(columns))))
    for row, count in enumerate(counts):
        for word, times in count.items():
            weights[row, columns[word]] = times
    weights *= np.log(1 + len(texts) / np.maximum(1, (weights > 0).sum(axis=0)))
    weights /= np.maximum(np.linalg.norm(weights, axis=1, keepdims=True), 1e-12)
    return np.asarray(weights @ weights.T)


def _ranks(alike: NDArray[np.float64]) -> NDArray[np.float64]:
    """Return how telling each sentence is: the stationary distribution of a walk over like ones."""
    number = len(alike)
    jump = 1 / np.arange(1, number + 1)
    jump /= jump.sum()
    # A sentence says nothing for itself: one that is like no other is left by a jump.
    others = alike * (1 - np.eye(number))
    sums = others.sum(axis=1, keepdims=True)
    steps = np.where(sums > 0, others / np.where(sums > 0, sums, 1), jump)
    ranks = np.full(number, 1 / number)
    for _ in range(_ROUNDS):
        next_ranks = _JUMP * jump + (1 - _JUMP) * (steps.T @ ranks)
        if np.abs(next_ranks - ranks).sum() < _STEADY:
            break
        ranks = next_ranks
    return np.asarray(ranks)
