"""What every Match rule has."""

from collections.abc import Callable
from typing import TypeAlias

from glyptarch_core.item import Captured
from glyptarch_core.ports import Key
from glyptarch_core.settings import RuleSettings

__all__ = ["KeyOf", "MatchRuleBase"]


class MatchRuleBase(RuleSettings):
    """Settings common to all rules that compare an item with earlier ones."""


KeyOf: TypeAlias = Callable[[Captured], Key | None]
"""A compiled rule: the key_of of an item that is compared, or None when the item lacks it."""
