"""Times of feeds, in all the forms that feeds write them. A wrong date is worse than none."""

import re
from datetime import UTC, datetime, timedelta
from email.utils import parsedate_to_datetime
from functools import cache

from babel import Locale

__all__ = ["moment_of"]

_UNIX_SECONDS = re.compile(r"\d{9,10}(?:\.\d+)?")
_UNIX_MILLISECONDS = re.compile(r"\d{12,13}")
_ISO = re.compile(r"[+-]?\d{4}-?(?:\d\d|W\d\d|\d{3})", re.IGNORECASE)
_ORDINAL = re.compile(r"(\d{4})-?(\d{3})(?=$|T)")
_MIDNIGHT = re.compile(r"T24(?::?00){0,2}(?:[.,]0+)?")
# An offset as RFC 3339 writes it, or behind the name of Greenwich time, where RFC 5322 has four digits alone.
_OFFSET = re.compile(r"(?:\s(?:GMT|UTC?|Z)?|(?<=:\d\d))([+-]\d\d):?(\d\d)$")
_ZONE = re.compile(r"\s*\b([A-Z]{2,5})\)?\s*$")

# Names of time zones in feeds, in minutes from UTC. RFC 5322 has only those of North America.
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
_ZONES = {name: minutes for minutes, names in _NAMES_OF_ZONES.items() for name in names.split()}

# Languages whose names of months and weekdays are read.
_LANGUAGES = "bg ca cs da de el en es et fi fr hr hu it lt lv nb nl pl pt ro ru sk sl sv tr uk".split()
_IN_WORDS = re.compile(
    r"(?:(?P<weekday>[^\W\d_]+(?:-[^\W\d_]+)?)\.?,?\s+)?"
    r"(?P<day>\d{1,2})(?:\.|er|º)?\s*(?:de\s+)?(?P<month>[^\W\d_]+|(?<=\.)\d{1,2}(?=\.))\.?\s*(?:de\s+)?(?P<year>\d{4}),?"
    r"(?:\s+(?:um\s+|à\s+|kl\.?\s+)?(?P<hour>\d{1,2})[:h](?P<minute>\d\d)(?::(?P<second>\d\d))?(?:\s+Uhr)?)?"
    r"(?:\s*(?P<zone>[+-]\d\d:?\d\d))?"
)
_MONTHS_OF_YEAR = range(1, 13)


def moment_of(text: str) -> datetime | None:
    """Read a time: ISO 8601 (with RFC 3339), RFC 5322, seconds since 1970, or words.

    A time without a zone is UTC. None where it is ambiguous.
    """
    text = " ".join(text.split())
    for read in (_unix, _iso, _rfc, _words):
        try:
            moment = read(text)
            if moment is not None:
                return moment.astimezone(UTC) if moment.tzinfo else moment.replace(tzinfo=UTC)
        except (ValueError, OverflowError, TypeError, IndexError):
            continue
    return None


def _unix(text: str) -> datetime | None:
    if _UNIX_SECONDS.fullmatch(text):
        return datetime.fromtimestamp(float(text), tz=UTC)
    return datetime.fromtimestamp(int(text) / 1000, tz=UTC) if _UNIX_MILLISECONDS.fullmatch(text) else None


def _iso(text: str) -> datetime | None:
    if not _ISO.match(text):
        return None
    written, zone = _without_zone(text.upper())
    written = re.sub(r"^(\S+) (\d\d:?\d\d)", r"\1T\2", written).replace(" ", "")
    midnight = _MIDNIGHT.search(written)
    if midnight:
        written = f"{written[: midnight.start()]}T00:00{written[midnight.end() :]}"
    ordinal = _ORDINAL.match(written)
    if ordinal:
        day = datetime(int(ordinal.group(1)), 1, 1) + timedelta(days=int(ordinal.group(2)) - 1)  # noqa: DTZ001 - its zone follows
        written = f"{day:%Y-%m-%d}{written[ordinal.end() :]}"
    return datetime.fromisoformat(f"{written}{zone}") + timedelta(days=1 if midnight else 0)


def _rfc(text: str) -> datetime | None:
    written, zone = _without_zone(text)
    # The standard library drops an offset with a colon, and takes the time for one without a zone.
    return parsedate_to_datetime(f"{written} {zone.replace(':', '')}" if zone else _OFFSET.sub(r" \1\2", text))


def _words(text: str) -> datetime | None:
    written, named = _without_zone(text)
    match = _IN_WORDS.fullmatch(written.strip())
    if match is None:
        return None
    months, weekdays = _names()
    part = {name: text or "" for name, text in match.groupdict().items()}
    month = int(part["month"]) if part["month"].isdecimal() else months.get(part["month"].lower())
    if month not in _MONTHS_OF_YEAR or (part["weekday"] and part["weekday"].lower() not in weekdays):
        return None
    day, hour = f"{part['year']}-{month:02}-{int(part['day']):02}", int(part["hour"] or 0)
    zone = part["zone"] or named
    return datetime.fromisoformat(f"{day}T{hour:02}:{part['minute'] or '00'}:{part['second'] or '00'}{zone}")


@cache
def _names() -> tuple[dict[str, int], frozenset[str]]:
    """Return month numbers and weekdays by name.

    Names of two different months are left out.
    """
    months: dict[str, set[int]] = {}
    weekdays: set[str] = set()
    for locale in map(Locale.parse, _LANGUAGES):
        for width in ("wide", "abbreviated"):
            for form in ("format", "stand-alone"):
                for number, name in locale.months[form][width].items():
                    months.setdefault(_bare(name), set()).add(number)
            weekdays.update(_bare(name) for name in locale.days["format"][width].values())
    return {name: min(numbers) for name, numbers in months.items() if len(numbers) == 1}, frozenset(weekdays)


def _bare(name: str) -> str:
    return name.lower().rstrip(".")


def _without_zone(text: str) -> tuple[str, str]:
    """Return a time without the name of its zone, and that zone's offset (``+01:00``)."""
    named = _ZONE.search(text)
    minutes = _ZONES.get(named.group(1)) if named else None
    if named is None or minutes is None:
        return text, ""
    sign = "-" if minutes < 0 else "+"
    return text[: named.start()], f"{sign}{abs(minutes) // 60:02}:{abs(minutes) % 60:02}"
