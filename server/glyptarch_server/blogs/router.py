"""The API of blogs."""

import csv
import io
from typing import TYPE_CHECKING

from django.http import HttpRequest
from glyptarch_core.appearance import look_of
from ninja import Router

from glyptarch_server import wiring
from glyptarch_server.accounts.queries import full_session
from glyptarch_server.audit.queries import entries_of
from glyptarch_server.blogs import actions, queries
from glyptarch_server.blogs.queries import Role
from glyptarch_server.blogs.schemas import (
    AppearanceIn,
    AuditEntryOut,
    AuditPageOut,
    BlogOut,
    BlogSummaryOut,
    ChangeBlogIn,
    MakeBlogIn,
    RemovedBlogOut,
    TermTableIn,
    TermTableOut,
    WordListIn,
    WordListOut,
)
from glyptarch_server.common.paging import PAGE, SEARCHED, Limit, Offset, page_of

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import TermTable, WordList

__all__ = ["router"]

router = Router(tags=["blogs"])


def _word_list(row: "WordList") -> WordListOut:
    return WordListOut(version=row.version, key=row.key, name=row.name, words=row.words)


def _term_table(row: "TermTable") -> TermTableOut:
    lines = io.StringIO()
    csv.writer(lines, lineterminator="\n").writerows(row.rows)
    return TermTableOut(version=row.version, key=row.key, name=row.name, lines=len(row.rows), text=lines.getvalue())


@router.get("/blogs", response=list[BlogSummaryOut], operation_id="listBlogs")
def list_blogs(request: HttpRequest) -> list[BlogSummaryOut]:
    """Return the blogs of the signed-in person."""
    memberships = queries.blogs_of(request.user)
    return [BlogSummaryOut(slug=m.blog.slug, title=m.blog.title, role=Role(m.role)) for m in memberships]


@router.post("/blogs", response=BlogSummaryOut, operation_id="makeBlog")
def make_blog(request: HttpRequest, payload: MakeBlogIn) -> BlogSummaryOut:
    """Create a blog, owned by the signed-in person."""
    owner = full_session(request)
    blog = actions.make_blog(**payload.model_dump(), owner=owner, now=wiring.clock()())
    return BlogSummaryOut(slug=blog.slug, title=blog.title, role=Role.OWNER)


@router.get("/removed-blogs", response=list[RemovedBlogOut], operation_id="listRemovedBlogs")
def list_removed_blogs(request: HttpRequest) -> list[RemovedBlogOut]:
    """Return the removed blogs that the signed-in person owned."""
    rows = queries.removed_blogs_of(request.user)
    return [RemovedBlogOut(slug=row.slug, title=row.title, removed_at=row.removed_at) for row in rows if row.removed_at]


@router.delete("/removed-blogs/{slug}", response=BlogSummaryOut, operation_id="bringBackBlog")
def bring_back_blog(request: HttpRequest, slug: str) -> BlogSummaryOut:
    """Restore a removed blog."""
    blog = actions.bring_back_blog(full_session(request), slug)
    return BlogSummaryOut(slug=blog.slug, title=blog.title, role=Role.OWNER)


@router.patch("/blogs/{blog}", response=BlogOut, operation_id="changeBlog")
def change_blog(request: HttpRequest, blog: str, payload: ChangeBlogIn) -> BlogOut:
    """Change name, tagline or language of a blog."""
    values = payload.model_dump(exclude={"version"})
    actions.change_blog(queries.blog_for(request.user, blog, Role.OWNER), begun=payload.version, **values)
    return get_blog(request, blog)


@router.put("/blogs/{blog}/appearance", response=BlogOut, operation_id="changeAppearance")
def change_appearance(request: HttpRequest, blog: str, payload: AppearanceIn) -> BlogOut:
    """Change the look of a blog."""
    row = queries.blog_for(request.user, blog, Role.OWNER)
    actions.change_appearance(row, payload.appearance.model_dump(), begun=payload.version)
    return get_blog(request, blog)


@router.delete("/blogs/{blog}", response={204: None}, operation_id="removeBlog")
def remove_blog(request: HttpRequest, blog: str) -> tuple[int, None]:
    """Remove a blog from the web and the desk. It can be restored for a month."""
    actions.remove_blog(queries.blog_for(request.user, blog, Role.OWNER), now=wiring.clock()())
    return 204, None


@router.get("/blogs/{blog}/audit", response=AuditPageOut, operation_id="listAudit")
def list_audit(
    request: HttpRequest, blog: str, search: str = "", kind: str = "", limit: Limit = PAGE, offset: Offset = 0
) -> AuditPageOut:
    """Return the audit of a blog, newest first.

    ``kind`` is the first part of an action (``campaign``).
    """
    owned = queries.blog_for(request.user, blog, Role.OWNER)
    rows, total = page_of(
        entries_of(owned.pk, search=search, action=kind), limit=limit, offset=offset, most=SEARCHED if search else None
    )
    return AuditPageOut(rows=[AuditEntryOut.model_validate(row, from_attributes=True) for row in rows], total=total)


@router.get("/blogs/{blog}", response=BlogOut, operation_id="getBlog")
def get_blog(request: HttpRequest, blog: str) -> BlogOut:
    """Return one blog with its categories, tags and bylines."""
    row = queries.blog_for(request.user, blog)
    return BlogOut(
        slug=row.slug,
        title=row.title,
        tagline=row.tagline,
        language=row.language,
        time_zone=row.time_zone,
        player_hosts=row.player_hosts,
        full_feeds=row.full_feeds,
        hub=row.hub,
        appearance=look_of(row.appearance),
        version=row.version,
        categories=[category.name for category in queries.categories_of(row)],
        tags=[tag.name for tag in queries.tags_of(row)],
        bylines=[byline.name for byline in queries.bylines_of(row)],
        word_lists=[_word_list(list_) for list_ in queries.word_lists_of(row)],
        term_tables=[_term_table(table) for table in queries.term_tables_of(row)],
    )


@router.post("/blogs/{blog}/word-lists", response=WordListOut, operation_id="addWordList")
def add_word_list(request: HttpRequest, blog: str, payload: WordListIn) -> WordListOut:
    """Make a word list that rules can take terms from."""
    owned = queries.blog_for(request.user, blog, Role.EDITOR)
    return _word_list(actions.add_word_list(owned, payload.name, payload.words, now=wiring.clock()()))


@router.put("/blogs/{blog}/word-lists/{key}", response=WordListOut, operation_id="changeWordList")
def change_word_list(request: HttpRequest, blog: str, key: str, payload: WordListIn) -> WordListOut:
    """Change a word list.

    The change takes effect in every campaign that uses it.
    """
    row = queries.word_list_of(queries.blog_for(request.user, blog, Role.EDITOR), key)
    changed = actions.change_word_list(row, payload.name, payload.words, begun=payload.version, now=wiring.clock()())
    return _word_list(changed)


@router.post("/blogs/{blog}/term-tables", response=TermTableOut, operation_id="addTermTable")
def add_term_table(request: HttpRequest, blog: str, payload: TermTableIn) -> TermTableOut:
    """Make a table of terms that steps can go by."""
    owned = queries.blog_for(request.user, blog, Role.EDITOR)
    return _term_table(actions.add_term_table(owned, payload.name, payload.text, now=wiring.clock()()))


@router.put("/blogs/{blog}/term-tables/{key}", response=TermTableOut, operation_id="changeTermTable")
def change_term_table(request: HttpRequest, blog: str, key: str, payload: TermTableIn) -> TermTableOut:
    """Change a table of terms.

    The change takes effect in every campaign that uses it.
    """
    row = queries.term_table_of(queries.blog_for(request.user, blog, Role.EDITOR), key)
    changed = actions.change_term_table(row, payload.name, payload.text, begun=payload.version, now=wiring.clock()())
    return _term_table(changed)
