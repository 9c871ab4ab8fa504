"""The one measure of words: what a reader counts, in any script.

A word is a run of letters, digits and marks; runs of scripts without spaces are parted by dictionaries (see
:mod:`glyptarch_core.text.words`). An apostrophe joins two parts to one word (UAX #29, WB6 and WB7). Sift, Shape, the
rights of sources and the interface all count so.
"""

import re
import unicodedata
from collections.abc import Iterator, Sequence
from itertools import islice

from glyptarch_core.text.words import has_unspaced, is_unspaced, separated, spans_of, word_pattern

__all__ = ["JOINT", "closing_marks", "count_words", "first_words", "joins", "shares_run"]

JOINT = re.compile(r"['\u2019](?<=[^\W\d_].)(?=[^\W_])")
"""An apostrophe that joins two letters. “club's” is found by the term “club”, and counts as one word."""

_CLOSING = frozenset({"Po", "Pe", "Pf"})
_DANGLING = ",;:–—-("


def _ends(text: str) -> Iterator[int]:
    """Yield the position after each word."""
    end = -1
    for start, stop in spans_of(text):
        joined = end >= 0 and start == end + 1 and JOINT.match(text, end) is not None
        if end >= 0 and not joined:
            yield end
        end = stop
    if end >= 0:
        yield end


def count_words(text: str) -> int:
    """Return the number of words as a reader counts them."""
    words = len(list(spans_of(text))) if has_unspaced(text) else len(word_pattern(text).findall(separated(text)))
    return words - (len(JOINT.findall(text)) if words else 0)


def first_words(text: str, count: int, *, ellipsis: str = "…") -> str:
    """Return a text up to its first ``count`` words and their closing marks.

    A shorter text is returned whole. The ellipsis marks omitted words. A word never breaks.
    """
    if count <= 0:
        return "" if count_words(text) else text
    ends = list(islice(_ends(text), count - 1, count + 1))
    if len(ends) <= 1:
        return text
    return f"{text[: _after_marks(text, ends[0])].rstrip(_DANGLING)}{ellipsis}"


def closing_marks(text: str) -> str:
    """Return the stops, quotes and brackets at the beginning of a text.

    They close the word before it.
    """
    return text[: _after_marks(text, 0)]


def joins(text: str) -> bool:
    """Whether the beginning of a text goes on with a word that ended in a letter."""
    first = text[:1]
    return first.isalnum() and not is_unspaced((first,))


def _after_marks(text: str, position: int) -> int:
    """Return the position after the stops, quotes and brackets that close a word."""
    while position < len(text) and unicodedata.category(text[position]) in _CLOSING:
        position += 1
    return position


def shares_run(words: Sequence[str], others: Sequence[str], most: int) -> bool:
    """Whether more than ``most`` words occur in both, adjacent and in the same order."""
    length = most + 1
    if min(len(words), len(others)) < length:
        return False
    runs = {tuple(others[position : position + length]) for position in range(len(others) - length + 1)}
    return any(tuple(words[position : position + length]) in runs for position in range(len(words) - length + 1))
