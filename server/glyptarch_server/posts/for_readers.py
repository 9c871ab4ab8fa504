"""Queries for the readers of a blog: visible posts and their addresses."""

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import NamedTuple, Protocol

from django.db.models import Exists, OuterRef, QuerySet, Subquery
from glyptarch_core.draft import Visibility

from glyptarch_server.blogs.models import Blog, Category, Tag
from glyptarch_server.common.lookups import by_index
from glyptarch_server.posts.lifecycle import NO_LONGER, PostState
from glyptarch_server.posts.models import ON_THE_BLOG, FormerAddress, Post

__all__ = [
    "ListedPost",
    "Section",
    "category_of",
    "former_address",
    "listed",
    "posts_in_lists",
    "public_posts",
    "readable_post",
    "sections_of",
    "tag_of",
    "was_out_at",
]


class ListedPost(Protocol):
    """The columns of a post in a blog's lists: title, picture, teaser and byline."""

    slug: str
    title: str
    excerpt: str
    lead_url: str
    lead_alt: str
    spare_leads: Sequence[Mapping[str, str]]
    copies_pictures: bool
    date: datetime
    pinned: bool
    visibility: str
    category__name: str | None
    category__slug: str | None
    byline__name: str | None
    source__title: str | None


_LISTED = tuple(ListedPost.__annotations__)


def listed(posts: QuerySet[Post], window: slice) -> list[ListedPost]:
    """Return a slice of posts with the columns that lists show.

    Without texts and model objects the front page costs half as much.
    """
    # The subquery uses an index alone, so a page far down costs index entries, not rows.
    numbers = posts.values("pk")[window]
    rows = Post.objects.filter(pk__in=numbers).order_by(*posts.query.order_by)
    return list(rows.values_list(*_LISTED, named=True))


def former_address(blog: Blog, slug: str) -> FormerAddress | None:
    """Return the former address with this slug.

    None for none.
    """
    return FormerAddress.objects.filter(blog=blog, slug=slug).select_related("post").first()


def was_out_at(blog: Blog, slug: str) -> bool:
    """Whether readers have seen a post at an address that is now in the bin or gone."""
    rows = Post.objects.filter(blog=blog, slug=slug, state__in=NO_LONGER, out_at__isnull=False)
    return rows.exists()


class Section(NamedTuple):
    """A category as readers see it."""

    pk: int
    parent_id: int | None
    name: str
    slug: str


def sections_of(blog: Blog, *, member: bool = False) -> list[Section]:
    """Return the categories with visible posts, and their parents, by name."""
    readable = _readable(Post.objects.filter(ON_THE_BLOG, blog=blog, categories=OuterRef("pk")), member=member)
    # With EXISTS, PostgreSQL would join all posts to all categories; the subquery finds one post of each.
    rows = Category.objects.filter(blog=blog).annotate(found=Subquery(readable.values("pk")[:1]))
    with by_index():
        filled = rows.filter(found__isnull=False).order_by("name").values_list(*Section._fields)[:500]
        new = [Section(*row) for row in filled]
    sections: dict[int, Section] = {}
    while new:
        sections |= {section.pk: section for section in new}
        above = {section.parent_id for section in new if section.parent_id} - sections.keys()
        new = [Section(*row) for row in Category.objects.filter(pk__in=above).values_list(*Section._fields)]
    return sorted(sections.values(), key=lambda section: section.name)


def _readable(rows: QuerySet[Post], *, member: bool) -> QuerySet[Post]:
    return rows if member else rows.exclude(visibility=Visibility.PRIVATE.value)


def public_posts(blog: Blog, *, member: bool = False) -> QuerySet[Post]:
    """Return the posts that a reader may see.

    Private ones for members only. Posts with a pass phrase are included, since their titles are shown: see
    ``visibility``.
    """
    return _readable(Post.objects.filter(blog=blog, state=PostState.PUBLISHED.value), member=member)


_READ = (
    *(
        "slug",
        "state",
        "title",
        "body",
        "excerpt",
        "description",
        "lead_url",
        "lead_alt",
        "spare_leads",
        "date",
        "link",
    ),
    *("language", "canonical", "fields", "pinned", "comments", "visibility", "pass_phrase", "attribution"),
    *("copies_pictures", "copies_recordings_mb", "category__name", "category__slug", "category__blog_id"),
    *("byline__name", "source__title", "item__facts", "item__media"),
)


def readable_post(blog: Blog, slug: str, *, member: bool = False) -> Post | None:
    """Return the post at an address as a reader may see it, with what its page shows."""
    rows = public_posts(blog, member=member).filter(slug=slug).prefetch_related("tags")
    return rows.select_related("category", "byline", "source", "item").only(*_READ).order_by().first()


def posts_in_lists(
    blog: Blog, *, category: Category | None = None, tag: Tag | None = None, member: bool = False
) -> QuerySet[Post]:
    """Return the posts in a blog's lists, pinned ones first, then newest."""
    rows = public_posts(blog, member=member).filter(ON_THE_BLOG)
    if category:
        within = _under(category)
        filed = Post.categories.through.objects.filter(post=OuterRef("pk"), category__in=within)
        rows = rows.filter(Exists(filed)) if len(within) > 1 else rows.filter(categories=category)
    if tag:
        rows = rows.filter(tags=tag)
    return rows.order_by("-pinned", "-date", "-pk")


def _under(category: Category) -> list[int]:
    """Return the numbers of a category and all of its descendants."""
    parents = dict(Category.objects.filter(blog=category.blog_id).exclude(parent=None).values_list("pk", "parent"))
    numbers = [category.pk]
    for number in numbers:
        numbers.extend(child for child, parent in parents.items() if parent == number and child not in numbers)
    return numbers


def category_of(blog: Blog, slug: str) -> Category | None:
    """Return a category by its slug.

    None for none.
    """
    return Category.objects.filter(blog=blog, slug=slug).first()


def tag_of(blog: Blog, slug: str) -> Tag | None:
    """Return a tag by its slug.

    None for none.
    """
    return Tag.objects.filter(blog=blog, slug=slug).first()
