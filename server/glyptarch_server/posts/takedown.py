"""Takedowns: posts are withdrawn on request, their origin is blocked, and a record is kept."""

import hashlib
from collections.abc import Sequence
from datetime import datetime

from django.db import transaction
from django.db.models import QuerySet

from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.actions import take_turn
from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.acting import acting_person
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.items.models import Block
from glyptarch_server.posts.changes import Action, begin_change
from glyptarch_server.posts.lifecycle import AT_THE_DESK
from glyptarch_server.posts.models import Post, Takedown
from glyptarch_server.sources.models import Source
from glyptarch_server.sources.readings import lock_sources

__all__ = ["lift", "take_down_post", "take_down_source"]


def take_down_source(source: Source, *, asked_by: str, reason: str, now: datetime) -> Takedown:
    """Withdraw all posts of a source and block it. Raises Conflict where it is blocked already."""
    with transaction.atomic():
        # Waits for a deciding run; its next batch finds the source blocked.
        take_turn(source.blog_id)
        # Waits for a reading that is being stored, which asks afterwards whether the source is blocked.
        lock_sources([source])
        row = Source.objects.select_for_update(of=("self",)).select_related("blog").get(pk=source.pk)
        if row.blocked_at is not None:
            raise Conflict(f"“{row.title}” is withdrawn already.")
        row.blocked_at = now
        row.save(update_fields=["blocked_at"])
        # Editions have the source of their originals.
        posts = list(Post.objects.filter(source=row, state__in=AT_THE_DESK).order_by("pk").defer("body", "found_by"))
        takedown = _withdraw(row.blog, posts, row.title, asked_by=asked_by, reason=reason, now=now)
        takedown.source = row
        takedown.save(update_fields=["source"])
    return takedown


def take_down_post(post: Post, *, asked_by: str, reason: str, now: datetime) -> Takedown:
    """Withdraw all posts of a blog with the same original, and block its link for all campaigns.

    Raises Invalid for a post without an original, which is deleted instead.
    """
    if post.item is None or not post.item.link_key:
        raise Invalid(f"“{post.title}” has no original elsewhere. Delete it instead.")
    key = post.item.link_key
    with transaction.atomic():
        take_turn(post.blog_id)
        Block.objects.get_or_create(
            blog=post.blog,
            link_hash=hashlib.sha256(key.encode()).hexdigest(),
            defaults={"link_key": key, "at": now},
        )
        same = Post.objects.filter(blog=post.blog, item__link_key=key, state__in=AT_THE_DESK)
        posts = _with_editions(same)
        takedown = _withdraw(post.blog, posts, post.title, asked_by=asked_by, reason=reason, now=now)
        takedown.link_key = key
        takedown.save(update_fields=["link_key"])
    return takedown


def _with_editions(rows: QuerySet[Post]) -> list[Post]:
    """Return posts and their editions, which are the same text in other languages."""
    posts = list(rows.order_by("pk").defer("body", "found_by"))
    editions = Post.objects.filter(AnyOf("edition_of_id", [post.pk for post in posts]), state__in=AT_THE_DESK)
    return [*posts, *editions.order_by("pk").defer("body", "found_by")]


def _withdraw(
    blog: Blog, posts: Sequence[Post], subject: str, *, asked_by: str, reason: str, now: datetime
) -> Takedown:
    what = {"marker": True}
    numbers = [post.pk for post in posts]
    # It goes on even where the person loses the right to it meanwhile: what was withdrawn must not stay published.
    change = begin_change(blog, Action.BIN, what, numbers, subject=subject, now=now, role=None)
    person = acting_person()
    record("takedown.made", subject, blog=blog.pk, after={"posts": len(posts), "asked_by": asked_by})
    return Takedown.objects.create(
        blog=blog,
        subject=subject[:300],
        asked_by=asked_by.strip(),
        reason=reason.strip(),
        withdrawn=[
            {
                "title": post.title,
                "address": f"/blog/{blog.slug}/{post.slug}/",
                "link": post.link,
                "date": post.date.isoformat(),
            }
            for post in posts
        ],
        change=change,
        name=(person.get_full_name() or person.get_username())[:200] if person else "",
        at=now,
    )


def lift(takedown: Takedown, *, now: datetime) -> None:
    """Unblock the origin of a takedown.

    The posts stay in the bin and can be restored from there. Raises Conflict where it was lifted already.
    """
    with transaction.atomic():
        row = Takedown.objects.select_for_update(of=("self",)).get(pk=takedown.pk)
        if row.lifted_at is not None:
            raise Conflict("This takedown has been lifted already.")
        row.lifted_at = now
        row.save(update_fields=["lifted_at"])
        if row.source_id is not None:
            Source.objects.filter(pk=row.source_id).update(blocked_at=None)
        if row.link_key:
            Block.objects.filter(blog=row.blog_id, link_key=row.link_key).delete()
        record("takedown.lifted", row.subject, blog=row.blog_id)
