"""How long to wait before a source is read again by itself."""

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
    """Give the wait after a reading that went well, at ``now``.

    ``skip_hours`` are the hours of the day (UTC) at which the source asks not to be read: the wait ends at the
    first full hour that is none of them. ``wished`` is what the source asks for: ``max-age`` (RFC 9111, 5.2.2.1),
    ``ttl`` (RSS 2.0), ``updatePeriod`` (RSS syndication module). More than a day is taken for a day.
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
    """Give the wait after so many failures in a row: 5 minutes, then twice as long each time, at most a day.

    ``asked`` is what the server asks for (``Retry-After``: RFC 9110, 10.2.3); it is kept up to a day. The
    wait is up to a fifth longer, by ``key``, so that sources which failed together do not come back together.
    """
    # Two to the tenth is more than a day already.
    times: int = 2 ** min(max(failures, 1) - 1, 10)
    wait = min(_FIRST_WAIT * times, _LONGEST_WAIT)
    part = zlib.crc32(f"{key} {failures}".encode("utf-8", "surrogatepass")) % 1000 / 1000
    return max(wait * (1 + _SPREAD * part), min(asked, _LONGEST_WAIT))
