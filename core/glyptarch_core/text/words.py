"""The words of a text, folded for comparison, and their stems.

Folding follows the Unicode Standard: compatibility decomposition (UAX #15, NFKD) without the
combining marks, then full case folding (section 3.13). Words are runs of letters, digits and
marks; scripts written without spaces (CJK, kana, Thai, Lao, Khmer, Burmese) give one word for
each character, so that a term in them is found as a run of characters. Where words are counted or
shown, a run of them is parted by the dictionaries of ICU (UAX #29, section 4).
"""

import re
import unicodedata
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from functools import cache
from itertools import groupby

import snowballstemmer
from icu4py.breakers import WordBreaker

from glyptarch_core.text.caching import of_words
from glyptarch_core.text.clean import bounded_key, stream_safe

__all__ = [
    "STEMMED",
    "about_words",
    "fold",
    "folded_words",
    "has_unspaced",
    "is_unspaced",
    "name_key",
    "parted",
    "runs_of",
    "separated",
    "spans_of",
    "stem_of",
    "title_key",
    "word_pattern",
]

_LONGEST_KEY = 300
_LOOKED_AT = 200
_UNSPACED = "\u0e00-\u0eff\u1000-\u109f\u1780-\u17ff\u3040-\u30ff\u3400-\u4dbf\u4e00-\u9fff\U00020000-\U0003ffff"
_LAST = 0x1FFFF


def _ranges_of_marks() -> str:
    """Return the combining marks of all scripts as ranges of a character class (Mn, Mc and Me)."""
    marks = [code for code in range(0x300, _LAST) if unicodedata.category(chr(code)).startswith("M")]
    starts = [code for code in marks if unicodedata.category(chr(code - 1))[0] != "M"]
    ends = [code for code in marks if unicodedata.category(chr(code + 1))[0] != "M"]
    return "".join(f"{chr(first)}-{chr(last)}" for first, last in zip(starts, ends, strict=True))


MARKS = _ranges_of_marks()
"""The combining marks of all scripts, as ranges of a character class."""

# The soft hyphen separates nothing, and joiners occur inside Indic and Persian words.
_INSIDE = "\u00ad\u200c\u200d"
# A single letter with signs is a name of its own: C, C++ and C# are three.
_SIGNED = r"(?<![^\W_])[A-Za-z](?:\+\+|\#)(?![\w+#])"
_ASCII_WORD = re.compile(rf"{_SIGNED}|[0-9A-Za-z]+")
_SPACED_WORD = re.compile(rf"{_SIGNED}|\w[\w{MARKS}{_INSIDE}]*")
_ANY_WORD = re.compile(rf"{_SIGNED}|[{_UNSPACED}]|(?![{_UNSPACED}])\w(?:(?![{_UNSPACED}])[\w{MARKS}{_INSIDE}])*")
_HAS_UNSPACED = re.compile(f"[{_UNSPACED}]")
_WHOLE_RUN = re.compile(
    rf"{_SIGNED}|[{_UNSPACED}][{_UNSPACED}{MARKS}{_INSIDE}]*|(?![{_UNSPACED}])\w(?:(?![{_UNSPACED}])[\w{MARKS}{_INSIDE}])*"
)


def word_pattern(text: str) -> re.Pattern[str]:
    """Return the cheapest pattern that finds the words of a text.

    All three agree where they apply.
    """
    if text.isascii():
        return _ASCII_WORD
    return _ANY_WORD if _HAS_UNSPACED.search(text) else _SPACED_WORD


def separated(text: str) -> str:
    """Return a text of the same length with underscores replaced by separators.

    ``re`` takes underscores for word characters.
    """
    return text.replace("_", " ")


def folded_words(text: str) -> list[str]:
    """Return the words of a text, folded, in order."""
    pattern = word_pattern(text)
    words: list[str] = pattern.findall(separated(text).lower())
    return words if pattern is _ASCII_WORD else [word if word.isascii() else fold(word) for word in words]


def has_unspaced(text: str) -> bool:
    """Whether a text has characters of a script without spaces."""
    return not text.isascii() and _HAS_UNSPACED.search(text) is not None


def spans_of(text: str) -> Iterator[tuple[int, int]]:
    """Yield the places of the words that a reader sees, each with its end, in any script."""
    if not has_unspaced(text):
        for match in word_pattern(text).finditer(separated(text)):
            yield match.span()
        return
    for match in _WHOLE_RUN.finditer(separated(text)):
        if not has_unspaced(match[0]):
            yield match.span()
            continue
        end = match.start()
        for piece in parted(match[0]):
            start, end = end, end + len(piece)
            if any(map(str.isalnum, piece)):
                yield start, end


def parted(run: str) -> Iterable[str]:
    """Part a run of a script without spaces into words, by the dictionary for it."""
    return WordBreaker(run, "und")


def about_words(words: Sequence[str]) -> int:
    """Return how many words a reader counts in a run of folded words.

    Folded Thai has lost its tone marks, which its dictionary knows, so there the number can be a little off.
    """
    runs = groupby(words, key=_is_character)
    return sum(len(list(parted("".join(run)))) if unspaced else len(list(run)) for unspaced, run in runs)


def is_unspaced(words: Sequence[str]) -> bool:
    """Whether most words are single characters of a script without spaces."""
    begin = words[:_LOOKED_AT]
    return 2 * sum(map(_is_character, begin)) > len(begin)


def _is_character(word: str) -> bool:
    return _HAS_UNSPACED.match(word) is not None


def runs_of(text: str) -> list[str]:
    """Return the runs between spaces and signs.

    Scripts written without spaces are not split.
    """
    return _SPACED_WORD.findall(separated(text))


# Marks that make another letter (Canonical_Combining_Class): nukta 7, kana voicing 8, virama 9.
_KEPT_MARKS = frozenset({0, 7, 8, 9})
# Letters without a decomposition that readers take for their plain form.
_PLAIN = {
    **str.maketrans("øłđħıŧ", "oldhit"),
    **dict.fromkeys(map(ord, "\u00ad\u200c\u200d")),
}


@of_words
def fold(word: str) -> str:
    """Return a word in the form that ignores case, accents and width."""
    if word.isascii():
        return word.lower()
    decomposed = unicodedata.normalize("NFKD", stream_safe(word.casefold())).translate(_PLAIN)
    # Decomposition can yield capitals (of a mathematical letter, for example), so the case is folded again.
    bare = "".join(char for char in decomposed if unicodedata.combining(char) in _KEPT_MARKS).casefold()
    # A ligature of several words (U+FDFA) is one word.
    return "".join(bare.split()) or word


# Languages (BCP 47) with a Snowball stemmer.
STEMMED: Mapping[str, str] = {
    "da": "danish",
    "de": "german",
    "en": "english",
    "es": "spanish",
    "fi": "finnish",
    "fr": "french",
    "hu": "hungarian",
    "it": "italian",
    "nl": "dutch",
    "no": "norwegian",
    "pt": "portuguese",
    "ro": "romanian",
    "ru": "russian",
    "sv": "swedish",
    "tr": "turkish",
}


def stem_of(word: str, language: str) -> str:
    """Return the stem of a folded word.

    The word itself where the language has no stemmer.
    """
    return _stemmer(language)(word) if language in STEMMED else word


@cache
def _stemmer(language: str) -> Callable[[str], str]:
    """Return the cached stemmer of a language."""

    @of_words
    def stem(word: str) -> str:
        # A stemmer keeps state during a call, so each call has its own.
        return fold(str(snowballstemmer.stemmer(STEMMED[language]).stemWord(word)))

    return stem


def name_key(name: str) -> str:
    """Return the comparison form of a category, tag or byline.

    NFKC, ignoring case, at most 300 characters. Signs count, so that “C”, “C++” and “C#” are three names.
    """
    return bounded_key(" ".join(unicodedata.normalize("NFKC", stream_safe(name)).casefold().split()), _LONGEST_KEY)


def title_key(title: str) -> str:
    """Return the comparison form of a title: its folded words with single spaces."""
    return " ".join(folded_words(title))
