"""The stage itself."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum

from pydantic import Field

from glyptarch_core.release.holds import HoldRule
from glyptarch_core.release.pace import Gate, Order, Pace
from glyptarch_core.settings import Settings
from glyptarch_core.trace import Note, Stage, Verdict

__all__ = ["Goods", "ReleaseMode", "ReleaseSettings", "Released", "release"]


class ReleaseMode(StrEnum):
    """The state of a post with no rule against it. ``scheduled`` waits for a date in the future."""

    PUBLISH = "publish"
    HOLD = "hold"
    DRAFT = "draft"
    PRIVATE = "private"
    SCHEDULED = "scheduled"


class Corrections(StrEnum):
    """What happens to a published post when its source corrects the item.

    ``show`` tells the desk, ``follow`` changes the post, ``leave`` does nothing. Posts that are not out follow always.
    """

    SHOW = "show"
    FOLLOW = "follow"
    LEAVE = "leave"


class Goods(StrEnum):
    """What becomes of a published post about a product that cannot be bought any more.

    With ``mark`` its page says so, with ``keep`` it leads to the shop as before; with ``hold`` the post waits for a
    person, with ``take_down`` it goes into the bin.
    """

    KEEP = "keep"
    MARK = "mark"
    HOLD = "hold"
    TAKE_DOWN = "take_down"


class ReleaseSettings(Settings):
    """The rules of publication. ``at_most`` is the number per run.

    Other items wait for the next. ``withdrawn`` and ``sold_out`` are for posts about one product.
    """

    mode: ReleaseMode = ReleaseMode.HOLD
    hold_when: tuple[HoldRule, ...] = Field(default=(), max_length=20)
    order: Order = Order.OLDEST
    at_most: int | None = Field(default=None, ge=1, le=10_000)
    pace: Pace | None = None
    corrections: Corrections = Corrections.SHOW
    withdrawn: Goods = Goods.MARK
    sold_out: Goods = Goods.MARK


@dataclass(frozen=True, slots=True, kw_only=True)
class Released:
    """The state and date with which a post is released."""

    verdict: Verdict
    date: datetime
    note: Note


_CODES = {
    ReleaseMode.PUBLISH: "published",
    ReleaseMode.HOLD: "held.by_campaign",
    ReleaseMode.DRAFT: "drafted",
    ReleaseMode.PRIVATE: "private",
    ReleaseMode.SCHEDULED: "scheduled",
}


def _note(code: str, **data: str) -> Note:
    return Note(stage=Stage.RELEASE, code=code, data=data)


def release(mode: ReleaseMode, held_by: Sequence[Note], *, date: datetime, now: datetime, gate: Gate) -> Released:
    """Return how a post is released.

    A rule that asks for review overrides every mode but “draft”.
    """
    if held_by and mode is not ReleaseMode.DRAFT:
        note = Note(stage=Stage.RELEASE, code="held.by_rule", data={"rules": [note.rule for note in held_by]})
        return Released(verdict=Verdict.HOLD, date=date, note=note)
    if mode in {ReleaseMode.HOLD, ReleaseMode.DRAFT}:
        return Released(verdict=Verdict(mode.value), date=date, note=_note(_CODES[mode]))
    # A scheduled post is never published before its own date.
    earliest = max(now, date) if mode is ReleaseMode.SCHEDULED else now
    out = gate.next_slot(earliest)
    if out > earliest:
        note = _note("scheduled.by_pace", at=out.isoformat())
        return Released(verdict=Verdict.SCHEDULED, date=out, note=note)
    if mode is ReleaseMode.SCHEDULED:
        if date > now:
            return Released(verdict=Verdict.SCHEDULED, date=date, note=_note("scheduled", at=date.isoformat()))
        mode = ReleaseMode.PUBLISH
    return Released(verdict=Verdict(mode.value), date=date, note=_note(_CODES[mode]))
