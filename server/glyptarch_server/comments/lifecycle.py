"""The states of a comment and the moves between them.

Nothing else changes a state. A comment waits until an editor has read it. A removed comment is kept and can be
restored.
"""

from collections.abc import Mapping
from enum import StrEnum

__all__ = ["MOVES", "CommentState"]


class CommentState(StrEnum):
    """The state of a comment."""

    WAITING = "waiting"
    SHOWN = "shown"
    REMOVED = "removed"


MOVES: Mapping[CommentState, frozenset[CommentState]] = {
    CommentState.WAITING: frozenset({CommentState.SHOWN, CommentState.REMOVED}),
    CommentState.SHOWN: frozenset({CommentState.REMOVED, CommentState.WAITING}),
    CommentState.REMOVED: frozenset({CommentState.SHOWN, CommentState.WAITING}),
}
