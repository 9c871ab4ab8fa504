"""Parallel steps run after their dependencies, and the first fault ends all."""

import threading
from itertools import count

from django.test import SimpleTestCase
from glyptarch_launcher import say as saying
from glyptarch_launcher.say import GiveUpError
from glyptarch_launcher.side_by_side import Step, side_by_side


class Steps(SimpleTestCase):
    def setUp(self) -> None:
        self.addCleanup(saying._ending.clear)

    def test_steps_that_need_nothing_run_at_once_and_others_after_what_they_need(self) -> None:
        meet, order, numbers = threading.Barrier(2, timeout=10), {}, count()

        def step(name: str, *, meets: bool = False) -> None:
            if meets:
                meet.wait()
            order[name] = next(numbers)

        first, second = Step(lambda: step("a", meets=True)), Step(lambda: step("b", meets=True))
        third = Step(lambda: step("c"), after=(first, second))
        side_by_side(first, second, third)
        self.assertEqual(order["c"], 2)

    def test_a_fault_is_raised_and_what_would_come_after_it_is_not_begun(self) -> None:
        begun: list[str] = []

        def fails() -> None:
            raise GiveUpError("apt-get failed")

        first = Step(fails)
        with self.assertRaisesRegex(GiveUpError, "apt-get failed"):
            side_by_side(first, Step(lambda: begun.append("after"), after=(first,)))
        self.assertEqual(begun, [])
