"""How much of a title is written in capitals."""

from datetime import datetime
from typing import Literal

from pydantic import Field

from glyptarch_core.item import Captured
from glyptarch_core.sift.base import Check, Finding, SiftContext, SiftRuleBase
from glyptarch_core.sift.description import Number, SiftKind, Words

__all__ = ["KIND", "CapitalsRule"]

_FEWEST_LETTERS = 8


class CapitalsRule(SiftRuleBase):
    """At most so many percent of a title's letters are capitals.

    Letters without case count for neither side, and a title of few letters passes: it may be a name of capitals.
    """

    kind: Literal["capitals"] = "capitals"
    at_most: int = Field(default=60, ge=0, le=100)


def compile_capitals(rule: CapitalsRule, _context: SiftContext) -> Check:
    """Compare the share of capitals with the limit."""

    def check(captured: Captured, _now: datetime) -> Finding:
        title = captured.item.title
        capitals = sum(map(str.isupper, title))
        letters = capitals + sum(map(str.islower, title))
        share = round(100 * capitals / letters) if letters >= _FEWEST_LETTERS else 0
        passed = share <= rule.at_most
        data = {"share": share, "at_most": rule.at_most}
        return Finding(passed=passed, code="capitals.few" if passed else "capitals.many", data=data)

    return check


KIND = SiftKind(
    rule=CapitalsRule,
    compile=compile_capitals,
    order=45,
    label="Capitals",
    hint="how much of the title is in capitals",
    manual="at most so many percent of the title's letters are capitals, where it has eight letters or more",
    start={"at_most": 60},
    sentence="*Capitals* are at most {at_most} percent of the title's letters",
    places={"at_most": Number(label="At most", least=0, most=100)},
    findings={
        "capitals.many": Words(strong="{share} % capitals", rest="at most {at_most} %", reason="capitals"),
        "capitals.few": Words(rest="{share} % capitals"),
    },
)
