"""API schemas of comments."""

from datetime import datetime

from ninja import Schema

from glyptarch_server.comments.lifecycle import CommentState
from glyptarch_server.common.out import Out

__all__ = ["CommentMoveIn", "CommentOut", "CommentPageOut"]


class CommentMoveIn(Schema):
    """The state a comment is to go to."""

    state: CommentState


class CommentOut(Out):
    """A comment with its post."""

    id: int
    state: CommentState
    name: str
    text: str
    post: int
    post_title: str
    post_slug: str
    made_at: datetime


class CommentPageOut(Out):
    """One page of comments, with how many there are in each state."""

    rows: list[CommentOut]
    total: int
    states: dict[str, int]
