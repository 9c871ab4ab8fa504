"""What every Shape step works on, and what it gives back."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import TypeAlias

from glyptarch_core.item import Captured
from glyptarch_core.settings import RuleSettings
from glyptarch_core.trace import Json

__all__ = ["Draftable", "ShapeStepBase", "Step", "StepResult"]


class ShapeStepBase(RuleSettings):
    """Settings common to all steps."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Draftable:
    """The parts of a post while the steps work on them: plain title, HTML body."""

    title: str
    body: str


@dataclass(frozen=True, slots=True, kw_only=True)
class StepResult:
    """What a step made of the parts, and what it changed; no data when it changed nothing."""

    parts: Draftable
    changed: Mapping[str, Json] = field(default_factory=dict)


Step: TypeAlias = Callable[[Draftable, Captured], StepResult]
"""A compiled step."""
