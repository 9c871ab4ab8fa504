"""Beginning, carrying out and stopping replays."""

import logging
from collections import Counter
from collections.abc import Sequence
from datetime import datetime

from django.db import transaction
from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.draft import Draft
from glyptarch_core.pipeline import decide
from glyptarch_core.reuse import Reuse
from glyptarch_core.trace import Decision as CoreDecision
from glyptarch_core.trace import Verdict

from glyptarch_server.accounts.models import User
from glyptarch_server.audit.actions import record
from glyptarch_server.campaigns.models import Campaign, Revision
from glyptarch_server.campaigns.queries import document_of
from glyptarch_server.common.problems import Conflict
from glyptarch_server.items.queries import as_captured
from glyptarch_server.posts.changing import values_of, values_of_draft
from glyptarch_server.posts.context import context_for
from glyptarch_server.posts.models import Post
from glyptarch_server.replay import queries
from glyptarch_server.replay.lifecycle import MOVES, Outcome, ReplayState
from glyptarch_server.replay.memory import ReplayMemory
from glyptarch_server.replay.models import Replay, ReplayResult
from glyptarch_server.runs.models import Decision
from glyptarch_server.runs.traces import reason_data
from glyptarch_server.tasks.actions import begin_task
from glyptarch_server.tasks.carrying import Carrier
from glyptarch_server.tasks.lifecycle import LaterError, StopError, TaskState
from glyptarch_server.tasks.models import Task

__all__ = ["begin_replay", "carry_out", "end_with_task", "move"]

_log = logging.getLogger("glyptarch.replay")
_KEEPS = 3
"""How many replays of a campaign are kept."""


def begin_replay(campaign: Campaign, revision: Revision, *, by: User | None, now: datetime) -> Replay:
    """Create a replay and its task.

    Raises Conflict while another one of the campaign is under way.
    """
    with transaction.atomic():
        Campaign.objects.select_for_update().get(pk=campaign.pk)
        if queries.active_replay(campaign) is not None:
            raise Conflict(
                f"Posts of “{campaign.name}” are being compared with rules already. Watch it, or stop it first."
            )
        old = Replay.objects.filter(campaign=campaign).order_by("-asked_at").values_list("pk", flat=True)
        Replay.objects.filter(pk__in=list(old[_KEEPS - 1 :])).delete()
        replay = Replay.objects.create(
            campaign=campaign,
            revision=revision,
            state=ReplayState.WAITING.value,
            total=queries.to_decide(campaign),
            by=by,
            asked_at=now,
        )
        record("replay.begun", campaign.name, blog=campaign.blog_id, after=revision.number)
        replay.task = begin_task(
            "replay",
            replay.pk,
            blog_id=campaign.blog_id,
            subject=campaign.name,
            now=now,
            path=f"campaigns/{campaign.slug}/replay",
            lock=f"replay:{campaign.pk}",
            total=replay.total,
            by_id=by.pk if by else None,
        )
        replay.save(update_fields=["task"])
    return replay


def move(replay: Replay, to: ReplayState, *, now: datetime) -> bool:
    """Move a replay to another state under a lock.

    Return False where it may not move.
    """
    with transaction.atomic():
        row = Replay.objects.select_for_update().get(pk=replay.pk)
        allowed = to in MOVES[ReplayState(row.state)]
        if allowed:
            row.state = to.value
            row.ended_at = None if to is ReplayState.APPLYING else now if to is not ReplayState.DECIDING else None
            row.save(update_fields=["state", "ended_at"])
    replay.state, replay.ended_at = row.state, row.ended_at
    return allowed


def carry_out(task: Task, carrier: Carrier) -> None:
    """Decide all past items of the campaign again, one batch per transaction.

    Safe to repeat after a crash, because results are stored with the position reached.
    """
    replay = Replay.objects.select_related("campaign__blog", "revision").get(pk=task.ref)
    move(replay, ReplayState.DECIDING, now=carrier.now())
    document, memory = document_of(replay.revision).without_limits(), ReplayMemory(replay)
    while rows := queries.next_decisions(replay):
        results = _results(replay, rows, document, memory)
        with transaction.atomic():
            row = Replay.objects.select_for_update(of=("self",)).select_related("campaign").get(pk=replay.pk)
            carrier.check()
            if row.last != replay.last:
                # This worker was taken for dead, and another one has gone on.
                raise LaterError("another worker carries it out")
            if row.campaign.removed_at is not None:
                raise StopError
            ReplayResult.objects.bulk_create([result for result in results if result.outcome != Outcome.OUT.value])
            row.last, row.done = rows[-1].pk, row.done + len(rows)
            row.counts = dict(Counter(row.counts) + Counter(result.outcome for result in results))
            row.save(update_fields=["last", "done", "counts"])
        replay.last = row.last
        carrier.report(row.done, row.total)


def end_with_task(task: Task, state: TaskState, at: datetime) -> None:
    """End the replay that a task compared."""
    replay = Replay.objects.get(pk=task.ref)
    if task.failure:
        Replay.objects.filter(pk=replay.pk).update(failure=task.failure)
    move(replay, ReplayState.READY if state is TaskState.DONE else ReplayState(state.value), now=at)


def _results(
    replay: Replay, rows: Sequence[Decision], document: CampaignDocument, memory: ReplayMemory
) -> list[ReplayResult]:
    captured = as_captured([row.item for row in rows])
    context = context_for(replay.campaign.blog, [document])
    # Age rules use the time of the items, as if these rules had always applied.
    now, memory.at = rows[-1].at, rows[0].at
    decisions = decide(captured, document, memory=memory, now=now, context=context, reuse=Reuse())
    results = [_result(replay, row, decision) for row, decision in zip(rows, decisions, strict=True)]
    memory.add_new(
        [
            (row.item_id, decision.captured, decision.draft)
            for row, result, decision in zip(rows, results, decisions, strict=True)
            if result.outcome == Outcome.NEW.value and decision.draft is not None
        ]
    )
    return results


def _result(replay: Replay, row: Decision, decision: CoreDecision) -> ReplayResult:
    post, draft = row.post, decision.draft
    title = (post.title if post else draft.title if draft else row.item.title)[:300]
    result = ReplayResult(replay=replay, item=row.item, post=post, title=title)
    if draft is None:
        left = Outcome.DUPLICATE if decision.verdict is Verdict.DUPLICATE else Outcome.REFUSED
        result.outcome = (left if post else Outcome.OUT).value
        result.reason = reason_data(decision)
        result.kept = ["state"] if post is not None and post.edited else []
    elif post is None:
        result.outcome, result.values = Outcome.NEW.value, values_of_draft(draft)
    else:
        _compare(result, post, draft)
    return result


def _compare(result: ReplayResult, post: Post, draft: Draft) -> None:
    current, wanted = values_of(post), values_of_draft(draft)
    differing = {name: value for name, value in wanted.items() if current[name] != value}
    result.kept = sorted(set(differing) & set(post.edited))
    result.values = {name: value for name, value in differing.items() if name not in result.kept}
    result.outcome = (Outcome.CHANGED if result.values else Outcome.SAME).value
