"""Corrections: what happens to a post when its source has changed the item since.

Posts that are not out follow, apart from what people edited; a scheduled one is held where its rules would refuse the
item now. For published posts the campaign says whether the desk is told, the post follows, or nothing happens.
"""

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any

from django.db import transaction
from django.db.models import F
from glyptarch_core.pipeline import decide
from glyptarch_core.release import Corrections
from glyptarch_core.trace import Decision as CoreDecision

from glyptarch_server.audit.actions import record
from glyptarch_server.campaigns.models import Campaign, Revision
from glyptarch_server.campaigns.queries import document_of
from glyptarch_server.common.problems import NotFound
from glyptarch_server.items.queries import as_captured
from glyptarch_server.posts import changes
from glyptarch_server.posts.changing import locked, values_of, values_of_draft, write_values
from glyptarch_server.posts.context import context_for
from glyptarch_server.posts.lifecycle import ChangeState, PostState
from glyptarch_server.posts.memory import PostMemory
from glyptarch_server.posts.models import Change, Correction, Post
from glyptarch_server.runs import queries
from glyptarch_server.runs.models import Decision, Run
from glyptarch_server.tasks.carrying import Carrier

__all__ = ["follow_corrections", "leave_correction", "take_correction"]

_AT_ONCE = 50
_NOT_OUT = (PostState.HELD.value, PostState.DRAFT.value, PostState.SCHEDULED.value)
_STAYS = frozenset({"date", "copies_pictures", "copies_recordings_mb"})


def follow_corrections(run: Run, carrier: Carrier) -> None:
    """Bring the posts of a campaign up to date with their items, fifty per transaction.

    Looks at what was corrected since the run before. Safe to repeat, because what follows once differs no more.
    """
    last, mode = 0, document_of(run.revision).release.corrections
    since = queries.last_done_before(run)
    while rows := _corrected(run.campaign, since, last):
        last = rows[-1].pk
        with transaction.atomic():
            carrier.check()
            posts = {post.pk: post for post in locked(run.campaign.blog_id, [row.post_id or 0 for row in rows])}
            _follow(run, [row for row in rows if row.post_id in posts], posts, mode, now=carrier.now())
        carrier.report(0, 0, phase="correcting")


def _corrected(campaign: Campaign, since: datetime | None, last: int) -> list[Decision]:
    rows = Decision.objects.filter(campaign=campaign, item__corrected_at__gt=F("at"), pk__gt=last)
    if since is not None:
        rows = rows.filter(item__corrected_at__gt=since)
    rows = rows.filter(post__state__in=[*_NOT_OUT, PostState.PUBLISHED.value])
    return list(rows.select_related("item__source", "post__revision").order_by("pk")[:_AT_ONCE])


def _follow(run: Run, rows: Sequence[Decision], posts: Mapping[int, Post], mode: Corrections, *, now: datetime) -> None:
    following: dict[int, dict[str, Any]] = {}
    for row, decision in _decided(run.campaign, rows, now):
        post = posts[row.post_id or 0]
        wanted, refused = _wanted(post, decision)
        if post.state in _NOT_OUT or mode is Corrections.FOLLOW:
            following[post.pk] = _held(post, wanted) if refused else wanted
        elif mode is Corrections.SHOW and (wanted or refused):
            values = {"at": now, "values": wanted, "refused": refused}
            Correction.objects.update_or_create(post=post, defaults=values)
        else:
            Correction.objects.filter(post=post).delete()
    wanted_posts = {number: values for number, values in following.items() if values}
    if wanted_posts:
        _write(run, [posts[number] for number in wanted_posts], wanted_posts, now)


def _decided(campaign: Campaign, rows: Sequence[Decision], now: datetime) -> "list[tuple[Decision, CoreDecision]]":
    """Decide corrected items by the rules that made their posts."""
    by_revision: dict[Revision, list[Decision]] = {}
    for row in rows:
        if row.post is not None and row.post.revision is not None:
            by_revision.setdefault(row.post.revision, []).append(row)
    pairs: list[tuple[Decision, CoreDecision]] = []
    for revision, some in by_revision.items():
        document = document_of(revision).for_a_correction()
        captured = as_captured([row.item for row in some])
        context, memory = context_for(campaign.blog, [document]), PostMemory(campaign)
        pairs += zip(some, decide(captured, document, memory=memory, now=now, context=context), strict=True)
    return pairs


def _wanted(post: Post, decision: CoreDecision) -> tuple[dict[str, Any], bool]:
    """Return the values that a post would have, and whether it would be refused.

    What people edited is left out.
    """
    if decision.draft is None:
        return {}, True
    current = values_of(post)
    wanted = values_of_draft(decision.draft)
    kept = {*post.edited, *_STAYS}
    return {name: value for name, value in wanted.items() if name not in kept and current[name] != value}, False


def _held(post: Post, wanted: dict[str, Any]) -> dict[str, Any]:
    """Return the values of a post whose item would be refused now: a person decides."""
    return {**wanted, "state": PostState.HELD.value} if post.state == PostState.SCHEDULED.value else wanted


def _write(run: Run, posts: Sequence[Post], wanted: Mapping[int, Mapping[str, Any]], now: datetime) -> None:
    campaign = run.campaign
    change = changes.new_change(
        campaign.blog, changes.Action.CORRECT, {"run": run.pk}, list(wanted), subject=campaign.name, now=now
    )
    changed = write_values(change, posts, wanted, now=now)
    ended = {"done": len(posts), "changed": len(changed), "state": ChangeState.DONE.value, "ended_at": now}
    Change.objects.filter(pk=change.pk).update(**ended)


def take_correction(post: Post, *, now: datetime) -> Post:
    """Change a published post as its source corrected it.

    Raises NotFound where there is nothing to take over.
    """
    with transaction.atomic():
        row = _correction_of(post)
        values = {name: value for name, value in row.values.items() if name not in post.edited}
        what = {"values": sorted(values)}
        changed = changes.change_now(
            post.blog, changes.Action.CORRECT, post.pk, values, subject=post.title, what=what, now=now
        )
        row.delete()
        record("post.corrected", post.title, blog=post.blog_id, after=sorted(values))
    return changed


def leave_correction(post: Post) -> None:
    """Leave a published post as it is, until its source corrects the item again."""
    with transaction.atomic():
        _correction_of(post).delete()
        record("post.correction_left", post.title, blog=post.blog_id)


def _correction_of(post: Post) -> Correction:
    row = Correction.objects.select_for_update().filter(post=post).first()
    if row is None:
        raise NotFound(f"The source of “{post.title}” has corrected nothing, or somebody has seen to it already.")
    return row
