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
    """Pages of a query: first the numbers of the rows, then the rows themselves.

    An index alone yields the numbers in order, so a page far down the list costs index entries, not rows.
    """

    def __init__(self, rows: QuerySet[_Row]) -> None:
        self.rows = rows

    def __len__(self) -> int:
        """Return the total number of rows."""
        return self.rows.order_by().values("pk").count()

    def numbers(self, window: slice) -> list[int]:
        """Return the numbers of the rows in a slice."""
        return list(self.rows.values_list("pk", flat=True)[window])

    @overload
    def __getitem__(self, place: int) -> _Row: ...
    @overload
    def __getitem__(self, place: slice) -> list[_Row]: ...

    def __getitem__(self, place: int | slice) -> _Row | list[_Row]:
        """Return the rows in a slice."""
        if isinstance(place, int):
            return self.rows[place]
        return self.of(self.numbers(place))

    def of(self, numbers: Sequence[int]) -> list[_Row]:
        """Return rows by their numbers, in order.

        Missing ones are left out.
        """
        by_number = {row.pk: row for row in self.rows.order_by().filter(AnyOf("pk", numbers))}
        return [by_number[number] for number in numbers if number in by_number]


def page_of(
    rows: QuerySet[_Row], *, limit: int, offset: int, total: int | None = None, most: int | None = None
) -> tuple[list[_Row], int]:
    """Return one page of rows and their total number, counted where the caller does not know it.

    With ``most`` the list ends there, because counting all results of a search takes as long as finding them.
    """
    paged = NumbersFirst(rows)
    if most is not None:
        numbers = paged.numbers(slice(0, most))
        return paged.of(numbers[offset : offset + limit]), len(numbers)
    return paged[offset : offset + limit], len(paged) if total is None else total
