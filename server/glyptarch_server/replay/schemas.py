"""API schemas of replays."""

from datetime import datetime
from typing import Annotated, Any, Literal

from ninja import Schema
from pydantic import Field

from glyptarch_server.common.fields import RevisionNumber, RowNumber
from glyptarch_server.common.out import Out
from glyptarch_server.replay.lifecycle import Outcome, ReplayState

__all__ = ["ApplyIn", "ReplayIn", "ReplayOut", "ReplayResultOut", "ReplayResultPageOut", "ReplayValuesOut"]


class ReplayIn(Schema):
    """The revision to compare posts with, the latest by default."""

    revision: RevisionNumber | None = None


class ReplayOut(Out):
    """A replay: how far it is, how many items have each outcome, and the change that applies it."""

    id: int
    campaign: str
    campaign_slug: str
    revision: int
    state: ReplayState
    stop_asked: bool
    failure: str
    total: int
    done: int
    counts: dict[str, int] = Field(description="Items by outcome, without those that were applied.")
    change: int | None
    asked_at: datetime
    ended_at: datetime | None


class ReplayResultOut(Out):
    """The result for one item: changed values, and those withheld because a person edited them."""

    id: int
    outcome: Outcome
    post: int | None
    title: str
    reason: dict[str, Any] | None
    parts: list[str]
    kept: list[str]


class ReplayResultPageOut(Out):
    """One page of results."""

    rows: list[ReplayResultOut]
    total: int


class ReplayValuesOut(Out):
    """The parts of a post that change, before and after."""

    before: dict[str, Any]
    after: dict[str, Any]


class ApplyIn(Schema):
    """Results that are to be applied: all of some outcomes, and some by their numbers."""

    outcomes: list[Literal["changed", "refused", "duplicate", "new"]] = []
    results: Annotated[list[RowNumber], Field(max_length=1000)] = []
