"""The jobs of runs."""

import logging
import time

from procrastinate import JobContext
from procrastinate.contrib.django import app

from glyptarch_server import wiring
from glyptarch_server.posts.reads import thin_reads
from glyptarch_server.runs import actions, deletion, thinning
from glyptarch_server.runs.carry_out import carry_out
from glyptarch_server.services.actions import TASK
from glyptarch_server.services.asking import carry_texts
from glyptarch_server.tasks.actions import thin_tasks
from glyptarch_server.tasks.kinds import Kind, register
from glyptarch_server.tasks.queries import WORKER_SILENT

__all__ = [
    "begin_due_runs",
    "remove_old_blogs",
    "take_up_stalled",
    "thin_records",
]

_log = logging.getLogger("glyptarch.runs")

register(Kind(name="run", carry=carry_out, end=actions.end_with_task, begins_quickly=True))
register(Kind(name=TASK, carry=carry_texts, end=actions.go_on_with_texts))
register(Kind(name="deletion", carry=deletion.carry_out_deletion, queue="care", can_stop=False))


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
    thinning.thin_entries,
    thin_reads,
    thin_tasks,
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
