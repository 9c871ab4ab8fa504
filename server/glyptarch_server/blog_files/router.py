"""The API of files of a blog."""

from django.http import HttpRequest, HttpResponse
from ninja import Router

from glyptarch_server import wiring
from glyptarch_server.accounts.queries import person_of
from glyptarch_server.blog_files import actions, queries
from glyptarch_server.blog_files.document import read_file, write_file
from glyptarch_server.blog_files.queries import PartState
from glyptarch_server.blog_files.schemas import BlogFileIn, BringFileIn, BroughtInOut, ComparedOut, ComparisonOut
from glyptarch_server.blogs.queries import Role, blog_for

__all__ = ["router"]

router = Router(tags=["blogs"])


@router.get("/blogs/{blog}/blog-file", operation_id="writeBlogFile")
def write_blog_file(request: HttpRequest, blog: str) -> HttpResponse:
    """Return all rules and sources of a blog as one YAML file, without secrets."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    answer = HttpResponse(write_file(queries.file_of(owned)), content_type="application/yaml; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{owned.slug}.yaml"'
    return answer


@router.post("/blogs/{blog}/blog-file/comparison", response=ComparisonOut, operation_id="compareBlogFile")
def compare_file(request: HttpRequest, blog: str, payload: BlogFileIn) -> ComparisonOut:
    """Return what a file would change in a blog. Nothing is written."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    compared = queries.compare(owned, read_file(payload.yaml))
    parts = [
        ComparedOut(
            kind=part.kind,
            key=part.key,
            name=part.name,
            state=part.state,
            fault=part.fault,
            before=part.before if part.state is PartState.CHANGED else None,
            after=part.after if part.state is PartState.CHANGED else None,
        )
        for part in compared.parts
    ]
    return ComparisonOut(stamp=compared.stamp, parts=parts)


@router.post("/blogs/{blog}/blog-file", response=BroughtInOut, operation_id="bringInBlogFile")
def bring_in(request: HttpRequest, blog: str, payload: BringFileIn) -> BroughtInOut:
    """Bring the chosen parts of a file in: all of them, or none where one of them cannot be."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    number = actions.bring_in(
        owned,
        read_file(payload.yaml),
        {(part.kind, part.key) for part in payload.chosen},
        stamp=payload.stamp,
        by=person_of(request),
        now=wiring.clock()(),
    )
    return BroughtInOut(brought_in=number)
