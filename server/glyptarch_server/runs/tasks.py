"""The jobs of runs."""

import logging

from django.conf import settings
from procrastinate import JobContext
from procrastinate.contrib.django import app

from glyptarch_server import wiring
from glyptarch_server.runs import actions

__all__ = ["carry_out_run", "take_up_stalled"]

_log = logging.getLogger("glyptarch.runs")
_STALLED_SECONDS = 6.0


@app.task(name="carry_out_run", queue="runs", pass_context=False)  # type: ignore[untyped-decorator]
def carry_out_run(run_id: int) -> None:
    """Carry out a run."""
    actions.carry_out(run_id, fetcher=wiring.fetcher(), clock=wiring.clock(), batch=settings.GLYPTARCH_RUN_BATCH)


@app.periodic(cron="* * * * * */3")  # type: ignore[untyped-decorator]
@app.task(name="take_up_stalled", queue="care", queueing_lock="take_up_stalled", pass_context=True)  # type: ignore[untyped-decorator]
async def take_up_stalled(context: JobContext, timestamp: int) -> None:
    """Give jobs whose worker has died back to the queue."""
    del timestamp
    manager = context.app.job_manager
    for job in await manager.get_stalled_jobs(seconds_since_heartbeat=_STALLED_SECONDS):
        _log.warning("job %s was left by a dead worker and is taken up again", job.id)
        await manager.retry_job(job)
