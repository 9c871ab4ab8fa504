"""Taking campaigns and blogs out of the database, with all that came of them, in batches."""

import logging
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta

from django.db import transaction
from django.db.models import Q

from glyptarch_server.accounts.models import User
from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.common.problems import Conflict
from glyptarch_server.items.models import Item
from glyptarch_server.media.actions import remove_all
from glyptarch_server.posts.emptying import remember_addresses
from glyptarch_server.posts.models import Post
from glyptarch_server.runs import queries
from glyptarch_server.runs.models import Decision, Run
from glyptarch_server.sources.models import Reading, Source
from glyptarch_server.tasks.actions import begin_task
from glyptarch_server.tasks.carrying import Carrier
from glyptarch_server.tasks.models import Task

__all__ = ["GoesWithIt", "ask_to_delete", "carry_out_deletion", "goes_with", "remove_old_blogs"]

_log = logging.getLogger("glyptarch.runs")
_AT_ONCE = 200
_BLOGS_STAY = timedelta(days=30)


@dataclass(frozen=True, slots=True)
class GoesWithIt:
    """The rows removed with a campaign.

    Editions count as posts. ``on_the_blog`` are the published ones.
    """

    posts: int
    on_the_blog: int
    comments: int
    decisions: int
    runs: int
    revisions: int


def goes_with(campaign: Campaign) -> GoesWithIt:
    """Count the rows removed with a campaign. Captured items stay with their sources."""
    posts = Post.objects.filter(_came_of(campaign))
    return GoesWithIt(
        posts=posts.count(),
        on_the_blog=posts.filter(state="published").count(),
        comments=queries.comments_under(campaign),
        decisions=Decision.objects.filter(campaign=campaign).count(),
        runs=Run.objects.filter(campaign=campaign).count(),
        revisions=campaign.revisions.count(),
    )


def _came_of(campaign: Campaign) -> Q:
    """Return what finds the posts of a campaign and their editions."""
    return Q(campaign=campaign) | Q(edition_of__campaign=campaign)


def ask_to_delete(campaign: Campaign, *, by: User | None, now: datetime) -> None:
    """Remove a campaign from all lists and queue its deletion.

    Raises Conflict while a run is under way.
    """
    with transaction.atomic():
        row = Campaign.objects.select_for_update(of=("self",)).get(pk=campaign.pk)
        if queries.active_run(row) is not None:
            raise Conflict("A run is under way. Wait for its end, or stop it first.")
        going = goes_with(row)
        row.delete_asked_at, row.removed_at, row.next_run_at = now, row.removed_at or now, None
        row.save(update_fields=["delete_asked_at", "removed_at", "next_run_at"])
        # Posts disappear for readers before the job runs.
        Post.objects.filter(_came_of(row)).update(state="refused", changed_at=now)
        record("campaign.deleted", row.name, blog=row.blog_id, before={"posts": going.posts, "runs": going.runs})
        begin_task(
            "deletion",
            row.pk,
            blog_id=row.blog_id,
            subject=row.name,
            now=now,
            lock=queries.lock_of(row.pk),
            by_id=by.pk if by else None,
            total=going.posts,
        )


def carry_out_deletion(task: Task, carrier: Carrier) -> None:
    """Delete a campaign that was asked to go. Safe to begin again after a crash."""
    campaign = Campaign.objects.filter(pk=task.ref, delete_asked_at__isnull=False).first()
    if campaign is None:
        return
    for left in _delete_rows(campaign):
        carrier.report(max(0, task.total - left), task.total)
    _delete_campaign(campaign)


def _delete_rows(campaign: Campaign) -> Iterator[int]:
    """Delete the posts and decisions of a campaign in batches.

    Yield after each batch how many posts are left.
    """
    own = Post.objects.filter(campaign=campaign).order_by("pk")
    # Editions first: they would go with their originals, and their addresses would be forgotten.
    for rows in (Post.objects.filter(edition_of__campaign=campaign).order_by("pk"), own):
        while posts := list(rows.only("blog", "slug", "out_at")[:_AT_ONCE]):
            with transaction.atomic():
                remember_addresses(posts)
                Post.objects.filter(pk__in=[post.pk for post in posts]).delete()
            yield rows.count() if rows is own else rows.count() + own.count()
    decisions = Decision.objects.filter(campaign=campaign).order_by("pk")
    while numbers := list(decisions.values_list("pk", flat=True)[:_AT_ONCE]):
        Decision.objects.filter(pk__in=numbers).delete()
        yield 0


def _delete_campaign(campaign: Campaign) -> None:
    for _ in _delete_rows(campaign):
        pass
    with transaction.atomic():
        Run.objects.filter(campaign=campaign).delete()
        campaign.delete()


def remove_old_blogs(*, now: datetime) -> int:
    """Delete blogs that were removed a month ago.

    Return how many.
    """
    old = list(Blog.objects.filter(removed_at__lt=now - _BLOGS_STAY))
    for blog in old:
        for campaign in Campaign.objects.filter(blog=blog):
            _delete_campaign(campaign)
        for source in Source.objects.filter(blog=blog):
            items = Item.objects.filter(source=source)
            while numbers := list(items.order_by("pk").values_list("pk", flat=True)[:_AT_ONCE]):
                Item.objects.filter(pk__in=numbers).delete()
            Reading.objects.filter(source=source).delete()
        remove_all(blog)
        with transaction.atomic():
            record("blog.deleted", blog.title, blog=blog.pk)
            blog.delete()
        _log.info("blog %s was deleted: it had been removed a month ago", blog.slug)
    return len(old)
