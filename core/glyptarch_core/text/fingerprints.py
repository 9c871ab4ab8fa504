"""Fingerprints of texts, which estimate likeness without comparing every word.

A text is the set of its shingles (runs of three words, more in scripts without spaces; Broder 1997). The smallest
hashes of the set are kept: a bottom-k sketch (Cohen and Kaplan, PODC 2007). Two sketches give an unbiased estimate of
containment, the share of the smaller set that is in the larger, for any lengths, so that an excerpt is found in its
whole. The sixteen smallest hashes are index keys: an excerpt of half a text shares about half of them.

Form alone does not make two texts the same: what differs is looked at too (:mod:`glyptarch_core.text.differing`).
Common passages of the blog (:mod:`glyptarch_core.text.common`) weigh little: three stock sentences do not make two
short texts one story.
"""

import struct
import zlib
from bisect import bisect_right
from collections.abc import Iterator
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from glyptarch_core.text.caching import of_words
from glyptarch_core.text.common import NOTHING_COMMON, CommonShingles
from glyptarch_core.text.passage import Passage

__all__ = [
    "FEWEST_SHARED",
    "KEYS",
    "Fingerprint",
    "Likeness",
    "fingerprint_of",
    "likeness",
    "shared_passages",
    "title_keys",
    "title_likeness",
]

KEYS = 16
"""How many hashes serve as keys of the index."""

FEWEST_SHARED = 2
"""How many keys a candidate must share at least; one alone is a stock phrase more often than a story."""

_SKETCH = 256
# Three words carry meaning together. Chinese and Japanese have about two characters to a word, Thai, Lao, Khmer and
# Burmese three or more, and each counts as a word here.
_SHINGLE = 3
_CJK_SHINGLE = 5
_THAI_SHINGLE = 9
_LOOKED_AT = 200
_FACTOR = np.uint64(0x9E3779B97F4A7C15)
_SHORTEST_RUN = 6
# Two texts that share this part of the longer one are alike as a whole.
_WHOLLY = 0.9
# The least weight of a common shingle in the size of a text. Otherwise two texts made of common passages and little
# else would be the same.
_LEAST_WEIGHT = 0.35
_TITLE_KEYS = 8

Hashes = NDArray[np.uint64]

_HEAD = struct.Struct("<?II")


@dataclass(frozen=True, slots=True, eq=False)
class Fingerprint:
    """The fingerprint of a text.

    ``sketch`` holds its smallest shingle hashes in rising order, all of them when ``complete``;
    ``words`` is the number of its words. Hashes have 63 bits, to fit a signed column.
    """

    sketch: tuple[int, ...]
    complete: bool
    words: int
    _hashes: frozenset[int] | None = field(default=None, init=False, repr=False)

    @property
    def hashes(self) -> frozenset[int]:
        """The sketch as a set, made when it is first asked for: few texts are ever compared."""
        if self._hashes is None:
            object.__setattr__(self, "_hashes", frozenset(self.sketch))
        return self._hashes or frozenset()

    @property
    def keys(self) -> list[int]:
        """The hashes by which the text is looked up."""
        return list(self.sketch[:KEYS])

    def up_to(self, limit: int) -> int:
        """Return the number of hashes of the sketch up to a limit."""
        return bisect_right(self.sketch, limit)

    def packed(self) -> bytes:
        """Return the fingerprint as bytes: a head, then 8 bytes for each hash of the sketch."""
        size = len(self.sketch)
        return _HEAD.pack(self.complete, self.words, size) + struct.pack(f"<{size}Q", *self.sketch)

    @classmethod
    def unpacked(cls, data: bytes | memoryview) -> "Fingerprint":
        """Return the fingerprint from the bytes of :meth:`packed`.

        Bytes after the sketch, which an earlier release wrote, are passed over. Raises ValueError for other bytes.
        """
        try:
            complete, words, size = _HEAD.unpack_from(data)
            sketch = struct.unpack_from(f"<{size}Q", data, _HEAD.size)
        except struct.error as error:
            raise ValueError("these bytes are no fingerprint of a text") from error
        return cls(sketch, bool(complete), words)


@dataclass(frozen=True, slots=True, kw_only=True)
class Likeness:
    """The share of the shorter text that is in the longer, 0 to 1, by shingles.

    ``text`` weighs shingles by how rare they are, ``unweighted`` counts each as one.
    """

    text: float
    unweighted: float


@of_words
def _word_hash(word: str) -> int:
    data = word.encode("utf-8", "surrogatepass")
    return zlib.crc32(data) | (zlib.adler32(data) << 32)


def _mixed(values: Hashes) -> Hashes:
    """Spread hashes evenly over 63 bits (the finaliser of SplitMix64, Steele et al. 2014)."""
    mixed = values
    mixed = (mixed ^ (mixed >> np.uint64(30))) * np.uint64(0xBF58476D1CE4E5B9)
    mixed = (mixed ^ (mixed >> np.uint64(27))) * np.uint64(0x94D049BB133111EB)
    return (mixed ^ (mixed >> np.uint64(31))) >> np.uint64(1)


def _shingle_length(words: tuple[str, ...]) -> int:
    """Return the number of words of a shingle.

    It is higher where most words are single letters of a script without spaces.
    """
    begin = words[:_LOOKED_AT]
    letters = [word for word in begin if len(word) == 1]
    if 2 * len(letters) <= len(begin):
        return _SHINGLE
    southern = sum("\u0e00" <= letter <= "\u17ff" for letter in letters)
    return _THAI_SHINGLE if 2 * southern > len(letters) else _CJK_SHINGLE


def _shingles(words: tuple[str, ...]) -> Hashes:
    """Return the hash of every run of so many words, in text order."""
    hashes = np.fromiter((_word_hash(word) for word in words), dtype=np.uint64, count=len(words))
    length = _shingle_length(words)
    if len(hashes) < length:
        return _mixed(hashes)
    runs = np.zeros(len(hashes) - length + 1, dtype=np.uint64)
    for start in range(length):
        runs = runs * _FACTOR + hashes[start : start + len(runs)]
    return _mixed(runs)


def fingerprint_of(passage: Passage) -> Fingerprint:
    """Return the fingerprint of a text."""
    unique = np.unique(_shingles(passage.words))
    sketch = tuple(unique[:_SKETCH].tolist())
    return Fingerprint(sketch, len(unique) <= _SKETCH, passage.word_count)


def likeness(text: Fingerprint, other: Fingerprint, common: CommonShingles = NOTHING_COMMON) -> Likeness:
    """Estimate the share of the shorter text in the longer one.

    ``common`` shingles weigh little.
    """
    limits = [side.sketch[-1] for side in (text, other) if not side.complete and side.sketch]
    # Both sketches are complete up to this hash; beyond it they cannot be compared.
    shorter, longer = sorted(
        (side.sketch[: side.up_to(min(limits))] if limits else side.sketch for side in (text, other)), key=len
    )
    if not shorter:
        return Likeness(text=0.0, unweighted=0.0)
    shared = text.hashes & other.hashes
    unweighted = len(shared) / len(shorter)
    # Texts alike as a whole are the same, however common their parts are.
    if not common.counts or len(shared) >= _WHOLLY * len(longer):
        return Likeness(text=unweighted, unweighted=unweighted)
    weighed = sum(map(common.weight, shared))
    whole = sum(max(_LEAST_WEIGHT, common.weight(shingle)) for shingle in shorter)
    return Likeness(text=min(weighed / whole, unweighted), unweighted=unweighted)


def _runs(words: tuple[str, ...]) -> Iterator[tuple[str, ...]]:
    return zip(words, words[1:], words[2:], strict=False)


def shared_passages(passage: Passage, other: Passage, *, most: int = 3) -> list[str]:
    """Return the longest runs of words of one text that occur in another."""
    theirs = set(_runs(other.words))
    runs: list[tuple[int, int]] = []
    start = None
    for position, shared in enumerate([*(run in theirs for run in _runs(passage.words)), False]):
        if shared and start is None:
            start = position
        elif not shared and start is not None:
            runs.append((start, position + _SHINGLE - 1))
            start = None
    long_ones = [run for run in runs if run[1] - run[0] >= _SHORTEST_RUN]
    longest = sorted(long_ones, key=lambda run: run[0] - run[1])[:most]
    return [passage.between(first, last) for first, last in sorted(longest)]


def title_keys(title_key: str) -> list[int]:
    """Return the index keys of a title: the smallest hashes of its words."""
    hashes = np.fromiter((_word_hash(word) for word in set(title_key.split())), dtype=np.uint64)
    return [int(value) for value in np.sort(_mixed(hashes))[:_TITLE_KEYS]]


def title_likeness(title: str, other: str) -> float:
    """Return the shared words of two normalised titles (Dice), 0 where their numbers differ."""
    first, second = set(title.split()), set(other.split())
    if {word for word in first if word.isdigit()} != {word for word in second if word.isdigit()}:
        return 0.0
    return 2 * len(first & second) / (len(first) + len(second)) if first and second else 0.0
