"""Suites in worker processes: every outcome comes back, with its text and its cost."""

import io
import unittest

from django.test import SimpleTestCase

from tests.running.costs import CostedResult
from tests.running.sharing import SharedSuite


class _Outcomes(unittest.TestCase):
    def passes(self) -> None:
        sum(range(1_000_000))

    def fails(self) -> None:
        self.assertEqual("moon", "sun")

    def breaks(self) -> None:
        raise ZeroDivisionError("no error of a test")

    def fails_in_part(self) -> None:
        for number in range(3):
            with self.subTest(number=number):
                self.assertNotEqual(number, 1, object())

    def is_skipped(self) -> None:
        self.skipTest("not today")


class _NeverBegins(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        raise OSError("no such world")

    def passes(self) -> None:
        pass


class Shared(SimpleTestCase):
    databases = {"default"}

    def run_shared(self, *suites: unittest.TestSuite) -> CostedResult:
        result = CostedResult(unittest.runner._WritelnDecorator(io.StringIO()), descriptions=False, verbosity=0)
        SharedSuite(suites, 1).run(result)
        return result

    def test_each_outcome_of_a_worker_is_counted_here_with_its_text(self) -> None:
        names = ("passes", "fails", "breaks", "fails_in_part", "is_skipped")
        result = self.run_shared(
            unittest.TestSuite(map(_Outcomes, names)), unittest.TestSuite([_NeverBegins("passes")])
        )
        self.assertEqual((result.testsRun, len(result.failures), len(result.errors)), (5, 2, 2))
        self.assertEqual([reason for _, reason in result.skipped], ["not today"])
        texts = "\n".join(text for _, text in [*result.failures, *result.errors])
        for part in (
            "'moon' != 'sun'",
            "ZeroDivisionError: no error of a test",
            "(number=1)",
            "OSError: no such world",
        ):
            self.assertIn(part, texts)

    def test_what_a_test_cost_is_known(self) -> None:
        result = self.run_shared(unittest.TestSuite([_Outcomes("passes")]))
        self.assertGreater(result.costs[_Outcomes("passes").id()], 0.005)
