"""Carrying out a run: gather, then decide batch by batch. Safe to begin again after a crash."""

import logging
from collections.abc import Sequence
from datetime import datetime, timedelta

from django.conf import settings
from django.db import InterfaceError, OperationalError, transaction
from django.db.models import F
from glyptarch_core.errors import DocumentError
from structlog.contextvars import bound_contextvars

from glyptarch_server.campaigns.queries import document_of, sources_for
from glyptarch_server.items.actions import keep_answers
from glyptarch_server.items.capturing import known_entries, known_links
from glyptarch_server.items.page_pictures import look_up_pages
from glyptarch_server.runs import queries
from glyptarch_server.runs.actions import fail, give_up, move
from glyptarch_server.runs.batches import decide_batch, decide_one_by_one
from glyptarch_server.runs.lifecycle import RunState
from glyptarch_server.runs.models import Run
from glyptarch_server.sources.gathering import read_sources
from glyptarch_server.sources.models import Source
from glyptarch_server.sources.readings import claim_due, readable_by_hand
from glyptarch_server.wiring import Clock, FetchPortal

__all__ = ["carry_out", "gather"]

_log = logging.getLogger("glyptarch.runs")


def carry_out(run_id: int, *, fetcher: FetchPortal, clock: Clock, batch: int) -> None:
    """Continue a run to its end. Safe to repeat after a crash.

    Raises OperationalError or InterfaceError where the database is absent; the run then stays as it is and the caller
    tries again later.
    """
    run = Run.objects.select_related("campaign__blog", "revision").get(pk=run_id)
    if run.ended_at is not None or give_up(run, clock()):
        return
    Run.objects.filter(pk=run.pk).update(tries=F("tries") + 1)
    try:
        with bound_contextvars(run=run.pk, campaign=run.campaign_id):
            _gather_and_decide(run, fetcher=fetcher, clock=clock, batch=batch)
    except (OperationalError, InterfaceError):
        raise
    except DocumentError as error:
        fail(run, f"The rules do not hold any more: {error}", clock())
    except Exception:  # noqa: BLE001 - whatever went wrong, the run ends
        _log.exception("run %s failed", run.pk)
        fail(run, f"Something went wrong on our side. The server's log says what, under “run {run.pk}”.", clock())


def gather(run: Run, sources: Sequence[Source], *, fetcher: FetchPortal, clock: Clock) -> None:
    """Read the sources and store new items as each answers.

    A failing source stops no other.
    """
    Run.objects.filter(pk=run.pk).update(sources=len(sources), sources_read=0, fresh=0)
    fresh = number = 0
    for batch in read_sources(sources, fetcher, known_entries=known_entries, known_links=known_links):
        now = clock()
        with transaction.atomic():
            readings = keep_answers(batch, now=now)
            run.readings.add(*readings)
            number, fresh = number + len(batch), fresh + sum(reading.fresh for reading in readings)
            Run.objects.filter(pk=run.pk).update(sources_read=number, fresh=fresh)
        for source, _ in batch:
            look_up_pages(source, fetcher=fetcher, now=now)
        if queries.should_stop(run) or _is_over_time(run, now):
            return


def _is_over_time(run: Run, now: datetime) -> bool:
    """Whether a run has exceeded the configured time."""
    limit = timedelta(minutes=settings.GLYPTARCH_RUN_MINUTES)
    return run.begun_at is not None and now - run.begun_at > limit


def _gather_and_decide(run: Run, *, fetcher: FetchPortal, clock: Clock, batch: int) -> None:
    document = document_of(run.revision)
    sources = sources_for(run.campaign.blog, document)
    if run.state != RunState.DECIDING.value:
        if not move(run, RunState.GATHERING, clock()):
            return
        # “Run now” reads every source; a schedule respects their intervals.
        due = claim_due(sources, now=clock()) if run.scheduled else readable_by_hand(sources)
        Run.objects.filter(pk=run.pk).update(sources_left=len(sources) - len(due))
        gather(run, due, fetcher=fetcher, clock=clock)
        waiting = queries.undecided(run.campaign, sources).count()
        run.to_decide = min(waiting, document.gather.at_most or waiting)
        Run.objects.filter(pk=run.pk).update(to_decide=run.to_decide)
        move(run, RunState.DECIDING, clock())
    while not queries.should_stop(run):
        sources = sources_for(run.campaign.blog, document)
        left = run.to_decide - run.decisions.count()
        undecided = queries.undecided(run.campaign, sources, document.release.order)
        rows = list(undecided[: min(batch, left)]) if left > 0 else []
        now = clock()
        if rows and _is_over_time(run, now):
            minutes = settings.GLYPTARCH_RUN_MINUTES
            fail(
                run, f"It took longer than {minutes} minutes. The next run decides the {left} items that are left.", now
            )
            return
        try:
            room = bool(rows) and decide_batch(run, rows, now=now)
        except (OperationalError, InterfaceError, DocumentError):
            raise
        except Exception:  # noqa: BLE001 - whatever is wrong with the batch
            _log.exception("run %s: a batch of %s failed; its items are decided one by one", run.pk, len(rows))
            room = decide_one_by_one(run, rows, now=now)
        if not room:
            move(run, RunState.DONE, clock())
            return
        # A run with progress gets all its attempts back.
        Run.objects.filter(pk=run.pk, tries__gt=1).update(tries=1)
    move(run, RunState.STOPPED, clock())
