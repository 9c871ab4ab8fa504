"""Sharing one daily quota: it is used up, never exceeded, and nobody starves."""

from collections.abc import Mapping

__all__ = ["may_ask"]


def may_ask(who: str, used: Mapping[str, int], *, limit: int, passed: float) -> bool:
    """Whether ``who`` may make one more request.

    ``used`` are the requests in this period of each user of the quota, zeros included. ``passed`` is the elapsed share
    of the period, 0 to 1. Until half-time, the unused equal shares of others are reserved; then the reserve falls to
    zero. A limit of 0 is no limit.
    """
    if not limit:
        return True
    total = sum(used.values())
    if total >= limit:
        return False
    share = limit / max(len(used), 1)
    if used.get(who, 0) < int(share):
        return True
    kept_back = sum(max(0.0, share - number) for name, number in used.items() if name != who)
    return total + kept_back * min(1.0, 2 * (1 - min(passed, 1.0))) + 1 <= limit
