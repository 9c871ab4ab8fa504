"""Key phrases of a title, and the hashtags of a text."""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from stop_words import AVAILABLE_LANGUAGES, LANGUAGE_MAPPING, get_stop_words

from glyptarch_core.text.caching import of_words
from glyptarch_core.text.passage import Passage
from glyptarch_core.text.words import MARKS, folded_words, has_unspaced, is_unspaced, parted

__all__ = ["STOP_WORD_LANGUAGES", "hashtags", "key_phrases", "stop_words"]

_LONGEST = 3
# A character of Chinese or kana says about as much as two letters.
_LETTERS_OF_A_CHARACTER = 2
# Breaks between phrases: punctuation, but no hyphen or apostrophe inside a word.
_LETTERS = rf"\w[\w{MARKS}\u200c\u200d]*"
_BREAK = re.compile(rf"[^\w\s'\u2019{MARKS}\u200c\u200d-]+|\s[-\u2013\u2014]+\s")
_WORD = re.compile(rf"{_LETTERS}(?:['\u2019-]{_LETTERS})*")

STOP_WORD_LANGUAGES = frozenset(LANGUAGE_MAPPING)
"""Languages (ISO 639-1) whose stop words are known."""

# Loaded once at import. The lists belong to the library and are not input.
_STOP_WORDS = {
    language: frozenset(
        part for word in get_stop_words(language) for part in ((word,) if has_unspaced(word) else folded_words(word))
    )
    for language in AVAILABLE_LANGUAGES
}


def stop_words(language: str) -> frozenset[str]:
    """Return the folded stop words of a language (BCP 47). None are known of some."""
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
    unspaced: bool


@of_words
def _word(word: str) -> _Word:
    letters = len(word) if word.isalpha() else sum(map(str.isalpha, word))
    parts = tuple(folded_words(word))
    unspaced = is_unspaced(parts)
    return _Word(word.lower(), parts, letters * _LETTERS_OF_A_CHARACTER if unspaced else letters, unspaced)


def _joined(words: Sequence[_Word]) -> str:
    """Return words as a phrase, with spaces where their script has them."""
    phrase = ""
    for word, before in zip(words, (None, *words), strict=False):
        phrase += word.shown if before is None or (word.unspaced and before.unspaced) else f" {word.shown}"
    return phrase


def _words_of(segment: str) -> Iterator[str]:
    for text in _WORD.findall(segment):
        if has_unspaced(text):
            yield from parted(text)
        else:
            yield text


def _is_stop(word: _Word, stop: frozenset[str]) -> bool:
    return (word.shown if word.unspaced else word.parts[0]) in stop


def _runs(title: str, stop: frozenset[str]) -> list[list[_Word]]:
    """Return the runs of words without stop words and breaks.

    A number belongs to the word before it.
    """
    runs: list[list[_Word]] = [[]]
    for segment in _BREAK.split(title):
        for text in _words_of(segment):
            word = _word(text)
            if not word.parts or _is_stop(word, stop) or (text.isdigit() and not runs[-1]):
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
    weighed: list[tuple[int, int, Sequence[_Word]]] = []
    for phrase, times in _counted(title, text, language, least_letters):
        # A run that the text never repeats counts one word, so each of its words competes alone.
        if times or len(phrase) == 1:
            weighed.append((-times * len(phrase), len(weighed), phrase))
    chosen: dict[str, str] = {}
    for _, _, phrase in sorted(weighed):
        if len(chosen) == at_most:
            break
        run = f" {' '.join([word.shown for word in phrase])} "
        if not any(run in other or other in run for other in chosen):
            chosen[run] = _joined(phrase)
    return list(chosen.values())


def _counted(title: Passage, text: Passage, language: str, least_letters: int) -> Iterator[tuple[Sequence[_Word], int]]:
    """Yield the candidates with their number of repetitions in the text."""
    for run in _runs(title.text, stop_words(language)):
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
                yield words, times
