"""The states of a replay, and its outcomes.

A replay *waits*, then *decides*. When it is *ready*, a person reviews the results and applies all or some: it is
*applying* then, and *ready* again afterwards. It can be *stopped* at any time; its results so far can be applied.
"""

from collections.abc import Mapping
from enum import StrEnum

__all__ = ["KEPT", "MOVES", "UNDER_WAY", "Outcome", "ReplayState"]


class ReplayState(StrEnum):
    """The state of a replay."""

    WAITING = "waiting"
    DECIDING = "deciding"
    READY = "ready"
    APPLYING = "applying"
    STOPPED = "stopped"
    FAILED = "failed"


MOVES: Mapping[ReplayState, frozenset[ReplayState]] = {
    ReplayState.WAITING: frozenset({ReplayState.DECIDING, ReplayState.STOPPED, ReplayState.FAILED}),
    ReplayState.DECIDING: frozenset({ReplayState.READY, ReplayState.STOPPED, ReplayState.FAILED}),
    ReplayState.READY: frozenset({ReplayState.APPLYING}),
    ReplayState.APPLYING: frozenset({ReplayState.READY}),
    ReplayState.STOPPED: frozenset({ReplayState.APPLYING}),
    ReplayState.FAILED: frozenset(),
}

UNDER_WAY = frozenset({ReplayState.WAITING, ReplayState.DECIDING, ReplayState.APPLYING})


class Outcome(StrEnum):
    """The outcome of a replay for a decided item."""

    SAME = "same"
    CHANGED = "changed"
    REFUSED = "refused"
    DUPLICATE = "duplicate"
    NEW = "new"
    OUT = "out"
    """It became no post, and would become none."""


KEPT = (Outcome.SAME.value, Outcome.CHANGED.value, Outcome.NEW.value)
"""Outcomes of items that stand afterwards: later ones are compared with them."""
