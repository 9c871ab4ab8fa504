"""The stage itself."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Self

from pydantic import Field, model_validator

from glyptarch_core.item import Right
from glyptarch_core.languages import base_language
from glyptarch_core.release.holds import HoldRule
from glyptarch_core.release.pace import Gate, Order, Pace
from glyptarch_core.settings import LanguageTag, Settings
from glyptarch_core.trace import Note, Stage, Verdict

__all__ = [
    "HELD_FOR_EDITIONS",
    "Corrections",
    "EditionMode",
    "EditionRule",
    "Goods",
    "ReleaseMode",
    "ReleaseSettings",
    "Released",
    "release",
]


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


class EditionMode(StrEnum):
    """Whether an edition goes out with its original, or is held for a person."""

    PUBLISH = "publish"
    HOLD = "hold"


class EditionRule(Settings):
    """That posts of a campaign get an edition in a language of the blog."""

    to: LanguageTag
    mode: EditionMode = EditionMode.HOLD


class ReleaseSettings(Settings):
    """The rules of publication. ``at_most`` is the number per run.

    Other items wait for the next. ``withdrawn`` and ``sold_out`` are for posts about one product. With ``together`` a
    post waits until its ``editions`` are made; else they come after it.
    """

    mode: ReleaseMode = ReleaseMode.HOLD
    hold_when: tuple[HoldRule, ...] = Field(default=(), max_length=20)
    order: Order = Order.OLDEST
    at_most: int | None = Field(default=None, ge=1, le=10_000)
    pace: Pace | None = None
    corrections: Corrections = Corrections.SHOW
    withdrawn: Goods = Goods.MARK
    sold_out: Goods = Goods.MARK
    editions: tuple[EditionRule, ...] = Field(default=(), max_length=20)
    together: bool = False

    @model_validator(mode="after")
    def _languages_once(self) -> Self:
        languages = [edition.to for edition in self.editions]
        twice = next((language for language in languages if languages.count(language) > 1), None)
        if twice:
            raise ValueError(f"editions: the language “{twice}” is there twice")
        return self

    def editions_of(self, language: str, right: Right) -> tuple[EditionRule, ...]:
        """Return the editions that a post gets.

        None where its source allows to link only, and none in the language that it is in.
        """
        if right is Right.LINK:
            return ()
        return tuple(rule for rule in self.editions if base_language(rule.to) != base_language(language))


@dataclass(frozen=True, slots=True, kw_only=True)
class Released:
    """The state and date with which a post is released."""

    verdict: Verdict
    date: datetime
    note: Note


HELD_FOR_EDITIONS = "held.for_editions"
"""The code of the note on a post that waits for its editions."""

_CODES = {
    ReleaseMode.PUBLISH: "published",
    ReleaseMode.HOLD: "held.by_campaign",
    ReleaseMode.DRAFT: "drafted",
    ReleaseMode.PRIVATE: "private",
    ReleaseMode.SCHEDULED: "scheduled",
}


def _note(code: str, **data: str) -> Note:
    return Note(stage=Stage.RELEASE, code=code, data=data)


def release(
    mode: ReleaseMode,
    held_by: Sequence[Note],
    *,
    date: datetime,
    now: datetime,
    gate: Gate,
    waits_for: Sequence[EditionRule] = (),
) -> Released:
    """Return how a post is released.

    A rule that asks for review overrides every mode but “draft”. A post that would go out waits for the editions that
    it goes out with.
    """
    if held_by and mode is not ReleaseMode.DRAFT:
        note = Note(stage=Stage.RELEASE, code="held.by_rule", data={"rules": [note.rule for note in held_by]})
        return Released(verdict=Verdict.HOLD, date=date, note=note)
    if mode in {ReleaseMode.HOLD, ReleaseMode.DRAFT}:
        return Released(verdict=Verdict(mode.value), date=date, note=_note(_CODES[mode]))
    if waits_for and mode is ReleaseMode.PUBLISH:
        note = Note(stage=Stage.RELEASE, code=HELD_FOR_EDITIONS, data={"languages": [rule.to for rule in waits_for]})
        return Released(verdict=Verdict.HOLD, date=date, note=note)
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
