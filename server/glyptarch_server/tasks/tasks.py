"""The jobs that carry out tasks."""

from datetime import UTC, datetime, timedelta

from django.db import InterfaceError, OperationalError
from procrastinate import BaseRetryStrategy, RetryDecision
from procrastinate.contrib.django import app
from procrastinate.jobs import Job

from glyptarch_server import wiring
from glyptarch_server.tasks import actions, carrying
from glyptarch_server.tasks.lifecycle import LaterError

__all__ = ["carry_task", "take_up_abandoned"]

_SECONDS_WHILE_AWAY = 2.0


class _AgainStrategy(BaseRetryStrategy):
    """Begin a job again where its task goes on later, and as long as the database is away.

    The task counts its own attempts.
    """

    def get_retry_decision(self, *, exception: BaseException, job: Job) -> RetryDecision | None:
        """Return when the job is begun again.

        None for other errors, which are faults of this code.
        """
        del job
        if isinstance(exception, LaterError):
            at = datetime.now(UTC) + timedelta(seconds=exception.seconds) if exception.seconds else None
            return RetryDecision(retry_at=at, priority=-exception.turn)
        if isinstance(exception, OperationalError | InterfaceError):
            return RetryDecision(retry_at=datetime.now(UTC) + timedelta(seconds=_SECONDS_WHILE_AWAY))
        return None


@app.task(name="carry_task", queue="runs", retry=_AgainStrategy(), pass_context=False)  # type: ignore[untyped-decorator]
def carry_task(task_id: int) -> None:
    """Carry out a task."""
    carrying.carry(task_id, fetcher=wiring.fetcher(), clock=wiring.clock())


@app.periodic(cron="* * * * * */10")  # type: ignore[untyped-decorator]
@app.task(name="take_up_abandoned", queue="care", queueing_lock="take_up_abandoned", pass_context=False)  # type: ignore[untyped-decorator]
def take_up_abandoned(timestamp: int) -> None:
    """Resume tasks under way that have no job."""
    del timestamp
    actions.take_up_abandoned(now=wiring.clock()())
