"""How many offers a quota keeps fresh, beside reading the oldest first.

A simulated week of a shop with more products than its quota can keep fresh, each seen as often as its place in a list
(Zipf's law). Counted are views with a fresh price. Pure: no database and no network.
"""

import heapq
import json
import random
from datetime import UTC, datetime, timedelta

from glyptarch_core.offers import ToRead, chosen_to_read, keeps_fresh, next_reading

__all__ = ["main"]

_PRODUCTS = 50_000
_TOGETHER = 20
_LIMIT = timedelta(hours=24)
_BEGIN = datetime(2026, 11, 24, tzinfo=UTC)
_DAYS = 7
_STEP = timedelta(minutes=10)
_QUOTAS = (500, 1000, 2000, 4000)
_VIEWS_A_STEP = 2000


def _views() -> list[float]:
    return [1 / (place + 1) for place in range(_PRODUCTS)]


def _simulated(quota: int, *, by_views: bool) -> tuple[float, int]:
    """Return the share of views with a fresh price, and the requests of the busiest day.

    The first day, in which nothing has been read, does not count.
    """
    weights = _views()
    keys = [f"shop/{number}" for number in range(_PRODUCTS)]
    chance = random.Random(5)  # noqa: S311
    room = keeps_fresh(quota, together=_TOGETHER, limit=_LIMIT)
    if by_views:
        ranked = [
            ToRead(key=key, ends=_BEGIN, seen=round(weight * 10**6)) for key, weight in zip(keys, weights, strict=True)
        ]
        kept = {product.key for product in chosen_to_read(ranked, room=room)}
    else:
        kept = set(keys)
    read_at: dict[str, datetime] = {}
    due = [(_BEGIN, key) for key in sorted(kept)]
    heapq.heapify(due)
    fresh = seen = 0
    busiest = used = 0
    now, day = _BEGIN, 0
    while now < _BEGIN + _DAYS * timedelta(days=1):
        if (now - _BEGIN).days != day:
            day, busiest, used = (now - _BEGIN).days, max(busiest, used), 0
        # The quota is spent evenly over the day, as the connection allows it.
        passed = (now - _BEGIN - day * timedelta(days=1)) / timedelta(days=1)
        while due and due[0][0] <= now and used < quota * max(passed, 0.02):
            used += 1
            for _ in range(_TOGETHER):
                if not due or due[0][0] > now:
                    break
                _, key = heapq.heappop(due)
                read_at[key] = now
                heapq.heappush(due, (next_reading(key, now, _LIMIT), key))
        if day:
            for place in chance.choices(range(_PRODUCTS), weights=weights, k=_VIEWS_A_STEP):
                seen += 1
                at = read_at.get(keys[place])
                fresh += at is not None and now - at < _LIMIT
        now += _STEP
    return fresh / seen, max(busiest, used)


def main() -> bool:
    """Print the figures.

    Return whether no quota is exceeded, and those that are seen most are never worse off.
    """
    figures, fine = {}, True
    for quota in _QUOTAS:
        ours, used = _simulated(quota, by_views=True)
        oldest, _ = _simulated(quota, by_views=False)
        figures[f"{quota} requests a day"] = {
            "products kept fresh": min(_PRODUCTS, keeps_fresh(quota, together=_TOGETHER, limit=_LIMIT)),
            "share of views with a fresh price": round(ours, 3),
            "the same, oldest first": round(oldest, 3),
            "requests of the busiest day": used,
        }
        fine &= used <= quota and ours >= oldest - 0.02
    print("offers:", json.dumps(figures, indent=1))
    return fine
