"""The states of a post and the moves between them.

Nothing else changes a state. A post begins in the state of its decision: published, scheduled, held or draft. A
scheduled post is published at its date. A person can publish a waiting post, refuse it, and undo either. A refused post
stays as a marker: its keys are kept, so that the same story does not return.

A deleted post is first *binned* and can be restored. When the bin is emptied, a post with a marker is *gone*: only its
keys, title and address are left. A post without a marker is deleted.
"""

from collections.abc import Mapping
from enum import StrEnum

__all__ = ["AT_THE_DESK", "MOVES", "NO_LONGER", "ChangeState", "PostState", "may_move"]


class PostState(StrEnum):
    """The state of a post."""

    PUBLISHED = "published"
    SCHEDULED = "scheduled"
    HELD = "held"
    DRAFT = "draft"
    REFUSED = "refused"
    BINNED = "binned"
    GONE = "gone"


class ChangeState(StrEnum):
    """The progress of a change of many posts."""

    WAITING = "waiting"
    RUNNING = "running"
    DONE = "done"
    STOPPED = "stopped"
    FAILED = "failed"


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
    """Whether a post may move from one state to another."""
    return to in MOVES[now]
