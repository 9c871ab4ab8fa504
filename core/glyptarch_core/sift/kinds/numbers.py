"""A number is at least, at most or between."""

from datetime import datetime
from typing import Literal, Self

from pydantic import Field, model_validator

from glyptarch_core.item import Captured
from glyptarch_core.sift.base import Check, CustomName, Finding, SiftContext, SiftRuleBase, Unknown
from glyptarch_core.sift.description import SiftKind
from glyptarch_core.sift.fields import Amount, amount
from glyptarch_core.trace import Json

__all__ = ["KIND", "NumberRule"]


class NumberRule(SiftRuleBase):
    """A number within bounds, which are included.

    An empty bound is open.
    """

    kind: Literal["number"] = "number"
    field: Amount = Amount.WORDS
    name: CustomName = ""
    at_least: float | None = Field(default=None, ge=-1e12, le=1e12)
    at_most: float | None = Field(default=None, ge=-1e12, le=1e12)
    unknown: Unknown = Unknown.FAILS

    @model_validator(mode="after")
    def _bounded(self) -> Self:
        if self.at_least is None and self.at_most is None:
            raise ValueError("give “at least”, “at most” or both")
        if self.at_least is not None and self.at_most is not None and self.at_least > self.at_most:
            raise ValueError(f"nothing is at least {self.at_least:g} and at most {self.at_most:g}")
        return self


def compile_number(rule: NumberRule, _context: SiftContext) -> Check:
    """Compare the number of an item with the bounds."""

    def check(captured: Captured, _now: datetime) -> Finding:
        number = amount(rule.field, rule.name, captured)
        data: dict[str, Json] = {
            "field": rule.field.value,
            "name": rule.name,
            "number": number,
            "at_least": rule.at_least,
            "at_most": rule.at_most,
        }
        if number is None:
            return Finding(passed=rule.unknown is Unknown.PASSES, code="number.unknown", data=data)
        if rule.at_least is not None and number < rule.at_least:
            return Finding(passed=False, code="number.low", data=data)
        if rule.at_most is not None and number > rule.at_most:
            return Finding(passed=False, code="number.high", data=data)
        return Finding(passed=True, code="number.within", data=data)

    return check


KIND = SiftKind(
    rule=NumberRule,
    compile=compile_number,
    order=30,
    label="Number",
    hint="words, pictures, price, rating …",
    manual=(
        "words, words in the title, pictures, rating, views, length, price or a field of the source: at "
        "least, at most or between"
    ),
    start={"field": "words", "name": "", "at_least": 50, "at_most": None, "unknown": "fails"},
)
