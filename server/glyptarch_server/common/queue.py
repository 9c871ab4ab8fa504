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


def defer(task: str, *, lock: str | None = None, **arguments: int | str) -> None:
    """Queue a job within the present transaction.

    Jobs with the same ``lock`` run one after another.
    """
    queue = app.tasks[task].queue
    _queue().configure_task(task, queue=queue, lock=lock).defer(**arguments)
