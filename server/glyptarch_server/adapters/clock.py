"""The clock.

It is passed as an argument, so that tests and the demo's history can set the time.
"""

from collections.abc import Callable
from datetime import UTC, datetime
from typing import TypeAlias

__all__ = ["Clock", "system_clock"]

Clock: TypeAlias = Callable[[], datetime]


def system_clock() -> datetime:
    """Return the present time in UTC."""
    return datetime.now(UTC)
