"""The memory that Match asks: which posts exist, as seen by one campaign."""

import hashlib
from collections import Counter
from collections.abc import Collection, Iterator, Mapping, Sequence
from datetime import datetime
from functools import cached_property
from itertools import chain
from typing import Any, TypeVar

from django.db.models import F, Max, Q, QuerySet
from glyptarch_core.match import product_number
from glyptarch_core.ports import Candidate, Key, KeyKind, Memory, Near, PostRef, Reach, Scope, Seen
from glyptarch_core.text import FEWEST_SHARED, Fingerprint, Passage

from glyptarch_server.blogs.queries import blogs_within_reach
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.common.lookups import AnyOf, Shares, by_index
from glyptarch_server.posts.lifecycle import NO_LONGER, PostState
from glyptarch_server.posts.models import NearKeys, Post, PostKey

__all__ = ["CANDIDATES", "MEASURED", "PostMemory", "candidate_of", "key_hash", "memory_stamp", "most_alike"]


def key_hash(value: str) -> str:
    """Return the stored form of a key's value."""
    return hashlib.sha256(value.encode("utf-8", "surrogatepass")).hexdigest()


_Row = TypeVar("_Row", PostKey, NearKeys)


class PostMemory(Memory):
    """The existing posts, as seen by one campaign.

    The campaign's own memory of items in ``leaving_out`` is ignored, because a proof decides those items as if they
    were new, like a run. ``EVERYTHING`` covers the campaign's blog and those of :func:`blogs_within_reach`.
    """

    def __init__(self, campaign: Campaign, *, leaving_out: Collection[int] = ()) -> None:
        self._campaign = campaign
        self._leaving_out = list(leaving_out)

    @cached_property
    def _blogs(self) -> list[int]:
        return blogs_within_reach(self._campaign.blog)

    def recall(self, keys: Collection[Key], reach: Reach) -> Mapping[Key, Seen]:
        """Answer for a whole batch with one query."""
        by_hash = {(key.kind.value, key_hash(key.value)): key for key in keys}
        rows = self._within(PostKey.objects.filter(AnyOf("value_hash", {value for _, value in by_hash})), reach)
        # Later rows replace earlier ones, so the last is the earliest post, the blog's own before others.
        rows = rows.annotate(own=Q(post__blog=self._campaign.blog_id)).order_by("own", "-post__date", "-post")
        posts = rows.values_list("kind", "value_hash", *_SEEN)
        seen: dict[Key, Seen] = {}
        for kind, value, *post in posts:
            key = by_hash.get((KeyKind(kind).value, value))
            if key is not None:
                seen[key] = _seen(*post)
        return seen

    def resembling(self, near: Near, keys: Sequence[Sequence[int]], reach: Reach) -> list[list[Candidate]]:
        """Answer for a whole batch with one query over the index, and one for the texts of the best."""
        if not any(keys):
            return [[] for _ in keys]
        column = {Near.TEXT: "text_keys", Near.TITLE: "title_keys"}[near]
        with by_index():
            best = most_alike(NearKeys.objects.all(), column, keys)
            candidates = self._candidates({pk for some in best for pk in some}, reach)
        return [self._own_first([candidates[pk] for pk in some if pk in candidates])[:CANDIDATES] for some in best]

    def _own_first(self, candidates: list[Candidate]) -> list[Candidate]:
        own = self._campaign.blog_id
        return sorted(
            candidates, key=lambda candidate: isinstance(candidate.seen.ref, PostRef) and candidate.seen.ref.blog != own
        )

    def _candidates(self, numbers: Collection[int], reach: Reach) -> dict[int, Candidate]:
        if not numbers:
            return {}
        rows = self._within(NearKeys.objects.filter(AnyOf("pk", numbers)), reach)
        candidates = rows.values_list("pk", *_SEEN, *MEASURED)
        return {pk: candidate_of(_seen(*more[: len(_SEEN)]), *more[len(_SEEN) :]) for pk, *more in candidates}

    def _calendar(self) -> QuerySet[Post]:
        rows = Post.objects.filter(campaign=self._campaign).exclude(state__in=NO_LONGER)
        return rows.exclude(AnyOf("item_id", self._leaving_out)) if self._leaving_out else rows

    def dates(self, first: datetime, last: datetime) -> list[datetime]:
        """Answer with one query, at most ten thousand dates."""
        rows = self._calendar().filter(date__gte=first, date__lte=last)
        return list(rows.order_by("-date").values_list("date", flat=True)[:_MOST_DATES])

    def put_out(self, since: datetime) -> list[datetime]:
        """Answer with one query, at most ten thousand times."""
        rows = self._calendar().filter(state=PostState.PUBLISHED.value, out_at__gt=since).order_by("-out_at")
        times = rows.values_list("out_at", flat=True)[:_MOST_DATES]
        return [time for time in times if time is not None]

    def _within(self, rows: QuerySet[_Row], reach: Reach) -> QuerySet[_Row]:
        if reach.scope is Scope.CAMPAIGN:
            rows = rows.filter(post__campaign=self._campaign)
        elif reach.scope is Scope.BLOG:
            rows = rows.filter(post__blog=self._campaign.blog_id)
        else:
            rows = rows.filter(post__blog__in=self._blogs)
        if reach.since is not None:
            rows = rows.filter(post__date__gte=reach.since)
        rows = rows.exclude(post__state=PostState.BINNED.value, post__marker=False)
        if not reach.refused:
            rows = rows.exclude(post__state__in=NO_LONGER)
        if self._leaving_out:
            rows = rows.exclude(AnyOf("item_id", self._leaving_out), campaign=self._campaign)
        return rows


MEASURED = (
    *("item__text", "item__folded", "item__summary_text", "item__fingerprint", "item__title_key"),
    *("item__facts", "item__link"),
)
"""What the likeness of an item is measured by: for :func:`candidate_of`."""

_SEEN = ("post_id", "post__blog_id", "post__title", "post__link", "post__date")
# The limit for a key that very many posts share, such as a common closing line.
_MOST_ALIKE = 1000
_ALIKE_EACH = 20
_LOOKED_AT = 36
_AT_A_TIME = 64
_HOT = 100
_LOOKS = 4
CANDIDATES = 12
_MOST_DATES = 10_000


def _few_at_a_time(keys: Sequence[Sequence[int]]) -> Iterator[Sequence[Sequence[int]]]:
    """Yield the lists of keys in small batches.

    The index compares each key of a query with all earlier ones, which takes quadratic time: 16,000 keys take half a
    second even on an empty table.
    """
    return (keys[first : first + _AT_A_TIME] for first in range(0, len(keys), _AT_A_TIME))


def most_alike(rows: QuerySet[Any], column: str, keys: Sequence[Sequence[int]]) -> list[list[int]]:
    """Return, for each list of keys, the numbers of the rows that share most of them.

    Call it inside ``by_index``; the column needs its own index.
    """
    return list(chain.from_iterable(_most_of(rows, column, some) for some in _few_at_a_time(keys)))


def _most_of(rows: QuerySet[Any], column: str, keys: Sequence[Sequence[int]]) -> list[list[int]]:
    sharing = _sharing(rows, column, {key for some in keys for key in some}, _MOST_ALIKE + _ALIKE_EACH * len(keys))
    by_key: dict[int, list[int]] = {}
    for pk, theirs in sharing.items():
        for key in theirs:
            by_key.setdefault(key, []).append(pk)
    best: list[list[int]] = []
    for some in keys:
        shared = Counter(chain.from_iterable(by_key[key] for key in some if key in by_key))
        fewest = min(FEWEST_SHARED, len(some))
        best.append([pk for pk, times in shared.most_common(_LOOKED_AT) if times >= fewest])
    return best


def _sharing(rows: QuerySet[Any], column: str, keys: Collection[int], most: int) -> dict[int, frozenset[int]]:
    """Return the rows sharing at least one key, by number, with the shared keys.

    The newest of too many. PostgreSQL estimates keys without statistics as common and picks a sequential scan, or a
    backward scan of the primary key. So sequential scans are off (``by_index``), posts are joined in a second query,
    and the order is by an expression without an index.
    """
    wanted = frozenset(keys)

    def newest(sharing: frozenset[int]) -> dict[int, frozenset[int]]:
        if not sharing:
            return {}
        sharing_posts = rows.filter(Shares(column, sharing)).order_by((F("pk") + 0).desc())
        return {pk: wanted.intersection(theirs) for pk, theirs in sharing_posts.values_list("pk", column)[:most]}

    keys_by_row: dict[int, frozenset[int]] = {}
    asked = wanted
    for _ in range(_LOOKS):
        newest_posts = newest(asked)
        keys_by_row |= newest_posts
        # A passage shared by very many rows may have displaced the others, so search again without its keys. The
        # results count with all shared keys, or rows with only that passage would rank first.
        times = Counter(chain.from_iterable(newest_posts.values()))
        hot = {key for key, number in times.items() if number > _HOT} & asked
        if len(newest_posts) < most or not hot:
            break
        asked -= hot
    return keys_by_row


def _seen(post: int, blog: int, title: str, link: str, date: datetime) -> Seen:
    return Seen(ref=PostRef(post, blog), title=title, link=link, at=date)


def candidate_of(
    seen: Seen,
    text: str,
    folded: str,
    summary: str,
    fingerprint: bytes,
    title_key: str,
    facts: Mapping[str, str | float],
    link: str,
) -> Candidate:
    """Return a candidate from the columns of ``MEASURED``."""
    return Candidate(
        seen=seen,
        main_text=Passage(text, folded=folded) if text else Passage(summary),
        fingerprint=Fingerprint.unpacked(fingerprint),
        title_key=title_key,
        product=product_number(facts, link),
    )


def memory_stamp() -> tuple[object, ...]:
    """Return a stamp that changes whenever a post, a key or a state is written."""
    latest_key = PostKey.objects.order_by("-pk").values_list("pk", flat=True)[:1]
    latest_change = Post.objects.aggregate(latest=Max("changed_at"))["latest"]
    return (*latest_key, latest_change)
