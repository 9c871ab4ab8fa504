"""What time it is. Handed on as an argument, so that history can be made and tests stand still."""

from collections.abc import Callable
from datetime import UTC, datetime
from typing import TypeAlias

__all__ = ["Clock", "system_clock"]

Clock: TypeAlias = Callable[[], datetime]


def system_clock() -> datetime:
    """Give the present time in UTC."""
    return datetime.now(UTC)
