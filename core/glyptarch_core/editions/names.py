"""The names of a text, as far as its capitals show them."""

import re
import unicodedata
from collections.abc import Collection, Iterable, Sequence
from functools import cache
from typing import Final

from babel import Locale, UnknownLocaleError

from glyptarch_core.languages import language_of
from glyptarch_core.text.quotations import quotations
from glyptarch_core.text.words import fold, folded_words

__all__ = ["changed_names", "common_words", "foreign_words", "names_in"]

_WORD = re.compile(r"[^\W\d_]+(?:['’-][^\W\d_]+)*")
_BEGINS = re.compile(r"(?:^|[.!?…:;]['\"”’»)\]]*\s+|[\"“„«(\[–—•]\s*)$")
_NUMBERED = re.compile(r"\s+[\d№#]")
_FEWEST_LETTERS = 4
_KEPT_OF_A_STEM: Final = 4
_CASED: Final = ("LATIN", "CYRILLIC", "GREEK", "ARMENIAN")


def _script(word: str) -> str:
    letter = next(filter(str.isalpha, word), "")
    return unicodedata.name(letter, "").partition(" ")[0]


@cache
def _translated(language: str) -> frozenset[str]:
    """Return the names that languages translate: countries, languages, months, weekdays."""
    try:
        locale = Locale.parse(language.replace("-", "_"))
    except (UnknownLocaleError, ValueError):
        return frozenset()
    names = [*locale.territories.values(), *locale.languages.values()]
    for parts in (locale.months, locale.days):
        names += [name for widths in parts.values() for forms in widths.values() for name in forms.values()]
    return frozenset(fold(word) for name in names for word in _WORD.findall(str(name)))


def common_words(text: str) -> frozenset[str]:
    """Return the words that stand in a text in small letters, folded. None of them is a name."""
    return frozenset(fold(word) for word in _WORD.findall(text) if word[0].islower())


def names_in(text: str, language: str, *, common: Collection[str]) -> tuple[str, ...]:
    """Return the names of persons, places and works in a plain text (BCP 47), word by word.

    They are words with a capital within a sentence. None where the script has no capitals, or the language gives them
    to all nouns. Left out are what translations rightly change: words of fewer than four letters or all in capitals,
    before a number (“Section 3”), within quotation marks, ``common`` ones, and those that CLDR translates.
    """
    if language_of(language).nouns_have_capitals:
        return ()
    translated = _translated(language or "en")
    quoted = quotations(text)
    found = []
    for match in _WORD.finditer(text):
        word, begin = match[0], match.start()
        if not word[0].isupper() or word.isupper() or len(word) < _FEWEST_LETTERS or _script(word) not in _CASED:
            continue
        if _BEGINS.search(text[max(0, begin - 8) : begin]) or _NUMBERED.match(text, match.end()):
            continue
        if any(start <= begin < end for start, end in quoted):
            continue
        if fold(word) not in translated and fold(word) not in common:
            found.append(word)
    return tuple(dict.fromkeys(found))


def changed_names(names: Iterable[str], after: str) -> list[str]:
    """Return those of some names that a translation has not.

    A name may have other endings, and is looked for only where the translation is written in the same script.
    """
    words = folded_words(after)
    return [
        name
        for name in names
        if not all(_stands(_stem(part), words) for part in folded_words(name)) and _is_own_script(name, after)
    ]


def _stands(beginning: str, words: Sequence[str]) -> bool:
    return any(word.startswith(beginning) for word in words)


def _stem(name: str) -> str:
    return name[: max(_KEPT_OF_A_STEM, len(name) - 3)]


def _is_own_script(name: str, after: str) -> bool:
    """Whether most of a text is written in the script of a name."""
    words = _WORD.findall(after)
    return 2 * sum(_script(word) == _script(name) for word in words) > len(words)


def foreign_words(before: str, after: str) -> list[str]:
    """Return the names in Latin letters that a translation in another script has added.

    A text in Japanese, Arabic or Russian names few in Latin letters, and those are in the text as well.
    """
    words = _WORD.findall(after)
    if not words or _is_latin_mostly(words):
        return []
    known = frozenset(folded_words(before))
    named = [word for word in words if len(word) >= _FEWEST_LETTERS and word.istitle() and _script(word) == "LATIN"]
    return [word for word in named if not known.issuperset(folded_words(word))]


def _is_latin_mostly(words: list[str]) -> bool:
    return 2 * sum(_script(word) == "LATIN" for word in words) >= len(words)
