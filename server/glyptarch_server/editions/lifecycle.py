"""The states of an edition."""

from enum import StrEnum

__all__ = ["EditionState"]


class EditionState(StrEnum):
    """How far an edition is. One that ``waits`` has asked for texts that are not answered yet."""

    WANTED = "wanted"
    WAITS = "waits"
    MADE = "made"
    FAILED = "failed"
