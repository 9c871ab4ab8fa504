"""Beginning, stopping and ending tasks, and resuming abandoned ones."""

import logging
from collections.abc import Iterable
from datetime import datetime, timedelta

from django.db import connection, transaction

from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.roles import Role
from glyptarch_server.common.problems import Conflict
from glyptarch_server.common.queue import defer
from glyptarch_server.tasks import queries
from glyptarch_server.tasks.kinds import kind_named, kinds_in
from glyptarch_server.tasks.lifecycle import TaskState
from glyptarch_server.tasks.models import Task

__all__ = [
    "ask_to_stop",
    "begin_task",
    "end_task",
    "give_up",
    "hold",
    "note_progress",
    "take_up_abandoned",
    "thin_tasks",
    "turn_of",
    "wake",
]

_log = logging.getLogger("glyptarch.tasks")
_MOST_TRIES = 12
"""How often a task is begun again without getting any further."""
_BEFORE_ALL_TURNS = 1
_LEFT_ALONE = timedelta(seconds=15)
_KEPT = timedelta(days=7)
_THINNED_AT_ONCE = 500


def begin_task(
    kind: str,
    ref: int,
    *,
    blog_id: int,
    subject: str,
    now: datetime,
    path: str = "",
    lock: str = "",
    total: int = 0,
    by_id: int | None = None,
    role: Role = Role.EDITOR,
    queue: bool = True,
) -> Task:
    """Put a task on record, together with its job, in the present transaction.

    ``lock`` defaults to kind and row. ``by_id`` is the number of the person who must still have this ``role`` while it
    goes on. Without ``queue`` the caller carries it out itself. The database refuses a second task of the kind for the
    row.
    """
    with transaction.atomic():
        task = Task.objects.create(
            kind=kind,
            ref=ref,
            blog_id=blog_id,
            subject=subject[:300],
            path=path,
            lock=lock or f"{kind}:{ref}",
            state=TaskState.WAITING.value,
            total=total,
            by_id=by_id,
            role=role,
            turn=turn_of(blog_id, kind),
            asked_at=now,
        )
        if queue:
            _queue(task, priority=_BEFORE_ALL_TURNS if kind_named(kind).begins_quickly else -task.turn)
    return task


def _queue(task: Task, *, priority: int) -> None:
    queue = kind_named(task.kind).queue
    defer(queries.JOB, queue=queue, lock=task.lock, priority=priority, task_id=task.pk)


def turn_of(blog_id: int, kind: str) -> int:
    """Return the turn of a blog's next batch, by start-time fair queuing.

    Source: Goyal, Vin, Cheng, “Start-time fair queuing”, SIGCOMM 1996. Each batch has the length 1. A blog that had no
    task begins at the turn that is served now; the tasks of one blog follow each other.
    """
    kinds = kinds_in(kind_named(kind).queue)
    own = queries.highest_turn(blog_id, kinds)
    return max(queries.lowest_turn(kinds), 0 if own is None else own + 1)


def hold(task_ids: Iterable[int]) -> list[Task]:
    """Lock tasks until the transaction ends, in the order of their numbers."""
    rows = Task.objects.filter(pk__in=set(task_ids)).order_by("pk")
    return list(rows.select_for_update(of=("self",), no_key=True))


def note_progress(task: Task, done: int, total: int, *, phase: str, now: datetime) -> None:
    """Note how far others are with what a task waits for."""
    rows = Task.objects.filter(pk=task.pk, ended_at=None)
    rows.update(done=done, total=total, phase=phase, beat_at=now)


def wake(task: Task, *, priority: int) -> None:
    """Let a task go on at once that waits for a time."""
    with connection.cursor() as cursor:
        # procrastinate's models are read-only, so its table is changed by SQL.
        cursor.execute(
            "UPDATE procrastinate_jobs SET scheduled_at = NULL, priority = %s"
            " WHERE status = 'todo' AND task_name = %s AND args @> jsonb_build_object('task_id', %s::bigint)",
            [priority, queries.JOB, task.pk],
        )


def ask_to_stop(task: Task, *, now: datetime) -> None:
    """Ask a task to end after its present batch.

    A task without a living worker ends at once. Raises Conflict where its kind cannot be stopped.
    """
    if not kind_named(task.kind).can_stop:
        raise Conflict("This cannot be stopped.")
    with transaction.atomic():
        row = Task.objects.select_for_update(of=("self",)).get(pk=task.pk)
        if row.ended_at is not None:
            return
        row.stop_asked = True
        row.save(update_fields=["stop_asked"])
        record(f"{row.kind}.stopped", row.subject, blog=row.blog_id, after=row.ref)
        if not queries.is_carried_out(row):
            end_task(row, TaskState.STOPPED, now=now)


def end_task(task: Task, state: TaskState, *, now: datetime, why: str = "") -> bool:
    """End a task, and let its kind write the end into its rows.

    ``why`` is shown to people. Return False where the task has ended meanwhile.
    """
    with transaction.atomic():
        row = Task.objects.select_for_update(of=("self",)).filter(pk=task.pk, ended_at=None).first()
        if row is None:
            return False
        row.state, row.ended_at, row.failure = state.value, now, why[:500]
        row.save(update_fields=["state", "ended_at", "failure"])
        kind_named(row.kind).end(row, state, now)
        behind = queries.next_with_lock(row)
        if behind is not None:
            wake(behind, priority=-behind.turn)
    return True


def give_up(task: Task, *, now: datetime) -> bool:
    """End a task that was started many times without progress.

    Return whether it did.
    """
    if task.tries < _MOST_TRIES:
        return False
    why = "It was begun again many times and got no further. The server's log says why."
    return end_task(task, TaskState.FAILED, now=now, why=why)


def take_up_abandoned(*, now: datetime) -> int:
    """Queue a job for every task under way that has none, and end those without progress.

    A job can be lost before its task ends, for example when the database fails while the worker records an error.
    Return how many tasks were resumed.
    """
    taken_up = 0
    for task in queries.abandoned(before=now - _LEFT_ALONE):
        with transaction.atomic():
            row = Task.objects.select_for_update(of=("self",), skip_locked=True).filter(pk=task.pk, ended_at=None)
            left = row.first()
            if left is None or queries.has_job(left) or give_up(left, now=now):
                continue
            _log.warning("task %s (%s) had no job and is taken up again", left.pk, left.kind)
            _queue(left, priority=-left.turn)
            taken_up += 1
    return taken_up


def thin_tasks(*, now: datetime) -> int:
    """Delete tasks that ended a week ago, at most five hundred.

    Return how many.
    """
    old = Task.objects.filter(ended_at__lt=now - _KEPT).values("pk")[:_THINNED_AT_ONCE]
    return Task.objects.filter(pk__in=old).delete()[0]
