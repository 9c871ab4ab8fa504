"""The API of blogs."""

from django.http import HttpRequest
from ninja import Router

from glyptarch_server.blogs import queries
from glyptarch_server.blogs.schemas import BlogOut, BlogSummaryOut

__all__ = ["router"]

router = Router(tags=["blogs"])


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
    )
