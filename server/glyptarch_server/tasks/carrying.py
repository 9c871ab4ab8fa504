"""Carrying out a task: the same for all kinds."""

import logging
import time
from datetime import datetime

from django.db import InterfaceError, OperationalError
from django.db.models import F
from structlog.contextvars import bound_contextvars

from glyptarch_server.blogs.queries import role_of
from glyptarch_server.blogs.roles import Role
from glyptarch_server.common.ending import is_ending
from glyptarch_server.tasks import queries
from glyptarch_server.tasks.actions import end_task, give_up, turn_of
from glyptarch_server.tasks.kinds import kind_named
from glyptarch_server.tasks.lifecycle import LaterError, StopError, TaskError, TaskState
from glyptarch_server.tasks.models import Task
from glyptarch_server.wiring import Clock, FetcherEndedError, FetchPortal

__all__ = ["Carrier", "carry"]

_log = logging.getLogger("glyptarch.tasks")
_SECONDS_OF_A_TURN = 1.0
"""How long a task works while others wait: some batches, so that beginning again costs little beside them."""
_SECONDS_BEHIND_ANOTHER = 5.0
"""The end of the earlier task wakes the later one; this is for when it ends in this very moment."""
_BEHIND_ANOTHER = 100


class Carrier:
    """The time, the fetcher, and the two questions between batches, for a kind while it works."""

    def __init__(self, task: Task, *, fetcher: FetchPortal, clock: Clock, gives_way: bool) -> None:
        self.fetcher = fetcher
        self._task = task
        self._clock = clock
        self._gives_way = gives_way
        self._began = time.monotonic()

    def now(self) -> datetime:
        """Return the present moment."""
        return self._clock()

    def report(self, done: int, total: int, *, phase: str = "") -> None:
        """Note how far the task is, between two batches.

        Raises StopError where a person asked to stop, LaterError where the worker ends or others wait for their turn.
        """
        now, row = self._clock(), self._task
        values = {"done": done, "total": total, "phase": phase, "beat_at": now}
        if phase != row.phase or row.phase_at is None:
            values["phase_at"] = now
        if (done, phase) != (row.done, row.phase):
            # A task with progress gets all its attempts back.
            values["tries"] = 1
        rows = Task.objects.filter(pk=row.pk, ended_at=None)
        rows.update(**values)
        for name, value in values.items():
            setattr(row, name, value)
        # Where somebody has ended it meanwhile, there is nothing to go on with either.
        if not rows.filter(stop_asked=False).exists():
            raise StopError
        if is_ending():
            raise LaterError("the worker ends")
        over = self._gives_way and time.monotonic() - self._began > _SECONDS_OF_A_TURN
        if over and queries.others_wait(row, kind_named(row.kind).queue):
            raise LaterError("others wait for their turn")

    def check(self) -> None:
        """Ask again, under the blog's turn, what may have changed since the task was asked for.

        Raises StopError where it was stopped, TaskError where the blog was removed, or where the person who asked for
        it may no longer do so.
        """
        row = Task.objects.select_related("blog", "by").get(pk=self._task.pk)
        if row.stop_asked or row.ended_at is not None:
            raise StopError
        if row.blog.removed_at is not None:
            raise TaskError("The blog was removed meanwhile.")
        if row.by is not None:
            role = role_of(row.by, row.blog) if row.by.is_active else None
            if role is None or role.rank < Role(row.role).rank:
                name = row.by.first_name or row.by.username
                raise TaskError(f"{name}, who asked for it, may no longer do this on the blog.")


def carry(task_id: int, *, fetcher: FetchPortal, clock: Clock, gives_way: bool = True) -> None:
    """Continue a task to its end. Safe to repeat after a crash.

    A command that works alone does not give way to others.

    Raises OperationalError or InterfaceError where the database is absent, LaterError where the task goes on later: it
    then stays as it is and its job is begun again.
    """
    task = Task.objects.filter(pk=task_id, ended_at=None).first()
    if task is None or give_up(task, now=clock()):
        return
    ahead = queries.turn_ahead(task)
    if ahead is not None:
        later = LaterError("an earlier task has the same lock", seconds=_SECONDS_BEHIND_ANOTHER)
        # Of two jobs with one lock the higher priority comes first, and holds up the other even while it is not due.
        later.turn = ahead + _BEHIND_ANOTHER
        raise later
    Task.objects.filter(pk=task.pk, begun_at=None).update(begun_at=clock())
    Task.objects.filter(pk=task.pk).update(tries=F("tries") + 1, state=TaskState.WORKING.value, beat_at=clock())
    kind = kind_named(task.kind)
    with bound_contextvars(task=task.pk, **{task.kind: task.ref}):
        try:
            kind.carry(task, Carrier(task, fetcher=fetcher, clock=clock, gives_way=gives_way))
        except (OperationalError, InterfaceError):
            raise
        except FetcherEndedError as error:
            raise _later(task, LaterError("the worker ends")) from error
        except LaterError as later:
            raise _later(task, later) from None
        except StopError:
            end_task(task, TaskState.STOPPED, now=clock())
        except TaskError as error:
            end_task(task, TaskState.FAILED, now=clock(), why=str(error))
        except Exception:  # noqa: BLE001 - whatever went wrong, the task ends
            _log.exception("task %s (%s) failed", task.pk, task.kind)
            why = f"Something went wrong on our side. The server's log says what, under “task {task.pk}”."
            end_task(task, TaskState.FAILED, now=clock(), why=why)
        else:
            end_task(task, TaskState.DONE, now=clock())


def _later(task: Task, later: LaterError) -> LaterError:
    """Put a task back among those that wait, behind the other tasks of its blog."""
    later.turn = task.turn if is_ending() else turn_of(task.blog_id, task.kind)
    rows = Task.objects.filter(pk=task.pk, ended_at=None)
    rows.update(state=TaskState.WAITING.value, turn=later.turn, tries=0)
    return later
