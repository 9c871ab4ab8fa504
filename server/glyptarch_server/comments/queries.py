"""Reads about comments."""

from collections.abc import Sequence

from django.db.models import Count, Q, QuerySet

from glyptarch_server.blogs.models import Blog
from glyptarch_server.comments.lifecycle import CommentState
from glyptarch_server.comments.models import Comment
from glyptarch_server.common.lookups import by_index
from glyptarch_server.common.problems import NotFound
from glyptarch_server.posts.models import Post
from glyptarch_server.posts.queries import posts_titled

__all__ = ["comment_of", "comments_under", "listed_comments", "state_counts", "waiting_comments"]

_MOST_SHOWN = 500


def listed_comments(blog: Blog, *, state: str = "", search: str = "") -> QuerySet[Comment]:
    """Return the comments of a blog for the desk, newest first."""
    rows = Comment.objects.filter(blog=blog).select_related("post").defer("post__body")
    if state:
        rows = rows.filter(state=state)
    if search:
        titled = posts_titled(blog, search)
        rows = rows.filter(Q(text__icontains=search) | Q(name__icontains=search) | Q(post__in=titled))
    return rows.order_by("-made_at", "-pk")


def state_counts(blog: Blog) -> dict[str, int]:
    """Return the number of a blog's comments in each state."""
    with by_index():
        counted = dict(Comment.objects.filter(blog=blog).values_list("state").annotate(number=Count("*")))
    return {state.value: counted.get(state.value, 0) for state in CommentState}


def waiting_comments(blog: Blog) -> QuerySet[Comment]:
    """Return the comments of a blog that wait for a decision."""
    return Comment.objects.filter(blog=blog, state=CommentState.WAITING.value)


def comment_of(blog: Blog, number: int) -> Comment:
    """Return one comment. Raises NotFound."""
    comment = Comment.objects.filter(blog=blog, pk=number).select_related("post").first()
    if comment is None:
        raise NotFound("This blog has no such comment.")
    return comment


def comments_under(post: Post) -> Sequence[Comment]:
    """Return the approved comments of a post, oldest first, at most five hundred."""
    return list(post.readers_comments.filter(state=CommentState.SHOWN.value).order_by("made_at", "pk")[:_MOST_SHOWN])
