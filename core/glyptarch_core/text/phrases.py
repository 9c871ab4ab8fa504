"""Key phrases of a title, and the hashtags of a text."""

import re
from collections.abc import Iterator
from dataclasses import dataclass

from stop_words import AVAILABLE_LANGUAGES, LANGUAGE_MAPPING, get_stop_words

from glyptarch_core.text.caching import of_words
from glyptarch_core.text.passage import Passage
from glyptarch_core.text.words import MARKS, folded_words, is_unspaced

__all__ = ["STOP_WORD_LANGUAGES", "hashtags", "key_phrases"]

_LONGEST = 3
# Characters of a name or word in a script without spaces; longer runs hold several, which only a dictionary could part.
_LONGEST_UNSPACED = 8
# Breaks between phrases: punctuation, but no hyphen or apostrophe inside a word.
_LETTERS = rf"\w[\w{MARKS}\u200c\u200d]*"
_BREAK = re.compile(rf"[^\w\s'\u2019{MARKS}\u200c\u200d-]+|\s[-\u2013\u2014]+\s")
_WORD = re.compile(rf"{_LETTERS}(?:['\u2019-]{_LETTERS})*")

STOP_WORD_LANGUAGES = frozenset(LANGUAGE_MAPPING)
"""Languages (ISO 639-1) whose stop words are known."""

# Loaded once at import. The lists belong to the library and are not input.
_STOP_WORDS = {
    language: frozenset(part for word in get_stop_words(language) for part in Passage(word).words)
    for language in AVAILABLE_LANGUAGES
}


def _stop_words(language: str) -> frozenset[str]:
    return _STOP_WORDS.get(LANGUAGE_MAPPING.get(language.partition("-")[0].lower(), ""), frozenset())


_HASHTAG = re.compile(rf"(?<![\w&/?=])[#＃](\w[\w{MARKS}\u200c\u200d]{{0,79}})")


def hashtags(text: str) -> list[str]:
    """Return the hashtags of a text without their signs, in order.

    Entities (``&#39;``) and fragments of addresses (``/#top``) are not hashtags.
    """
    return _HASHTAG.findall(text)


@dataclass(frozen=True, slots=True)
class _Word:
    """A word of a title in lower case, with its folded parts and its number of letters."""

    shown: str
    parts: tuple[str, ...]
    letters: int


@of_words
def _word(word: str) -> _Word:
    letters = len(word) if word.isalpha() else sum(map(str.isalpha, word))
    return _Word(word.lower(), tuple(folded_words(word)), letters)


def _is_clause(word: _Word) -> bool:
    """Whether a run of characters without spaces is too long to be one word."""
    return len(word.parts) > _LONGEST_UNSPACED and is_unspaced(word.parts)


def _runs(title: str, stop: frozenset[str]) -> list[list[_Word]]:
    """Return the runs of words without stop words and breaks.

    A number belongs to the word before it.
    """
    runs: list[list[_Word]] = [[]]
    for segment in _BREAK.split(title):
        for text in _WORD.findall(segment):
            word = _word(text)
            if not word.parts or word.parts[0] in stop or _is_clause(word) or (text.isdigit() and not runs[-1]):
                runs.append([])
            else:
                runs[-1].append(word)
        runs.append([])
    return [run for run in runs if run]


def key_phrases(
    title: Passage, text: Passage, *, language: str = "", at_most: int = 3, least_letters: int = 4
) -> list[str]:
    """Return the key phrases of one to three words, in lower case, best first.

    Candidates are the runs of words between stop words (RAKE; Rose et al. 2010) and their parts; none begins with a
    bare number. A phrase scores its words times its repetitions in the text; of a phrase and its part the better one
    stays.
    """
    weighed: list[tuple[int, int, str]] = []
    for phrase, words, times in _counted(title, text, language, least_letters):
        # A run that the text never repeats counts one word, so each of its words competes alone.
        if times or words == 1:
            weighed.append((-times * words, len(weighed), phrase))
    chosen: list[str] = []
    for _, _, phrase in sorted(weighed):
        if len(chosen) == at_most:
            break
        if not any(f" {phrase} " in f" {other} " or f" {other} " in f" {phrase} " for other in chosen):
            chosen.append(phrase)
    return chosen


def _counted(title: Passage, text: Passage, language: str, least_letters: int) -> Iterator[tuple[str, int, int]]:
    """Yield the candidates with their number of words and of repetitions in the text."""
    for run in _runs(title.text, _stop_words(language)):
        counts = [text.times(word.parts) for word in run]
        for length in range(1, min(_LONGEST, len(run)) + 1):
            for start in range(len(run) - length + 1):
                # A phrase cannot be repeated where one of its parts is not.
                if length > 1 and not all(counts[start : start + length]):
                    continue
                words = run[start : start + length]
                if not words[0].letters:
                    continue
                if sum([word.letters for word in words]) < least_letters:
                    continue
                times = counts[start] if length == 1 else text.times([part for word in words for part in word.parts])
                yield " ".join([word.shown for word in words]), length, times
