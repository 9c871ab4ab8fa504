"""An empty database of the product's own, for measurements that need one. It is dropped afterwards."""

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime

import django
from django.db import connection
from django.test.runner import DiscoverRunner

__all__ = ["NOW", "empty_database", "sql"]

NOW = datetime(2026, 11, 24, 12, tzinfo=UTC)


@contextmanager
def empty_database() -> Iterator[None]:
    """Make an empty database with all tables, and drop it at the end."""
    from glyptarch_server.common.process import tune_process  # noqa: PLC0415 - a server process is tuned so

    django.setup()
    runner = DiscoverRunner(verbosity=0, interactive=False)
    made = runner.setup_databases()
    tune_process()
    try:
        yield
    finally:
        runner.teardown_databases(made)


def sql(text: str, *values: int) -> None:
    """Run one statement."""
    with connection.cursor() as cursor:
        cursor.execute(text, values)
