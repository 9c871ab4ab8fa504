"""Whether this process was told to end.

Long work then stops at the next batch and goes on in another process.
"""

import threading

__all__ = ["end_soon", "is_ending"]

_ending = threading.Event()


def end_soon() -> None:
    """Note that the process ends as soon as its work can be handed back."""
    _ending.set()


def is_ending() -> bool:
    """Whether the process was told to end."""
    return _ending.is_set()
