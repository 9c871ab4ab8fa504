"""Carrying out a run: gather, then decide batch by batch. Safe to begin again after a crash."""

import logging
from collections import deque
from datetime import datetime, timedelta

from django.conf import settings
from django.db import InterfaceError, OperationalError, transaction
from glyptarch_core.errors import DocumentError

from glyptarch_server.campaigns.queries import document_of, sources_for
from glyptarch_server.items.queries import items_numbered
from glyptarch_server.items.reader import read_pending
from glyptarch_server.runs import queries
from glyptarch_server.runs.actions import move, take_what_was_read
from glyptarch_server.runs.batches import decide_batch, decide_one_by_one
from glyptarch_server.runs.corrections import follow_corrections
from glyptarch_server.runs.lifecycle import RunState
from glyptarch_server.runs.models import Run
from glyptarch_server.sources.asking import any_pending, ask_for, asked_of
from glyptarch_server.sources.readings import due_for_schedule, readable_by_hand
from glyptarch_server.tasks.carrying import Carrier, carry
from glyptarch_server.tasks.lifecycle import LaterError, StopError, TaskError
from glyptarch_server.tasks.models import Task
from glyptarch_server.wiring import Clock, FetchPortal

__all__ = ["carry_out", "carry_out_alone"]

_log = logging.getLogger("glyptarch.runs")
_LONGEST_WAIT = timedelta(minutes=10)
"""How long a run waits for its sources; it then decides what has come."""
_SECONDS_BETWEEN_LOOKS = 5.0
_FOUND_AT_ONCE = 1_000
"""How many of the next items are looked up at a time."""


def carry_out(task: Task, carrier: Carrier) -> None:
    """Continue a run to its end. Safe to repeat after a crash.

    Raises what ends or interrupts its task.
    """
    run = Run.objects.select_related("campaign__blog", "revision").get(pk=task.ref)
    try:
        _gather_and_decide(run, task, carrier)
    except DocumentError as error:
        raise TaskError(f"The rules do not hold any more: {error}") from error


def carry_out_alone(task_id: int, *, fetcher: FetchPortal, clock: Clock) -> None:
    """Carry out a task to its end, and read in this thread what it asks for.

    For commands without workers. Raises LaterError where it waits for something else.
    """
    while True:
        try:
            carry(task_id, fetcher=fetcher, clock=clock, gives_way=False)
        except LaterError:
            if not any_pending():
                raise
            read_pending(fetcher=fetcher, clock=clock)
        else:
            return


def _gather(run: Run, task: Task, carrier: Carrier) -> None:
    """Ask for the readings of the run's sources, and wait a bounded time for them.

    Raises LaterError while they are under way: the run holds no worker meanwhile, and is woken by the last one.
    """
    if run.state == RunState.WAITING.value:
        document = document_of(run.revision)
        sources = sources_for(run.campaign.blog, document)
        now = carrier.now()
        # “Run now” reads every source; a schedule respects their intervals.
        due = due_for_schedule(sources, now=now) if run.scheduled else readable_by_hand(sources)
        with transaction.atomic():
            move(run, RunState.GATHERING, now)
            Run.objects.filter(pk=run.pk).update(sources=len(due), sources_left=len(sources) - len(due))
            ask_for(task.pk, due)
    asked = asked_of(task.pk)
    carrier.report(asked.answered, asked.total, phase="gathering")
    _require_campaign(run)
    waited = carrier.now() - (run.begun_at or carrier.now())
    if asked.answered < asked.total and waited < _LONGEST_WAIT:
        raise LaterError("its sources are being read", seconds=_SECONDS_BETWEEN_LOOKS)
    take_what_was_read(run)


def _require_campaign(run: Run) -> None:
    if not queries.is_wanted(run):
        raise StopError


def _is_over_time(run: Run, now: datetime) -> bool:
    """Whether a run has exceeded the configured time."""
    limit = timedelta(minutes=settings.GLYPTARCH_RUN_MINUTES)
    return run.begun_at is not None and now - run.begun_at > limit


def _gather_and_decide(run: Run, task: Task, carrier: Carrier) -> None:
    document = document_of(run.revision)
    if run.state != RunState.DECIDING.value:
        _gather(run, task, carrier)
        follow_corrections(run, carrier)
        sources = sources_for(run.campaign.blog, document)
        waiting = queries.undecided(run.campaign, sources).count()
        run.to_decide = min(waiting, document.gather.at_most or waiting)
        Run.objects.filter(pk=run.pk).update(to_decide=run.to_decide)
        move(run, RunState.DECIDING, carrier.now())
    waiting_items: deque[int] = deque()
    while True:
        # What waits for texts counts as met, so that no more is asked and paid for than a run may decide.
        decided = run.decisions.count() + run.waits.count()
        carrier.report(decided, run.to_decide, phase="deciding")
        left = run.to_decide - decided
        if not waiting_items and left > 0:
            # Finding the next ones among very many takes longer than deciding some.
            sources = sources_for(run.campaign.blog, document)
            undecided = queries.not_met_yet(run, queries.undecided(run.campaign, sources, document.release.order))
            waiting_items.extend(undecided.values_list("pk", flat=True)[: min(_FOUND_AT_ONCE, left)])
        if not _decide_next(run, waiting_items, carrier, left=left):
            return


def _decide_next(run: Run, waiting: deque[int], carrier: Carrier, *, left: int) -> bool:
    """Decide the next batch of the items that wait, by their numbers.

    Return whether there may be more.
    """
    _require_campaign(run)
    size = max(0, min(settings.GLYPTARCH_RUN_BATCH, left, len(waiting)))
    rows = items_numbered([waiting.popleft() for _ in range(size)])
    now = carrier.now()
    if not rows:
        # Items that were removed meanwhile are no end.
        return bool(waiting)
    if _is_over_time(run, now):
        minutes = settings.GLYPTARCH_RUN_MINUTES
        raise TaskError(f"It took longer than {minutes} minutes. The next run decides the {left} items that are left.")
    try:
        return decide_batch(run, rows, now=now, check=carrier.check)
    except (OperationalError, InterfaceError, DocumentError, StopError, TaskError):
        raise
    except Exception:  # noqa: BLE001 - whatever is wrong with the batch
        _log.exception("run %s: a batch of %s failed; its items are decided one by one", run.pk, len(rows))
        return decide_one_by_one(run, rows, now=now, check=carrier.check)
