"""Languages as records, each in a file of its own.

A language without one has the neutral record.
"""

import re
from collections.abc import Iterable, Iterator, Mapping
from itertools import chain

from glyptarch_core.languages import (
    ar,
    bg,
    bn,
    ca,
    cs,
    da,
    de,
    el,
    en,
    es,
    et,
    fa,
    fi,
    fr,
    he,
    hi,
    hr,
    hu,
    indonesian,
    it,
    ja,
    ko,
    lt,
    lv,
    nb,
    neutral,
    nl,
    pl,
    pt,
    ro,
    ru,
    sk,
    sl,
    sr,
    sv,
    th,
    tr,
    uk,
    vi,
    zh,
)
from glyptarch_core.languages.record import Language

__all__ = ["LANGUAGES", "Language", "alternatives", "any_of", "base_language", "language_of", "phrases_of", "words_of"]

_MODULES = (
    ar, bg, bn, ca, cs, da, de, el, en, es, et, fa, fi, fr, he, hi, hr, hu, indonesian, it, ja, ko, lt, lv, nb, nl, pl,
    pt, ro, ru, sk, sl, sr, sv, th, tr, uk, vi, zh,
)  # fmt: skip

LANGUAGES: Mapping[str, Language] = {module.LANGUAGE.code: module.LANGUAGE for module in _MODULES}
"""The known languages by their tags."""

_OTHER_TAGS = {"no": "nb", "nn": "nb", "iw": "he", "in": "id", "sh": "sr", "bs": "hr", "me": "sr"}


def language_of(tag: str) -> Language:
    """Return the record of a language by its tag (BCP 47).

    Others have the neutral one.
    """
    return LANGUAGES.get(base_language(tag), neutral.LANGUAGE)


def base_language(tag: str) -> str:
    """Return the language of a tag (BCP 47) without script and region, by one name."""
    code = tag.replace("_", "-").partition("-")[0].lower()
    return _OTHER_TAGS.get(code, code)


def words_of(part: str) -> frozenset[str]:
    """Return the words that all languages have for a part of the record, such as ``titles``."""
    return frozenset(chain.from_iterable(getattr(language, part) for language in LANGUAGES.values()))


def alternatives(*parts: str, fewest: int = 1) -> str:
    """Return the phrases of all languages for parts of the record.

    They are alternatives of a regular expression.
    ``fewest`` leaves out phrases of fewer words: a single word such as “Anzeige” also stands in running text.
    """
    return any_of(phrase for part in parts for phrase in words_of(part) if _words_in(phrase) >= fewest)


def any_of(phrases: Iterable[str]) -> str:
    """Return phrases as alternatives of a regular expression.

    The longest come first, and any space may stand between words.
    """
    found = sorted(set(phrases), key=lambda phrase: (-len(phrase), phrase))
    return "|".join(re.escape(phrase).replace(r"\ ", r"\s+") for phrase in found)


_THAI = re.compile("[\u0e00-\u0e7f]")
_HAN_AND_KANA = re.compile("[\u2e80-\u9fff]")


def _words_in(phrase: str) -> int:
    """Return about how many words a phrase has, also in a script without spaces."""
    if " " in phrase:
        return phrase.count(" ") + 1
    return max(1, len(_THAI.findall(phrase)) // 6, len(_HAN_AND_KANA.findall(phrase)) // 2)


def phrases_of(part: str) -> Iterator[str]:
    """Yield the phrases that all languages have for a part of the record, longest first."""
    yield from sorted(words_of(part), key=lambda phrase: (-len(phrase), phrase))
