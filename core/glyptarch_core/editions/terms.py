"""Terms of a glossary in a text of any script."""

import re
from collections.abc import Sequence
from functools import lru_cache

from glyptarch_core.text.words import folded_words

__all__ = ["times"]


@lru_cache(maxsize=4096)
def _pattern(forms: Sequence[str], *, endings: bool) -> re.Pattern[str]:
    """Return a pattern of the forms of a term in folded words, the longest first.

    With ``endings`` a form may be the beginning of a word.
    """
    runs = sorted((" ".join(words) for form in forms if (words := folded_words(form))), key=len, reverse=True)
    return re.compile(rf"(?<= )(?:{'|'.join(map(re.escape, runs))}){'' if endings else '(?= )'}" if runs else "(?!)")


def times(text: str, forms: Sequence[str], *, endings: bool = False) -> int:
    """Return how often a term stands in a plain text, in any of its forms."""
    words = f" {' '.join(folded_words(text))} "
    return len(_pattern(tuple(forms), endings=endings).findall(words))
