"""The states of a walk back: it waits for a worker, walks, and ends done, stopped by a person, or failed."""

from enum import StrEnum

__all__ = ["UNDER_WAY", "WalkState"]


class WalkState(StrEnum):
    """Where a walk stands."""

    WAITING = "waiting"
    WALKING = "walking"
    DONE = "done"
    STOPPED = "stopped"
    FAILED = "failed"


UNDER_WAY = frozenset({WalkState.WAITING, WalkState.WALKING})
