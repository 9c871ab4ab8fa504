"""The states of a run and the moves between them.

Nothing else changes a state. A run waits for a worker, gathers, then decides in batches. It ends done, stopped by a
person, or failed. When a worker dies, the next one continues the run, since every batch is one transaction and decided
items are not decided again.
"""

from collections.abc import Mapping
from enum import StrEnum

__all__ = ["ACTIVE", "MOVES", "RunState", "may_move"]


class RunState(StrEnum):
    """The state of a run."""

    WAITING = "waiting"
    GATHERING = "gathering"
    DECIDING = "deciding"
    DONE = "done"
    STOPPED = "stopped"
    FAILED = "failed"


ACTIVE = frozenset({RunState.WAITING, RunState.GATHERING, RunState.DECIDING})

_ENDS = frozenset({RunState.STOPPED, RunState.FAILED})
MOVES: Mapping[RunState, frozenset[RunState]] = {
    RunState.WAITING: frozenset({RunState.GATHERING}) | _ENDS,
    RunState.GATHERING: frozenset({RunState.GATHERING, RunState.DECIDING}) | _ENDS,
    RunState.DECIDING: frozenset({RunState.DECIDING, RunState.DONE}) | _ENDS,
    RunState.DONE: frozenset(),
    RunState.STOPPED: frozenset(),
    RunState.FAILED: frozenset(),
}


def may_move(now: RunState, to: RunState) -> bool:
    """Whether a run may move from one state to another."""
    return to in MOVES[now]
