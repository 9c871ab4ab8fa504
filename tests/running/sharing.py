"""Test suites shared out among worker processes, each with a database of its own.

Django has a parallel runner, but its workers may not start processes themselves, which the code under test does,
and it sends tests and tracebacks from one process to another, which not all can be.
"""

import atexit
import multiprocessing
import traceback
import unittest
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor, as_completed
from dataclasses import dataclass, field
from multiprocessing.util import Finalize
from types import TracebackType
from typing import Any

from django.db import connection
from django.test.utils import iter_test_cases

from tests.running.costs import Clock, CostedResult

__all__ = ["SharedSuite"]

_Fault = tuple[type[BaseException], BaseException, TracebackType | None]


class FailedElsewhereError(AssertionError):
    """A fault in a worker, with its traceback as text."""


@dataclass(slots=True)
class _Outcome:
    """The outcome of one test in a worker: its faults as texts, and its CPU seconds."""

    test: str
    failures: list[str] = field(default_factory=list)
    errors: list[str] = field(default_factory=list)
    skipped: str = ""
    cost: float = 0.0
    ran: bool = True


class _Recorder(unittest.TestResult):
    """Keeps outcomes as values that can be sent to another process."""

    def __init__(self) -> None:
        super().__init__()
        self.outcomes: list[_Outcome] = []
        self._clock = Clock()

    def startTest(self, test: unittest.TestCase) -> None:  # noqa: N802 - unittest's name
        super().startTest(test)
        self.outcomes.append(_Outcome(test.id()))

    def stopTest(self, test: unittest.TestCase) -> None:  # noqa: N802 - unittest's name
        super().stopTest(test)
        self.outcomes[-1].cost = self._clock.charge()

    def addError(self, test: Any, err: Any) -> None:  # noqa: N802, ANN401 - unittest's name and types
        self._of(test).errors.append(_text_of(err))

    def addFailure(self, test: Any, err: Any) -> None:  # noqa: N802, ANN401 - unittest's name and types
        self._of(test).failures.append(_text_of(err))

    def addSubTest(self, test: Any, subtest: Any, err: Any) -> None:  # noqa: N802, ANN401 - unittest's name and types
        if err is not None:
            faults = self._of(test).failures if issubclass(err[0], test.failureException) else self._of(test).errors
            faults.append(f"{subtest}\n{_text_of(err)}")

    def addSkip(self, test: Any, reason: str) -> None:  # noqa: N802, ANN401 - unittest's name and types
        self._of(test).skipped = reason or "skipped"

    def _of(self, test: Any) -> _Outcome:  # noqa: ANN401
        """Return the outcome of a test.

        A failing set-up of a class or module gets an outcome of its own.
        """
        if not self.outcomes or self.outcomes[-1].test != test.id():
            self.outcomes.append(_Outcome(test.id(), ran=False))
        return self.outcomes[-1]


def _text_of(fault: _Fault) -> str:
    return "".join(traceback.format_exception(*fault))


class SharedSuite(unittest.TestSuite):
    """Suites for worker processes."""

    def __init__(self, suites: Sequence[unittest.TestSuite], processes: int) -> None:
        super().__init__(suites)
        self._suites, self._processes = suites, processes

    def run(self, result: CostedResult, debug: bool = False) -> CostedResult:  # type: ignore[override]  # noqa: ARG002, FBT001
        """Run everything, showing outcomes as they arrive."""
        # Threads of a connection pool do not survive a fork.
        connection.close()
        connection.close_pool()
        context = multiprocessing.get_context("fork")
        number = context.Value("i", 0)
        with ProcessPoolExecutor(self._processes, context, _begin, (number, self._suites)) as pool:
            for future in as_completed([pool.submit(_run, place) for place in range(len(self._suites))]):
                place, outcomes = future.result()
                tests = {test.id(): test for test in iter_test_cases(self._suites[place])}
                for outcome in outcomes:
                    _replay(outcome, tests.get(outcome.test), result)
                if result.shouldStop or (result.failfast and not result.wasSuccessful()):
                    pool.shutdown(cancel_futures=True)
                    return result
        return result


_shared: Sequence[unittest.TestSuite] = ()


def _begin(number: Any, suites: Sequence[unittest.TestSuite]) -> None:  # noqa: ANN401 - a shared integer
    global _shared  # noqa: PLW0603 - once in each worker, which has the suites by being forked
    _shared = suites
    with number.get_lock():
        number.value += 1
        connection.creation.setup_worker_connection(number.value)
    # A forked worker leaves without its exit handlers, and then waits for processes that only those would end.
    atexit._clear()
    Finalize(None, atexit._run_exitfuncs, exitpriority=100)


def _run(place: int) -> tuple[int, list[_Outcome]]:
    recorder = _Recorder()
    _shared[place].run(recorder)
    return place, recorder.outcomes


def _replay(outcome: _Outcome, test: unittest.TestCase | None, result: CostedResult) -> None:
    """Report an outcome from a worker as if it had happened here."""
    subject: Any = test or unittest.suite._ErrorHolder(outcome.test)  # type: ignore[attr-defined]
    if outcome.ran:
        result.costs[outcome.test] = outcome.cost
        result.startTest(subject)
    for texts, add in ((outcome.failures, result.addFailure), (outcome.errors, result.addError)):
        for text in texts:
            add(subject, (FailedElsewhereError, FailedElsewhereError(f"\n{text}"), None))
    if outcome.skipped:
        result.addSkip(subject, outcome.skipped)
    elif outcome.ran and not outcome.failures and not outcome.errors:
        result.addSuccess(subject)
    if outcome.ran:
        result.stopTest(subject)
