"""The states of a task, and what can interrupt it.

A task *waits* for a worker, then *works*. It ends *done*, *stopped* by a person, or *failed* with a reason. Between two
batches it may go back to waiting: when its worker is told to end, and when others wait for a turn.
"""

from enum import StrEnum

__all__ = ["ENDED", "LaterError", "StopError", "TaskError", "TaskState"]


class TaskState(StrEnum):
    """The state of a task."""

    WAITING = "waiting"
    WORKING = "working"
    DONE = "done"
    STOPPED = "stopped"
    FAILED = "failed"


ENDED = frozenset({TaskState.DONE, TaskState.STOPPED, TaskState.FAILED})


class TaskError(Exception):
    """Raised where a task cannot go on. The text is shown to people."""


class StopError(Exception):
    """Raised between two batches where a person asked to stop."""


class LaterError(Exception):
    """Raised between two batches where the task goes on later.

    That is after at least so many ``seconds``, at its next ``turn``.
    """

    def __init__(self, why: str, *, seconds: float = 0.0) -> None:
        super().__init__(why)
        self.seconds = seconds
        self.turn = 0
