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
    from glyptarch_server.common.process import settle  # noqa: PLC0415 - a server process runs as settled

    django.setup()
    runner = DiscoverRunner(verbosity=0, interactive=False)
    made = runner.setup_databases()
    settle()
    try:
        yield
    finally:
        runner.teardown_databases(made)


def sql(text: str, *values: int) -> None:
    """Run one statement."""
    with connection.cursor() as cursor:
        cursor.execute(text, values)
