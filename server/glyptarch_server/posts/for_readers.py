"""Reads for the readers of a blog: what they may see, and where it stands."""

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
    """What the lists of a blog show of a post: enough for its title, picture, teaser and byline."""

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


def listed(posts: QuerySet[Post], place: slice) -> list[ListedPost]:
    """Return the posts of a list from one place to another, with what lists show and nothing else.

    Texts are not read, and no objects are made of the rows: the front page costs half of what it would with them.
    """
    # Found by an index alone: a page far down costs as many of its entries as come before, and not as many rows.
    numbers = posts.values("pk")[place]
    rows = Post.objects.filter(pk__in=numbers).order_by(*posts.query.order_by)
    return list(rows.values_list(*_LISTED, named=True))


def former_address(blog: Blog, slug: str) -> FormerAddress | None:
    """Give what stood at an address before."""
    return FormerAddress.objects.filter(blog=blog, slug=slug).select_related("post").first()


def was_out_at(blog: Blog, slug: str) -> bool:
    """Tell whether readers have seen a post at an address that is in the bin or gone."""
    rows = Post.objects.filter(blog=blog, slug=slug, state__in=NO_LONGER, out_at__isnull=False)
    return rows.exists()


class Section(NamedTuple):
    """A category as readers see it."""

    pk: int
    parent_id: int | None
    name: str
    slug: str


def sections_of(blog: Blog, *, member: bool = False) -> list[Section]:
    """Return the categories by name under which a reader finds anything, there or in one that stands under it."""
    readable = _readable(Post.objects.filter(ON_THE_BLOG, blog=blog, categories=OuterRef("pk")), member=member)
    # Asked for one post of each category. With EXISTS, PostgreSQL would join all posts to all categories first.
    rows = Category.objects.filter(blog=blog).annotate(found=Subquery(readable.values("pk")[:1]))
    with by_index():
        filled = rows.filter(found__isnull=False).order_by("name").values_list(*Section._fields)[:500]
        new = [Section(*row) for row in filled]
    known: dict[int, Section] = {}
    while new:
        known |= {one.pk: one for one in new}
        above = {one.parent_id for one in new if one.parent_id} - known.keys()
        new = [Section(*row) for row in Category.objects.filter(pk__in=above).values_list(*Section._fields)]
    return sorted(known.values(), key=lambda one: one.name)


def _readable(rows: QuerySet[Post], *, member: bool) -> QuerySet[Post]:
    return rows if member else rows.exclude(visibility=Visibility.PRIVATE.value)


def public_posts(blog: Blog, *, member: bool = False) -> QuerySet[Post]:
    """Return what a reader of the blog may see; private ones for members only.

    Posts with a pass phrase are among them, since their titles are shown: see ``visibility``.
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
    """Give what the lists of a blog show to a reader, pinned ones first, then newest."""
    rows = public_posts(blog, member=member).filter(ON_THE_BLOG)
    if category:
        within = _under(category)
        filed = Post.categories.through.objects.filter(post=OuterRef("pk"), category__in=within)
        rows = rows.filter(Exists(filed)) if len(within) > 1 else rows.filter(categories=category)
    if tag:
        rows = rows.filter(tags=tag)
    return rows.order_by("-pinned", "-date", "-pk")


def _under(category: Category) -> list[int]:
    """Give the numbers of a category and of all that stand under it."""
    parents = dict(Category.objects.filter(blog=category.blog_id).exclude(parent=None).values_list("pk", "parent"))
    found = [category.pk]
    for number in found:
        found.extend(child for child, parent in parents.items() if parent == number and child not in found)
    return found


def category_of(blog: Blog, slug: str) -> Category | None:
    """Give a category by the last part of its address."""
    return Category.objects.filter(blog=blog, slug=slug).first()


def tag_of(blog: Blog, slug: str) -> Tag | None:
    """Give a tag by the last part of its address."""
    return Tag.objects.filter(blog=blog, slug=slug).first()
