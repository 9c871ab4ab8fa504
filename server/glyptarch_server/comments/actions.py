"""Leaving comments, and deciding what becomes of them."""

from datetime import datetime

from django.db import transaction
from django.db.models import F
from glyptarch_core.text import clean_line, clean_text

from glyptarch_server.audit.actions import record
from glyptarch_server.comments.lifecycle import MOVES, CommentState
from glyptarch_server.comments.models import Comment
from glyptarch_server.common.problems import Conflict, Forbidden, Invalid, TooMany
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import Post

__all__ = ["LONGEST_NAME", "LONGEST_TEXT", "leave_comment", "move_comment"]

LONGEST_NAME = 80
"""Characters of a name."""

LONGEST_TEXT = 4000
"""Characters of a comment."""

# Beyond this number, comments are a flood that no editor reads.
_MOST_WAITING = 100


def leave_comment(post: Post, *, name: str, text: str, now: datetime) -> Comment:
    """Store a reader's comment for moderation.

    An identical one is stored only once. Raises Forbidden where the post takes no comments, Invalid for an empty or too
    long text, and TooMany while too many comments of the post wait.
    """
    name, text = clean_line(name, LONGEST_NAME + 1), clean_text(text).strip()
    if not post.comments or post.state != PostState.PUBLISHED.value:
        raise Forbidden("This post takes no comments.")
    if not name or not text:
        raise Invalid("Write your name and what you want to say.")
    if len(name) > LONGEST_NAME or len(text) > LONGEST_TEXT:
        raise Invalid(f"A name may have {LONGEST_NAME} characters and a comment {LONGEST_TEXT}. Please shorten it.")
    with transaction.atomic():
        # Comments on one post are serialised, so that the counts are right.
        Post.objects.select_for_update().get(pk=post.pk)
        same = post.readers_comments.filter(name=name, text=text).first()
        if same is not None:
            return same
        if post.readers_comments.filter(state=CommentState.WAITING.value).count() >= _MOST_WAITING:
            raise TooMany("Very many comments wait to be read here. Please come back later.")
        comment = Comment.objects.create(
            post=post,
            blog_id=post.blog_id,
            state=CommentState.WAITING.value,
            name=name,
            text=text,
            made_at=now,
            changed_at=now,
        )
        Post.objects.filter(pk=post.pk).update(comment_count=F("comment_count") + 1)
        return comment


def move_comment(comment: Comment, to: CommentState, *, now: datetime) -> Comment:
    """Show a comment, remove it, or take either back. Raises Conflict when it may not move so."""
    with transaction.atomic():
        row = Comment.objects.select_for_update(of=("self",)).get(pk=comment.pk)
        state = CommentState(row.state)
        if state is not to:
            if to not in MOVES[state]:
                raise Conflict(f"The comment of {row.name} is {state.value} now, and cannot become {to.value}.")
            row.state, row.changed_at = to.value, now
            row.save(update_fields=["state", "changed_at"])
            subject = f"{row.name}: {row.text}"
            record("comment.moved", subject, blog=row.blog_id, before=state.value, after=to.value)
    comment.state, comment.changed_at = row.state, row.changed_at
    return comment
