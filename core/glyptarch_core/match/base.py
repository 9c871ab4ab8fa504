"""Shared by all Match rules."""

from collections.abc import Callable
from typing import TypeAlias

from glyptarch_core.item import Captured
from glyptarch_core.ports import Key
from glyptarch_core.settings import RuleSettings

__all__ = ["KeyOf", "MatchRuleBase"]


class MatchRuleBase(RuleSettings):
    """Settings common to all rules that compare an item with earlier ones."""


KeyOf: TypeAlias = Callable[[Captured], Key | None]
"""A compiled rule: gives the key by which an item is compared, or None where the item has none."""
