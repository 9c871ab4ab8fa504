"""Reads about posts, for the desk and for the readers of the blog."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from django.db.models import Count, Exists, F, Func, IntegerField, OuterRef, Q, QuerySet, Subquery, TextField, Value
from django.db.models.fields.json import KeyTextTransform
from django.db.models.functions import Coalesce, TruncDate
from glyptarch_core.platforms.suggest import Told

from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.common.lookups import AnyOf, by_index
from glyptarch_server.common.problems import NotFound
from glyptarch_server.items.models import Item
from glyptarch_server.posts.desk_list import LISTED, with_names
from glyptarch_server.posts.filters import HELD_BY_CAMPAIGN
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import STANDS, Change, Correction, FormerAddress, KeptView, Post, Takedown
from glyptarch_server.sources.models import Source

__all__ = [
    "Touched",
    "blogs_of_posts",
    "blogs_to_learn_from",
    "campaign_counts",
    "campaign_days",
    "change_of",
    "held_posts",
    "held_reasons",
    "kept_views",
    "latest_posts",
    "listed_changes",
    "listed_takedowns",
    "newest_out",
    "open_corrections",
    "out_since",
    "own_numbers",
    "post_of",
    "posts_numbered",
    "posts_titled",
    "slugs_in_use",
    "takedown_of",
    "told_by",
    "touched",
    "words_of",
]


class ArrayLength(Func):
    """The number of values in an array.

    NULL for an empty one.
    """

    template = "array_length(%(expressions)s, 1)"
    output_field = IntegerField()


def posts_numbered(blog: Blog, numbers: Sequence[int]) -> list[Post]:
    """Return posts by their numbers, in order.

    Missing ones are left out.
    """
    rows = {post.pk: post for post in with_names(Post.objects.filter(AnyOf("pk", numbers), blog=blog)).only(*LISTED)}
    return [rows[number] for number in numbers if number in rows]


def own_numbers(blog: Blog, numbers: Collection[int]) -> list[int]:
    """Return those of some numbers that are posts of this blog."""
    return list(Post.objects.filter(AnyOf("pk", numbers), blog=blog).values_list("pk", flat=True))


@dataclass(frozen=True, slots=True)
class Touched:
    """Counts of posts before removal: in total, by state, edited, and commented."""

    posts: int
    states: Mapping[str, int]
    edited: int
    commented: int


def touched(blog: Blog, numbers: Collection[int]) -> Touched:
    """Count what people have done to some posts."""
    rows = Post.objects.filter(AnyOf("pk", numbers), blog=blog)
    states = dict(rows.values_list("state").annotate(number=Count("*")))
    commented = rows.filter(readers_comments__isnull=False).values("pk").distinct().count()
    edited = rows.exclude(edited=[]).count()
    return Touched(posts=sum(states.values()), states=states, edited=edited, commented=commented)


def listed_changes(blog: Blog) -> QuerySet[Change]:
    """Return the changes of a blog's posts, latest first."""
    rows = Change.objects.filter(blog=blog).exclude(action="taken_back").select_related("taken_back_by")
    return rows.annotate(number=Coalesce(ArrayLength("posts"), 0)).defer("posts").order_by("-at", "-pk")


def change_of(blog: Blog, number: int) -> Change:
    """Return one change. Raises NotFound."""
    rows = Change.objects.filter(blog=blog, pk=number).select_related("taken_back_by")
    row = rows.annotate(number=Coalesce(ArrayLength("posts"), 0)).defer("posts").first()
    if row is None:
        raise NotFound("This blog has no change of posts with this number.")
    return row


def listed_takedowns(blog: Blog) -> QuerySet[Takedown]:
    """Return the takedowns of a blog, latest first."""
    return Takedown.objects.filter(blog=blog).select_related("source").order_by("-at", "-pk")


def takedown_of(blog: Blog, number: int) -> Takedown:
    """Return one takedown. Raises NotFound."""
    row = listed_takedowns(blog).filter(pk=number).first()
    if row is None:
        raise NotFound("This blog has no such takedown.")
    return row


def kept_views(blog: Blog) -> list[KeptView]:
    """Return the saved filters of a blog."""
    return list(KeptView.objects.filter(blog=blog).order_by("name")[:100])


_MOST_TITLED = 500


def posts_titled(blog: Blog, words: str) -> list[int]:
    """Return the numbers of at most five hundred posts with these words in their title."""
    return list(Post.objects.filter(blog=blog, title__icontains=words).values_list("pk", flat=True)[:_MOST_TITLED])


def held_reasons(blog: Blog) -> dict[str, int]:
    """Return the reasons why posts of a blog are held, with counts, most frequent first."""
    held = Post.objects.filter(blog=blog, state=PostState.HELD.value, decision__isnull=False)
    code = Coalesce(KeyTextTransform("code", "decision__reason"), Value(HELD_BY_CAMPAIGN), output_field=TextField())
    rows = held.annotate(code=code).values_list("code").annotate(number=Count("*")).order_by("-number")
    with by_index():
        return dict(rows[:50])


def held_posts(blog: Blog) -> QuerySet[Post]:
    """Return the held posts of a blog."""
    return Post.objects.filter(blog=blog, state=PostState.HELD.value)


def latest_posts(blog: Blog, most: int) -> list[Post]:
    """Return the published posts with the latest dates."""
    rows = Post.objects.filter(blog=blog, state=PostState.PUBLISHED.value).select_related("category", "campaign")
    shown = rows.only("title", "lead_url", "date", "category__name", "campaign__name")
    return list(shown.order_by("-date", "-pk")[:most])


def newest_out(blogs: Collection[int]) -> dict[int, datetime]:
    """Return, by blog, when the newest post that everybody may read went out.

    Blogs without one are left out.
    """
    rows = Post.objects.filter(blog=OuterRef("pk"), state=PostState.PUBLISHED.value).exclude(visibility="private")
    newest = Subquery(rows.order_by("-out_at").values("out_at")[:1])
    found = Blog.objects.filter(AnyOf("pk", blogs)).annotate(newest=newest).values_list("pk", "newest")
    return {blog: at for blog, at in found if at is not None}


def out_since(blog: Blog, since: datetime) -> QuerySet[Post]:
    """Return the posts published since a time."""
    return Post.objects.filter(blog=blog, state=PostState.PUBLISHED.value, out_at__gte=since)


def open_corrections(blog: Blog) -> QuerySet[Correction]:
    """Return the corrections by sources of published posts of a blog."""
    return Correction.objects.filter(post__blog=blog, post__state=PostState.PUBLISHED.value)


def post_of(blog: Blog, post_id: int) -> Post:
    """Return one post. Raises NotFound."""
    post = with_names(Post.objects.filter(blog=blog, pk=post_id)).defer("found_by").first()
    if post is None:
        raise NotFound("This blog has no such post.")
    return post


def blogs_of_posts(numbers: Collection[int]) -> dict[int, int]:
    """Return the blog number of each existing post."""
    return dict(Post.objects.filter(AnyOf("pk", numbers)).values_list("pk", "blog"))


RESERVED = frozenset({"archive", "basket", "goods", "search", "sources", "tags"})
"""The addresses that a blog's own pages have."""


def slugs_in_use(blog: Blog, slugs: Collection[str]) -> set[str]:
    """Return the slugs that posts of a blog have or had, by index lookups alone."""
    if not slugs:
        return set()
    reserved = RESERVED & set(slugs)
    standing = Post.objects.filter(STANDS, AnyOf("slug", slugs), blog=blog).values_list("slug", flat=True)
    former = FormerAddress.objects.filter(AnyOf("slug", slugs), blog=blog, post__isnull=False)
    return {*reserved, *standing, *former.values_list("slug", flat=True)}


def campaign_counts(campaigns: Collection[Campaign]) -> dict[int, dict[str, int]]:
    """Return the number of posts in each state, by campaign number."""
    counts: dict[int, dict[str, int]] = {campaign.pk: {} for campaign in campaigns}
    rows = Post.objects.filter(campaign__in=list(campaigns)).values_list("campaign", "state").annotate(n=Count("*"))
    for campaign, state, number in rows:
        counts[campaign][state] = number
    return counts


def campaign_days(campaigns: Collection[Campaign], *, now: datetime, days: int = 14) -> dict[int, list[int]]:
    """Return the number of new posts on each of the last days, oldest first, by campaign number."""
    first = (now - timedelta(days=days - 1)).replace(hour=0, minute=0, second=0, microsecond=0)
    counts = {campaign.pk: [0] * days for campaign in campaigns}
    rows = (
        Post.objects.filter(campaign__in=list(campaigns), created_at__gte=first)
        .values_list("campaign", TruncDate("created_at"))
        .annotate(n=Count("*"))
    )
    for campaign, day, number in rows:
        place = (day - first.date()).days
        if 0 <= place < days:
            counts[campaign][place] = number
    return counts


def blogs_to_learn_from() -> list[int]:
    """Return the blogs with changes since their common passages were computed."""
    newest = Post.objects.filter(blog=OuterRef("pk")).order_by("-changed_at").values("changed_at")[:1]
    blogs = Blog.objects.annotate(changed=Subquery(newest)).exclude(changed=None)
    stale = Q(common_text=None) | Q(common_text__learned_at__lt=F("changed"))
    return list(blogs.filter(stale).values_list("pk", flat=True))


def words_of(source: Source) -> dict[str, tuple[int, int]]:
    """Return the number of items and of posts for each search line of a source."""
    brought = Item.objects.filter(source=source, facts__has_key="keyword").values_list("facts__keyword")
    posts = Post.objects.filter(source=source, item__facts__has_key="keyword").values_list("item__facts__keyword")
    kept = dict(posts.annotate(number=Count("item", distinct=True)))
    return {words: (number, kept.get(words, 0)) for words, number in brought.annotate(number=Count("pk"))}


_LEARNED_FROM = 150
_LONGEST_TOLD = 1500


def told_by(source: Source) -> tuple[list[Told], list[Told]]:
    """Return the texts of a source's newest items that became posts, and of those that did not."""
    rows = Item.objects.filter(source=source).order_by("-dated").defer("raw", "body")
    mine = Post.objects.filter(item=OuterRef("pk"))
    kept, others = rows.filter(Exists(mine)), rows.filter(~Exists(mine))
    return _texts_of(kept[:_LEARNED_FROM]), _texts_of(others[:_LEARNED_FROM])


def _texts_of(rows: QuerySet[Item]) -> list[Told]:
    return [Told(title=row.title, text=row.text[:_LONGEST_TOLD], language=row.language) for row in rows]
