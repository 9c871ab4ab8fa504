"""A wrapper of the caller's memory that keeps its errors apart from those of an item.

A pass turns any error about one item into that item's decision. An error of the memory, such as a database that is
down, concerns every item and must pass those handlers.
"""

from collections.abc import Callable, Collection, Hashable, Mapping, Sequence
from datetime import datetime
from typing import TypeVar

from glyptarch_core.language_services import Answer, Ask, TextMemory
from glyptarch_core.ports import Candidate, Key, Memory, Near, Reach, Seen

__all__ = ["OutsideError", "OutsideMemory"]

_Answer = TypeVar("_Answer")


class OutsideError(BaseException):
    """An error of the caller: its memory failed, or it no longer wants the outcome.

    It is no ``Exception``, so that handlers of an item's errors do not catch it.
    """

    def __init__(self, error: Exception) -> None:
        self.error = error
        super().__init__(error)


class OutsideTexts(TextMemory):
    """Delegates to the caller's text memory.

    Its errors are raised as :class:`OutsideError`.
    """

    def __init__(self, memory: TextMemory) -> None:
        self._memory = memory

    @property
    def stamp(self) -> Hashable:
        """The stamp of the caller's memory."""
        return _asked(lambda: self._memory.stamp)

    def known(self, asks: Collection[Ask]) -> Mapping[str, Answer]:
        """Ask the caller's memory. Raises OutsideError."""
        return _asked(lambda: self._memory.known(asks))


def _asked(question: Callable[[], _Answer]) -> _Answer:
    try:
        return question()
    except Exception as error:
        raise OutsideError(error) from error


class OutsideMemory(Memory):
    """Delegates to the caller's memory.

    Its errors are raised as :class:`OutsideError`.
    """

    def __init__(self, memory: Memory) -> None:
        self._memory = memory

    @property
    def stamp(self) -> Hashable | None:
        """The stamp of the caller's memory."""
        return _asked(lambda: self._memory.stamp)

    def recall(self, keys: Collection[Key], reach: Reach) -> Mapping[Key, Seen]:
        """Ask the caller's memory. Raises OutsideError."""
        return _asked(lambda: self._memory.recall(keys, reach))

    def resembling(self, near: Near, keys: Sequence[Sequence[int]], reach: Reach) -> Sequence[Sequence[Candidate]]:
        """Ask the caller's memory. Raises OutsideError."""
        return _asked(lambda: self._memory.resembling(near, keys, reach))

    def dates(self, first: datetime, last: datetime) -> Sequence[datetime]:
        """Ask the caller's memory. Raises OutsideError."""
        return _asked(lambda: self._memory.dates(first, last))

    def put_out(self, since: datetime) -> Sequence[datetime]:
        """Ask the caller's memory. Raises OutsideError."""
        return _asked(lambda: self._memory.put_out(since))
