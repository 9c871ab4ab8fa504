"""What every Sift rule has, what it gets when it is compiled, and what it gives back."""

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
    """What a rule does with an item that fails it."""

    REFUSE = "refuse"
    HOLD = "hold"


class Unknown(StrEnum):
    """What a rule says of an item that does not state what it looks at."""

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
    """What a rule found in one item."""

    passed: bool
    code: str
    data: Mapping[str, Json] = field(default_factory=dict)


Check: TypeAlias = Callable[[Captured, datetime], Finding]
"""A compiled rule: an item and the time of the pass in, a finding out."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Prefilter:
    """What must stand in a field (in one of its passages) before a rule can find anything.

    ``words`` are folded words, ``starts`` beginnings of such; ``otherwise`` is what the rule finds
    in an item that has none of them.
    """

    field: TextField
    name: str
    words: frozenset[str]
    starts: frozenset[str]
    otherwise: Finding


@dataclass(frozen=True, slots=True)
class Prefiltered:
    """A check that needs asking only where its prefilter stands: most rules have nothing to say of most items."""

    check: Check
    prefilter: Prefilter

    def __call__(self, captured: Captured, now: datetime) -> Finding:
        """Ask the check."""
        return self.check(captured, now)


@dataclass(frozen=True, slots=True, kw_only=True)
class SiftContext:
    """What a rule may need while it is compiled: the blog's word lists, and the compiler of other rules."""

    lists: Mapping[str, tuple[str, ...]]
    compile: Callable[[SiftRuleBase], Check]
