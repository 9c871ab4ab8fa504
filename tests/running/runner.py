"""Django's test runner with a process per core, template databases, and a list of costs.

Test classes are distributed among the processes. Those with the same ``lane`` run in one process, because they share
something costly (``browser``) or would disturb each other (``processes``).
"""

import json
import logging
import os
import unittest
from collections.abc import Iterable
from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import connection
from django.test.runner import DiscoverRunner, partition_suite_by_case
from glyptarch_launcher import say as saying

from tests.running import databases
from tests.running.costs import CostedResult
from tests.running.sharing import SharedSuite

__all__ = ["Runner"]

_MAIN = "test_glyptarch"
_BUILT_FILES = "glyptarch_server.common.static_files.BuiltFiles"
_SHOWN = 20


class Runner(DiscoverRunner):
    """Counts the tests that ran.

    A skipped test neither passed nor failed.
    """

    def setup_test_environment(self, **kwargs: Any) -> None:  # noqa: ANN401
        """Hash passwords cheaply, since every test that needs people makes some, and print no log.

        Built files are left to the tests with real servers: each test client would list them anew.
        """
        super().setup_test_environment(**kwargs)
        settings.MIDDLEWARE = [name for name in settings.MIDDLEWARE if name != _BUILT_FILES]
        settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
        saying.quiet = True
        # Tests of what is logged bring handlers of their own.
        for handler in logging.getLogger().handlers:
            handler.setLevel(logging.CRITICAL)

    def build_suite(self, *args: Any, **kwargs: Any) -> unittest.TestSuite:  # noqa: ANN401
        """Distribute the tests over processes.

        With one process or one class they run here.
        """
        processes, self.parallel = self.parallel, 1
        suite = super().build_suite(*args, **kwargs)
        subsuites = _by_lane(partition_suite_by_case(suite))
        self.parallel = min(processes, len(subsuites))
        if self.parallel <= 1:
            return suite
        return SharedSuite(subsuites, self.parallel)

    def setup_databases(self, *, aliases: Any = None, **_kwargs: Any) -> str:  # noqa: ANN401
        """Create a copy of the migrated template for each process.

        Return the database name in the settings.
        """
        before = str(connection.settings_dict["NAME"])
        if not aliases:
            return before
        template = databases.ensure_template()
        for name in self._names():
            databases.create(name, template)
        connection.settings_dict["NAME"] = _MAIN
        return before

    def teardown_databases(self, old_config: str, **_kwargs: Any) -> None:  # noqa: ANN401
        """Remove the copies, ending what processes of the tests still hold on them."""
        connection.close()
        connection.close_pool()
        for name in self._names():
            databases.drop(name)
        connection.settings_dict["NAME"] = old_config

    def get_resultclass(self) -> type[CostedResult]:
        """Return the result that knows the costs."""
        return CostedResult

    def suite_result(self, suite: Any, result: Any, **kwargs: Any) -> int:  # noqa: ANN401
        """Print the costs and the closing line.

        Return the number of failures.
        """
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        passed = max(0, result.testsRun - failed - len(result.skipped))
        counts = os.environ.get("GLYPTARCH_TEST_COUNTS")
        self._print_costs(result.costs)
        if counts:
            # The launcher adds those of the front end and prints the closing line.
            Path(counts).write_text(json.dumps({"passed": passed, "failed": failed}))
        else:
            self.log(f"{passed} passed, {failed} failed")
        return int(super().suite_result(suite, result, **kwargs)) or (1 if result.testsRun == 0 else 0)

    def _print_costs(self, costs: dict[str, float]) -> None:
        if len(costs) <= 1:
            return
        file = os.environ.get("GLYPTARCH_TEST_COSTS")
        if file:
            Path(file).write_text(json.dumps(costs, indent=1))
        self.log(f"CPU {sum(costs.values()):.0f} s. The {min(_SHOWN, len(costs))} tests that took most of it:")
        for name, seconds in sorted(costs.items(), key=lambda cost: -cost[1])[:_SHOWN]:
            self.log(f"  {seconds:6.1f} s  {name}")

    def _names(self) -> list[str]:
        # Django names the database of a worker for its number.
        workers = range(1, self.parallel + 1) if self.parallel > 1 else ()
        return [_MAIN, *(f"{_MAIN}_{number}" for number in workers)]


def _by_lane(suites: Iterable[unittest.TestSuite]) -> list[unittest.TestSuite]:
    """Join the suites of one lane. Lanes come first, since they take longest."""
    lanes: dict[str, unittest.TestSuite] = {}
    others = []
    for suite in suites:
        lane = getattr(next(iter(suite)), "lane", "")
        if lane:
            lanes.setdefault(lane, unittest.TestSuite()).addTests(suite)
        else:
            others.append(suite)
    return [*lanes.values(), *others]
