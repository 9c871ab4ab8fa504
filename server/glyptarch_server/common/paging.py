"""Pages of a list, with the whole count."""

from typing import Annotated, Any, TypeVar

from django.db.models import QuerySet
from pydantic import Field

__all__ = ["PAGE", "Limit", "Offset", "page_of"]

PAGE = 50
Limit = Annotated[int, Field(ge=1, le=200)]
Offset = Annotated[int, Field(ge=0, le=1_000_000)]

_Row = TypeVar("_Row", bound=Any)


def page_of(rows: QuerySet[_Row], *, limit: int, offset: int) -> tuple[list[_Row], int]:
    """Give one page of rows and how many there are in all."""
    return list(rows[offset : offset + limit]), rows.count()
