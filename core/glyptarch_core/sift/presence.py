"""An item has something, or lacks it."""

from datetime import datetime
from typing import Literal

from glyptarch_core.item import Captured
from glyptarch_core.sift.base import Check, CustomName, Finding, SiftContext, SiftRuleBase
from glyptarch_core.sift.fields import Trait, has

__all__ = ["PresenceRule", "compile_presence"]


class PresenceRule(SiftRuleBase):
    """A picture, film, sound, author or other part is there (or is not)."""

    kind: Literal["presence"] = "presence"
    trait: Trait = Trait.PICTURE
    name: CustomName = ""
    wanted: bool = True


def compile_presence(rule: PresenceRule, _context: SiftContext) -> Check:
    """Look whether the part is there."""

    def check(captured: Captured, _now: datetime) -> Finding:
        there = has(rule.trait, rule.name, captured)
        code = "presence.there" if there else "presence.lacking"
        return Finding(passed=there is rule.wanted, code=code, data={"trait": rule.trait.value, "name": rule.name})

    return check
