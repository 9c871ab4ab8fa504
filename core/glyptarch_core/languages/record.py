"""What is known of a language.

Names of months and weekdays, the order of dates and the ways to say “three hours ago” come from CLDR through babel. The
words are ours: each language has a file of its own.
"""

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import timedelta
from functools import cached_property
from typing import Literal

from babel import Locale
from babel.dates import format_timedelta

__all__ = ["Language", "phrases", "words"]

_Unit = Literal["minute", "hour", "day", "week", "month", "year"]
_UNITS: Mapping[_Unit, int] = {
    "minute": 60,
    "hour": 3600,
    "day": 86_400,
    "week": 604_800,
    "month": 2_629_800,
    "year": 31_557_600,
}
# One number for each plural form that some language has (CLDR plural rules).
_COUNTS = (2, 3, 5, 11, 21)
_NUMBER = re.compile(r"\d+")


def words(text: str) -> frozenset[str]:
    """Return the words of a line."""
    return frozenset(text.split())


def phrases(text: str) -> tuple[str, ...]:
    """Return the phrases of a line, parted by bars."""
    return tuple(phrase.strip() for phrase in text.split("|") if phrase.strip())


@dataclass(frozen=True, kw_only=True)
class Language:
    """A language. ``code`` is its tag (BCP 47), ``locales`` those of CLDR that it is read from.

    ``spaced`` says whether spaces part words. Words and phrases are in small letters: ``titles`` of persons;
    ``abbreviations`` with a point that ends no sentence; ``openers``, which have a capital only at the beginning of a
    sentence; ``after_ordinals``, which go on after “3.”; ``date_words`` between the parts of a date. Then words of
    pages: ``byline`` before a name; ``dated`` before a date; ``notices`` in lines that are no part of an article;
    labels of links (``read_more``, ``next_page``) and buttons (``agree``); words of pages that are no article
    (``consent``, ``paywall``, ``missing``, ``login``); labels of tags (``tagged``) and of what puts a thing into a
    basket (``buying``).
    """

    code: str
    locales: tuple[str, ...] = ()
    nouns_have_capitals: bool = False
    spaced: bool = True
    quotes: tuple[str, str, str, str] | None = None
    titles: frozenset[str] = frozenset()
    abbreviations: frozenset[str] = frozenset()
    openers: frozenset[str] = frozenset()
    after_ordinals: frozenset[str] = frozenset()
    date_words: frozenset[str] = frozenset()
    byline: tuple[str, ...] = ()
    dated: tuple[str, ...] = ()
    today: tuple[str, ...] = ()
    yesterday: tuple[str, ...] = ()
    notices: tuple[str, ...] = ()
    read_more: tuple[str, ...] = ()
    next_page: tuple[str, ...] = ()
    consent: tuple[str, ...] = ()
    agree: tuple[str, ...] = ()
    paywall: tuple[str, ...] = ()
    missing: tuple[str, ...] = ()
    login: tuple[str, ...] = ()
    tagged: tuple[str, ...] = ()
    buying: tuple[str, ...] = ()

    @cached_property
    def _cldr(self) -> tuple[Locale, ...]:
        return tuple(Locale.parse(name) for name in self.locales or (self.code,))

    @cached_property
    def months(self) -> Mapping[str, int]:
        """The numbers of the months by their names, in each case and width that CLDR has."""
        return {
            name_key(name): number
            for locale in self._cldr
            for form in ("format", "stand-alone")
            for width in ("wide", "abbreviated")
            for number, name in locale.months[form][width].items()
            if not name_key(name).isdecimal()
        }

    @cached_property
    def weekdays(self) -> frozenset[str]:
        """The names of the weekdays."""
        return frozenset(
            name_key(name)
            for locale in self._cldr
            for form in ("format", "stand-alone")
            for width in ("wide", "abbreviated")
            for name in locale.days[form][width].values()
        )

    @cached_property
    def day_first(self) -> bool:
        """Whether a date in numbers begins with its day."""
        pattern: str = self._cldr[0].date_formats["short"].pattern
        return 0 <= pattern.find("d") < pattern.find("M")

    @cached_property
    def ago(self) -> Mapping[str, int]:
        """Seconds by the form of a time past, such as ``# hours ago``, with ``#`` for the number."""
        forms: dict[str, int] = {}
        for locale in self._cldr:
            for unit, seconds in _UNITS.items():
                for said in _ways_to_say(locale, unit, seconds):
                    forms.setdefault(said, seconds)
        return forms


def _ways_to_say(locale: Locale, unit: _Unit, seconds: int) -> Iterator[str]:
    """Yield the forms of a past time in one unit, with ``#`` for the number."""
    for style in ("long", "short"):
        for count in _COUNTS:
            past = timedelta(seconds=-seconds * count)
            try:
                said = format_timedelta(
                    past, granularity=unit, threshold=1e9, add_direction=True, format=style, locale=locale
                )
            except KeyError:
                # CLDR has no such form for every language.
                continue
            if any(map(str.isdecimal, said)):
                yield " ".join(_NUMBER.sub("#", said).lower().split())


def name_key(name: str) -> str:
    """Return the form of a name of a month or weekday by which it is looked up."""
    return " ".join(name.lower().replace("\u0307", "").strip(" .").split())
