"""An empty database for measurements, dropped afterwards."""

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime

import django
from django.apps import apps
from django.db import connection
from django.test.runner import DiscoverRunner
from psycopg import sql as sql_of

__all__ = ["NOW", "empty_database", "give_defaults", "sql"]

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


def give_defaults(*labels: str) -> None:
    """Set column defaults as in the models, so that statements need not name every column."""
    for label in labels:
        model = apps.get_model(label)
        meta = model._meta  # noqa: SLF001 - Django's documented way to a model's fields
        table = connection.ops.quote_name(meta.db_table)
        for field in meta.concrete_fields:
            if (
                field.generated
                or field.null
                or field.primary_key
                or not (field.has_default() or field.empty_strings_allowed)
            ):
                continue
            column = connection.ops.quote_name(field.column)
            value = field.get_db_prep_save(field.get_default(), connection)
            if value is None:
                continue
            with connection.cursor() as cursor:
                # DDL takes no parameters, so the value is written as a literal by the driver.
                literal = sql_of.Literal(value).as_string(connection.connection)
                cursor.execute(f"ALTER TABLE {table} ALTER COLUMN {column} SET DEFAULT {literal}")
