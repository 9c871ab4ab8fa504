"""An item has something, or lacks it."""

from datetime import datetime
from typing import Literal

from glyptarch_core.item import Captured
from glyptarch_core.sift.base import Check, CustomName, Finding, SiftContext, SiftRuleBase
from glyptarch_core.sift.description import Choice, SiftKind, Text, Words
from glyptarch_core.sift.fields import Trait, has

__all__ = ["KIND", "PresenceRule"]


_TRAITS = {
    "picture": "a picture",
    "film": "a film",
    "sound": "sound",
    "text": "full text",
    "summary": "a summary",
    "author": "an author",
    "categories": "categories",
    "link": "a link",
    "date": "a date",
    "language": "a language",
    "licence": "a licence",
    "rating": "a rating",
    "price": "a price",
    "custom": "a field of its own",
}


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


KIND = SiftKind(
    rule=PresenceRule,
    compile=compile_presence,
    order=60,
    label="Has or lacks",
    hint="picture, film, author, date …",
    manual="has or lacks a picture, film, sound, author, date …",
    start={"trait": "picture", "name": "", "wanted": True},
    sentence="*The item* {wanted} {trait} {name}",
    places={
        "wanted": Choice(label="Wanted", options={"true": "has", "false": "lacks"}),
        "trait": Choice(label="What", options=_TRAITS),
        "name": Text(label="Name of the field", placeholder="its name", only_for=("trait", "custom")),
    },
    findings={
        "presence.there": Words(strong="has {trait}", reason="unwanted part"),
        "presence.lacking": Words(strong="lacks {trait}", reason="missing part"),
    },
)
