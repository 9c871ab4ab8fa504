"""The lanes of a worker: kinds of work that never wait for each other."""

from collections.abc import Mapping, Sequence

__all__ = ["LANES"]

LANES: Mapping[str, tuple[Sequence[str], int]] = {
    "tasks": (("runs",), 3),
    "copies": (("media",), 2),
    "care": (("care", "mail"), 2),
}
"""The queues of each lane, and how many of its jobs a worker does at once."""
