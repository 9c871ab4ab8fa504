"""For how long a blog keeps its records: what can be set, and what holds where nothing is."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated

from django.conf import settings
from pydantic import BaseModel, ConfigDict, Field

__all__ = ["LIMITS", "Keeping", "Limits", "Record", "usual_days"]


class Record(StrEnum):
    """The kinds of records that are kept for a limited time."""

    TRACES = "traces"
    READINGS = "readings"
    PAYLOADS = "payloads"
    CHANGES = "changes"
    BIN = "bin"
    AUDIT = "audit"


@dataclass(frozen=True, slots=True)
class Limits:
    """The fewest and the most days that a record can be kept."""

    least: int
    most: int


_MOST = 3650
# The database lets nobody remove an entry of the audit within its first year.
_AUDIT_LEAST = 366
# The health of a source is judged by two weeks of readings.
_READINGS_LEAST = 15
LIMITS = {
    Record.TRACES: Limits(1, _MOST),
    Record.READINGS: Limits(_READINGS_LEAST, _MOST),
    Record.PAYLOADS: Limits(1, _MOST),
    Record.CHANGES: Limits(1, _MOST),
    Record.BIN: Limits(1, 365),
    Record.AUDIT: Limits(_AUDIT_LEAST, _MOST),
}

_DAYS_IN_BIN = 30


def usual_days(record: Record) -> int:
    """Return the days for which records are kept where their blog says nothing."""
    return {
        Record.TRACES: settings.GLYPTARCH_KEEP_TRACES_DAYS,
        Record.READINGS: settings.GLYPTARCH_KEEP_READINGS_DAYS,
        Record.PAYLOADS: settings.GLYPTARCH_KEEP_PAYLOADS_DAYS,
        Record.CHANGES: settings.GLYPTARCH_KEEP_CHANGES_DAYS,
        Record.BIN: _DAYS_IN_BIN,
        Record.AUDIT: max(_AUDIT_LEAST, settings.GLYPTARCH_KEEP_AUDIT_DAYS),
    }[record]


def _days(record: Record) -> object:
    return Field(default=None, ge=LIMITS[record].least, le=LIMITS[record].most)


class Keeping(BaseModel):
    """The days for which a blog keeps its records. None stands for the usual number."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    traces: Annotated[int | None, _days(Record.TRACES)] = None
    readings: Annotated[int | None, _days(Record.READINGS)] = None
    payloads: Annotated[int | None, _days(Record.PAYLOADS)] = None
    changes: Annotated[int | None, _days(Record.CHANGES)] = None
    bin: Annotated[int | None, _days(Record.BIN)] = None
    audit: Annotated[int | None, _days(Record.AUDIT)] = None

    def days(self, record: Record) -> int:
        """Return the days for which records of a kind are kept."""
        own: int | None = getattr(self, record.value)
        return usual_days(record) if own is None else own
