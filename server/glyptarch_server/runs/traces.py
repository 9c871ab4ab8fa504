"""Decisions as plain data for rows and answers."""

from typing import Any

from glyptarch_core.trace import Decision, Note

__all__ = ["brief_reason", "note_data", "reason_data", "trace_data"]


# Whole passages, which lists do not show.
_ONLY_IN_TRACES = frozenset({"passages", "replaced"})


def note_data(note: Note) -> dict[str, Any]:
    """Return one line of a trace as plain data."""
    return {
        "stage": note.stage.value,
        "code": note.code,
        "rule": note.rule,
        "rule_title": note.rule_title,
        "against": note.against,
        "data": dict(note.data),
    }


def trace_data(decision: Decision) -> list[dict[str, Any]]:
    """Return a whole trace as plain data."""
    return [note_data(note) for note in decision.trace]


def brief_reason(decision: Decision) -> dict[str, Any] | None:
    """Return the first note against an item, reduced to what lists show.

    None for none.
    """
    note = decision.reason
    if note is None:
        return None
    data: dict[str, Any] = {name: value for name, value in note.data.items() if name not in _ONLY_IN_TRACES}
    hits = data.get("hits")
    if hits:
        data["hits"] = [{"term": hit["term"]} for hit in hits]
        data.pop("missing", None)
    return {**note_data(note), "data": data}


def reason_data(decision: Decision) -> dict[str, Any] | None:
    """Return the first note against an item.

    None for none.
    """
    return note_data(decision.reason) if decision.reason else None
