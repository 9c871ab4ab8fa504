"""The states of a walk: waiting, walking, and done, stopped by a person, or failed."""

from enum import StrEnum

__all__ = ["UNDER_WAY", "WalkState"]


class WalkState(StrEnum):
    """The state of a walk."""

    WAITING = "waiting"
    WALKING = "walking"
    DONE = "done"
    STOPPED = "stopped"
    FAILED = "failed"


UNDER_WAY = frozenset({WalkState.WAITING, WalkState.WALKING})
