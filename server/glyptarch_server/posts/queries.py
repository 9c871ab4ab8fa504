"""Reads about posts, for the desk and for the readers of the blog."""

from collections.abc import Collection, Sequence
from datetime import datetime, timedelta

from django.db.models import Count, Exists, OuterRef, Q, QuerySet
from django.db.models.functions import TruncDate
from glyptarch_core.draft import Visibility

from glyptarch_server.blogs.models import Blog, Category
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.common.problems import NotFound
from glyptarch_server.items.queries import TEXTS
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import Post

__all__ = [
    "PAGE_KIND",
    "blogs_of_posts",
    "campaign_counts",
    "campaign_days",
    "listed_posts",
    "post_of",
    "public_posts",
    "sections_of",
    "slugs_like",
    "state_counts",
]

PAGE_KIND = "page"
"""The kind of posts that stand for themselves: they are in no list and no feed."""

_ITEM_TEXTS = tuple(f"item__{column}" for column in TEXTS)
_SORTS = {"newest": ("-date", "-pk"), "oldest": ("date", "pk"), "title": ("title", "pk")}


def _with_names(rows: QuerySet[Post]) -> QuerySet[Post]:
    return rows.select_related("category", "byline", "campaign", "revision", "item__source").prefetch_related(
        "categories", "tags"
    )


def listed_posts(
    blog: Blog, *, state: str = "", campaign: str = "", source: str = "", search: str = "", sort: str = "newest"
) -> QuerySet[Post]:
    """Give the posts of a blog for the desk, whatever their state."""
    rows = _with_names(Post.objects.filter(blog=blog)).defer("body", *_ITEM_TEXTS)
    if state:
        rows = rows.filter(state=state)
    if campaign:
        rows = rows.filter(campaign__slug=campaign)
    if source:
        rows = rows.filter(item__source__key=source)
    if search:
        rows = rows.filter(Q(title__icontains=search) | Q(excerpt__icontains=search))
    return rows.order_by(*_SORTS.get(sort, _SORTS["newest"]))


def state_counts(blog: Blog) -> dict[str, int]:
    """Give how many posts of a blog are in each state."""
    counted = dict(Post.objects.filter(blog=blog).values_list("state").annotate(number=Count("pk")))
    return {state.value: counted.get(state.value, 0) for state in PostState}


def post_of(blog: Blog, post_id: int) -> Post:
    """Give one post. Raises NotFound."""
    post = _with_names(Post.objects.filter(blog=blog, pk=post_id)).first()
    if post is None:
        raise NotFound("This blog has no such post.")
    return post


def blogs_of_posts(numbers: Collection[int]) -> dict[int, int]:
    """Give for each post that exists the number of its blog."""
    return dict(Post.objects.filter(AnyOf("pk", numbers)).values_list("pk", "blog"))


def sections_of(blog: Blog, *, member: bool = False) -> list[Category]:
    """Give the categories by name under which a reader finds anything: as :func:`public_posts` for one category."""
    readable = Post.objects.filter(categories=OuterRef("pk"), state=PostState.PUBLISHED.value).exclude(kind=PAGE_KIND)
    if not member:
        readable = readable.exclude(visibility=Visibility.PRIVATE.value)
    return list(Category.objects.filter(Exists(readable), blog=blog).order_by("name")[:500])


def public_posts(blog: Blog, *, category: str = "", tag: str = "", member: bool = False) -> QuerySet[Post]:
    """Give what a reader of the blog may see, pinned ones first, then newest; private ones for members only.

    Posts with a pass phrase are among them, since their titles are shown: see ``visibility``.
    """
    rows = Post.objects.filter(blog=blog, state=PostState.PUBLISHED.value)
    if not member:
        rows = rows.exclude(visibility=Visibility.PRIVATE.value)
    if category:
        rows = rows.filter(categories__slug=category)
    if tag:
        rows = rows.filter(tags__slug=tag)
    return (
        rows.select_related("category", "byline", "item__source")
        .prefetch_related("tags", "categories", "also_at__item__source")
        .defer(*_ITEM_TEXTS)
        .order_by("-pinned", "-date", "-pk")
    )


def slugs_like(blog: Blog, bases: Sequence[str]) -> set[str]:
    """Give the slugs in use that are one of these, or one of these with a number after it."""
    wanted = Q(slug__in=bases)
    for base in bases:
        wanted |= Q(slug__regex=rf"^{_escaped(base)}-[0-9]+$")
    return set(Post.objects.filter(wanted, blog=blog).values_list("slug", flat=True)) if bases else set()


def _escaped(text: str) -> str:
    return "".join(char if char.isalnum() or char == "-" else f"\\{char}" for char in text)


def campaign_counts(campaigns: Collection[Campaign]) -> dict[int, dict[str, int]]:
    """Give for each campaign how many of its posts are in each state."""
    counts: dict[int, dict[str, int]] = {campaign.pk: {} for campaign in campaigns}
    rows = Post.objects.filter(campaign__in=list(campaigns)).values_list("campaign", "state").annotate(n=Count("pk"))
    for campaign, state, number in rows:
        counts[campaign][state] = number
    return counts


def campaign_days(campaigns: Collection[Campaign], *, now: datetime, days: int = 14) -> dict[int, list[int]]:
    """Give for each campaign how many posts it made on each of the last days, oldest first."""
    first = (now - timedelta(days=days - 1)).replace(hour=0, minute=0, second=0, microsecond=0)
    counts = {campaign.pk: [0] * days for campaign in campaigns}
    rows = (
        Post.objects.filter(campaign__in=list(campaigns), created_at__gte=first)
        .values_list("campaign", TruncDate("created_at"))
        .annotate(n=Count("pk"))
    )
    for campaign, day, number in rows:
        place = (day - first.date()).days
        if 0 <= place < days:
            counts[campaign][place] = number
    return counts
