"""Times of feeds, in all the forms that feeds write them. A wrong date is worse than none."""

import re
from datetime import UTC, datetime, timedelta
from email.utils import parsedate_to_datetime
from functools import partial

from glyptarch_core.languages.dates import NAMED_ZONES, date_words, find_date

__all__ = ["moment_of"]

_UNIX_SECONDS = re.compile(r"\d{9,10}(?:\.\d+)?")
_UNIX_MILLISECONDS = re.compile(r"\d{12,13}")
_ISO = re.compile(r"[+-]?\d{4}-?(?:\d\d|W\d\d|\d{3})", re.IGNORECASE)
_ORDINAL = re.compile(r"(\d{4})-?(\d{3})(?=$|T)")
_MIDNIGHT = re.compile(r"T24(?::?00){0,2}(?:[.,]0+)?")
# An offset as RFC 3339 writes it, or behind the name of Greenwich time, where RFC 5322 has four digits alone.
_OFFSET = re.compile(r"(?:\s(?:GMT|UTC?|Z)?|(?<=:\d\d))([+-]\d\d):?(\d\d)$")
_ZONE = re.compile(r"\s*\b([A-Z]{2,5})\)?\s*$")
_LETTERS = re.compile(r"[^\W\d_]+")


def moment_of(text: str, language: str = "") -> datetime | None:
    """Read a time: ISO 8601 (with RFC 3339), RFC 5322, seconds since 1970, or words.

    Words may be those of any known language. A time without a zone is UTC. ``language`` (BCP 47) decides about the
    order of day and month. None where it is ambiguous.
    """
    text = " ".join(text.split())
    for read in (_unix, _iso, _rfc, partial(_words, language=language)):
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


def _words(text: str, language: str) -> datetime | None:
    found = find_date(text, language)
    if found is None:
        return None
    beside = f"{text[: found.start]} {text[found.end :]}"
    named = all(word.lower() in date_words() for word in _LETTERS.findall(beside))
    return found.moment if named and not any(map(str.isdecimal, beside)) else None


def _without_zone(text: str) -> tuple[str, str]:
    """Return a time without the name of its zone, and that zone's offset (``+01:00``)."""
    named = _ZONE.search(text)
    minutes = NAMED_ZONES.get(named.group(1)) if named else None
    if named is None or minutes is None:
        return text, ""
    sign = "-" if minutes < 0 else "+"
    return text[: named.start()], f"{sign}{abs(minutes) // 60:02}:{abs(minutes) % 60:02}"
