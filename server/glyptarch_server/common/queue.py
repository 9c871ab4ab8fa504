"""Putting jobs on the queue, in the transaction of the change that they follow from."""

from functools import cache

from procrastinate import App
from procrastinate.contrib.django import app
from procrastinate.contrib.django.django_connector import DjangoConnector

__all__ = ["defer"]


@cache
def _queue() -> App:
    # A worker's app has its own connection pool, so a job queued there starts before the caller's transaction commits
    # and does not find its rows.
    return App(connector=DjangoConnector())


def defer(
    task: str, *, lock: str | None = None, queue: str | None = None, priority: int = 0, **arguments: int | str
) -> None:
    """Queue a job within the present transaction.

    Jobs with the same ``lock`` run one after another. ``queue`` defaults to that of the job's kind; in a queue the
    highest ``priority`` comes first.
    """
    wanted = queue or app.tasks[task].queue
    _queue().configure_task(task, queue=wanted, lock=lock, priority=priority).defer(**arguments)
