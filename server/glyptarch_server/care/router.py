"""The API of for how long records are kept."""

from django.http import HttpRequest
from ninja import Router

from glyptarch_server import wiring
from glyptarch_server.blogs import actions
from glyptarch_server.blogs.keeping import LIMITS, Record, usual_days
from glyptarch_server.blogs.queries import Role, blog_for, keeping_of
from glyptarch_server.care.schemas import FreedIn, FreedOut, KeepingIn, KeepingOut, KeptOut
from glyptarch_server.runs.thinning import freed_by

__all__ = ["router"]

router = Router(tags=["blogs"])


@router.get("/blogs/{blog}/keeping", response=KeepingOut, operation_id="getKeeping")
def get_keeping(request: HttpRequest, blog: str) -> KeepingOut:
    """Return for how long the records of a blog are kept."""
    owned = blog_for(request.user, blog, Role.OWNER)
    keeping = keeping_of(owned)
    records = [
        KeptOut(
            record=record,
            days=keeping.days(record),
            usual=usual_days(record),
            least=LIMITS[record].least,
            most=LIMITS[record].most,
            is_own=record.value in owned.keeping,
        )
        for record in Record
    ]
    return KeepingOut(version=owned.version, keeping=keeping, records=records)


@router.put("/blogs/{blog}/keeping", response=KeepingOut, operation_id="saveKeeping")
def save_keeping(request: HttpRequest, blog: str, payload: KeepingIn) -> KeepingOut:
    """Save for how long the records of a blog are kept. Older ones go in the next night."""
    owned = blog_for(request.user, blog, Role.OWNER)
    actions.save_keeping(owned, payload.keeping, begun=payload.begun)
    return get_keeping(request, blog)


@router.post("/blogs/{blog}/keeping/freed", response=list[FreedOut], operation_id="countFreed")
def count_freed(request: HttpRequest, blog: str, payload: FreedIn) -> list[FreedOut]:
    """Return what keeping records for so many days would free. Nothing is removed."""
    owned, now = blog_for(request.user, blog, Role.OWNER), wiring.clock()()
    freed = {record: freed_by(owned, record, payload.keeping.days(record), now=now) for record in Record}
    return [FreedOut(record=record, number=one.number, size=one.size) for record, one in freed.items()]
