"""How often the posts of a blog are read, by day (UTC)."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from django.db import transaction
from django.db.models import BooleanField, Count, ExpressionWrapper, F, Q, QuerySet, Sum, Value

from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.posts.models import ON_THE_BLOG, Post, PostReads

__all__ = [
    "DAYS",
    "ReadLine",
    "ReadPost",
    "add_reads",
    "most_read",
    "read_by",
    "read_posts",
    "reads_by_day",
    "reads_of",
    "thin_reads",
]

DAYS = 30
"""The days that the desk tells of, the current one included."""
_KEPT_DAYS = 400
_AT_ONCE = 1000


def add_reads(counts: Mapping[int, int], *, day: date) -> None:
    """Add reads of a day by post number, without those of posts that are gone."""
    posts = dict(Post.objects.filter(AnyOf("pk", counts)).values_list("pk", "blog"))
    if not posts:
        return
    PostReads.objects.bulk_create(
        [PostReads(blog_id=blog, post_id=post, day=day, reads=0) for post, blog in sorted(posts.items())],
        ignore_conflicts=True,
    )
    with transaction.atomic():
        # In one order everywhere, so that two processes wait for each other and do not lock.
        rows = list(PostReads.objects.select_for_update().filter(AnyOf("post_id", posts), day=day).order_by("pk"))
        for row in rows:
            row.reads = F("reads") + counts[row.post_id]
        PostReads.objects.bulk_update(rows, ["reads"], batch_size=500)


def _lately(blog: Blog, today: date, days: int) -> QuerySet[PostReads]:
    return PostReads.objects.filter(blog=blog, day__gt=today - timedelta(days=days), day__lte=today)


def reads_of(blog: Blog, numbers: Collection[int], *, today: date, days: int = DAYS) -> dict[int, int]:
    """Return the reads of some posts in the last days. Those without any are left out."""
    rows = _lately(blog, today, days).filter(AnyOf("post_id", numbers)).values_list("post")
    return dict(rows.annotate(number=Sum("reads")).order_by())


def most_read(blog: Blog, *, today: date, most: int, days: int = DAYS) -> dict[int, int]:
    """Return the reads of the posts that were read most in the last days, by their numbers."""
    on_the_blog = Post.objects.filter(ON_THE_BLOG, blog=blog)
    rows = _lately(blog, today, days).filter(post__in=on_the_blog).values_list("post").annotate(number=Sum("reads"))
    return dict(rows.order_by("-number", "-post")[:most])


@dataclass(frozen=True, slots=True)
class ReadLine:
    """A source or campaign, with how many of its posts were read, and how often.

    An archived one has no screen.
    """

    key: str
    name: str
    archived: bool
    posts: int
    reads: int


_WAYS = {
    "source": ("post__source__key", "post__source__title"),
    "campaign": ("post__campaign__slug", "post__campaign__name"),
}


_ARCHIVED = ExpressionWrapper(Q(post__campaign__removed_at__isnull=False), BooleanField())


def read_by(blog: Blog, what: str, *, today: date, days: int = DAYS, most: int = 100) -> list[ReadLine]:
    """Return the reads of the last days by ``source`` or ``campaign``, most read first.

    Posts without one are left out.
    """
    key, name = _WAYS[what]
    rows = _lately(blog, today, days).exclude(**{key: None})
    rows = rows.annotate(archived=_ARCHIVED if what == "campaign" else Value(value=False))
    counted = rows.values_list(key, name, "archived").annotate(posts=Count("post", distinct=True), number=Sum("reads"))
    return [ReadLine(*row) for row in counted.order_by("-number", key)[:most]]


def reads_by_day(blog: Blog, *, today: date, days: int = DAYS) -> list[tuple[date, int]]:
    """Return the reads of each of the last days, the oldest first."""
    counted = dict(_lately(blog, today, days).values_list("day").annotate(number=Sum("reads")).order_by())
    all_days = (today - timedelta(days=back) for back in range(days - 1, -1, -1))
    return [(day, counted.get(day, 0)) for day in all_days]


@dataclass(frozen=True, slots=True)
class ReadPost:
    """A post that was read, and how often."""

    post: Post
    reads: int


def read_posts(blog: Blog, *, today: date, most: int, days: int = DAYS) -> list[ReadPost]:
    """Return the posts on the blog that were read most in the last days."""
    counted = most_read(blog, today=today, most=most, days=days)
    found = Post.objects.select_related("source").only("title", "source__title").in_bulk(counted)
    return [ReadPost(found[number], reads) for number, reads in counted.items() if number in found]


def thin_reads(*, now: datetime) -> int:
    """Remove the next reads that are older than 400 days, and return how many."""
    old = PostReads.objects.filter(day__lt=now.date() - timedelta(days=_KEPT_DAYS)).order_by("day")
    return PostReads.objects.filter(pk__in=list(old.values_list("pk", flat=True)[:_AT_ONCE])).delete()[0]
