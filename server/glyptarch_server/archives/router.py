"""The API of older items."""

from django.http import HttpRequest
from ninja import Router

from glyptarch_server import wiring
from glyptarch_server.accounts.queries import person_of
from glyptarch_server.archives import actions, queries
from glyptarch_server.archives.schemas import ExpectedOut, OlderIn, WalkOut
from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.sources.queries import source_of
from glyptarch_server.tasks.actions import ask_to_stop

__all__ = ["router"]

router = Router(tags=["sources"])


@router.get("/blogs/{blog}/sources/{key}/older", response=WalkOut, operation_id="getOlder")
def get_older(request: HttpRequest, blog: str, key: str) -> WalkOut:
    """Return the progress of reading older items of a source."""
    walk = queries.last_walk(source_of(blog_for(request.user, blog), key))
    return WalkOut.model_validate(walk, from_attributes=True) if walk else WalkOut(state=None)


@router.post("/blogs/{blog}/sources/{key}/older/count", response=ExpectedOut, operation_id="countOlder")
def count_older(request: HttpRequest, blog: str, key: str, payload: OlderIn) -> ExpectedOut:
    """Count the items that reading older pages would bring.

    Nothing is stored.
    """
    source = source_of(blog_for(request.user, blog, Role.EDITOR), key)
    expected = actions.expect(source, floor=payload.floor, pattern=payload.pattern, fetcher=wiring.fetcher())
    return ExpectedOut.model_validate(expected, from_attributes=True)


@router.post("/blogs/{blog}/sources/{key}/older", response=WalkOut, operation_id="readOlder")
def read_older(request: HttpRequest, blog: str, key: str, payload: OlderIn) -> WalkOut:
    """Begin to read older items of a source."""
    source = source_of(blog_for(request.user, blog, Role.EDITOR), key)
    actions.begin_walk(
        source, floor=payload.floor, pattern=payload.pattern, by=person_of(request), now=wiring.clock()()
    )
    return get_older(request, blog, key)


@router.delete("/blogs/{blog}/sources/{key}/older", response=WalkOut, operation_id="stopOlder")
def stop_older(request: HttpRequest, blog: str, key: str) -> WalkOut:
    """Stop reading older items after the present page."""
    walk = queries.under_way(source_of(blog_for(request.user, blog, Role.EDITOR), key))
    if walk is not None and walk.task is not None:
        ask_to_stop(walk.task, now=wiring.clock()())
    return get_older(request, blog, key)
