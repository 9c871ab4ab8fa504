"""The kinds of tasks: each app says how its own are carried out."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import TYPE_CHECKING

from glyptarch_server.tasks.lifecycle import TaskState

if TYPE_CHECKING:
    from glyptarch_server.tasks.carrying import Carrier
    from glyptarch_server.tasks.models import Task

__all__ = ["Kind", "kind_named", "kinds_in", "register"]


def _no_rows(task: "Task", state: TaskState, at: datetime) -> None:
    del task, state, at


@dataclass(frozen=True, slots=True, kw_only=True)
class Kind:
    """How tasks of a kind are carried out.

    ``carry`` works through a task and returns when it is done. It calls ``report`` of the carrier between two batches,
    and ``check`` in each transaction that writes for the blog, once it holds the blog's turn. It must be safe to begin
    again after a crash. ``end`` writes the end into the rows of its app, in the transaction that ends the task.

    A kind that ``begins_quickly`` comes before all turns once, because its first pass takes a moment: it asks others
    for something, and waits.
    """

    name: str
    carry: "Callable[[Task, Carrier], None]"
    end: "Callable[[Task, TaskState, datetime], None]" = _no_rows
    queue: str = "runs"
    can_stop: bool = True
    begins_quickly: bool = False


_KINDS: dict[str, Kind] = {}


def register(kind: Kind) -> None:
    """Make a kind known.

    Each app does it in the module of its jobs, which every process imports at the start.
    """
    assert _KINDS.setdefault(kind.name, kind) is kind, f"two kinds of tasks are named “{kind.name}”"  # noqa: S101


def kind_named(name: str) -> Kind:
    """Return a kind. Raises KeyError for an unknown name."""
    return _KINDS[name]


def kinds_in(queue: str) -> Mapping[str, Kind]:
    """Return the kinds whose tasks wait in a queue, by name."""
    return {name: kind for name, kind in _KINDS.items() if kind.queue == queue}
