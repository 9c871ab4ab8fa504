"""The API that adds a source and captures what it has to say, and reads one again."""

from django.http import HttpRequest
from ninja import Router, Schema

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.items import actions
from glyptarch_server.sources.queries import source_of
from glyptarch_server.sources.schemas import AddSourceIn, ReadingOut, ReadWarningOut

__all__ = ["router"]

router = Router(tags=["sources"])


class AddedOut(Schema):
    """The key of a new source, and how many items were captured at once."""

    key: str
    title: str
    captured: int


@router.post("/blogs/{blog}/new-source", response=AddedOut, operation_id="addSource")
def add_source(request: HttpRequest, blog: str, payload: AddSourceIn) -> AddedOut:
    """Make an address a source, and capture its items."""
    owned = blog_for(request.user, blog, Role.OWNER)
    source, captured = actions.add_and_capture(
        owned, payload.url, payload.title, fetcher=wiring.fetcher(), now=wiring.clock()()
    )
    return AddedOut(key=source.key, title=source.title, captured=captured)


@router.post("/blogs/{blog}/sources/{key}/read", response=ReadingOut, operation_id="readSource")
def read_source(request: HttpRequest, blog: str, key: str) -> ReadingOut:
    """Read a source now, and capture what is new."""
    source = source_of(blog_for(request.user, blog, Role.OWNER), key)
    reading = actions.read_and_capture(source, fetcher=wiring.fetcher(), clock=wiring.clock())
    return ReadingOut(
        at=reading.at,
        milliseconds=reading.milliseconds,
        not_modified=reading.not_modified,
        found=reading.found,
        fresh=reading.fresh,
        error=reading.error,
        detail=reading.detail,
        warnings=[ReadWarningOut(**warning) for warning in reading.warnings],
    )
