"""The API of comments."""

from typing import TYPE_CHECKING

from django.http import HttpRequest
from ninja import Router

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.comments import actions, queries
from glyptarch_server.comments.lifecycle import CommentState
from glyptarch_server.comments.schemas import CommentMoveIn, CommentOut, CommentPageOut
from glyptarch_server.common.paging import PAGE, SEARCHED, Limit, Offset, page_of

if TYPE_CHECKING:
    from glyptarch_server.comments.models import Comment

__all__ = ["router"]

router = Router(tags=["comments"])


def _comment(row: "Comment") -> CommentOut:
    return CommentOut(
        id=row.pk,
        state=CommentState(row.state),
        name=row.name,
        text=row.text,
        post=row.post_id,
        post_title=row.post.title,
        post_slug=row.post.slug,
        made_at=row.made_at,
    )


@router.get("/blogs/{blog}/comments", response=CommentPageOut, operation_id="listComments")
def list_comments(
    request: HttpRequest,
    blog: str,
    state: CommentState | None = None,
    search: str = "",
    limit: Limit = PAGE,
    offset: Offset = 0,
) -> CommentPageOut:
    """Return the comments of a blog, newest first."""
    owned = blog_for(request.user, blog)
    rows = queries.listed_comments(owned, state=state.value if state else "", search=search)
    states = queries.state_counts(owned)
    counted = None if search else states[state.value] if state else sum(states.values())
    page, total = page_of(rows, limit=limit, offset=offset, total=counted, most=SEARCHED if search else None)
    return CommentPageOut(rows=[_comment(row) for row in page], total=total, states=states)


@router.post("/blogs/{blog}/comments/{int:number}/state", response=CommentOut, operation_id="moveComment")
def move_comment(request: HttpRequest, blog: str, number: int, payload: CommentMoveIn) -> CommentOut:
    """Show a comment, remove it, or take either back."""
    comment = queries.comment_of(blog_for(request.user, blog, Role.REVIEWER), number)
    return _comment(actions.move_comment(comment, payload.state, now=wiring.clock()()))
