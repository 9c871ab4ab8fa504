"""Applying the results of a replay as one change, which can be stopped and taken back."""

from collections.abc import Collection, Sequence
from datetime import datetime
from typing import Any

from django.db import transaction
from django.db.models import Q
from glyptarch_core.pipeline import decide
from glyptarch_core.trace import Verdict

from glyptarch_server.accounts.models import User
from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.actions import take_turn
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.campaigns.queries import document_of
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.items.queries import as_captured
from glyptarch_server.posts import changes
from glyptarch_server.posts.actions import write_posts
from glyptarch_server.posts.context import context_for
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import Change, Post, PostChange
from glyptarch_server.replay import queries
from glyptarch_server.replay.actions import move
from glyptarch_server.replay.lifecycle import Outcome, ReplayState
from glyptarch_server.replay.memory import ReplayMemory
from glyptarch_server.replay.models import Replay, ReplayResult
from glyptarch_server.runs.models import Decision
from glyptarch_server.runs.queries import lock_of
from glyptarch_server.runs.traces import reason_data, trace_data
from glyptarch_server.tasks.actions import begin_task
from glyptarch_server.tasks.carrying import Carrier
from glyptarch_server.tasks.lifecycle import TaskState
from glyptarch_server.tasks.models import Task

__all__ = ["begin_applying", "carry_out", "end_with_task", "wanted_values"]

_AT_ONCE = 100
_ACTS = (Outcome.CHANGED.value, Outcome.REFUSED.value, Outcome.DUPLICATE.value, Outcome.NEW.value)


def begin_applying(
    replay: Replay, *, outcomes: Collection[str], results: Collection[int], by: User | None, now: datetime
) -> Change:
    """Create a change that applies results, chosen by outcome or one by one, and its task.

    Raises Conflict where the replay is under way, Invalid where nothing was chosen.
    """
    with transaction.atomic():
        Campaign.objects.select_for_update().get(pk=replay.campaign_id)
        if queries.active_replay(replay.campaign) is not None or not move(replay, ReplayState.APPLYING, now=now):
            raise Conflict("A comparison is under way. Wait for its end, or stop it first.")
        wanted = ReplayResult.objects.filter(replay=replay, applied=False, outcome__in=_ACTS)
        chosen = wanted.filter(Q(outcome__in=list(outcomes)) | Q(pk__in=list(results)))
        if not chosen.update(chosen=True):
            raise Invalid("Choose posts that are to be changed.")
        posts = ReplayResult.objects.filter(replay=replay, chosen=True, post__isnull=False).values_list(
            "post", flat=True
        )
        campaign = replay.campaign
        change = changes.new_change(
            campaign.blog, changes.Action.REPLAY, {"replay": replay.pk}, list(posts), subject=campaign.name, now=now
        )
        task = begin_task(
            "apply",
            replay.pk,
            blog_id=campaign.blog_id,
            subject=campaign.name,
            now=now,
            path=f"campaigns/{campaign.slug}/replay",
            lock=lock_of(campaign.pk),
            total=len(change.posts),
            by_id=by.pk if by else None,
        )
        Replay.objects.filter(pk=replay.pk).update(change=change, task=task)
        Change.objects.filter(pk=change.pk).update(task=task)
        after = {"posts": len(change.posts), "revision": replay.revision.number}
        record("posts.replayed", campaign.name, blog=campaign.blog_id, after=after)
    return change


def wanted_values(change: Change, posts: Sequence[Post], now: datetime) -> dict[int, dict[str, Any]]:
    """Return the values that a change wants of posts, without fields edited by people meanwhile."""
    rows = ReplayResult.objects.filter(replay=change.what["replay"], chosen=True, post__in=[post.pk for post in posts])
    results = {row.post_id: row for row in rows.select_related("replay")}
    wanted = {post.pk: _values(results[post.pk], post, now) for post in posts if post.pk in results}
    rows.update(applied=True, chosen=False)
    return {number: values for number, values in wanted.items() if values}


def _values(result: ReplayResult, post: Post, now: datetime) -> dict[str, Any] | None:
    if post.state not in {
        PostState.PUBLISHED.value, PostState.SCHEDULED.value, PostState.HELD.value, PostState.DRAFT.value,
    }:  # fmt: skip
        return None
    if result.outcome == Outcome.CHANGED.value:
        values = {name: value for name, value in result.values.items() if name not in post.edited}
        if post.state == PostState.PUBLISHED.value and "date" in values:
            values["date"] = min(datetime.fromisoformat(values["date"]), now).isoformat()
        return {**values, "revision_id": result.replay.revision_id} if values else None
    if post.edited:
        return None
    return {"state": PostState.BINNED.value, "binned_at": now.isoformat(), "marker": True}


def carry_out(task: Task, carrier: Carrier) -> None:
    """Carry out the change of a replay, then write new posts. Safe to repeat after a crash."""
    replay = Replay.objects.select_related("campaign__blog", "revision", "change").get(pk=task.ref)
    if replay.change is None:
        return
    changes.carry_on(replay.change, carrier)
    new = queries.still_new(replay)
    while _write_new(replay, carrier):
        left = queries.still_new(replay)
        carrier.report(new - left, new, phase="writing")


def end_with_task(task: Task, state: TaskState, at: datetime) -> None:
    """End the change of a replay, whose other results can be applied afterwards."""
    replay = Replay.objects.get(pk=task.ref)
    if replay.change_id is not None:
        changes.end_change(replay.change_id, state, at)
    ReplayResult.objects.filter(replay=replay, chosen=True, applied=False).update(chosen=False)
    Replay.objects.filter(pk=replay.pk).update(failure=task.failure)
    move(replay, ReplayState.READY, now=at)


def _write_new(replay: Replay, carrier: Carrier) -> bool:
    """Write the next new posts.

    Return whether there may be more.
    """
    now = carrier.now()
    document = document_of(replay.revision).without_limits()
    with transaction.atomic():
        take_turn(replay.campaign.blog_id)
        carrier.check()
        change = Change.objects.select_for_update(of=("self",)).get(pk=replay.change_id or 0)
        wanted = ReplayResult.objects.filter(replay=replay, chosen=True, outcome=Outcome.NEW.value)
        rows = list(wanted.select_related("item__source").order_by("pk")[:_AT_ONCE])
        items = {row.item_id: row.item for row in rows}
        open_decisions = Decision.objects.filter(campaign=replay.campaign, item__in=list(items), post=None)
        decided = {decision.item_id: decision for decision in open_decisions.select_for_update()}
        some = [item for item in items.values() if item.pk in decided]
        decisions = decide(
            as_captured(some),
            document,
            memory=ReplayMemory(replay, writing=True),
            now=now,
            context=context_for(replay.campaign.blog, [document]),
        )
        pairs = [
            (item, decision)
            for item, decision in zip(some, decisions, strict=True)
            if decision.verdict is not Verdict.WAITING
        ]
        kept = [(item, decision) for item, decision in pairs if decision.verdict.kept]
        posts = write_posts(replay.campaign, replay.revision, kept, now=now)
        for item, decision in kept:
            row = decided[item.pk]
            row.post, row.verdict, row.left_at = posts[item.pk], decision.verdict.value, ""
            row.reason, row.trace = reason_data(decision), trace_data(decision)
            row.save(update_fields=["post", "verdict", "left_at", "reason", "trace"])
        # When taken back, a new post is binned with its marker, so that its item stays away as before.
        before = {"state": PostState.BINNED.value, "marker": True, "binned_at": now.isoformat()}
        PostChange.objects.bulk_create(
            [
                PostChange(
                    change=change,
                    post=post,
                    version=1,
                    before=before,
                    after={"state": post.state, "marker": True, "binned_at": None},
                )
                for post in posts.values()
            ]
        )
        wanted.filter(pk__in=[row.pk for row in rows]).update(applied=True, chosen=False)
        change.changed += len(posts)
        change.posts = [*change.posts, *(post.pk for post in posts.values())]
        change.done = len(change.posts)
        change.save(update_fields=["changed", "posts", "done"])
    return len(rows) == _AT_ONCE
