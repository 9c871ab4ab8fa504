"""Reads about tasks."""

from collections.abc import Collection
from datetime import datetime, timedelta

from django.db.models import BigIntegerField, Exists, F, Max, Min, OuterRef, Q, QuerySet
from django.db.models.fields.json import KeyTextTransform
from django.db.models.functions import Cast, Now
from procrastinate.contrib.django.models import ProcrastinateJob

from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.problems import NotFound
from glyptarch_server.tasks.lifecycle import TaskState
from glyptarch_server.tasks.models import Task

__all__ = [
    "JOB",
    "WORKER_SILENT",
    "abandoned",
    "active_task",
    "has_failed_since",
    "has_job",
    "highest_turn",
    "is_carried_out",
    "listed_tasks",
    "lowest_turn",
    "next_with_lock",
    "others_wait",
    "task_of",
    "turn_ahead",
]

JOB = "carry_task"
"""The name of the job that carries out a task."""

WORKER_SILENT = 6.0
"""Seconds without a sign of life after which a worker counts as dead."""

_ABANDONED_AT_ONCE = 200
_LISTED = 50


def listed_tasks(blog: Blog, *, since: datetime) -> list[Task]:
    """Return the tasks of a blog under way, then those that ended after a moment, newest first.

    At most fifty.
    """
    rows = Task.objects.filter(Q(ended_at=None) | Q(ended_at__gt=since), blog=blog).select_related("by")
    return list(rows.order_by(F("ended_at").desc(nulls_first=True), "-pk")[:_LISTED])


def task_of(blog: Blog, number: int) -> Task:
    """Return one task. Raises NotFound."""
    task = Task.objects.filter(blog=blog, pk=number).select_related("by").first()
    if task is None:
        raise NotFound("This blog has no such task. It may have ended long ago.")
    return task


def has_failed_since(kind: str, blog_id: int, since: datetime) -> bool:
    """Whether the last task of a kind in a blog has failed, and did so after some moment."""
    last = Task.objects.filter(kind=kind, blog=blog_id).order_by("-pk").first()
    return last is not None and last.state == TaskState.FAILED.value and (last.ended_at or since) > since


def active_task(kind: str, ref: int) -> Task | None:
    """Return the task of a kind that works on a row.

    None for none.
    """
    return Task.objects.filter(kind=kind, ref=ref, ended_at=None).first()


def turn_ahead(task: Task) -> int | None:
    """Return the highest turn among the earlier tasks with the same lock under way.

    None where none is.
    """
    earlier = Task.objects.filter(lock=task.lock, ended_at=None, pk__lt=task.pk)
    turn: int | None = earlier.aggregate(turn=Max("turn"))["turn"]
    return turn


def next_with_lock(task: Task) -> Task | None:
    """Return the first task under way with the lock of a task that has ended.

    None for none.
    """
    return Task.objects.filter(lock=task.lock, ended_at=None).order_by("pk").first()


def lowest_turn(kinds: Collection[str]) -> int:
    """Return the lowest turn among the waiting tasks of some kinds, 0 for none."""
    rows = Task.objects.filter(kind__in=list(kinds), ended_at=None, state=TaskState.WAITING.value)
    return rows.aggregate(turn=Min("turn"))["turn"] or 0


def highest_turn(blog_id: int, kinds: Collection[str]) -> int | None:
    """Return the highest turn among the tasks of a blog under way.

    None where none is.
    """
    rows = Task.objects.filter(kind__in=list(kinds), ended_at=None, blog=blog_id)
    turn: int | None = rows.aggregate(turn=Max("turn"))["turn"]
    return turn


def others_wait(task: Task, queue: str) -> bool:
    """Whether another job of the queue could begin now and is not behind this task's lock."""
    rows = ProcrastinateJob.objects.filter(Q(scheduled_at=None) | Q(scheduled_at__lte=Now()))
    rows = rows.filter(queue_name=queue, status="todo").exclude(lock=task.lock)
    held = ProcrastinateJob.objects.filter(status="doing", lock=OuterRef("lock"))
    return bool(rows.filter(~Exists(held)).exists())


def _open_jobs() -> QuerySet[ProcrastinateJob]:
    jobs: QuerySet[ProcrastinateJob] = ProcrastinateJob.objects.filter(task_name=JOB, status__in=["todo", "doing"])
    return jobs


def has_job(task: Task) -> bool:
    """Whether a job of this task is queued or under way."""
    return bool(_open_jobs().filter(args__task_id=task.pk).exists())


def is_carried_out(task: Task) -> bool:
    """Whether a living worker carries out a task now."""
    alive = Now() - timedelta(seconds=WORKER_SILENT)
    jobs = _open_jobs().filter(args__task_id=task.pk, status="doing")
    return bool(jobs.filter(worker__last_heartbeat__gte=alive).exists())


def abandoned(*, before: datetime) -> list[Task]:
    """Return the tasks under way that were asked for before this moment and have no job."""
    jobs = _open_jobs().annotate(task=Cast(KeyTextTransform("task_id", "args"), BigIntegerField()))
    rows = Task.objects.filter(~Exists(jobs.filter(task=OuterRef("pk"))), ended_at=None, asked_at__lt=before)
    return list(rows.order_by("pk")[:_ABANDONED_AT_ONCE])
