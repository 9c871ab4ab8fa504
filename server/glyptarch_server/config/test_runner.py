"""Django's runner, closing with one line that says how many tests ran and how they ended."""

import json
import os
from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import connection
from django.test.runner import DiscoverRunner

__all__ = ["CountingRunner"]


class CountingRunner(DiscoverRunner):
    """Counts the tests really run; a skipped one counts as neither passed nor failed."""

    def setup_test_environment(self, **kwargs: Any) -> None:  # noqa: ANN401
        """Hash passwords cheaply: every test that needs people makes some."""
        super().setup_test_environment(**kwargs)
        settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]

    def teardown_databases(self, old_config: Any, **kwargs: Any) -> None:  # noqa: ANN401
        """Part with the database, after ending what processes of the tests still hold on it."""
        with connection.cursor() as cursor:
            cursor.execute(
                "SELECT pg_terminate_backend(pid) FROM pg_stat_activity "
                "WHERE datname = current_database() AND pid <> pg_backend_pid()"
            )
        super().teardown_databases(old_config, **kwargs)

    def suite_result(self, suite: Any, result: Any, **kwargs: Any) -> int:  # noqa: ANN401
        """Print the closing line and give the number of failures to Django."""
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        passed = max(0, result.testsRun - failed - len(result.skipped))
        counts = os.environ.get("GLYPTARCH_TEST_COUNTS")
        if counts:
            Path(counts).write_text(json.dumps({"passed": passed, "failed": failed}))
        self.log(f"{passed} passed, {failed} failed")
        return int(super().suite_result(suite, result, **kwargs)) or (1 if result.testsRun == 0 else 0)
