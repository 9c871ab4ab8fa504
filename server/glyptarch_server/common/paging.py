"""Pages of a list, with the whole count."""

from collections.abc import Sequence
from typing import Annotated, Any, Generic, TypeVar, overload

from django.db.models import QuerySet
from pydantic import Field

from glyptarch_server.common.lookups import AnyOf

__all__ = ["PAGE", "SEARCHED", "Limit", "NumbersFirst", "Offset", "page_of"]

PAGE = 50
SEARCHED = 1000
"""How far a list goes that was searched by words."""

Limit = Annotated[int, Field(ge=1, le=200)]
Offset = Annotated[int, Field(ge=0, le=1_000_000)]

_Row = TypeVar("_Row", bound=Any)


class NumbersFirst(Sequence[_Row], Generic[_Row]):
    """The rows of a query, a page at a time: first the numbers of its rows, then the rows by their numbers.

    The numbers come from an index alone, in its order. A page far down the list so costs as many
    entries of the index as come before it, and not as many rows.
    """

    def __init__(self, rows: QuerySet[_Row]) -> None:
        self.rows = rows

    def __len__(self) -> int:
        """Give how many rows there are in all."""
        return self.rows.order_by().values("pk").count()

    def numbers(self, place: slice) -> list[int]:
        """Give the numbers of the rows from one place to another."""
        return list(self.rows.values_list("pk", flat=True)[place])

    @overload
    def __getitem__(self, place: int) -> _Row: ...
    @overload
    def __getitem__(self, place: slice) -> list[_Row]: ...

    def __getitem__(self, place: int | slice) -> _Row | list[_Row]:
        """Give the rows from one place to another."""
        if isinstance(place, int):
            return self.rows[place]
        return self.of(self.numbers(place))

    def of(self, numbers: Sequence[int]) -> list[_Row]:
        """Give the rows of some numbers, in their order; those that are there no more are left out."""
        by_number = {row.pk: row for row in self.rows.order_by().filter(AnyOf("pk", numbers))}
        return [by_number[number] for number in numbers if number in by_number]


def page_of(
    rows: QuerySet[_Row], *, limit: int, offset: int, total: int | None = None, most: int | None = None
) -> tuple[list[_Row], int]:
    """Give one page of rows and how many there are in all, where the caller does not know it already.

    With ``most`` the list ends there: to count all that a search finds takes as long as finding it.
    """
    paged = NumbersFirst(rows)
    if most is not None:
        numbers = paged.numbers(slice(0, most))
        return paged.of(numbers[offset : offset + limit]), len(numbers)
    return paged[offset : offset + limit], len(paged) if total is None else total
