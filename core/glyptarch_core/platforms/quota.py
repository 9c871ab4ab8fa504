"""Sharing one quota: who may ask now, so that the last request is used, none too many, and nobody goes without."""

from collections.abc import Mapping

__all__ = ["may_ask"]


def may_ask(who: str, used: Mapping[str, int], *, limit: int, passed: float) -> bool:
    """Tell whether ``who`` may make one more request.

    ``used`` is what each of those who share the quota has used in this period, also those that used nothing;
    ``passed`` is how much of the period is over, 0 to 1. For each of the others the rest of an equal share is kept
    back, less and less from the middle of the period on: at its end nothing is kept back any more. 0 is no limit.
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
