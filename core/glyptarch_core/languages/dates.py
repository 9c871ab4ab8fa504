"""Dates in running text, in the words and the order of any known language.

A wrong date is worse than none.
"""

import re
import unicodedata
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta, timezone
from functools import cache

from glyptarch_core.languages import LANGUAGES, language_of, phrases_of, words_of
from glyptarch_core.languages.record import name_key

__all__ = ["NAMED_ZONES", "FoundDate", "date_words", "day_comes_first", "find_date", "weekday_words"]

_LOOKED_AT = 400
# Names of time zones, in minutes from UTC. RFC 5322 has only those of North America.
_NAMES_OF_ZONES = {
    -600: "HST",
    -540: "AKST",
    -480: "AKDT PST",
    -420: "PDT MST",
    -360: "MDT CST",
    -300: "CDT EST",
    -240: "EDT AST",
    -210: "NST",
    -180: "ADT ART BRT",
    0: "UT UTC GMT Z WET",
    60: "BST CET MEZ WEST",
    120: "CEST EET MESZ SAST",
    180: "EEST MSK TRT",
    240: "GST",
    300: "PKT",
    330: "IST",
    345: "NPT",
    420: "ICT WIB",
    480: "AWST HKT PHT SGT",
    540: "JST KST",
    570: "ACST",
    600: "AEST",
    660: "AEDT",
    720: "NZST",
    780: "NZDT",
}
NAMED_ZONES: Mapping[str, int] = {name: minutes for minutes, names in _NAMES_OF_ZONES.items() for name in names.split()}
"""Minutes from UTC by the name of a time zone."""

# Short forms that CLDR does not have.
_MORE_MONTHS = {"sept": 9, "jänner": 1, "feber": 2, "lok": 10}
_YEAR = r"(?<!\d)(?P<year>(?:1[89]|2\d)\d\d)(?!\d)"
_DAY = r"(?<!\d)(?P<day>\d{1,2})(?!\d)(?:st|nd|rd|th|er|ème|[.ºª°]|-?(?:го|е|а|ше))?"
_BUDDHIST_YEARS = 543
_FIRST_BUDDHIST, _LAST_BUDDHIST = 2400, 2700
_FIRST_YEAR_OF_ERA = {"令和": 2018, "平成": 1988}
_CJK = re.compile(
    r"(?:(?P<era>令和|平成)\s?(?P<of_era>\d{1,2}|元)|(?<!\d)(?P<year>(?:1[89]|20)\d\d))\s?[年년]\s?"
    r"(?P<month>\d{1,2})\s?[月월]\s?(?P<day>\d{1,2})\s?[日일号號]?"
)
_CJK_WITHOUT_YEAR = re.compile(r"(?<![\d年년])(?P<month>\d{1,2})\s?[月월]\s?(?P<day>\d{1,2})\s?[日일号號]")
_YEAR_FIRST = re.compile(
    r"(?<!\d)(?P<year>(?:1[89]|2\d)\d\d)(?P<mark>[-/.])\s?(?P<month>\d{1,2})(?P=mark)\s?(?P<day>\d{1,2})(?!\d)"
)
_YEAR_LAST = re.compile(
    r"(?<![\d.,/-])(?P<first>\d{1,2})(?P<mark>[-/.])\s?(?P<second>\d{1,2})(?P=mark)\s?"
    r"(?P<year>(?:1[89]|2\d)\d\d|\d\d)(?![\d/-]|[.,]\d)"
)
_HALVES = {"上午": 0, "午前": 0, "오전": 0, "下午": 12, "午後": 12, "오후": 12}
_TIME = re.compile(
    rf"(?P<half>{'|'.join(_HALVES)})?\s?(?<![\d:.])(?P<hour>[01]?\d|2[0-4])"
    r"(?:(?::|[.](?=\d\d(?!\d))|\s?[hH]\s?|\s?[時时點点시]\s?)(?P<minute>[0-5]\d)(?!\d)\s?[分분]?(?::(?P<second>[0-5]\d)(?!\d))?"
    r"(?:\s?(?P<ap>[ap])\.?\s?m\b\.?)?|\s?(?P<only>[ap])\.?\s?m\b\.?)"
    r"(?:\s?\(?(?:GMT|UTC?)?\s?(?P<sign>[+-])(?P<zone_hour>\d\d):?(?P<zone_minute>\d\d)\)?|\s?\(?(?P<zone>[A-Z]{1,4}T?)\b\)?)?",
    re.IGNORECASE,
)
_HAS_DIGIT = re.compile("[0-9元]")
_NOON = 12
_MONTHS = 12
_THIS_CENTURY = 70


@dataclass(frozen=True, slots=True)
class FoundDate:
    """A date that a text names, with its place in it. Without a zone it is UTC."""

    moment: datetime
    start: int
    end: int


@dataclass(frozen=True)
class _Names:
    """The names of months, their first words, and the patterns of dates with them."""

    months: Mapping[str, int]
    first: frozenset[str]
    forms: tuple[re.Pattern[str], ...]
    without_year: tuple[re.Pattern[str], ...]


def find_date(
    text: str, language: str = "", *, now: datetime | None = None, day_first: bool | None = None
) -> FoundDate | None:
    """Return the first date that a text names. None where it is ambiguous, or there is none.

    ``language`` (BCP 47) decides about names that several languages have, and about the order of day and month, unless
    ``day_first`` says it. Dates such as “3 hours ago”, “yesterday” and those without a year count from ``now``, and are
    not read without it.
    """
    plain = _with_plain_digits(text[:_LOOKED_AT])
    if not _HAS_DIGIT.search(plain):
        return _relative(plain, now) if now else None
    if day_first is None and language:
        day_first = _usual_order(language)
    found = sorted(_dates(plain, language, now, day_first=day_first), key=lambda date: (date.start, -date.end))
    return _with_time(plain, found[0]) if found else _relative(plain, now) if now else None


def day_comes_first(texts: Iterable[str]) -> bool | None:
    """Return the order of day and month that the dates of one column share.

    None where they do not show it, or contradict each other.
    """
    orders = set[bool]()
    for text in texts:
        for match in _YEAR_LAST.finditer(_with_plain_digits(text[:_LOOKED_AT])):
            first, second = int(match["first"]), int(match["second"])
            if match["mark"] != "." and max(first, second) > _MONTHS >= min(first, second):
                orders.add(first > second)
    return orders.pop() if len(orders) == 1 else None


def _usual_order(tag: str) -> bool | None:
    """Return whether a language puts the day first.

    None for English without a country, and for unknown languages.
    """
    record = language_of(tag)
    if record.code == "en":
        country = tag.replace("_", "-").partition("-")[2].upper()
        return country != "US" if country else None
    return record.day_first if record.code in LANGUAGES else None


def _with_plain_digits(text: str) -> str:
    """Return a text of the same length with the digits of each script as ASCII digits."""
    if text.isascii():
        return text
    return "".join(str(unicodedata.decimal(char)) if char.isdecimal() else char for char in text)


def _dates(text: str, language: str, now: datetime | None, *, day_first: bool | None) -> Iterator[FoundDate]:
    for match in (*_CJK.finditer(text), *_YEAR_FIRST.finditer(text)):
        yield from _found(match, _year_of(match), int(match["month"]), int(match["day"]))
    for match in _YEAR_LAST.finditer(text):
        first, second = int(match["first"]), int(match["second"])
        order = _in_order(first, second, match["mark"], day_first=day_first)
        if order:
            yield from _found(match, _full_year(match["year"]), order[1], order[0])
    names = _names(language_of(language).code if language else "")
    named = not names.first.isdisjoint(_first_letters(text))
    if named:
        yield from _named_dates(text, names)
    if now is not None:
        yield from _without_year(text, names, now, forms=names.without_year if named else ())


def _named_dates(text: str, names: _Names) -> Iterator[FoundDate]:
    for form in names.forms:
        for match in form.finditer(text):
            month = names.months[name_key(match["month"])]
            yield from _found(match, _full_year(match["year"]), month, int(match["day"]))


def _without_year(text: str, names: _Names, now: datetime, *, forms: Sequence[re.Pattern[str]]) -> Iterator[FoundDate]:
    """Yield the dates without a year, in the newest year in which they are past."""
    for form in (*forms, _CJK_WITHOUT_YEAR):
        for match in form.finditer(text):
            month = int(match["month"]) if match["month"].isdecimal() else names.months[name_key(match["month"])]
            for found in _found(match, now.year, month, int(match["day"])):
                late = found.moment > now + timedelta(days=2)
                yield from _found(match, now.year - 1, month, int(match["day"])) if late else (found,)


def _found(match: re.Match[str], year: int, month: int, day: int) -> Iterator[FoundDate]:
    try:
        yield FoundDate(datetime(year, month, day, tzinfo=UTC), match.start(), match.end())
    except ValueError:
        return


def _year_of(match: re.Match[str]) -> int:
    era = match.groupdict().get("era")
    if era:
        return _FIRST_YEAR_OF_ERA[era] + (1 if match["of_era"] == "元" else int(match["of_era"]))
    return _full_year(match["year"])


def _full_year(written: str) -> int:
    year = int(written)
    if len(written) == 2:  # noqa: PLR2004 - digits
        return year + (2000 if year < _THIS_CENTURY else 1900)
    return year - _BUDDHIST_YEARS if _FIRST_BUDDHIST <= year <= _LAST_BUDDHIST else year


def _in_order(first: int, second: int, mark: str, *, day_first: bool | None) -> tuple[int, int] | None:
    """Return day and month. None where the country would have to be known."""
    if mark == "." or first > _MONTHS or first == second:
        return first, second
    if second > _MONTHS:
        return second, first
    return None if day_first is None else (first, second) if day_first else (second, first)


def _with_time(text: str, date: FoundDate) -> FoundDate:
    """Return a date with the time of day that stands beside it."""
    for match in _TIME.finditer(text):
        if match.start() >= date.end:
            between = text[date.end : match.start()]
        elif match.end() <= date.start:
            between = text[match.end() : date.start]
        else:
            continue
        if not _is_filler(between):
            continue
        moment = _at(date.moment, match)
        if moment is not None:
            return FoundDate(moment, min(date.start, match.start()), max(date.end, match.end()))
    return date


_LETTERS = re.compile(r"[^\W\d_]+(?:[’'-][^\W\d_]+)*")
_LONGEST_BETWEEN = 24
# Thai, Chinese and Japanese write words without spaces between.
_UNSPACED = re.compile("[\u0e00-\u0eff\u1000-\u109f\u1780-\u17ff\u3040-\u30ff\u4e00-\u9fff]")


def _is_filler(between: str) -> bool:
    return (
        len(between) <= _LONGEST_BETWEEN
        and not any(map(str.isdigit, between))
        and all(word.lower() in date_words() for word in _LETTERS.findall(between))
    )


def _at(day: datetime, match: re.Match[str]) -> datetime | None:
    hour, minute, second = (int(match[name] or 0) for name in ("hour", "minute", "second"))
    half = (match["ap"] or match["only"] or "").lower()
    if half:
        if not 1 <= hour <= _NOON:
            return None
        hour = hour % _NOON + (_NOON if half == "p" else 0)
    elif match["half"] and hour < _NOON:
        hour += _HALVES[match["half"]]
    if match["zone_hour"]:
        minutes = int(match["zone_hour"]) * 60 + int(match["zone_minute"])
        minutes = -minutes if match["sign"] == "-" else minutes
    else:
        minutes = NAMED_ZONES.get((match["zone"] or "UTC").upper(), 0)
    try:
        zone = timezone(timedelta(minutes=minutes))
        return (day.replace(tzinfo=zone) + timedelta(hours=hour, minutes=minute, seconds=second)).astimezone(UTC)
    except (ValueError, OverflowError):
        return None


@cache
def date_words() -> frozenset[str]:
    """Return the words that stand in and around dates in all languages, weekdays included."""
    dated = (word for phrase in phrases_of("dated") for word in phrase.split())
    return frozenset((*words_of("date_words"), *weekday_words(), *dated))


@cache
def weekday_words() -> frozenset[str]:
    """Return the words in the names of weekdays of all languages."""
    return frozenset(
        word for language in LANGUAGES.values() for day in language.weekdays for word in _LETTERS.findall(day)
    )


def _first_letters(text: str) -> Iterator[str]:
    """Yield the first two letters of each run of letters.

    The Hebrew “in”, which is written with its noun, is left out.
    """
    return (run.lower().removeprefix("ב")[:2] for run in _LETTERS.findall(text))


@cache
def _names(code: str) -> _Names:
    """Return the names of one language, and those of all others that mean one month only."""
    numbers: dict[str, set[int]] = {}
    for language in LANGUAGES.values():
        for name, number in language.months.items():
            numbers.setdefault(name, set()).add(number)
    months = {name: min(found) for name, found in numbers.items() if len(found) == 1}
    months |= _MORE_MONTHS
    if code in LANGUAGES:
        months |= LANGUAGES[code].months
    longest_first = sorted(months, key=len, reverse=True)
    month = rf"(?<![^\W\d_])ב?(?P<month>{'|'.join(map(re.escape, longest_first))})(?![^\W\d_])\.?"
    within = "|".join(map(re.escape, sorted(words_of("date_words"), key=len, reverse=True)))
    apart = rf"[\s,.\-–/]*(?:(?:d['’]|(?:{within})(?![^\W\d_])\.?)[\s,.]*){{0,2}}"
    orders = (
        (_DAY, month, _YEAR),
        (month, _DAY, _YEAR),
        (_YEAR, month, _DAY),
        (_YEAR, _DAY, month),
    )
    return _Names(
        months,
        frozenset(_first_letters(" ".join(name.split()[0] for name in months))),
        tuple(re.compile(apart.join(parts), re.IGNORECASE) for parts in orders),
        tuple(re.compile(apart.join(parts), re.IGNORECASE) for parts in ((_DAY, month), (month, _DAY))),
    )


@cache
def _ago() -> tuple[re.Pattern[str], Mapping[str, int], Mapping[str, int], tuple[frozenset[str], frozenset[str]]]:
    """Return the pattern of past times in all languages, and what it needs.

    The seconds of each form, the days of “today” and “yesterday”, and one telling word of each, in scripts with spaces
    and without.
    """
    forms = {form: seconds for language in LANGUAGES.values() for form, seconds in language.ago.items()}
    days = dict.fromkeys(phrases_of("today"), 0) | dict.fromkeys(phrases_of("yesterday"), 1)
    written = "|".join(
        rf"(?<![^\W\d_]){re.escape(form).replace(chr(92) + '#', chr(35)).replace('#', '(?:[0-9]{1,3})')}(?![^\W\d_])"
        for form in sorted(forms, key=len, reverse=True)
    )
    named = "|".join(re.escape(name) for name in sorted(days, key=len, reverse=True))
    pattern = re.compile(rf"(?P<ago>{written})|(?<![^\W\d_])(?P<day>{named})(?![^\W\d_])", re.IGNORECASE)
    runs = {max(_LETTERS.findall(form), key=len) for form in (*forms, *days)}
    unspaced = frozenset(run for run in runs if _UNSPACED.search(run))
    return pattern, forms, days, (frozenset(runs - unspaced), unspaced)


def _relative(text: str, now: datetime) -> FoundDate | None:
    pattern, forms, days, telling = _ago()
    lowered = text.lower()
    spaced, unspaced = telling
    if spaced.isdisjoint(_LETTERS.findall(lowered)) and (
        lowered.isascii() or not any(run in lowered for run in unspaced)
    ):
        return None
    match = pattern.search(text)
    if match is None:
        return None
    if match["day"]:
        day = (now - timedelta(days=days[match["day"].lower()])).replace(hour=0, minute=0, second=0, microsecond=0)
        return _with_time(text, FoundDate(day, *match.span()))
    said = match["ago"].lower()
    count = int(re.search(r"\d+", said)[0])  # type: ignore[index]
    seconds = forms[re.sub(r"\d+", "#", said)]
    return FoundDate(now - timedelta(seconds=count * seconds), *match.span())
