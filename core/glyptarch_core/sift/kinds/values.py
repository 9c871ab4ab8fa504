"""A field is, or is not, one of some values.

A language includes all its regions.
"""

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from glyptarch_core.item import Captured
from glyptarch_core.sift.base import Check, CustomName, Finding, SiftContext, SiftRuleBase, Unknown
from glyptarch_core.sift.description import SiftKind
from glyptarch_core.sift.fields import TextField, values
from glyptarch_core.text import fold
from glyptarch_core.trace import Json

__all__ = ["KIND", "ValuesRule"]

_Value = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=300)]


class ValuesRule(SiftRuleBase):
    """Equal as a whole, without regard to case and accents. Of several values one is enough."""

    kind: Literal["values"] = "values"
    field: TextField = TextField.AUTHOR
    name: CustomName = ""
    wanted: bool = True
    values: tuple[_Value, ...] = Field(min_length=1, max_length=200)
    unknown: Unknown = Unknown.FAILS


def _folded(text: str) -> str:
    return " ".join(fold(word) for word in text.split())


def compile_values(rule: ValuesRule, _context: SiftContext) -> Check:
    """Return the check of a rule whose values are folded once, here."""
    wanted = {_folded(value) for value in rule.values}

    def is_one(value: str) -> bool:
        folded = _folded(value)
        # BCP 47: "en-gb" is a variant of "en".
        return folded in wanted or (rule.field is TextField.LANGUAGE and folded.partition("-")[0] in wanted)

    def check(captured: Captured, _now: datetime) -> Finding:
        field_values = values(rule.field, rule.name, captured)
        shown: list[Json] = list(field_values[:5])
        data: dict[str, Json] = {"field": rule.field.value, "name": rule.name, "values": shown}
        if not field_values:
            return Finding(passed=rule.unknown is Unknown.PASSES, code="values.unknown", data=data)
        equal = any(is_one(value) for value in field_values)
        return Finding(passed=equal is rule.wanted, code="values.one_of" if equal else "values.other", data=data)

    return check


KIND = SiftKind(
    rule=ValuesRule,
    compile=compile_values,
    order=50,
    label="Value",
    hint="author, category, language … is one of",
    manual="author, source, category, hashtag, host, language, licence … is, or is not, one of some values",
    start={"field": "author", "name": "", "wanted": False, "values": ["nobody"], "unknown": "passes"},
)
