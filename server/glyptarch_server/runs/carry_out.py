"""Carrying out a run: gather, then decide batch by batch. Safe to begin again after a crash."""

import logging
from collections.abc import Sequence
from datetime import datetime, timedelta

from django.conf import settings
from django.db import InterfaceError, OperationalError, transaction
from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.errors import DocumentError

from glyptarch_server.campaigns.queries import document_of, sources_for
from glyptarch_server.items.actions import keep_answers
from glyptarch_server.items.capturing import known_entries, known_links
from glyptarch_server.items.page_pictures import look_up_pages
from glyptarch_server.runs import queries
from glyptarch_server.runs.actions import move
from glyptarch_server.runs.batches import decide_batch, decide_one_by_one
from glyptarch_server.runs.lifecycle import RunState
from glyptarch_server.runs.models import Run
from glyptarch_server.sources.gathering import read_sources
from glyptarch_server.sources.models import Source
from glyptarch_server.sources.readings import claim_due, readable_by_hand
from glyptarch_server.tasks.carrying import Carrier
from glyptarch_server.tasks.lifecycle import StopError, TaskError
from glyptarch_server.tasks.models import Task

__all__ = ["carry_out", "gather"]

_log = logging.getLogger("glyptarch.runs")


def carry_out(task: Task, carrier: Carrier) -> None:
    """Continue a run to its end. Safe to repeat after a crash.

    Raises what ends or interrupts its task.
    """
    run = Run.objects.select_related("campaign__blog", "revision").get(pk=task.ref)
    try:
        _gather_and_decide(run, carrier)
    except DocumentError as error:
        raise TaskError(f"The rules do not hold any more: {error}") from error


def gather(run: Run, sources: Sequence[Source], carrier: Carrier) -> None:
    """Read the sources and store new items as each answers.

    A failing source stops no other.
    """
    Run.objects.filter(pk=run.pk).update(sources=len(sources), sources_read=0, fresh=0)
    fresh = number = 0
    for batch in read_sources(sources, carrier.fetcher, known_entries=known_entries, known_links=known_links):
        now = carrier.now()
        with transaction.atomic():
            readings = keep_answers(batch, now=now)
            run.readings.add(*readings)
            number, fresh = number + len(batch), fresh + sum(reading.fresh for reading in readings)
            Run.objects.filter(pk=run.pk).update(sources_read=number, fresh=fresh)
        for source, _ in batch:
            look_up_pages(source, fetcher=carrier.fetcher, now=now)
        carrier.report(number, len(sources), phase="gathering")
        _require_campaign(run)
        if _is_over_time(run, now):
            return


def _require_campaign(run: Run) -> None:
    if not queries.is_wanted(run):
        raise StopError


def _is_over_time(run: Run, now: datetime) -> bool:
    """Whether a run has exceeded the configured time."""
    limit = timedelta(minutes=settings.GLYPTARCH_RUN_MINUTES)
    return run.begun_at is not None and now - run.begun_at > limit


def _gather_and_decide(run: Run, carrier: Carrier) -> None:
    document = document_of(run.revision)
    if run.state != RunState.DECIDING.value:
        sources = sources_for(run.campaign.blog, document)
        move(run, RunState.GATHERING, carrier.now())
        # “Run now” reads every source; a schedule respects their intervals.
        due = claim_due(sources, now=carrier.now()) if run.scheduled else readable_by_hand(sources)
        Run.objects.filter(pk=run.pk).update(sources_left=len(sources) - len(due))
        gather(run, due, carrier)
        waiting = queries.undecided(run.campaign, sources).count()
        run.to_decide = min(waiting, document.gather.at_most or waiting)
        Run.objects.filter(pk=run.pk).update(to_decide=run.to_decide)
        move(run, RunState.DECIDING, carrier.now())
    while True:
        decided = run.decisions.count()
        carrier.report(decided, run.to_decide, phase="deciding")
        if not _decide_next(run, document, carrier, left=run.to_decide - decided):
            return


def _decide_next(run: Run, document: CampaignDocument, carrier: Carrier, *, left: int) -> bool:
    """Decide the next batch.

    Return whether there may be more.
    """
    _require_campaign(run)
    sources = sources_for(run.campaign.blog, document)
    undecided = queries.undecided(run.campaign, sources, document.release.order)
    rows = list(undecided[: min(settings.GLYPTARCH_RUN_BATCH, left)]) if left > 0 else []
    now = carrier.now()
    if not rows:
        return False
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
