"""The API of blogs."""

import csv
import io
from typing import TYPE_CHECKING

from django.http import HttpRequest
from ninja import Router

from glyptarch_server import wiring
from glyptarch_server.blogs import actions, queries
from glyptarch_server.blogs.queries import Role
from glyptarch_server.blogs.schemas import BlogOut, BlogSummaryOut, TermTableIn, TermTableOut, WordListIn, WordListOut

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import TermTable, WordList

__all__ = ["router"]

router = Router(tags=["blogs"])


def _word_list(row: "WordList") -> WordListOut:
    return WordListOut(key=row.key, name=row.name, words=row.words)


def _term_table(row: "TermTable") -> TermTableOut:
    lines = io.StringIO()
    csv.writer(lines, lineterminator="\n").writerows(row.rows)
    return TermTableOut(key=row.key, name=row.name, lines=len(row.rows), text=lines.getvalue())


@router.get("/blogs", response=list[BlogSummaryOut], operation_id="listBlogs")
def list_blogs(request: HttpRequest) -> list[BlogSummaryOut]:
    """Give the blogs of the person who is signed in."""
    memberships = queries.blogs_of(request.user)
    return [BlogSummaryOut(slug=m.blog.slug, title=m.blog.title, role=m.role) for m in memberships]


@router.get("/blogs/{blog}", response=BlogOut, operation_id="getBlog")
def get_blog(request: HttpRequest, blog: str) -> BlogOut:
    """Give one blog with its categories, tags and bylines."""
    row = queries.blog_for(request.user, blog)
    return BlogOut(
        slug=row.slug,
        title=row.title,
        tagline=row.tagline,
        language=row.language,
        categories=[category.name for category in queries.categories_of(row)],
        tags=[tag.name for tag in queries.tags_of(row)],
        bylines=[byline.name for byline in queries.bylines_of(row)],
        word_lists=[_word_list(one) for one in queries.word_lists_of(row)],
        term_tables=[_term_table(one) for one in queries.term_tables_of(row)],
    )


@router.post("/blogs/{blog}/word-lists", response=WordListOut, operation_id="addWordList")
def add_word_list(request: HttpRequest, blog: str, payload: WordListIn) -> WordListOut:
    """Make a word list that rules can take terms from."""
    owned = queries.blog_for(request.user, blog, Role.OWNER)
    return _word_list(actions.add_word_list(owned, payload.name, payload.words, now=wiring.clock()()))


@router.put("/blogs/{blog}/word-lists/{key}", response=WordListOut, operation_id="changeWordList")
def change_word_list(request: HttpRequest, blog: str, key: str, payload: WordListIn) -> WordListOut:
    """Change a word list; every campaign whose rules name it follows."""
    row = queries.word_list_of(queries.blog_for(request.user, blog, Role.OWNER), key)
    return _word_list(actions.change_word_list(row, payload.name, payload.words, now=wiring.clock()()))


@router.post("/blogs/{blog}/term-tables", response=TermTableOut, operation_id="addTermTable")
def add_term_table(request: HttpRequest, blog: str, payload: TermTableIn) -> TermTableOut:
    """Make a table of terms that steps can go by."""
    owned = queries.blog_for(request.user, blog, Role.OWNER)
    return _term_table(actions.add_term_table(owned, payload.name, payload.text, now=wiring.clock()()))


@router.put("/blogs/{blog}/term-tables/{key}", response=TermTableOut, operation_id="changeTermTable")
def change_term_table(request: HttpRequest, blog: str, key: str, payload: TermTableIn) -> TermTableOut:
    """Change a table of terms; every campaign whose steps name it follows."""
    row = queries.term_table_of(queries.blog_for(request.user, blog, Role.OWNER), key)
    return _term_table(actions.change_term_table(row, payload.name, payload.text, now=wiring.clock()()))
