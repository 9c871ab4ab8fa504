"""The age of an item at the time of the pass."""

from datetime import datetime, timedelta
from typing import ClassVar, Literal

from pydantic import Field

from glyptarch_core.item import Captured
from glyptarch_core.sift.base import Check, Finding, SiftContext, SiftRuleBase
from glyptarch_core.sift.description import Hours, SiftKind, Words
from glyptarch_core.trace import Json

__all__ = ["KIND", "AgeRule"]

_HOUR = timedelta(hours=1)


class AgeRule(SiftRuleBase):
    """Published within so many hours before the pass.

    An item without a date counts from its capture.
    """

    _looks_at_clock: ClassVar[bool] = True

    kind: Literal["age"] = "age"
    within_hours: int = Field(ge=1, le=24 * 3650)


def compile_age(rule: AgeRule, _context: SiftContext) -> Check:
    """Compare the age of an item, in whole hours, with the limit."""
    limit = timedelta(hours=rule.within_hours)

    def check(captured: Captured, now: datetime) -> Finding:
        age = now - captured.dated
        data: dict[str, Json] = {
            "hours": int(age / _HOUR),
            "within_hours": rule.within_hours,
            "dated": captured.dated.isoformat(),
        }
        passed = age <= limit
        return Finding(passed=passed, code="age.within" if passed else "age.old", data=data)

    return check


KIND = SiftKind(
    rule=AgeRule,
    compile=compile_age,
    order=40,
    label="Age",
    hint="published within so many hours or days",
    manual="published within so many hours before the run",
    start={"within_hours": 720},
    sentence="*Published* within {within_hours} before the run",
    places={"within_hours": Hours(label="How long", most=24 * 3650)},
    findings={
        "age.old": Words(strong="{hours:age} old", rest="limit {within_hours:hours}", reason="too old"),
        "age.within": Words(rest="{hours:age} old"),
    },
)
