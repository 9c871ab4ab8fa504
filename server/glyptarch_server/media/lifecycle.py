"""The states of a copy.

A copy *waits* until it is fetched. It is then *kept*, or *failed* and tried again at ``next_at``. After its last try it
is *given up*; a person can have it tried again.
"""

from collections.abc import Mapping
from datetime import timedelta
from enum import StrEnum

__all__ = ["MOVES", "PAUSES", "CopyState"]


class CopyState(StrEnum):
    """The state of a copy."""

    WAITING = "waiting"
    KEPT = "kept"
    FAILED = "failed"
    GIVEN_UP = "given_up"


MOVES: Mapping[CopyState, frozenset[CopyState]] = {
    CopyState.WAITING: frozenset({CopyState.KEPT, CopyState.FAILED, CopyState.GIVEN_UP}),
    CopyState.FAILED: frozenset({CopyState.KEPT, CopyState.GIVEN_UP, CopyState.WAITING}),
    CopyState.GIVEN_UP: frozenset({CopyState.WAITING}),
    CopyState.KEPT: frozenset(),
}

PAUSES = (timedelta(minutes=5), timedelta(hours=1), timedelta(hours=6), timedelta(days=1))
"""After which pause a failed copy is tried again; after the last one it is given up."""
