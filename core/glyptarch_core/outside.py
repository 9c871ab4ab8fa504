"""The caller's memory, wrapped so that its errors are not taken for those of an item.

A pass turns whatever goes wrong with one item into that item's decision. An error of the memory
(a database that is down) concerns every item, so it must pass all those handlers.
"""

from collections.abc import Callable, Collection, Hashable, Mapping, Sequence
from datetime import datetime
from typing import TypeVar

from glyptarch_core.ports import Candidate, Key, Memory, Near, Reach, Seen

__all__ = ["OutsideError", "OutsideMemory"]

_Answer = TypeVar("_Answer")


class OutsideError(BaseException):
    """What comes from the caller: an error of its memory, or that it wants no more.

    It is no ``Exception``, so that no handler of an item's faults catches it.
    """

    def __init__(self, error: Exception) -> None:
        self.error = error
        super().__init__(error)


class OutsideMemory(Memory):
    """Asks the caller's memory; whatever that raises comes out as :class:`OutsideError`."""

    def __init__(self, memory: Memory) -> None:
        self._memory = memory

    @property
    def stamp(self) -> Hashable | None:
        """The stamp of the caller's memory."""
        return self._ask(lambda: self._memory.stamp)

    def recall(self, keys: Collection[Key], reach: Reach) -> Mapping[Key, Seen]:
        """Ask the caller's memory. Raises OutsideError."""
        return self._ask(lambda: self._memory.recall(keys, reach))

    def resembling(self, near: Near, keys: Sequence[Sequence[int]], reach: Reach) -> Sequence[Sequence[Candidate]]:
        """Ask the caller's memory. Raises OutsideError."""
        return self._ask(lambda: self._memory.resembling(near, keys, reach))

    def dates(self, first: datetime, last: datetime) -> Sequence[datetime]:
        """Ask the caller's memory. Raises OutsideError."""
        return self._ask(lambda: self._memory.dates(first, last))

    def put_out(self, since: datetime) -> Sequence[datetime]:
        """Ask the caller's memory. Raises OutsideError."""
        return self._ask(lambda: self._memory.put_out(since))

    def _ask(self, question: Callable[[], _Answer]) -> _Answer:
        try:
            return question()
        except Exception as error:
            raise OutsideError(error) from error
