"""The API of changes to many posts, of the bin, and of saved filters."""

from dataclasses import asdict
from typing import TYPE_CHECKING

from django.http import HttpRequest
from ninja import Router

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.common.fields import RowNumber
from glyptarch_server.common.paging import Limit
from glyptarch_server.common.problems import Invalid
from glyptarch_server.posts import actions, changes, emptying, queries
from glyptarch_server.posts.answers import selected
from glyptarch_server.posts.lifecycle import ChangeState
from glyptarch_server.posts.schemas import (
    PostChangeIn,
    PostChangeOut,
    SelectionIn,
    TouchedOut,
    ViewIn,
    ViewOut,
)
from glyptarch_server.tasks.actions import ask_to_stop

if TYPE_CHECKING:
    from glyptarch_server.posts.models import Change

__all__ = ["router"]

router = Router(tags=["posts"])


_NEEDS = {"moved": ("to",), "category": ("category",), "byline": ("byline",), "tags": (), "binned": (), "restored": ()}
_PARTS = {
    "moved": ("to", "date", "seen", "why", "alone"),
    "category": ("category",),
    "byline": ("byline",),
    "tags": ("add", "remove"),
    "binned": ("marker", "spare", "alone"),
    "restored": ("alone",),
}


@router.post("/blogs/{blog}/post-changes", response=PostChangeOut, operation_id="changePosts")
def change_posts(request: HttpRequest, blog: str, payload: PostChangeIn) -> PostChangeOut:
    """Change many posts: directly where they are few, else by a job with progress."""
    role = Role.REVIEWER if payload.action == "moved" else Role.EDITOR
    owned = blog_for(request.user, blog, role)
    values = payload.model_dump(mode="json")
    missing = [name for name in _NEEDS[payload.action] if not values[name]]
    if missing:
        raise Invalid(f"Say which {missing[0]}." if missing[0] != "to" else "Say which state they are to go to.")
    if payload.to == "scheduled" and payload.date is None:
        raise Invalid("Choose a date and time to schedule the posts.")
    what = {name: values[name] for name in _PARTS[payload.action] if values[name] is not None}
    change = changes.begin_change(
        owned, changes.Action(payload.action), what, selected(owned, payload), now=wiring.clock()(), role=role
    )
    return _change(queries.change_of(owned, change.pk))


def _change(row: "Change") -> PostChangeOut:
    back = getattr(row, "taken_back_by", None)
    return PostChangeOut(
        id=row.pk,
        action=row.action,
        to=str(row.what.get("to", "")),
        subject=row.subject,
        by=row.name,
        at=row.at,
        state=ChangeState(row.state),
        posts=row.number,  # type: ignore[attr-defined]  # annotated by the queries
        done=row.done,
        changed=row.changed,
        taken_back=back is not None,
        taken_back_by=back.pk if back else None,
    )


@router.post("/blogs/{blog}/post-changes/count", response=TouchedOut, operation_id="countPosts")
def count_posts(request: HttpRequest, blog: str, payload: SelectionIn) -> TouchedOut:
    """Return counts of posts before a change."""
    owned = blog_for(request.user, blog)
    return TouchedOut(**asdict(queries.touched(owned, selected(owned, payload))))


@router.get("/blogs/{blog}/post-changes", response=list[PostChangeOut], operation_id="listChanges")
def list_changes(request: HttpRequest, blog: str, limit: Limit = 20) -> list[PostChangeOut]:
    """Return the latest changes of posts."""
    return [_change(row) for row in queries.listed_changes(blog_for(request.user, blog))[:limit]]


@router.get("/blogs/{blog}/post-changes/{int:number}", response=PostChangeOut, operation_id="getChange")
def get_change(request: HttpRequest, blog: str, number: RowNumber) -> PostChangeOut:
    """Return the progress of a change."""
    return _change(queries.change_of(blog_for(request.user, blog), number))


@router.post("/blogs/{blog}/post-changes/{int:number}/stop", response=PostChangeOut, operation_id="stopChange")
def stop_change(request: HttpRequest, blog: str, number: RowNumber) -> PostChangeOut:
    """Stop a change.

    Posts changed so far stay changed, and the change can be taken back.
    """
    owned = blog_for(request.user, blog, Role.REVIEWER)
    task = queries.change_of(owned, number).task
    if task is not None:
        ask_to_stop(task, now=wiring.clock()())
    return get_change(request, blog, number)


@router.post("/blogs/{blog}/post-changes/{int:number}/take-back", response=PostChangeOut, operation_id="takeBackChange")
def take_back_change(request: HttpRequest, blog: str, number: RowNumber) -> PostChangeOut:
    """Undo a change, except values changed again since.

    Return the change that undoes it.
    """
    owned = blog_for(request.user, blog, Role.REVIEWER)
    change = queries.change_of(owned, number)
    role = Role.REVIEWER if change.action == changes.Action.MOVE.value else Role.EDITOR
    blog_for(request.user, blog, role)
    undoing = changes.take_back(change, now=wiring.clock()(), role=role)
    return _change(queries.change_of(owned, undoing.pk))


@router.delete("/blogs/{blog}/bin", response={204: None}, operation_id="emptyBin")
def empty_bin(request: HttpRequest, blog: str) -> tuple[int, None]:
    """Empty the bin.

    This cannot be undone.
    """
    emptying.empty_bin(blog_for(request.user, blog, Role.EDITOR), now=wiring.clock()())
    return 204, None


@router.get("/blogs/{blog}/post-views", response=list[ViewOut], operation_id="listPostViews")
def list_post_views(request: HttpRequest, blog: str) -> list[ViewOut]:
    """Return the saved filters of the list of posts."""
    rows = queries.kept_views(blog_for(request.user, blog))
    return [ViewOut.model_validate(row, from_attributes=True) for row in rows]


@router.post("/blogs/{blog}/post-views", response=ViewOut, operation_id="keepPostView")
def keep_post_view(request: HttpRequest, blog: str, payload: ViewIn) -> ViewOut:
    """Save a filter under a name, replacing one of this name."""
    row = actions.keep_view(blog_for(request.user, blog, Role.REVIEWER), payload.name, payload.query)
    return ViewOut.model_validate(row, from_attributes=True)


@router.delete("/blogs/{blog}/post-views/{int:number}", response={204: None}, operation_id="removePostView")
def remove_post_view(request: HttpRequest, blog: str, number: RowNumber) -> tuple[int, None]:
    """Remove a named filter."""
    actions.remove_view(blog_for(request.user, blog, Role.REVIEWER), number)
    return 204, None
