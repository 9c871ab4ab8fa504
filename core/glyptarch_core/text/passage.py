"""Words of a text, folded for comparison, with their places; and terms looked up in them.

Folding follows the Unicode Standard: compatibility decomposition (UAX #15, NFKD) without the
combining marks, then full case folding (section 3.13). Words are runs of letters, digits and
marks; scripts written without spaces (CJK, kana, Thai, Lao, Khmer, Burmese) give one word for
each character, so that a term in them is found as a run of characters.
"""

import re
import unicodedata
from bisect import bisect_left
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import islice

import snowballstemmer

from glyptarch_core.text.markup import plain_text

__all__ = ["STEMMED", "Hit", "Passage", "Term", "fold", "stem_of", "title_key"]

_UNSPACED = "\u0e00-\u0eff\u1000-\u109f\u1780-\u17ff\u3040-\u30ff\u3400-\u4dbf\u4e00-\u9fff\U00020000-\U0003ffff"
_MARKS = "\u0300-\u036f\u0483-\u0487\u0591-\u05bd\u05bf-\u05c7\u0610-\u061a\u064b-\u065f\u0900-\u0903\u093a-\u094f"
_ASCII_WORD = re.compile("[0-9A-Za-z]+")
_SPACED_WORD = re.compile(rf"[\w{_MARKS}]+")
_ANY_WORD = re.compile(rf"[{_UNSPACED}]|(?:(?![{_UNSPACED}])[\w{_MARKS}])+")
_HAS_UNSPACED = re.compile(f"[{_UNSPACED}]")
# "club's" is found by the term "club", but a reader counts it as one word.
_JOINT = re.compile(r"['\u2019](?<=[^\W\d_].)(?=[^\W_])")


def _pattern(text: str) -> re.Pattern[str]:
    """Give the cheapest pattern that finds the words of this text; all three agree where they apply."""
    if text.isascii():
        return _ASCII_WORD
    return _ANY_WORD if _HAS_UNSPACED.search(text) else _SPACED_WORD


def _separated(text: str) -> str:
    """Give a text of the same length in which the underscore, a word character to ``re``, parts words."""
    return text.replace("_", " ")


def _folded_words(text: str) -> list[str]:
    pattern = _pattern(text)
    words: list[str] = pattern.findall(_separated(text).lower())
    return words if pattern is _ASCII_WORD else [word if word.isascii() else fold(word) for word in words]


@lru_cache(maxsize=1 << 16)
def fold(word: str) -> str:
    """Give a word without regard to case, accents and width."""
    if word.isascii():
        return word.lower()
    decomposed = unicodedata.normalize("NFKD", word.casefold())
    # Decomposing can bring out capitals (a mathematical letter, say), so the case is folded once more.
    bare = "".join(char for char in decomposed if not unicodedata.combining(char)).casefold()
    # A ligature of several words (U+FDFA) is one word here as well.
    return "".join(bare.split()) or word


# Languages by their tags (BCP 47), for which the Snowball project gives a stemmer.
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


@lru_cache(maxsize=1 << 16)
def stem_of(word: str, language: str) -> str:
    """Give the stem of a folded word; the word itself where the language has no stemmer."""
    if language not in STEMMED:
        return word
    # The stemmers keep state while they work, so each call has its own.
    stemmer = snowballstemmer.stemmer(STEMMED[language])
    return fold(str(stemmer.stemWord(word)))


@dataclass(frozen=True, slots=True)
class Hit:
    """A place in a text, in characters from its start: ``text[start:end]``."""

    start: int
    end: int


@dataclass(frozen=True, slots=True)
class Term:
    """Words to look for, one after another; a word ending in ``*`` stands for all that begin so.

    With ``stem`` (a language) the words are stems, and are compared with the stems of a text.
    """

    text: str
    words: tuple[tuple[str, bool], ...]
    stem: str = ""

    @classmethod
    def parse(cls, text: str, *, stem: str = "") -> "Term":
        """Read a term as a person writes it: quotes around a phrase are allowed and mean nothing more.

        Raises ValueError when no word is left to look for.
        """
        words = [
            (fold(match.group()), text[match.end() : match.end() + 1] == "*")
            for match in _pattern(text).finditer(_separated(text))
        ]
        if not words:
            raise ValueError(f"“{text}” has no word in it")
        stemmed = tuple((word if prefix else stem_of(word, stem), prefix) for word, prefix in words)
        return cls(text=text.strip().strip('"“”').strip(), words=stemmed, stem=stem)

    @property
    def run(self) -> str | None:
        """The words as they stand among folded ones, between spaces; None where one before the last is a beginning."""
        if any(prefix for _, prefix in self.words[:-1]):
            return None
        return f" {' '.join(word for word, _ in self.words)}{'' if self.words[-1][1] else ' '}"


HEAD = 3
"""How many letters of a word :attr:`Passage.heads` holds."""


class Passage:
    """A plain text with its folded words. Equal texts make equal passages.

    Words, their index and their places in the text are made when they are first asked for.
    """

    __slots__ = ("_folded", "_heads", "_joined", "_places", "_spans", "_stemmed", "_unique", "_vocabulary", "text")

    def __init__(self, text: str, *, folded: str | None = None) -> None:
        self.text = text
        self._joined = folded
        self._folded: list[str] | None = None
        self._places: dict[str, list[int]] | None = None
        self._spans: list[tuple[int, int]] | None = None
        self._vocabulary: list[str] | None = None
        self._unique: frozenset[str] | None = None
        self._heads: frozenset[str] | None = None
        self._stemmed: dict[str, Passage] | None = None

    @classmethod
    def of_text(cls, text: str) -> "Passage":
        """Index a plain text."""
        return cls(text)

    @classmethod
    def of_html(cls, html: str) -> "Passage":
        """Index the text that a reader of an HTML fragment would see."""
        return cls(plain_text(html))

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Passage) and self.text == other.text

    def __hash__(self) -> int:
        return hash(self.text)

    def __repr__(self) -> str:
        return f"Passage({self.text[:40]!r})"

    @property
    def _words(self) -> list[str]:
        if self._folded is None:
            self._folded = _folded_words(self.text) if self._joined is None else self._joined.split()
        return self._folded

    @property
    def folded(self) -> str:
        """The folded words with spaces between them, to be kept with the text and handed back with it."""
        return " ".join(self._words)

    @property
    def words(self) -> tuple[str, ...]:
        """The folded words in their order."""
        return tuple(self._words)

    def between(self, first: int, last: int) -> str:
        """Give the text from one word to (not with) another, by their numbers."""
        spans = self._spans_of(first, last)
        return self.text[spans[0][0] : spans[-1][1]]

    @property
    def word_count(self) -> int:
        """How many words a reader would count."""
        return len(self._words) - len(_JOINT.findall(self.text))

    def has(self, term: Term) -> bool:
        """Tell whether the term stands anywhere; quicker than looking for its places."""
        if term.stem:
            return self._stems(term.stem).has(replace(term, stem=""))
        first, prefix = term.words[0]
        if self._folded is None and self._joined is None and self.text.isascii() and first not in self.text.lower():
            return False
        run = term.run
        if run is not None:
            return run in self._padded
        return any(self._goes_on(term.words, place) for place in self._starts(first, prefix=prefix))

    @property
    def _padded(self) -> str:
        """The folded words, each between spaces, so that a run of words is found as a piece of it."""
        return f" {self.folded if self._joined is None else self._joined} "

    @property
    def distinct(self) -> frozenset[str]:
        """The folded words, each once."""
        if self._unique is None:
            self._unique = frozenset(self._words)
        return self._unique

    @property
    def heads(self) -> frozenset[str]:
        """The first three letters of each word: where one is missing, no word begins with more than it."""
        if self._heads is None:
            self._heads = frozenset([word[:HEAD] for word in self.distinct])
        return self._heads

    @property
    def vocabulary(self) -> Sequence[str]:
        """The folded words, each once, in order."""
        if self._vocabulary is None:
            self._vocabulary = sorted(self.distinct)
        return self._vocabulary

    def find(self, term: Term) -> Iterator[Hit]:
        """Give every place where the term stands, in the order of the text."""
        if term.stem:
            yield from self._stems(term.stem).find(replace(term, stem=""))
            return
        length = len(term.words)
        for place in self._standing(term):
            spans = self._all_spans()
            yield Hit(spans[place][0], spans[place + length - 1][1])

    def first(self, term: Term) -> tuple[Hit | None, int]:
        """Give the first place where the term stands, and how often it stands there in all.

        Quicker than :meth:`find` for a long text, since it looks no further for the place.
        """
        if term.stem:
            return self._stems(term.stem).first(replace(term, stem=""))
        first, times = self._first_place(term)
        if not times:
            return None, 0
        spans = self._spans_of(first, first + len(term.words))
        return Hit(spans[0][0], spans[-1][1]), times

    def _first_place(self, term: Term) -> tuple[int, int]:
        """Give the number of the first word at which the term begins, and at how many it does."""
        if len(term.words) > 1 or self._places is not None:
            places = self._standing(term)
            return (places[0] if places else 0), len(places)
        word, prefix = term.words[0]
        forms = self._beginning(word) if prefix else [word] if word in self.distinct else []
        places = [self._words.index(form) for form in forms]
        return min(places, default=0), sum(self._words.count(form) for form in forms)

    def _spans_of(self, first: int, last: int) -> list[tuple[int, int]]:
        """Give the places of the words from one to (not with) another, looking no further than that."""
        if self._spans is not None:
            return self._spans[first:last]
        found = islice(_pattern(self.text).finditer(_separated(self.text)), first, last)
        return [match.span() for match in found]

    def _standing(self, term: Term) -> list[int]:
        """Give the numbers of the words at which the term begins."""
        first, prefix = term.words[0]
        starts = self._starts(first, prefix=prefix)
        return starts if len(term.words) == 1 else [place for place in starts if self._goes_on(term.words, place)]

    def _stems(self, language: str) -> "Passage":
        """Give this passage with each word replaced by its stem, at the same places."""
        if self._stemmed is None:
            self._stemmed = {}
        if language not in self._stemmed:
            stems = Passage(self.text)
            stems._folded = [stem_of(word, language) for word in self._words]
            stems._spans = self._all_spans()
            self._stemmed[language] = stems
        return self._stemmed[language]

    def _all_spans(self) -> list[tuple[int, int]]:
        if self._spans is None:
            self._spans = [match.span() for match in _pattern(self.text).finditer(_separated(self.text))]
        return self._spans

    def _index(self) -> dict[str, list[int]]:
        if self._places is None:
            places: dict[str, list[int]] = {}
            for place, word in enumerate(self._words):
                if word in places:
                    places[word].append(place)
                else:
                    places[word] = [place]
            self._places = places
        return self._places

    def _starts(self, word: str, *, prefix: bool) -> list[int]:
        places = self._index()
        if not prefix:
            return places.get(word, [])
        return sorted(place for form in self._beginning(word) for place in places[form])

    def _beginning(self, start: str) -> Sequence[str]:
        """Give the words that begin so."""
        known = self.vocabulary
        first = last = bisect_left(known, start)
        while last < len(known) and known[last].startswith(start):
            last += 1
        return known[first:last]

    def _goes_on(self, words: tuple[tuple[str, bool], ...], place: int) -> bool:
        found = self._words[place + 1 : place + len(words)]
        if len(found) < len(words) - 1:
            return False
        following = zip(words[1:], found, strict=True)
        return all(word.startswith(want) if prefix else word == want for (want, prefix), word in following)


def title_key(title: str) -> str:
    """Give a title as it is compared: its folded words with single spaces between them."""
    return " ".join(_folded_words(title))
