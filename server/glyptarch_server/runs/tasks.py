"""The jobs of runs."""

import logging
import time

from django.conf import settings
from django.db import InterfaceError, OperationalError
from procrastinate import JobContext, RetryStrategy
from procrastinate.contrib.django import app

from glyptarch_server import wiring
from glyptarch_server.audit.actions import thin_entries
from glyptarch_server.runs import actions, deletion, thinning
from glyptarch_server.runs.carry_out import carry_out
from glyptarch_server.runs.queries import WORKER_SILENT

__all__ = [
    "begin_due_runs",
    "carry_out_run",
    "delete_campaign",
    "remove_old_blogs",
    "take_up_abandoned",
    "take_up_stalled",
    "thin_records",
]

_log = logging.getLogger("glyptarch.runs")

# The database may be away for longer than a restart; every run counts its own attempts as well.
_WHILE_AWAY = RetryStrategy(max_attempts=100, wait=2, retry_exceptions={OperationalError, InterfaceError})


@app.task(name="carry_out_run", queue="runs", retry=_WHILE_AWAY, pass_context=False)  # type: ignore[untyped-decorator]
def carry_out_run(run_id: int) -> None:
    """Carry out a run."""
    carry_out(run_id, fetcher=wiring.fetcher(), clock=wiring.clock(), batch=settings.GLYPTARCH_RUN_BATCH)


@app.task(name="delete_campaign", queue="care", retry=_WHILE_AWAY, pass_context=False)  # type: ignore[untyped-decorator]
def delete_campaign(campaign_id: int) -> None:
    """Delete a campaign with its runs, decisions and posts."""
    deletion.carry_out_deletion(campaign_id)


@app.periodic(cron="23 3 * * *")  # type: ignore[untyped-decorator]
@app.task(name="remove_old_blogs", queue="care", queueing_lock="remove_old_blogs", pass_context=False)  # type: ignore[untyped-decorator]
def remove_old_blogs(timestamp: int) -> None:
    """Delete blogs that were removed a month ago."""
    del timestamp
    deletion.remove_old_blogs(now=wiring.clock()())


_SECONDS_OF_THINNING = 600.0
_THINNING = (
    thinning.thin_sessions,
    thinning.thin_jobs,
    thinning.thin_traces,
    thinning.thin_readings,
    thinning.thin_payloads,
    thinning.thin_changes,
    thin_entries,
)


@app.periodic(cron="41 2 * * *")  # type: ignore[untyped-decorator]
@app.task(name="thin_records", queue="care", queueing_lock="thin_records", pass_context=False)  # type: ignore[untyped-decorator]
def thin_records(timestamp: int) -> None:
    """Thin old records, a few hundred rows at a time.

    After ten minutes the rest waits for the next night.
    """
    del timestamp
    now, end = wiring.clock()(), time.monotonic() + _SECONDS_OF_THINNING
    for thin in _THINNING:
        while time.monotonic() < end and thin(now=now):
            pass


@app.periodic(cron="* * * * * */10")  # type: ignore[untyped-decorator]
@app.task(name="begin_due_runs", queue="care", queueing_lock="begin_due_runs", pass_context=False)  # type: ignore[untyped-decorator]
def begin_due_runs(timestamp: int) -> None:
    """Start the runs that are due."""
    del timestamp
    actions.begin_due(now=wiring.clock()())


@app.periodic(cron="* * * * * */3")  # type: ignore[untyped-decorator]
@app.task(name="take_up_stalled", queue="care", queueing_lock="take_up_stalled", pass_context=True)  # type: ignore[untyped-decorator]
async def take_up_stalled(context: JobContext, timestamp: int) -> None:
    """Requeue jobs whose worker has died."""
    del timestamp
    manager = context.app.job_manager
    for job in await manager.get_stalled_jobs(seconds_since_heartbeat=WORKER_SILENT):
        _log.warning("job %s was left by a dead worker and is taken up again", job.id)
        await manager.retry_job(job)


@app.periodic(cron="* * * * * */10")  # type: ignore[untyped-decorator]
@app.task(name="take_up_abandoned", queue="care", queueing_lock="take_up_abandoned", pass_context=False)  # type: ignore[untyped-decorator]
def take_up_abandoned(timestamp: int) -> None:
    """Resume runs under way that have no job."""
    del timestamp
    actions.take_up_abandoned(now=wiring.clock()())
