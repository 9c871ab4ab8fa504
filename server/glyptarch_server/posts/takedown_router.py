"""The API of takedowns."""

from typing import TYPE_CHECKING

from django.http import HttpRequest
from ninja import Router

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.common.fields import RowNumber
from glyptarch_server.common.paging import PAGE, Limit, Offset, page_of
from glyptarch_server.posts import queries, takedown
from glyptarch_server.posts.schemas import (
    TakedownIn,
    TakedownOut,
    TakedownPageOut,
    WithdrawnOut,
)
from glyptarch_server.sources.queries import source_of

if TYPE_CHECKING:
    from glyptarch_server.posts.models import Takedown

__all__ = ["router"]

router = Router(tags=["posts"])


def _takedown(row: "Takedown") -> TakedownOut:
    return TakedownOut(
        id=row.pk,
        subject=row.subject,
        whole_source=row.source is not None,
        asked_by=row.asked_by,
        reason=row.reason,
        withdrawn=[WithdrawnOut(**post) for post in row.withdrawn],
        by=row.name,
        at=row.at,
        lifted_at=row.lifted_at,
    )


@router.post("/blogs/{blog}/posts/{int:post_id}/takedown", response=TakedownOut, operation_id="takeDownPost")
def take_down_post(request: HttpRequest, blog: str, post_id: int, payload: TakedownIn) -> TakedownOut:
    """Withdraw all posts that lead to the same original as this one, and block that link."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    post = queries.post_of(owned, post_id)
    now = wiring.clock()()
    return _takedown(takedown.take_down_post(post, asked_by=payload.asked_by, reason=payload.reason, now=now))


@router.post("/blogs/{blog}/sources/{key}/takedown", response=TakedownOut, operation_id="takeDownSource")
def take_down_source(request: HttpRequest, blog: str, key: str, payload: TakedownIn) -> TakedownOut:
    """Withdraw all posts that came from a source, and block it."""
    source = source_of(blog_for(request.user, blog, Role.EDITOR), key)
    now = wiring.clock()()
    return _takedown(takedown.take_down_source(source, asked_by=payload.asked_by, reason=payload.reason, now=now))


@router.get("/blogs/{blog}/takedowns", response=TakedownPageOut, operation_id="listTakedowns")
def list_takedowns(request: HttpRequest, blog: str, limit: Limit = PAGE, offset: Offset = 0) -> TakedownPageOut:
    """Return the takedowns of a blog."""
    page, total = page_of(queries.listed_takedowns(blog_for(request.user, blog)), limit=limit, offset=offset)
    return TakedownPageOut(rows=[_takedown(row) for row in page], total=total)


@router.post("/blogs/{blog}/takedowns/{int:number}/lift", response=TakedownOut, operation_id="liftTakedown")
def lift_takedown(request: HttpRequest, blog: str, number: RowNumber) -> TakedownOut:
    """Lift a takedown.

    Its posts stay in the bin.
    """
    owned = blog_for(request.user, blog, Role.EDITOR)
    takedown.lift(queries.takedown_of(owned, number), now=wiring.clock()())
    return _takedown(queries.takedown_of(owned, number))
