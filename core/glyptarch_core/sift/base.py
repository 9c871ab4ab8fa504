"""What every Sift rule has, and what it gives back."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from enum import StrEnum
from typing import ClassVar, TypeAlias

from glyptarch_core.item import Captured
from glyptarch_core.settings import RuleSettings
from glyptarch_core.trace import Json

__all__ = ["Check", "Failing", "Finding", "SiftRuleBase"]


class Failing(StrEnum):
    """What a rule does with an item that fails it."""

    REFUSE = "refuse"
    HOLD = "hold"


class SiftRuleBase(RuleSettings):
    """Settings common to all filter rules."""

    looks_at_clock: ClassVar[bool] = False
    """Whether what the rule finds depends on the time of the pass."""

    failing: Failing = Failing.REFUSE


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """What a rule found in one item."""

    passed: bool
    code: str
    data: Mapping[str, Json] = field(default_factory=dict)


Check: TypeAlias = Callable[[Captured, datetime], Finding]
"""A compiled rule: an item and the time of the pass in, a finding out."""
