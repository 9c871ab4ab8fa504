"""The API of subscriptions."""

from django.http import HttpRequest
from ninja import Router

from glyptarch_server.blogs.queries import blog_for
from glyptarch_server.common.address import public_address
from glyptarch_server.sources.queries import source_of
from glyptarch_server.websub import queries
from glyptarch_server.websub.queries import PushState
from glyptarch_server.websub.schemas import PushOut

__all__ = ["router"]

router = Router(tags=["sources"])


@router.get("/blogs/{blog}/sources/{key}/push", response=PushOut, operation_id="getPush")
def get_push(request: HttpRequest, blog: str, key: str) -> PushOut:
    """Return the state of a source's subscription (WebSub)."""
    source = source_of(blog_for(request.user, blog), key)
    row = queries.of_source(source)
    return PushOut(
        hub=source.state.hub,
        state=PushState(row.state) if row else None,
        lease_ends_at=row.lease_ends_at if row else None,
        pushed_at=row.pushed_at if row else None,
        bad_pushes=row.bad_pushes if row else 0,
        failure=row.failure if row else "",
        address_is_set=bool(public_address()),
    )
