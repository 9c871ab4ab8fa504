"""Conditions with many values, handed over as one array, and counts that are asked together.

Django's ``in`` makes a parameter of each value, and its ``overlap`` an expression; with some
thousands of them building the query takes longer than answering it.
"""

from collections.abc import Collection, Iterator
from contextlib import contextmanager
from typing import Any

from django.db import connection, transaction
from django.db.backends.base.base import BaseDatabaseWrapper
from django.db.models import Count, F, Lookup, QuerySet, Value
from django.db.models.sql.compiler import SQLCompiler

__all__ = ["AnyOf", "Shares", "by_index", "counts_of"]


@contextmanager
def by_index(*, in_order: bool = False) -> Iterator[None]:
    """Make the enclosed queries use indexes, without parallel workers.

    Sequential scans are switched off. ``in_order`` makes them follow an index in its order, where a few rows of very
    many are wanted.
    """
    off = ("enable_seqscan", "enable_bitmapscan") if in_order else ("enable_seqscan",)
    with transaction.atomic(savepoint=False), connection.cursor() as cursor:
        cursor.execute(
            "".join(f"SET LOCAL {way} = off; " for way in off) + "SET LOCAL max_parallel_workers_per_gather = 0"
        )
        yield
        cursor.execute("; ".join(f"RESET {way}" for way in (*off, "max_parallel_workers_per_gather")))


def counts_of(**rows: QuerySet[Any]) -> dict[str, int]:
    """Return the number of rows of each query by its name, with one query for all."""
    counting = [
        each.order_by()
        .annotate(counted=Value(name))
        .values("counted")
        .annotate(rows=Count("pk"))
        .values_list("counted", "rows")
        for name, each in rows.items()
    ]
    first, *others = counting
    return dict.fromkeys(rows, 0) | dict(first.union(*others, all=True) if others else first)


class _ArrayLookup(Lookup):
    """A column held against an array of plain values."""

    prepare_rhs = False
    sql = ""

    def __init__(self, column: str, values: Collection[Any]) -> None:
        super().__init__(F(column), list(values))

    def as_sql(self, compiler: SQLCompiler, connection: BaseDatabaseWrapper) -> Any:  # noqa: ANN401 - the stubs know no arrays
        """Return the condition, with one parameter for all values."""
        column, params = self.process_lhs(compiler, connection)
        of = self.lhs.output_field.cast_db_type(connection)
        return self.sql.format(column=column, type=of if of.endswith("[]") else f"{of}[]"), [*params, _array(self.rhs)]


def _array(values: list[int] | list[str]) -> str:
    """Return an array literal (PostgreSQL 8.15.2).

    For thousands of values it is much faster than the driver's.
    """
    return "{" + ",".join([str(value) if isinstance(value, int) else _quoted(value) for value in values]) + "}"


def _quoted(value: str) -> str:
    escaped = value.replace("\\", "\\\\").replace('"', '\\"')
    return f'"{escaped}"'


class AnyOf(_ArrayLookup):
    """``column`` is one of these: for ``filter(AnyOf("item_id", numbers))``."""

    sql = "{column} = ANY(%s::{type})"


class Shares(_ArrayLookup):
    """The array in ``column`` has at least one of these."""

    sql = "{column} && %s::{type}"
