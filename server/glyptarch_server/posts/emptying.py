"""Emptying the bin: markers stay where wanted, and known addresses answer 410."""

import logging
from collections.abc import Sequence
from datetime import datetime, timedelta

from django.db import transaction
from django.db.models import Q

from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.keeping import Record
from glyptarch_server.blogs.models import Blog
from glyptarch_server.blogs.queries import kept_for
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import FormerAddress, Post

__all__ = ["empty_bin", "empty_old", "remember_addresses"]

_AT_ONCE = 200
_log = logging.getLogger("glyptarch.posts")


def empty_bin(blog: Blog, *, now: datetime) -> int:
    """Empty the bin of a blog and return the number of removed posts."""
    number = _empty(now=now, before=now, of=Q(blog=blog))
    record("posts.bin_emptied", blog.title, blog=blog.pk, after={"posts": number})
    return number


def empty_old(*, now: datetime) -> int:
    """Remove posts that have been in a bin for as long as their blog keeps them there.

    Return how many.
    """
    spans = kept_for(Record.BIN, "blog")
    number = sum(_empty(now=now, before=now - timedelta(days=days), of=of) for days, of in spans)
    if number:
        _log.info("%s posts were removed from the bin: their time there was over", number)
    return number


def _empty(*, now: datetime, before: datetime, of: Q) -> int:
    number = 0
    while True:
        with transaction.atomic():
            rows = Post.objects.filter(of, state=PostState.BINNED.value, binned_at__lte=before)
            posts = list(rows.order_by("pk").select_for_update(skip_locked=True).defer("found_by", "body")[:_AT_ONCE])
            if not posts:
                return number
            _take_out([post for post in posts if post.marker and post.item_id], now=now)
            _delete([post for post in posts if not (post.marker and post.item_id)])
        number += len(posts)


def _take_out(posts: list[Post], *, now: datetime) -> None:
    """Reduce posts to their keys, title and address."""
    numbers = [post.pk for post in posts]
    Post.categories.through.objects.filter(post__in=numbers).delete()
    Post.tags.through.objects.filter(post__in=numbers).delete()
    Post.objects.filter(pk__in=numbers).update(
        state=PostState.GONE.value,
        binned_at=None,
        body="",
        excerpt="",
        description="",
        lead_url="",
        lead_alt="",
        spare_leads=[],
        fields=[],
        category=None,
        byline=None,
        changed_at=now,
    )
    for post in Post.objects.filter(pk__in=numbers):
        post.changes.all().delete()
        post.picture_copies.clear()
        post.recordings.clear()


def _delete(posts: list[Post]) -> None:
    """Remove posts with those of their editions that are in the bin.

    Other editions become posts of their own. Addresses that readers have seen answer 410 from now on.
    """
    numbers = [post.pk for post in posts]
    editions = Post.objects.filter(edition_of__in=numbers).exclude(pk__in=numbers)
    editions.exclude(state=PostState.BINNED.value).update(edition_of=None, source=None, goes_along=False)
    posts = [*posts, *editions.filter(state=PostState.BINNED.value).defer("found_by", "body")]
    remember_addresses(posts)
    Post.objects.filter(pk__in=[post.pk for post in posts]).delete()


def remember_addresses(posts: Sequence[Post]) -> None:
    """Let addresses at which readers have seen posts answer 410 once these are deleted."""
    out = [post for post in posts if post.out_at is not None]
    standing = Post.objects.filter(blog__in={post.blog_id for post in out}, slug__in=[post.slug for post in out])
    taken = set(standing.exclude(pk__in=[post.pk for post in posts]).values_list("blog", "slug"))
    FormerAddress.objects.bulk_create(
        [FormerAddress(blog_id=post.blog_id, slug=post.slug) for post in out if (post.blog_id, post.slug) not in taken],
        ignore_conflicts=True,
    )
