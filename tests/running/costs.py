"""The CPU time of each test, its child processes included."""

import resource
import unittest
from typing import Any

__all__ = ["Clock", "CostedResult"]


def _cpu_seconds() -> float:
    """Return the CPU seconds of this process and its ended children."""
    used = (resource.getrusage(who) for who in (resource.RUSAGE_SELF, resource.RUSAGE_CHILDREN))
    return sum(usage.ru_utime + usage.ru_stime for usage in used)


class Clock:
    """Charges each test with the CPU time since the previous one.

    The set-up of a class counts for its first test.
    """

    def __init__(self) -> None:
        self._last = _cpu_seconds()

    def charge(self) -> float:
        now = _cpu_seconds()
        spent, self._last = now - self._last, now
        return spent


class CostedResult(unittest.TextTestResult):
    """A result that knows what each test cost, whether it ran in this process or in a worker."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:  # noqa: ANN401
        super().__init__(*args, **kwargs)
        self.costs: dict[str, float] = {}
        self._clock = Clock()

    def stopTest(self, test: unittest.TestCase) -> None:  # noqa: N802 - unittest's name
        """Note the cost of a test that ran here."""
        super().stopTest(test)
        self.costs.setdefault(test.id(), self._clock.charge())
