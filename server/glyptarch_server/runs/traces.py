"""Decisions as plain data for rows and answers."""

from typing import Any

from glyptarch_core.trace import Decision, Note

__all__ = ["note_data", "reason_data", "trace_data"]


def note_data(note: Note) -> dict[str, Any]:
    """Give one line of a trace as plain data."""
    return {
        "stage": note.stage.value,
        "code": note.code,
        "rule": note.rule,
        "against": note.against,
        "data": dict(note.data),
    }


def trace_data(decision: Decision) -> list[dict[str, Any]]:
    """Give a whole trace as plain data."""
    return [note_data(note) for note in decision.trace]


def reason_data(decision: Decision) -> dict[str, Any] | None:
    """Give what spoke against an item first, or None."""
    return note_data(decision.reason) if decision.reason else None
