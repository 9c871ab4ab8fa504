"""The API of tasks."""

from datetime import datetime, timedelta
from typing import TYPE_CHECKING

from django.http import HttpRequest
from ninja import Router

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import Role, blog_for, role_of
from glyptarch_server.common.fields import RowNumber
from glyptarch_server.tasks import actions, queries
from glyptarch_server.tasks.kinds import kind_named
from glyptarch_server.tasks.lifecycle import TaskState
from glyptarch_server.tasks.schemas import TaskOut

if TYPE_CHECKING:
    from glyptarch_server.tasks.models import Task

__all__ = ["router"]

router = Router(tags=["tasks"])
_LATELY = timedelta(hours=1)


def _task(row: "Task", now: datetime, role: Role) -> TaskOut:
    return TaskOut(
        id=row.pk,
        kind=row.kind,
        subject=row.subject,
        path=row.path,
        state=TaskState(row.state),
        stop_asked=row.stop_asked,
        can_stop=kind_named(row.kind).can_stop and row.ended_at is None and role.rank >= Role(row.role).rank,
        phase=row.phase,
        done=row.done,
        total=row.total,
        seconds_left=_seconds_left(row, now),
        by=(row.by.first_name or row.by.username) if row.by else "",
        asked_at=row.asked_at,
        begun_at=row.begun_at,
        ended_at=row.ended_at,
        failure=row.failure,
    )


def _seconds_left(row: "Task", now: datetime) -> int | None:
    """Return the time that the rest of the phase takes at the pace so far.

    None where nothing tells it.
    """
    if row.ended_at is not None or row.phase_at is None or not 0 < row.done <= row.total:
        return None
    return round((now - row.phase_at).total_seconds() / row.done * (row.total - row.done))


@router.get("/blogs/{blog}/tasks", response=list[TaskOut], operation_id="listTasks")
def list_tasks(request: HttpRequest, blog: str) -> list[TaskOut]:
    """Return what goes on in a blog, and what ended in the last hour."""
    owned, now = blog_for(request.user, blog), wiring.clock()()
    role = role_of(request.user, owned) or Role.VIEWER
    return [_task(row, now, role) for row in queries.listed_tasks(owned, since=now - _LATELY)]


@router.post("/blogs/{blog}/tasks/{int:number}/stop", response=TaskOut, operation_id="stopTask")
def stop_task(request: HttpRequest, blog: str, number: RowNumber) -> TaskOut:
    """Ask a task to end after its present batch.

    A person who may begin such a task may stop it.
    """
    task, now = queries.task_of(blog_for(request.user, blog), number), wiring.clock()()
    owned = blog_for(request.user, blog, Role(task.role))
    actions.ask_to_stop(task, now=now)
    return _task(queries.task_of(owned, number), now, Role(task.role))
