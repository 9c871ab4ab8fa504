"""The states of a comment and the moves between them; nothing else changes a state.

A comment waits until an editor has read it. One that is removed stays on record, and can be
brought back.
"""

from collections.abc import Mapping
from enum import StrEnum

__all__ = ["MOVES", "CommentState"]


class CommentState(StrEnum):
    """Where a comment stands."""

    WAITING = "waiting"
    SHOWN = "shown"
    REMOVED = "removed"


MOVES: Mapping[CommentState, frozenset[CommentState]] = {
    CommentState.WAITING: frozenset({CommentState.SHOWN, CommentState.REMOVED}),
    CommentState.SHOWN: frozenset({CommentState.REMOVED, CommentState.WAITING}),
    CommentState.REMOVED: frozenset({CommentState.SHOWN, CommentState.WAITING}),
}
