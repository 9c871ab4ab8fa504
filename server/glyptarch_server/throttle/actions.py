"""Rate limits by the package ``limits``, with counts in PostgreSQL shared by all processes.

A try is counted before it is made, in one statement, so that concurrent tries cannot bypass a limit.
"""

import hashlib
from typing import Any

from django.db import DatabaseError, connection
from django.db.models.functions import Now
from limits import RateLimitItem, parse
from limits.storage import Storage
from limits.strategies import FixedWindowRateLimiter

from glyptarch_server.throttle.models import Window

__all__ = ["Limit", "clear", "limit_of", "remove_ended", "take"]

Limit = RateLimitItem
"""So many times in so long, under a name."""

_COUNT = """
INSERT INTO throttle_window AS kept (key, count, ends_at)
VALUES (%(key)s, %(amount)s, clock_timestamp() + make_interval(secs => %(seconds)s))
ON CONFLICT (key) DO UPDATE SET
    count = CASE WHEN kept.ends_at <= clock_timestamp() THEN excluded.count ELSE kept.count + excluded.count END,
    ends_at = CASE WHEN kept.ends_at <= clock_timestamp() THEN excluded.ends_at ELSE kept.ends_at END
RETURNING count
"""


class _Counts(Storage):
    """The counts of ``limits`` in a table."""

    STORAGE_SCHEME = None

    @property
    def base_exceptions(self) -> type[Exception]:
        """The exceptions of a failing database."""
        return DatabaseError

    def incr(self, key: str, expiry: float, amount: int = 1) -> int:
        """Count a try and return the count.

        A new period begins where the last has ended.
        """
        with connection.cursor() as cursor:
            cursor.execute(_COUNT, {"key": key, "amount": amount, "seconds": expiry})
            return int(cursor.fetchone()[0])

    def get(self, key: str) -> int:
        """Return the count."""
        count = Window.objects.filter(key=key, ends_at__gt=Now()).values_list("count", flat=True).first()
        return count or 0

    def get_expiry(self, key: str) -> float:
        """Return the end of the period in seconds since 1970."""
        ends_at = Window.objects.filter(key=key).values_list("ends_at", flat=True).first()
        return ends_at.timestamp() if ends_at else 0.0

    def check(self) -> bool:
        """Return True: without the database nothing else works either."""
        return True

    def reset(self) -> int | None:
        """Forget every count."""
        return Window.objects.all().delete()[0]

    def clear(self, key: str) -> None:
        """Forget one count."""
        Window.objects.filter(key=key).delete()


_limiter = FixedWindowRateLimiter(_Counts())


def limit_of(words: str, name: str) -> Limit:
    """Return a limit from text: ``8 per 10 minutes``."""
    limit: Any = parse(words)
    renamed: Limit = type(limit)(limit.amount, limit.multiples, namespace=name)
    return renamed


def _who(parts: tuple[str, ...]) -> list[str]:
    # Names come from strangers and may be long, so they are hashed.
    return [hashlib.sha256(part.encode("utf-8", "surrogatepass")).hexdigest()[:32] for part in parts]


def take(limit: Limit, *who: str) -> bool:
    """Count one try, and return whether it is within the limit."""
    return bool(_limiter.hit(limit, *_who(who)))


def clear(limit: Limit, *who: str) -> None:
    """Reset the count of a limit."""
    _limiter.clear(limit, *_who(who))


def remove_ended() -> int:
    """Remove the counts of past periods.

    Return how many.
    """
    return Window.objects.filter(ends_at__lte=Now()).delete()[0]
