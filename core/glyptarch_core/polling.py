"""The wait before a source is read again automatically."""

import zlib
from datetime import UTC, datetime, timedelta

__all__ = ["after_failure", "after_success"]

LEAST = timedelta(minutes=1)
"""No source is read more often than this, whatever it says: two campaigns of one minute share a reading."""
_MOST_WISHED = timedelta(days=1)
_FIRST_WAIT = timedelta(minutes=5)
_LONGEST_WAIT = timedelta(days=1)
_SPREAD = 0.2


_HOURS = 24


def after_success(
    *, wished: timedelta = timedelta(0), now: datetime | None = None, skip_hours: frozenset[int] = frozenset()
) -> timedelta:
    """Return the wait after a successful reading at ``now``, at most a day.

    ``wished`` is the interval that the source asks for: ``max-age`` (RFC 9111, 5.2.2.1), ``ttl`` (RSS 2.0) or
    ``updatePeriod`` (RSS syndication module). ``skip_hours`` are hours of the day (UTC) in which it asks not to be
    read; the wait ends at the first full hour outside them.
    """
    wait = max(LEAST, min(wished, _MOST_WISHED))
    if now is None or not skip_hours:
        return wait
    at = (now + wait).astimezone(UTC)
    for _ in range(_HOURS):
        if at.hour not in skip_hours:
            break
        at = at.replace(minute=0, second=0, microsecond=0) + timedelta(hours=1)
    return at - now


def after_failure(failures: int, key: str, *, asked: timedelta = timedelta(0)) -> timedelta:
    """Return the wait after failures in a row: 5 minutes, doubled each time, at most a day.

    ``asked`` is the server's ``Retry-After`` (RFC 9110, 10.2.3), kept up to a day. The wait is up to a fifth longer, by
    ``key``, so that sources which failed together do not return together.
    """
    # Two to the tenth is more than a day already.
    times: int = 2 ** min(max(failures, 1) - 1, 10)
    wait = min(_FIRST_WAIT * times, _LONGEST_WAIT)
    part = zlib.crc32(f"{key} {failures}".encode("utf-8", "surrogatepass")) % 1000 / 1000
    return max(wait * (1 + _SPREAD * part), min(asked, _LONGEST_WAIT))
