"""Reads about posts, and the memory that Match asks."""

import hashlib
from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from datetime import datetime, timedelta
from itertools import chain
from typing import TypeVar

from django.db.models import Count, F, Max, Q, QuerySet
from django.db.models.functions import TruncDate
from glyptarch_core.draft import Visibility
from glyptarch_core.ports import Candidate, Key, KeyKind, Memory, Near, Reach, Scope, Seen
from glyptarch_core.text import FEWEST_SHARED, Passage, TextPrint

from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.common.lookups import AnyOf, Shares, by_index
from glyptarch_server.common.problems import NotFound
from glyptarch_server.items.queries import TEXTS
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import NearKeys, Post, PostKey

__all__ = [
    "PostMemory",
    "campaign_counts",
    "campaign_days",
    "key_hash",
    "listed_posts",
    "memory_stamp",
    "post_of",
    "post_ref",
    "public_posts",
    "slugs_like",
    "state_counts",
]

_ITEM_TEXTS = tuple(f"item__{column}" for column in TEXTS)
_SORTS = {"newest": ("-date", "-pk"), "oldest": ("date", "pk"), "title": ("title", "pk")}


def key_hash(value: str) -> str:
    """Give the stored form of a key's value."""
    return hashlib.sha256(value.encode("utf-8", "surrogatepass")).hexdigest()


def post_ref(post_id: int) -> str:
    """Name a post in a trace."""
    return f"post:{post_id}"


_Row = TypeVar("_Row", PostKey, NearKeys)


class PostMemory(Memory):
    """What posts exist, as seen by one campaign.

    What this campaign remembers of the items in ``leaving_out`` is not counted: a proof asks what
    would become of those items as if they came for the first time, as a run does.
    """

    def __init__(self, campaign: Campaign, *, leaving_out: Collection[int] = ()) -> None:
        self._campaign = campaign
        self._leaving_out = list(leaving_out)

    def recall(self, keys: Collection[Key], reach: Reach) -> Mapping[Key, Seen]:
        """Answer for a whole batch with one query."""
        by_hash = {(key.kind.value, key_hash(key.value)): key for key in keys}
        rows = self._within(PostKey.objects.filter(AnyOf("value_hash", {value for _, value in by_hash})), reach)
        found = rows.order_by("-post__date", "-post").values_list("kind", "value_hash", *_SEEN)
        seen: dict[Key, Seen] = {}
        for kind, value, *post in found:
            key = by_hash.get((KeyKind(kind).value, value))
            if key is not None:
                seen[key] = _seen(*post)
        return seen

    def resembling(self, near: Near, keys: Sequence[Sequence[int]], reach: Reach) -> list[list[Candidate]]:
        """Answer for a whole batch with one query over the index, and one for the texts of the best."""
        wanted = {key for some in keys for key in some}
        if not wanted:
            return [[] for _ in keys]
        with by_index():
            return self._resembling(near, keys, wanted, reach)

    def _resembling(
        self, near: Near, keys: Sequence[Sequence[int]], wanted: Collection[int], reach: Reach
    ) -> list[list[Candidate]]:
        column = {Near.TEXT: "text_keys", Near.TITLE: "title_keys"}[near]
        found = _sharing(column, wanted, _MOST_ALIKE + _ALIKE_EACH * len(keys))
        by_key: dict[int, list[int]] = {}
        for pk, theirs in found.items():
            for key in theirs:
                by_key.setdefault(key, []).append(pk)
        best = [
            [
                pk
                for pk, shared in Counter(
                    chain.from_iterable(by_key[key] for key in some if key in by_key)
                ).most_common(_LOOKED_AT)
                if shared >= min(FEWEST_SHARED, len(some))
            ]
            for some in keys
        ]
        candidates = self._candidates({pk for some in best for pk in some}, reach)
        return [[candidates[pk] for pk in some if pk in candidates][:_CANDIDATES] for some in best]

    def _candidates(self, numbers: Collection[int], reach: Reach) -> dict[int, Candidate]:
        if not numbers:
            return {}
        rows = self._within(NearKeys.objects.filter(AnyOf("pk", numbers)), reach).values_list(
            "pk", "item__text", "item__folded", "item__summary_text", "item__print", "item__title_key", *_SEEN
        )
        return {
            pk: Candidate(
                seen=_seen(*post),
                told=Passage(text, folded=folded) if text else Passage(summary),
                print=TextPrint.unpacked(text_print),
                title_key=title_key,
            )
            for pk, text, folded, summary, text_print, title_key, *post in rows
        }

    def _calendar(self) -> QuerySet[Post]:
        rows = Post.objects.filter(campaign=self._campaign).exclude(state=PostState.REFUSED.value)
        return rows.exclude(AnyOf("item_id", self._leaving_out)) if self._leaving_out else rows

    def dates(self, first: datetime, last: datetime) -> list[datetime]:
        """Answer with one query, at most ten thousand dates."""
        rows = self._calendar().filter(date__gte=first, date__lte=last)
        return list(rows.order_by("-date").values_list("date", flat=True)[:_MOST_DATES])

    def put_out(self, since: datetime) -> int:
        """Count what has gone out, with one query."""
        return self._calendar().filter(state=PostState.PUBLISHED.value, out_at__gte=since).count()

    def _within(self, rows: QuerySet[_Row], reach: Reach) -> QuerySet[_Row]:
        if reach.scope is Scope.CAMPAIGN:
            rows = rows.filter(post__campaign=self._campaign)
        elif reach.scope is Scope.BLOG:
            rows = rows.filter(post__blog=self._campaign.blog_id)
        if reach.since is not None:
            rows = rows.filter(post__date__gte=reach.since)
        if not reach.refused:
            rows = rows.exclude(post__state=PostState.REFUSED.value)
        if self._leaving_out:
            rows = rows.exclude(AnyOf("item_id", self._leaving_out), campaign=self._campaign)
        return rows


_SEEN = ("post_id", "post__title", "post__link", "post__date")
# A key that very many posts share (a common closing line) must not make the answer long.
_MOST_ALIKE = 1000
_ALIKE_EACH = 20
_LOOKED_AT = 36
_HOT = 100
_CANDIDATES = 12
_MOST_DATES = 10_000


def _sharing(column: str, keys: Collection[int], most: int) -> dict[int, frozenset[int]]:
    """Give the rows of keys that share at least one, by number, with the keys they share; the newest of too many.

    The database takes keys that it has no statistics for to be common, and would rather read the
    whole table, or go through it from its end in the hope of soon having found enough. So it is
    told to use the index, posts are joined only to what was found, and rows are put in order by
    an expression.
    """
    wanted = frozenset(keys)
    found = _newest_sharing(column, wanted, most)
    if len(found) < most:
        return found
    # A passage that very many share has crowded out the rest: look once more without its keys.
    times = Counter(chain.from_iterable(found.values()))
    return found | _newest_sharing(column, wanted - {key for key, number in times.items() if number > _HOT}, most)


def _newest_sharing(column: str, wanted: frozenset[int], most: int) -> dict[int, frozenset[int]]:
    if not wanted:
        return {}
    rows = NearKeys.objects.filter(Shares(column, wanted)).order_by((F("pk") + 0).desc()).values_list("pk", column)
    return {pk: wanted.intersection(theirs) for pk, theirs in rows[:most]}


def _seen(post: int, title: str, link: str, date: datetime) -> Seen:
    return Seen(ref=post_ref(post), title=title, link=link, at=date)


def memory_stamp() -> tuple[object, ...]:
    """Give what changes whenever a post, a key or a state is written."""
    latest_key = PostKey.objects.order_by("-pk").values_list("pk", flat=True)[:1]
    latest_change = Post.objects.aggregate(latest=Max("changed_at"))["latest"]
    return (*latest_key, latest_change)


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
