"""Shared by all Sift rules: settings, compile context and findings."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from enum import StrEnum
from typing import Annotated, ClassVar, TypeAlias

from pydantic import Field, StringConstraints

from glyptarch_core.item import Captured
from glyptarch_core.settings import RuleSettings
from glyptarch_core.sift.fields import TextField
from glyptarch_core.trace import Json

__all__ = [
    "Check",
    "CustomName",
    "Failing",
    "Finding",
    "Prefilter",
    "Prefiltered",
    "SiftContext",
    "SiftRuleBase",
    "Unknown",
]

CustomName = Annotated[
    str, StringConstraints(strip_whitespace=True, max_length=80), Field(description="Which of the source's own fields.")
]


class Failing(StrEnum):
    """The effect of a rule on an item that fails it."""

    REFUSE = "refuse"
    HOLD = "hold"


class Unknown(StrEnum):
    """The result of a rule for an item without the value it tests."""

    FAILS = "fails"
    PASSES = "passes"


class SiftRuleBase(RuleSettings):
    """Settings common to all filter rules."""

    failing: Failing = Failing.REFUSE

    _looks_at_clock: ClassVar[bool] = False

    @property
    def looks_at_clock(self) -> bool:
        """Whether what the rule finds depends on the time of the pass."""
        return self._looks_at_clock


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """The result of a rule for one item."""

    passed: bool
    code: str
    data: Mapping[str, Json] = field(default_factory=dict)


Check: TypeAlias = Callable[[Captured, datetime], Finding]
"""A compiled rule: an item and the time of the pass in, a finding out."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Prefilter:
    """Words that must occur in a field (in one of its passages) for a rule to find anything.

    ``words`` are folded words, ``starts`` beginnings of words; ``otherwise`` is the result for an item that has none of
    them.
    """

    field: TextField
    name: str
    words: frozenset[str]
    starts: frozenset[str]
    otherwise: Finding


@dataclass(frozen=True, slots=True)
class Prefiltered:
    """A check that is called only where its prefilter occurs.

    Most rules concern few items.
    """

    check: Check
    prefilter: Prefilter

    def __call__(self, captured: Captured, now: datetime) -> Finding:
        """Ask the check."""
        return self.check(captured, now)


@dataclass(frozen=True, slots=True, kw_only=True)
class SiftContext:
    """Values for compiling a rule: the blog's word lists, and the compiler of nested rules."""

    lists: Mapping[str, tuple[str, ...]]
    compile: Callable[[SiftRuleBase], Check]
