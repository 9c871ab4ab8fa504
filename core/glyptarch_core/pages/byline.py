"""Lines that name an author, such as “Text: Anna Bee” or “Von Anna Bee, 3. Mai”."""

import re
from functools import cache
from itertools import takewhile

from glyptarch_core.languages import alternatives, any_of, language_of, phrases_of
from glyptarch_core.languages.dates import weekday_words

__all__ = ["author_name", "name_beside", "name_in_byline"]

_LONGEST_NAME = 80
_MOST_WORDS = 6
_SHORT = 4
"""Bylines of fewer letters, such as Dutch “de” or Italian “di”, are words of other languages too."""
_WIDELY_USED = frozenset({"by", "von", "par", "por"})
_WITHIN_NAMES = frozenset(
    "a af al and bin da de del den der di do dos du e el en et i ibn la le och og of ten ter und van von y és ja ve"
    " și и і та".split()
)
_AFTER_NAME = re.compile(
    rf"\s*(?:[|·•,–—(（]|\b(?:on|am|published|updated|{alternatives('dated', fewest=2)})\b"
    rf"|\b(?:le|el|{alternatives('dated')})\b\s*(?:[:：]|\d|$)|\d).*$",
    re.IGNORECASE,
)
_SPLIT = re.compile(rf"\s+[|·•–—-]\s+|[|·•,]\s*|\b(?:written|on|am|le|el|{alternatives('dated')})\b:?", re.IGNORECASE)
_PERSON = re.compile(
    r"(?:[^\W\d_a-z][\w.'’-]*)(?:\s+(?:(?:de|van|von|der|la|le|al|bin|di|da)\s+)?[^\W\d_a-z][\w.'’-]*){1,3}"
)


@cache
def _bylines(code: str) -> tuple[re.Pattern[str], re.Pattern[str]]:
    """Return the pattern of a whole line that names an author, and of such words within a line.

    Short words count only where the page is in their language.
    """
    own = language_of(code).byline
    known = {
        phrase for phrase in phrases_of("byline") if phrase in own or phrase in _WIDELY_USED or len(phrase) >= _SHORT
    }
    words = any_of(known)
    return (
        re.compile(rf"^(?:{words})(?P<mark>\s*[:：/]\s*|\s+)(?P<name>.{{2,80}})$", re.IGNORECASE),
        re.compile(rf"\b(?:{words})(?:\s*[:：]\s*|\s+)(?P<name>(?:[^\W\d_][\w.'’-]*\s?){{1,4}})", re.IGNORECASE),
    )


def author_name(text: str, language: str = "") -> str:
    """Return the name in a byline, without “by” and a date.

    Empty where there is no name.
    """
    match = _bylines(language.partition("-")[0].lower())[0].match(text)
    name = _without_weekday(_AFTER_NAME.sub("", match["name"] if match else text).strip(" .,:;"))
    return name if 2 < len(name) <= _LONGEST_NAME and len(name.split()) <= _MOST_WORDS else ""  # noqa: PLR2004


def name_in_byline(text: str, language: str = "") -> str:
    """Return the name that a line of its own gives: “By Anna Bee”, “Text: A. Bee”.

    Without a colon every word must look like one of a name: “By the river” and “De brug is dicht.” name nobody.
    """
    match = _bylines(language.partition("-")[0].lower())[0].match(text)
    if match is None:
        return ""
    name = author_name(text, language)
    return name if match["mark"].strip() or _looks_like_names(name.split()) else ""


def name_beside(text: str, language: str = "") -> str:
    """Return the name beside a date on one line.

    The text is without the date: “| Anna Bee”, “Posted by Anna Bee in Sport”.
    """
    if match := _bylines(language.partition("-")[0].lower())[1].search(text):
        words = list(takewhile(_may_stand_in_name, match["name"].split()))
        name = author_name(" ".join(words), language)
        if _looks_like_names(words) and name:
            return name
    parts = (_without_weekday(part.strip(_BESIDE_NAMES)) for part in _SPLIT.split(text))
    return next((part for part in parts if _PERSON.fullmatch(part)), "")


_BESIDE_NAMES = " \t|·•–—-:,;()"


def _without_weekday(name: str) -> str:
    """Return a name without a weekday before or after it, which belongs to the date beside."""
    words = name.split()
    while words and words[-1].lower().strip(",.") in weekday_words():
        words.pop()
    while words and words[0].lower().strip(",.") in weekday_words():
        words.pop(0)
    return " ".join(words)


def _may_stand_in_name(word: str) -> bool:
    return word in _WITHIN_NAMES or not word[0].islower()


def _looks_like_names(words: list[str]) -> bool:
    return all(map(_may_stand_in_name, words)) and any(word not in _WITHIN_NAMES for word in words)
