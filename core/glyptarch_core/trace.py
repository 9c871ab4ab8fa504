"""Decisions and their traces: data (codes and values), never sentences."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from operator import attrgetter
from typing import TypeAlias

from glyptarch_core.draft import Draft
from glyptarch_core.item import Captured
from glyptarch_core.language_services import Ask
from glyptarch_core.ports import Ref

__all__ = ["Decision", "Json", "Note", "Stage", "Verdict", "speaks_against"]

Json: TypeAlias = bool | int | float | str | Sequence["Json"] | Mapping[str, "Json"] | None


class Stage(StrEnum):
    """The six stages, in their order."""

    GATHER = "gather"
    SIFT = "sift"
    MATCH = "match"
    SHAPE = "shape"
    PLACE = "place"
    RELEASE = "release"


class Verdict(StrEnum):
    """The outcome of an item.

    The first five are kept. A waiting item is decided by a later run and never recorded.
    """

    PUBLISH = "publish"
    HOLD = "hold"
    DRAFT = "draft"
    PRIVATE = "private"
    SCHEDULED = "scheduled"
    WAITING = "waiting"
    REFUSED = "refused"
    DUPLICATE = "duplicate"

    @property
    def kept(self) -> bool:
        """Whether the item becomes a post."""
        return self not in _NOT_KEPT


_NOT_KEPT = frozenset({Verdict.WAITING, Verdict.REFUSED, Verdict.DUPLICATE})


@dataclass(frozen=True, slots=True, kw_only=True)
class Note:
    """One line of a trace: the stage, the rule, and its finding.

    ``code`` names the finding (``terms.missing``); ``data`` are the values for its wording. ``against`` marks notes
    against the item. ``rule`` is the id of the rule, ``rule_title`` a person's name for it.
    """

    stage: Stage
    code: str
    rule: str = ""
    rule_title: str = ""
    against: bool = False
    data: Mapping[str, Json] = field(default_factory=dict)


_against = attrgetter("against")


def speaks_against(notes: Sequence[Note]) -> bool:
    """Whether one of these notes is against the item."""
    return True in map(_against, notes)


@dataclass(frozen=True, slots=True, kw_only=True)
class Decision:
    """The outcome for one item, with the reasons. ``left_at`` is None only for kept items.

    ``same_as`` names the post or earlier item that a duplicate matches. ``asks`` are what an item waits for that
    language services have not answered yet.
    """

    captured: Captured
    verdict: Verdict
    left_at: Stage | None
    trace: tuple[Note, ...]
    draft: Draft | None
    same_as: Ref | None = None
    asks: tuple[Ask, ...] = ()

    def __post_init__(self) -> None:
        kept = self.verdict.kept
        if kept != (self.left_at is None) or kept != (self.draft is not None):
            raise ValueError(f"{self.captured.item.identity}: a kept item has a draft, any other leaves at a stage")

    @property
    def reason(self) -> Note | None:
        """The note that the item left or was held for.

        None where nothing was against it.
        """
        stages = (self.left_at,) if self.left_at else tuple(Stage)
        return next((note for note in self.trace if note.against and note.stage in stages), None)
