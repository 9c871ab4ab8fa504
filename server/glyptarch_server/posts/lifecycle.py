"""The states of a post and the moves between them; nothing else changes a state.

A post begins as what its decision said: published, scheduled, held or a draft. A scheduled one
goes out when its date comes. A person can publish what
waits, refuse it, and take either back. A refused post stays as a marker: its keys are still
remembered, so that the same story does not come back by itself.
"""

from collections.abc import Mapping
from enum import StrEnum

__all__ = ["MOVES", "PostState", "may_move"]


class PostState(StrEnum):
    """Where a post stands."""

    PUBLISHED = "published"
    SCHEDULED = "scheduled"
    HELD = "held"
    DRAFT = "draft"
    REFUSED = "refused"


MOVES: Mapping[PostState, frozenset[PostState]] = {
    PostState.SCHEDULED: frozenset({PostState.PUBLISHED, PostState.HELD, PostState.DRAFT, PostState.REFUSED}),
    PostState.HELD: frozenset({PostState.PUBLISHED, PostState.REFUSED, PostState.DRAFT}),
    PostState.DRAFT: frozenset({PostState.PUBLISHED, PostState.REFUSED, PostState.HELD}),
    PostState.PUBLISHED: frozenset({PostState.HELD, PostState.REFUSED}),
    PostState.REFUSED: frozenset({PostState.HELD, PostState.DRAFT, PostState.PUBLISHED}),
}


def may_move(now: PostState, to: PostState) -> bool:
    """Tell whether a post may go from one state to another."""
    return to in MOVES[now]
