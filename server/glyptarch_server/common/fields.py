"""Numbers and times in the API, within the limits of the database and the calendar."""

from datetime import datetime
from typing import Annotated

from pydantic import AfterValidator, AwareDatetime, Field

__all__ = ["Moment", "RevisionNumber", "RowNumber"]

RowNumber = Annotated[int, Field(ge=1, le=2**63 - 1)]
"""The number of a row (PostgreSQL ``bigint``)."""

RevisionNumber = Annotated[int, Field(ge=1, le=2**31 - 1)]
"""The number of a revision (PostgreSQL ``integer``)."""

_FIRST, _LAST = 1970, 2999


def _within_reach(moment: datetime) -> datetime:
    if not _FIRST <= moment.year <= _LAST:
        raise ValueError(f"must lie in the years {_FIRST} to {_LAST}")
    return moment


Moment = Annotated[AwareDatetime, AfterValidator(_within_reach)]
"""A time with a zone (RFC 3339), near enough that days can be counted from it."""
