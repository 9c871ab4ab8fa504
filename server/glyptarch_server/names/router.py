"""The API of categories, tags and bylines."""

from typing import TYPE_CHECKING

from django.http import HttpRequest
from ninja import Router

from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.common.fields import RowNumber
from glyptarch_server.common.paging import PAGE, Limit, Offset, page_of
from glyptarch_server.names import actions, queries
from glyptarch_server.names.queries import NameKind, NameSort
from glyptarch_server.names.schemas import MergeIn, NameIn, NameOut, NamePageOut, ParentIn

if TYPE_CHECKING:
    from glyptarch_server.names.queries import Named

__all__ = ["router"]

router = Router(tags=["names"])


def _name(row: "Named") -> NameOut:
    return NameOut(
        id=row.pk,
        name=row.name,
        slug=row.slug,
        posts=getattr(row, "borne_by", 0),
        parent=getattr(row, "parent_id", None),
    )


@router.get("/blogs/{blog}/names/{kind}", response=NamePageOut, operation_id="listNames")
def list_names(
    request: HttpRequest,
    blog: str,
    kind: NameKind,
    search: str = "",
    sort: NameSort = NameSort.NAME,
    limit: Limit = PAGE,
    offset: Offset = 0,
) -> NamePageOut:
    """Return the categories, tags or bylines of a blog, with the number of posts of each."""
    rows = queries.listed_names(blog_for(request.user, blog), kind, search=search, sort=sort)
    page, total = page_of(rows, limit=limit, offset=offset)
    return NamePageOut(rows=[_name(row) for row in page], total=total)


@router.post("/blogs/{blog}/names/{kind}", response=NameOut, operation_id="addName")
def add_name(request: HttpRequest, blog: str, kind: NameKind, payload: NameIn) -> NameOut:
    """Make a category, tag or byline."""
    return _name(actions.add_name(blog_for(request.user, blog, Role.EDITOR), kind, payload.name))


@router.patch("/blogs/{blog}/names/{kind}/{int:number}", response=NameOut, operation_id="renameName")
def rename(request: HttpRequest, blog: str, kind: NameKind, number: RowNumber, payload: NameIn) -> NameOut:
    """Rename one.

    Rules with the old name keep working.
    """
    owned = blog_for(request.user, blog, Role.EDITOR)
    actions.rename(queries.name_of(owned, kind, number), kind, payload.name)
    return _name(queries.name_out_of(owned, kind, number))


@router.delete("/blogs/{blog}/names/{kind}/{int:number}", response={204: None}, operation_id="removeName")
def remove(request: HttpRequest, blog: str, kind: NameKind, number: RowNumber) -> tuple[int, None]:
    """Remove an unused one."""
    actions.remove_name(queries.name_of(blog_for(request.user, blog, Role.EDITOR), kind, number), kind)
    return 204, None


@router.post("/blogs/{blog}/names/{kind}/{int:number}/merge", response=NameOut, operation_id="mergeNames")
def merge(request: HttpRequest, blog: str, kind: NameKind, number: RowNumber, payload: MergeIn) -> NameOut:
    """Merge one into another: the posts of the first follow."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    target = actions.merge(queries.name_of(owned, kind, number), kind, payload.into)
    return _name(queries.name_out_of(owned, kind, target.pk))


@router.put("/blogs/{blog}/category-parents/{int:number}", response=NameOut, operation_id="putUnder")
def put_under(request: HttpRequest, blog: str, number: RowNumber, payload: ParentIn) -> NameOut:
    """Put a category under another one, or on top."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    row = queries.category_of(owned, number)
    actions.put_under(row, queries.category_of(owned, payload.parent) if payload.parent else None)
    return _name(queries.name_out_of(owned, NameKind.CATEGORY, number))
