"""API schemas of tasks."""

from datetime import datetime

from glyptarch_server.common.out import Out
from glyptarch_server.tasks.lifecycle import TaskState

__all__ = ["TaskOut"]


class TaskOut(Out):
    """Long work under way or lately ended.

    ``can_stop`` says whether the person who asks may stop it now. ``path`` is the screen below that of the blog which
    shows it. ``total`` is 0 and ``seconds_left`` null where it is not known.
    """

    id: int
    kind: str
    subject: str
    path: str
    state: TaskState
    stop_asked: bool
    can_stop: bool
    phase: str
    done: int
    total: int
    seconds_left: int | None
    by: str
    asked_at: datetime
    begun_at: datetime | None
    ended_at: datetime | None
    failure: str
