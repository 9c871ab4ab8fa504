"""Filters of the desk's list of posts, as queries."""

import re
from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from functools import reduce
from operator import or_
from typing import Any, Literal, TypeAlias
from zoneinfo import ZoneInfo

from django.contrib.postgres.search import SearchQuery
from django.db.models import Exists, OuterRef, Q, QuerySet
from glyptarch_core.text import name_key

from glyptarch_server.blogs.models import Blog, Byline, Category, Tag
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.posts.lifecycle import AT_THE_DESK
from glyptarch_server.posts.models import Post
from glyptarch_server.sources.models import Source

__all__ = ["HELD_BY_CAMPAIGN", "PostFilter", "Sort", "in_state", "named_posts", "ways_to_find", "word_query"]

Sort: TypeAlias = Literal[
    "newest",
    "oldest",
    "title",
    "-title",
    "words",
    "-words",
    "state",
    "-state",
    "campaign",
    "-campaign",
    "source",
    "-source",
    "category",
    "-category",
    "comments",
    "-comments",
]


@dataclass(frozen=True, slots=True, kw_only=True)
class PostFilter:
    """A filter of a blog's posts. Empty parts do not narrow it.

    Without a state the bin is excluded. Campaigns are given by slug, sources by key, categories, tags and bylines by
    name. Where ``editions`` is True editions of other posts are found, where it is False none. ``since`` and ``until``
    are days of the post's date in the blog's time zone, both included; ``longest`` is in words.
    """

    state: str = ""
    campaign: str = ""
    source: str = ""
    category: str = ""
    tag: str = ""
    byline: str = ""
    visibility: str = ""
    kind: str = ""
    edited: bool | None = None
    corrected: bool | None = None
    since: date | None = None
    until: date | None = None
    longest: int | None = None
    language: str = ""
    editions: bool | None = None
    run: int | None = None
    reason: str = ""
    search: str = ""


def named_posts(blog: Blog, wanted: PostFilter, *, searched: Collection[int] | None = None) -> QuerySet[Post]:
    """Return the posts that a filter finds in any state.

    ``searched`` are the numbers found by its search, where known already.
    """
    rows = Post.objects.filter(blog=blog)
    if searched is not None:
        rows = rows.filter(AnyOf("pk", searched))
    for name, narrow in _NARROWING.items():
        value = getattr(wanted, name)
        if value not in ("", None) and not (name == "search" and searched is not None):
            rows = rows.filter(narrow(blog, value))
    return rows


def in_state(rows: QuerySet[Post], wanted: PostFilter) -> QuerySet[Post]:
    """Narrow posts to the state of a filter.

    Without one the bin is excluded.
    """
    return rows.filter(state=wanted.state) if wanted.state else rows.filter(state__in=AT_THE_DESK)


def _numbers(rows: QuerySet[Any]) -> list[int]:
    """Return row numbers.

    PostgreSQL has statistics of posts by campaign number, but not by its name.
    """
    return list(rows.values_list("pk", flat=True))


def _filed(blog: Blog, name: str) -> Q:
    numbers = _numbers(Category.objects.filter(blog=blog, key=name_key(name)))
    return Q(Exists(Post.categories.through.objects.filter(post=OuterRef("pk"), category__in=numbers)))


def _tagged(blog: Blog, name: str) -> Q:
    numbers = _numbers(Tag.objects.filter(blog=blog, key=name_key(name)))
    return Q(Exists(Post.tags.through.objects.filter(post=OuterRef("pk"), tag__in=numbers)))


HELD_BY_CAMPAIGN = "held.by_campaign"
"""Why a post is held that no rule is against: its campaign holds every post."""


def _reason(code: str) -> Q:
    if code == HELD_BY_CAMPAIGN:
        return Q(decision__verdict="hold", decision__reason__isnull=True)
    return Q(decision__reason__code=code)


def _midnight(blog: Blog, day: date) -> datetime:
    return datetime.combine(day, time.min, ZoneInfo(blog.time_zone))


_NARROWING: Mapping[str, Callable[[Blog, Any], Q]] = {
    "campaign": lambda blog, slug: Q(campaign__in=_numbers(Campaign.objects.filter(blog=blog, slug=slug))),
    "source": lambda blog, key: Q(source__in=_numbers(Source.objects.filter(blog=blog, key=key))),
    "byline": lambda blog, name: Q(byline__in=_numbers(Byline.objects.filter(blog=blog, key=name_key(name)))),
    "category": _filed,
    "tag": _tagged,
    "visibility": lambda _blog, value: Q(visibility=value),
    "kind": lambda _blog, value: Q(kind=value),
    "edited": lambda _blog, value: ~Q(edited=[]) if value else Q(edited=[]),
    "corrected": lambda _blog, value: Q(correction__isnull=not value),
    "longest": lambda _blog, words: Q(words__lte=words),
    "language": lambda blog, tag: Q(language__iexact=tag) | (Q(language="") if tag == blog.language else Q()),
    # Without other languages no post is looked at: then an index alone gives the numbers of a list.
    "editions": lambda blog, value: Q(edition_of__isnull=not value) if value or blog.languages else Q(),
    "run": lambda _blog, number: Q(decision__run=number),
    "reason": lambda _blog, code: _reason(code),
    "since": lambda blog, day: Q(date__gte=_midnight(blog, day)),
    "until": lambda blog, day: Q(date__lt=_midnight(blog, day + timedelta(days=1))),
    "search": lambda _blog, words: _has_words(words),
}

_WORD = re.compile(r"[^\W_]+")
_MOST_WORDS = 12


def ways_to_find(words: str) -> list[Q]:
    """Return conditions that find posts by words, each answered by its own index.

    Any may match. Each word begins a word of title, excerpt or text, or all of them occur in the title as written.
    """
    titled, query = Q(title__icontains=words.strip()), word_query(words)
    return [titled] if query is None else [Q(found_by=query), titled]


def word_query(words: str) -> SearchQuery | None:
    """Return the query for texts in which each word begins a word. None without words."""
    searched_words = _WORD.findall(words)[:_MOST_WORDS]
    if not searched_words:
        return None
    return SearchQuery(" & ".join(f"{word}:*" for word in searched_words), search_type="raw", config="simple")


def _has_words(words: str) -> Q:
    return reduce(or_, ways_to_find(words))
