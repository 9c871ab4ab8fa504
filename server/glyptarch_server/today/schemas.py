"""API schemas of the first screen."""

from datetime import date, datetime
from enum import StrEnum
from typing import Any

from glyptarch_core.health import Health
from glyptarch_core.schedule import Schedule

from glyptarch_server.common.out import Out

__all__ = [
    "DayOut",
    "LatestPostOut",
    "LineOut",
    "MarkOut",
    "NeedCode",
    "NeedOut",
    "TodayOut",
    "TodaySourceOut",
]


class NeedCode(StrEnum):
    """The kinds of tasks for people, most urgent first."""

    SOURCE_GONE = "source_gone"
    SOURCES_FAILING = "sources_failing"
    SOURCE_FAILING = "source_failing"
    MORE_SOURCES = "more_sources"
    RUN_FAILED = "run_failed"
    POSTS_HELD = "posts_held"
    PRICES_HELD = "prices_held"
    COMMENTS = "comments"
    CORRECTIONS = "corrections"
    SOURCE_CHANGED = "source_changed"
    SOURCE_QUIET = "source_quiet"
    PRICES_OLD = "prices_old"
    NO_DISCLOSURE = "no_disclosure"
    HUB_FAILING = "hub_failing"
    SERVICE_FAILING = "service_failing"
    END_NEAR = "end_near"


class NeedOut(Out):
    """A task for a person.

    ``data`` are the values of its text.
    """

    code: NeedCode
    data: dict[str, Any]


class MarkOut(Out):
    """A run on the time line: how many posts it made, and whether it failed."""

    run: int
    at: datetime
    posts: int
    failed: bool


class LineOut(Out):
    """A campaign on the time line: recent runs, next times, and posts since midnight."""

    slug: str
    name: str
    schedule: Schedule
    paused: bool
    runs: list[MarkOut]
    next: list[datetime]
    made: int
    held: int


class DayOut(Out):
    """The outcomes of the items decided on one day."""

    day: date
    kept: int
    held: int
    duplicate: int
    refused: int


class LatestPostOut(Out):
    """One of the latest posts on the blog."""

    id: int
    title: str
    picture: str
    category: str
    campaign: str
    date: datetime


class TodaySourceOut(Out):
    """A source: how it does, and its items by day."""

    key: str
    title: str
    health: Health
    days: list[int]


class TodayOut(Out):
    """The first screen of the desk."""

    now: datetime
    since: datetime
    until: datetime
    time_zone: str
    out_today: int
    needs: list[NeedOut]
    lines: list[LineOut]
    campaigns: int
    latest: list[LatestPostOut]
    days: list[DayOut]
    sources: list[TodaySourceOut]
