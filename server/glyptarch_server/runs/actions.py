"""Starting and ending runs, and forgetting what they decided."""

import contextlib
import logging
from collections.abc import Collection
from datetime import datetime

from django.db import transaction

from glyptarch_server.accounts.models import User
from glyptarch_server.audit.actions import record
from glyptarch_server.campaigns.actions import plan_next
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.campaigns.queries import due_campaigns, latest_revision
from glyptarch_server.common.problems import Conflict, NotFound
from glyptarch_server.posts.actions import forget_refused
from glyptarch_server.runs import queries
from glyptarch_server.runs.lifecycle import RunState, may_move
from glyptarch_server.runs.models import Run
from glyptarch_server.services.actions import go_on
from glyptarch_server.services.queries import unanswered
from glyptarch_server.sources.asking import take_readings
from glyptarch_server.tasks.actions import begin_task
from glyptarch_server.tasks.lifecycle import TaskState
from glyptarch_server.tasks.models import Task

__all__ = [
    "begin_due",
    "begin_run",
    "end_with_task",
    "forget",
    "go_on_with_texts",
    "move",
    "take_what_was_read",
]

_log = logging.getLogger("glyptarch.runs")


def _lock(campaign: Campaign) -> Campaign:
    """Lock a campaign's row until the transaction ends.

    Its runs start one after another.
    """
    return Campaign.objects.select_for_update().get(pk=campaign.pk)


def begin_run(
    campaign: Campaign, *, by: User | None, now: datetime, queue: bool = True, scheduled: bool = False
) -> Run:
    """Put a run of the latest rules on record, together with its task.

    Without ``queue`` the caller carries it out itself. Raises Conflict while another run of the
    campaign is under way, NotFound where the campaign has been removed.
    """
    with transaction.atomic():
        if _lock(campaign).removed_at is not None:
            raise NotFound(f"“{campaign.name}” has been removed.")
        if queries.active_run(campaign) is not None:
            raise Conflict(f"A run of “{campaign.name}” is under way already. Watch it, or stop it first.")
        run = Run.objects.create(
            campaign=campaign,
            revision=latest_revision(campaign),
            state=RunState.WAITING.value,
            started_by=by,
            scheduled=scheduled,
            asked_at=now,
        )
        if by is not None:
            record("run.begun", campaign.name, blog=campaign.blog_id, after=run.pk)
        run.task = begin_task(
            "run",
            run.pk,
            blog_id=campaign.blog_id,
            subject=campaign.name,
            now=now,
            path=f"runs/{run.pk}",
            lock=queries.lock_of(campaign.pk),
            by_id=by.pk if by else None,
            queue=queue,
        )
        run.save(update_fields=["task"])
    return run


_MOST_AT_ONCE = 200
"""How many runs one look at the clock begins; the next look is ten seconds later."""


def begin_due(*, now: datetime) -> int:
    """Start a run of each due campaign and set its next time.

    Return how many were started. A campaign that missed several times runs once. One with a run under way waits for its
    next time. Several workers may call this concurrently: each takes other campaigns.
    """
    begun = 0
    for _ in range(_MOST_AT_ONCE):
        with transaction.atomic():
            locked = due_campaigns(now).select_for_update(of=("self",), skip_locked=True)
            campaign = locked.select_related("blog").first()
            if campaign is None:
                break
            try:
                begin_run(campaign, by=None, now=now, scheduled=True)
                begun += 1
            except Conflict:
                _log.info("campaign %s is still running at its next time; this time is left out", campaign.pk)
            plan_next(campaign, now=now)
    return begun


def forget(campaign: Campaign, items: Collection[int] | None = None) -> int:
    """Forget decisions without a present post, so that the next run decides those items again.

    Those of all items, except what people refused by hand; or those of some ``items``, these as well.
    Published, held and draft posts stay and are still found as duplicates.
    Returns the number of forgotten items. Raises Conflict while a run is under way.
    """
    with transaction.atomic():
        _lock(campaign)
        if queries.active_run(campaign) is not None:
            raise Conflict("A run is under way. Wait for its end, or stop it first.")
        rows = queries.forgettable(campaign, items)
        number = rows.count()
        rows.delete()
        if items is not None:
            forget_refused(campaign, items)
        record("campaign.forgotten", campaign.name, blog=campaign.blog_id, after=number)
    return number


def move(run: Run, to: RunState, now: datetime) -> bool:
    """Move a run to another state.

    Return False where it has ended meanwhile. The row is read again under a lock, because somebody may have stopped the
    run. ``run`` then has the row's values.
    """
    with transaction.atomic():
        row = Run.objects.select_for_update().get(pk=run.pk)
        allowed = may_move(RunState(row.state), to)
        if allowed:
            row.state = to.value
            if row.begun_at is None and to is RunState.GATHERING:
                row.begun_at = now
            if to in {RunState.DONE, RunState.STOPPED, RunState.FAILED}:
                row.ended_at = now
            row.save(update_fields=["state", "begun_at", "ended_at"])
    run.state, run.begun_at, run.ended_at = row.state, row.begun_at, row.ended_at
    return allowed


def take_what_was_read(run: Run) -> None:
    """Note with a run the readings that it asked for, and end its waiting for the others."""
    with transaction.atomic():
        readings = take_readings(run.task_id or 0)
        if readings:
            run.readings.add(*readings)
            fresh = sum(reading.fresh for reading in readings)
            Run.objects.filter(pk=run.pk).update(sources_read=len(readings), fresh=fresh)


def go_on_with_texts(task: Task, state: TaskState, at: datetime) -> None:
    """Begin a run of each campaign whose items waited for the texts that a task has asked for.

    Where somebody stopped it, the next run asks again. Where services could not answer all, campaigns go on that got
    texts meanwhile.
    """
    if state is TaskState.STOPPED:
        return
    if state is TaskState.DONE:
        go_on(task, now=at)
    for campaign in queries.waiting_for_texts(task.blog_id):
        if state is not TaskState.DONE and not queries.got_texts(campaign):
            continue
        with contextlib.suppress(Conflict):
            begin_run(campaign, by=None, now=at, scheduled=True)


def end_with_task(task: Task, state: TaskState, at: datetime) -> None:
    """End the run that a task carried out."""
    run = Run.objects.get(pk=task.ref)
    take_what_was_read(run)
    if task.failure:
        Run.objects.filter(pk=run.pk).update(failure=task.failure)
    move(run, RunState(state.value), at)
    # Their texts may have come while the run met other items.
    if state is TaskState.DONE and run.texts_waiting and not unanswered(task.blog_id).exists():
        begin_run(run.campaign, by=None, now=at, scheduled=True)
