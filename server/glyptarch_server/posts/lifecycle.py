"""The states of a post and the moves between them; nothing else changes a state.

A post begins as what its decision said: published, scheduled, held or a draft. A scheduled one goes out when its date
comes. A person can publish what waits, refuse it, and take either back. A refused post stays as a marker: its keys are
still remembered, so that the same story does not come back by itself.

A post that is deleted is *binned* first, and can be restored from there. When the bin is emptied, what is kept with its
marker is *gone*: nothing of it is left but what it is remembered by. What has no marker is deleted.
"""

from collections.abc import Mapping
from enum import StrEnum

__all__ = ["AT_THE_DESK", "MOVES", "NO_LONGER", "ChangeState", "PostState", "may_move"]


class PostState(StrEnum):
    """Where a post stands."""

    PUBLISHED = "published"
    SCHEDULED = "scheduled"
    HELD = "held"
    DRAFT = "draft"
    REFUSED = "refused"
    BINNED = "binned"
    GONE = "gone"


class ChangeState(StrEnum):
    """How far a change of many posts has come."""

    WAITING = "waiting"
    RUNNING = "running"
    DONE = "done"
    STOPPED = "stopped"


_ANY_BUT_GONE = frozenset(PostState) - {PostState.GONE}

MOVES: Mapping[PostState, frozenset[PostState]] = {
    PostState.SCHEDULED: _ANY_BUT_GONE - {PostState.SCHEDULED},
    PostState.HELD: _ANY_BUT_GONE - {PostState.HELD},
    PostState.DRAFT: _ANY_BUT_GONE - {PostState.DRAFT},
    PostState.PUBLISHED: _ANY_BUT_GONE - {PostState.PUBLISHED},
    PostState.REFUSED: _ANY_BUT_GONE - {PostState.REFUSED},
    PostState.BINNED: frozenset(PostState) - {PostState.BINNED},
    PostState.GONE: frozenset(),
}

NO_LONGER = (PostState.REFUSED.value, PostState.BINNED.value, PostState.GONE.value)
"""The states of posts that are there as markers at most."""

AT_THE_DESK = tuple(state.value for state in PostState if state not in {PostState.BINNED, PostState.GONE})
"""The states of posts that people work with."""


def may_move(now: PostState, to: PostState) -> bool:
    """Tell whether a post may go from one state to another."""
    return to in MOVES[now]
