"""Django's runner, closing with one line that says how many tests ran and how they ended."""

import json
import os
from pathlib import Path
from typing import Any
from unittest import TestResult

from django.conf import settings
from django.test.runner import DiscoverRunner

__all__ = ["CountingRunner"]


class CountingRunner(DiscoverRunner):
    """Counts the tests really run; a skipped one counts as neither passed nor failed."""

    def setup_test_environment(self, **kwargs: Any) -> None:  # noqa: ANN401
        """Hash passwords cheaply: every test that needs people makes some."""
        super().setup_test_environment(**kwargs)
        settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]

    def suite_result(self, suite: Any, result: TestResult, **kwargs: Any) -> int:  # noqa: ANN401
        """Print the closing line and give the number of failures to Django."""
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        passed = max(0, result.testsRun - failed - len(result.skipped))
        counts = os.environ.get("GLYPTARCH_TEST_COUNTS")
        if counts:
            Path(counts).write_text(json.dumps({"passed": passed, "failed": failed}))
        self.log(f"{passed} passed, {failed} failed")
        return int(super().suite_result(suite, result, **kwargs)) or (1 if result.testsRun == 0 else 0)
