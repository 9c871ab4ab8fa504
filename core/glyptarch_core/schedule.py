"""Schedules: settings, and the run times that follow from them.

Times of day are in the blog's time zone. An hour skipped by a clock change runs once, at the end of the gap; a doubled
hour runs once, the first time (PEP 495).
"""

from collections.abc import Iterator
from datetime import UTC, date, datetime, time, timedelta, tzinfo
from itertools import count as counting
from itertools import takewhile
from typing import Annotated, Literal, Self

from croniter import CroniterBadDateError, CroniterError, croniter
from pydantic import AfterValidator, Field, StringConstraints, model_validator

from glyptarch_core.settings import Settings

__all__ = ["ByHand", "Cron", "Daily", "Every", "Schedule", "When", "next_times"]

_EVERY_DAY = (1, 2, 3, 4, 5, 6, 7)
_LEAST_MINUTES = 5
_A_MONTH = 31 * 24 * 60
_PARTS = 5
_END = date(2200, 1, 1)
"""No schedule is followed further than this."""


def _once_in_order(values: tuple[str, ...] | tuple[int, ...]) -> tuple[str | int, ...]:
    return tuple(sorted(set(values)))


class ByHand(Settings):
    """The campaign runs only when a person starts it."""

    kind: Literal["hand"] = "hand"


class Every(Settings):
    """Every so many minutes, counted from the beginning of 1970 in UTC: 60 is every full hour."""

    kind: Literal["every"] = "every"
    minutes: int = Field(ge=_LEAST_MINUTES, le=_A_MONTH)


class Daily(Settings):
    """At times of day (``HH:MM``), on some days of the week (ISO 8601: 1 is Monday)."""

    kind: Literal["daily"] = "daily"
    times: Annotated[
        tuple[Annotated[str, StringConstraints(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")], ...],
        Field(min_length=1, max_length=48),
        AfterValidator(_once_in_order),
    ]
    days: Annotated[
        tuple[Annotated[int, Field(ge=1, le=7)], ...], Field(min_length=1, max_length=7), AfterValidator(_once_in_order)
    ] = _EVERY_DAY


def _readable(expression: str) -> str:
    """Return a cron expression. Raises ValueError where it cannot be parsed."""
    if len(expression.split()) != _PARTS:
        raise ValueError("give five parts: minute, hour, day of the month, month, day of the week")
    try:
        croniter(expression)
    except (CroniterError, ValueError, KeyError) as error:
        raise ValueError(f"this cron expression cannot be read: {error}") from error
    return expression


class Cron(Settings):
    """At the times of a cron expression: minute, hour, day of month, month, day of week (POSIX)."""

    kind: Literal["cron"] = "cron"
    # No letters except names of months and days: croniter has extensions, one of them random.
    expression: Annotated[
        str,
        StringConstraints(strip_whitespace=True, max_length=100, pattern=r"^[\d\s*/,A-Za-z-]+$"),
        AfterValidator(_readable),
    ]


When = Annotated[ByHand | Every | Daily | Cron, Field(discriminator="kind")]


_Day = Annotated[date, Field(ge=date(1970, 1, 1), lt=_END)]


class Schedule(Settings):
    """The schedule of a campaign, from ``first_day`` to ``last_day``, both included."""

    when: When = ByHand()
    first_day: _Day | None = None
    last_day: _Day | None = None

    @model_validator(mode="after")
    def _days_are_in_order(self) -> Self:
        if self.first_day and self.last_day and self.last_day < self.first_day:
            raise ValueError("the last day lies before the first")
        return self


def next_times(schedule: Schedule, zone: tzinfo, after: datetime, count: int) -> list[datetime]:
    """Return the next run times later than ``after``, in UTC and in order, at most ``count``."""
    times: list[datetime] = []
    begin = after.astimezone(UTC)
    if schedule.first_day:
        begin = max(begin, _moment(datetime.combine(schedule.first_day, time.min), zone) - timedelta(microseconds=1))
    end = None
    if schedule.last_day:
        end = _moment(datetime.combine(schedule.last_day, time.min) + timedelta(days=1), zone)
    last = begin
    for moment in _moments(schedule.when, zone, begin):
        if len(times) == count or (end is not None and moment >= end):
            break
        # Two times of day can fall on the moment at which a skipped hour ends.
        if moment > last:
            times.append(moment)
            last = moment
    return times


def _moments(when: ByHand | Every | Daily | Cron, zone: tzinfo, begin: datetime) -> Iterator[datetime]:
    """Yield run times from about ``begin`` on, in order."""
    match when:
        case ByHand():
            return
        case Every(minutes=minutes):
            step = timedelta(minutes=minutes)
            epoch = datetime(1970, 1, 1, tzinfo=UTC)
            first = (begin - epoch) // step
            moments = (epoch + number * step for number in counting(first))
            yield from takewhile(lambda moment: moment.date() < _END, moments)
        case Daily() | Cron():
            start = begin.astimezone(zone).replace(tzinfo=None)
            local = _daily(when, start) if isinstance(when, Daily) else _cron(when, start)
            yield from (_moment(time_of_day, zone) for time_of_day in local)


def _daily(when: Daily, start: datetime) -> Iterator[datetime]:
    times = [time.fromisoformat(text) for text in when.times]
    for number in range((_END - start.date()).days):
        day = start.date() + timedelta(days=number)
        if day.isoweekday() in when.days:
            yield from (datetime.combine(day, time_) for time_ in times)


def _cron(when: Cron, start: datetime) -> Iterator[datetime]:
    times = croniter(when.expression, start)
    try:
        while (moment := times.get_next(datetime)).date() < _END:
            yield moment
    except CroniterBadDateError:
        # February 30 never occurs.
        return


def _moment(local: datetime, zone: tzinfo) -> datetime:
    """Return the moment of a local time.

    The first of a doubled time, the gap's end for a skipped one.
    """
    later = local.replace(tzinfo=zone).astimezone(UTC)
    if later.astimezone(zone).replace(tzinfo=None) == local:
        return later
    # Inside a gap the two readings lie on both sides of the clock change.
    earlier = local.replace(tzinfo=zone, fold=1).astimezone(UTC)
    before = earlier.astimezone(zone).utcoffset()
    while later - earlier > timedelta(seconds=1):
        middle = earlier + (later - earlier) / 2
        if middle.astimezone(zone).utcoffset() == before:
            earlier = middle
        else:
            later = middle
    return later.replace(microsecond=0)
