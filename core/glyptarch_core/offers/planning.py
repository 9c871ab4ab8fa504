"""Which offers to read again, and when, so that a quota keeps as many fresh as it can."""

import hashlib
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

__all__ = ["ToRead", "chosen_to_read", "keeps_fresh", "next_reading"]

_EARLIEST, _SPREAD = 0.5, 0.2
"""A product is read again after half to seven tenths of its limit, so that readings spread over the day."""

_LATEST = 0.85
"""At this share of the limit every product has been read, where the quota is used up entirely."""


@dataclass(frozen=True, slots=True, kw_only=True)
class ToRead:
    """A product that is due: when its price ends, and how much it is seen."""

    key: str
    ends: datetime
    seen: int


def next_reading(key: str, read_at: datetime, limit: timedelta) -> datetime:
    """Return when to read a product again. Products read together are due at different times."""
    place = int.from_bytes(hashlib.blake2b(key.encode(), digest_size=4).digest()) / 2**32
    return read_at + limit * (_EARLIEST + _SPREAD * place)


def keeps_fresh(requests_a_day: int, *, together: int, limit: timedelta) -> int:
    """Return how many products a quota keeps fresh, with ``together`` products in a request."""
    return int(requests_a_day * together * _LATEST * (limit / timedelta(days=1)))


def chosen_to_read(products: Iterable[ToRead], *, room: int) -> list[ToRead]:
    """Return the products that a quota can keep fresh, what ends soonest first.

    ``room`` is the number from :func:`keeps_fresh`. Where there are more, those that are seen least are left out,
    always the same ones: a quota spread over all would keep none fresh.
    """
    most_seen = sorted(products, key=lambda product: (-product.seen, product.key))[: max(0, room)]
    return sorted(most_seen, key=lambda product: (product.ends, product.key))
