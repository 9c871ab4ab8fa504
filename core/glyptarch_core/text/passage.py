"""A text with its folded words and their positions, and terms looked up in them."""

from bisect import bisect_left
from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import islice

from glyptarch_core.text.markup import plain_text
from glyptarch_core.text.measure import JOINT, count_words
from glyptarch_core.text.term import Hit, Term
from glyptarch_core.text.words import folded_words, has_unspaced, separated, stem_of, word_pattern

__all__ = ["Passage"]


_FEW_WORDS = 200


class Passage:
    """A plain text with its folded words. Equal texts make equal passages.

    Words, their index and their positions in the text are made when they are first asked for.
    """

    __slots__ = ("_folded", "_padded", "_places", "_spans", "_stemmed", "_unique", "_vocabulary", "text")

    def __init__(self, text: str, *, folded: str | None = None) -> None:
        self.text = text
        self._padded = None if folded is None else f" {folded} "
        self._folded: list[str] | None = None
        self._places: dict[str, list[int]] | None = None
        self._spans: list[tuple[int, int]] | None = None
        self._vocabulary: list[str] | None = None
        self._unique: frozenset[str] | None = None
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
            self._folded = folded_words(self.text) if self._padded is None else self._padded.split()
        return self._folded

    @property
    def folded(self) -> str:
        """The folded words with spaces between them, to be stored with the text."""
        return self.padded[1:-1]

    @property
    def padded(self) -> str:
        """The folded words, each between spaces, so that a run of words is found as a piece of it."""
        if self._padded is None:
            self._padded = f" {' '.join(self._words)} "
        return self._padded

    @property
    def words(self) -> tuple[str, ...]:
        """The folded words in their order."""
        return tuple(self._words)

    @property
    def spans(self) -> Sequence[tuple[int, int]]:
        """The places of the words in the text, each with its end."""
        return self._all_spans()

    def between(self, first: int, last: int) -> str:
        """Return the text between two word numbers, the last excluded."""
        spans = self._spans_of(first, last)
        return self.text[spans[0][0] : spans[-1][1]]

    @property
    def word_count(self) -> int:
        """The number of words as a reader counts them."""
        return count_words(self.text) if has_unspaced(self.text) else len(self._words) - len(JOINT.findall(self.text))

    def has(self, term: Term) -> bool:
        """Whether the term occurs.

        Faster than finding its positions.
        """
        if term.signs is not None:
            return term.signs.search(self.text) is not None
        if term.stem:
            return self._stems(term.stem).has(replace(term, stem=""))
        first, prefix = term.words[0]
        if self._folded is None and self._padded is None and self.text.isascii() and first not in self.text.lower():
            return False
        run = term.run
        if run is not None:
            return run in self.padded
        return any(self._goes_on(term.words, position) for position in self._starts(first, prefix=prefix))

    @property
    def _distinct(self) -> frozenset[str]:
        """The folded words, each once."""
        if self._unique is None:
            self._unique = frozenset(self._words)
        return self._unique

    @property
    def _sorted(self) -> Sequence[str]:
        """The folded words, each once, in order."""
        if self._vocabulary is None:
            self._vocabulary = sorted(self._distinct)
        return self._vocabulary

    def times(self, words: Sequence[str]) -> int:
        """Return how often folded words occur one after another."""
        padded, run = self.padded, f" {' '.join(words)} "
        times, at = 0, padded.find(run)
        while at >= 0:
            times += 1
            # Matches can overlap, because the final space of one is the first of the next.
            at = padded.find(run, at + 1)
        return times

    def find(self, term: Term) -> Iterator[Hit]:
        """Yield every position of the term, in text order."""
        if term.signs is not None:
            yield from (Hit(*match.span()) for match in term.signs.finditer(self.text))
            return
        if term.stem:
            yield from self._stems(term.stem).find(replace(term, stem=""))
            return
        length = len(term.words)
        for position in self._positions(term):
            spans = self._all_spans()
            yield Hit(spans[position][0], spans[position + length - 1][1])

    def first(self, term: Term) -> tuple[Hit | None, int]:
        """Return the first position of the term, and the number of its occurrences.

        Faster than :meth:`find` in a long text, because it computes only one position.
        """
        if term.signs is not None:
            hits = list(self.find(term))
            return (hits[0] if hits else None), len(hits)
        if term.stem:
            return self._stems(term.stem).first(replace(term, stem=""))
        first, times = self._first_place(term)
        if not times:
            return None, 0
        spans = self._spans_of(first, first + len(term.words))
        return Hit(spans[0][0], spans[-1][1]), times

    def _first_place(self, term: Term) -> tuple[int, int]:
        """Return the first word number at which the term begins, and its occurrences."""
        if len(term.words) > 1 or self._places is not None:
            positions = self._positions(term)
            return (positions[0] if positions else 0), len(positions)
        word, prefix = term.words[0]
        forms = self._beginning(word) if prefix else [word] if word in self._distinct else []
        positions = [self._words.index(form) for form in forms]
        return min(positions, default=0), sum(self._words.count(form) for form in forms)

    def _spans_of(self, first: int, last: int) -> list[tuple[int, int]]:
        """Return the positions of a range of words, the last excluded."""
        if self._spans is not None:
            return self._spans[first:last]
        matches = islice(word_pattern(self.text).finditer(separated(self.text)), first, last)
        return [match.span() for match in matches]

    def _positions(self, term: Term) -> list[int]:
        """Return the word numbers at which the term begins."""
        first, prefix = term.words[0]
        starts = self._starts(first, prefix=prefix)
        return (
            starts if len(term.words) == 1 else [position for position in starts if self._goes_on(term.words, position)]
        )

    def _stems(self, language: str) -> "Passage":
        """Return this passage with each word replaced by its stem, at the same positions."""
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
            self._spans = [match.span() for match in word_pattern(self.text).finditer(separated(self.text))]
        return self._spans

    def _index(self) -> dict[str, list[int]]:
        if self._places is None:
            positions: dict[str, list[int]] = {}
            for position, word in enumerate(self._words):
                if word in positions:
                    positions[word].append(position)
                else:
                    positions[word] = [position]
            self._places = positions
        return self._places

    def _starts(self, word: str, *, prefix: bool) -> list[int]:
        if not prefix and self._places is None and len(self._words) <= _FEW_WORDS:
            # For one look-up in a short text, an index of all words costs more.
            return [position for position, own in enumerate(self._words) if own == word]
        positions = self._index()
        if not prefix:
            return positions.get(word, [])
        return sorted(position for form in self._beginning(word) for position in positions[form])

    def _beginning(self, start: str) -> Sequence[str]:
        """Return the words with this beginning."""
        sorted_words = self._sorted
        first = last = bisect_left(sorted_words, start)
        while last < len(sorted_words) and sorted_words[last].startswith(start):
            last += 1
        return sorted_words[first:last]

    def _goes_on(self, words: tuple[tuple[str, bool], ...], position: int) -> bool:
        next_words = self._words[position + 1 : position + len(words)]
        if len(next_words) < len(words) - 1:
            return False
        following = zip(words[1:], next_words, strict=True)
        return all(word.startswith(want) if prefix else word == want for (want, prefix), word in following)
