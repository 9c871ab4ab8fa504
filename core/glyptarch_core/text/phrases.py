"""The phrases that say what a title is about."""

import re
from functools import cache

from stop_words import AVAILABLE_LANGUAGES, LANGUAGE_MAPPING, get_stop_words

from glyptarch_core.text.passage import Passage, Term, fold

__all__ = ["STOP_WORD_LANGUAGES", "key_phrases"]

_LONGEST = 3
# Where one phrase cannot reach over: punctuation, but no hyphen or apostrophe inside a word.
_BREAK = re.compile(r"[^\w\s'\u2019-]+|\s[-\u2013\u2014]+\s")
_WORD = re.compile(r"\w+(?:['\u2019-]\w+)*")

STOP_WORD_LANGUAGES = frozenset(LANGUAGE_MAPPING)
"""Languages (ISO 639-1) whose stop words are known."""

# Read once, when the module is: the lists are part of the library, not input.
_STOP_WORDS = {
    language: frozenset(part for word in get_stop_words(language) for part in Passage(word).words)
    for language in AVAILABLE_LANGUAGES
}


@cache
def _stop_words(language: str) -> frozenset[str]:
    return _STOP_WORDS.get(LANGUAGE_MAPPING.get(language.partition("-")[0].lower(), ""), frozenset())


def _runs(title: str, stop: frozenset[str]) -> list[list[str]]:
    """Give the runs of words that hold no stop word, no bare number and no break."""
    runs: list[list[str]] = [[]]
    for segment in _BREAK.split(title):
        for word in _WORD.findall(segment):
            if fold(word.partition("'")[0].partition("\u2019")[0]) in stop or word.isdigit():
                runs.append([])
            else:
                runs[-1].append(word)
        runs.append([])
    return [run for run in runs if run]


def key_phrases(
    title: Passage, text: Passage, *, language: str = "", at_most: int = 3, least_letters: int = 4
) -> list[str]:
    """Give the phrases of one to three words that say most, in lower case, best first.

    Candidates are the runs of words between stop words (RAKE; Rose et al. 2010) and their parts.
    A phrase counts for its words times the number of times the text repeats it; of a phrase
    and its part the better one stays.
    """
    weighed: list[tuple[int, int, str]] = []
    for run in _runs(title.text, _stop_words(language)):
        for length in range(1, min(_LONGEST, len(run)) + 1):
            for start in range(len(run) - length + 1):
                phrase = " ".join(run[start : start + length]).lower()
                if sum(char.isalpha() for char in phrase) >= least_letters:
                    times = text.first(Term.parse(phrase))[1]
                    weighed.append((-times * length, len(weighed), phrase))
    chosen: list[str] = []
    for _, _, phrase in sorted(weighed):
        if not any(f" {phrase} " in f" {other} " or f" {other} " in f" {phrase} " for other in chosen):
            chosen.append(phrase)
    return chosen[:at_most]
