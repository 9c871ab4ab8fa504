"""All of, any of or none of some rules, which may be groups themselves."""

from datetime import datetime
from enum import StrEnum
from typing import TYPE_CHECKING, Literal, Self

from pydantic import Field, model_validator

from glyptarch_core.item import Captured
from glyptarch_core.sift.base import Check, Finding, SiftContext, SiftRuleBase
from glyptarch_core.sift.description import SiftKind
from glyptarch_core.sift.kinds.numbers import KIND as _NUMBER
from glyptarch_core.sift.kinds.terms import KIND as _TERMS
from glyptarch_core.trace import Json

if TYPE_CHECKING:
    from glyptarch_core.sift.registry import SiftRule

__all__ = ["KIND", "GroupMode", "GroupRule"]

_DEEPEST = 4


class GroupMode(StrEnum):
    """The number of rules that an item must pass."""

    ALL = "all"
    ANY = "any"
    NONE = "none"


class GroupRule(SiftRuleBase):
    """Rules combined into one result. What the inner rules do on failing is ignored."""

    kind: Literal["group"] = "group"
    mode: GroupMode = GroupMode.ANY
    rules: tuple["SiftRule", ...] = Field(min_length=1, max_length=50)

    @model_validator(mode="after")
    def _not_too_deep(self) -> Self:
        if self.depth > _DEEPEST:
            raise ValueError(f"groups may stand {_DEEPEST} deep in one another, no deeper")
        return self

    @property
    def depth(self) -> int:
        """The depth of nested groups.

        1 for a group without groups.
        """
        return 1 + max((rule.depth for rule in self.rules if isinstance(rule, GroupRule)), default=0)

    @property
    def looks_at_clock(self) -> bool:
        """Whether what any inner rule finds depends on the time of the pass."""
        return any(rule.looks_at_clock for rule in self.rules)

    @property
    def uses_lists(self) -> tuple[str, ...]:
        """Return the keys of the word lists that the inner rules use."""
        return tuple(key for rule in self.rules for key in rule.uses_lists)


def compile_group(rule: GroupRule, context: SiftContext) -> Check:
    """Compile the inner rules.

    All are evaluated, so that the trace can show each.
    """
    inner = [(part, context.compile(part)) for part in rule.rules if part.on]

    def check(captured: Captured, now: datetime) -> Finding:
        findings = [(part, part_check(captured, now)) for part, part_check in inner]
        passed = [finding.passed for _, finding in findings]
        holds = {GroupMode.ALL: all(passed), GroupMode.ANY: any(passed), GroupMode.NONE: not any(passed)}[rule.mode]
        parts: list[Json] = [
            {"rule": part.id, "code": finding.code, "passed": finding.passed, "data": finding.data}
            for part, finding in findings
        ]
        hits: list[Json] = [hit for _, finding in findings for hit in _hits(finding.data.get("hits"))]
        code = "group.holds" if holds or not inner else "group.fails"
        data: dict[str, Json] = {"mode": rule.mode.value, "parts": parts, "hits": hits[:12]}
        return Finding(passed=holds or not inner, code=code, data=data)

    return check


def _hits(value: Json) -> list[Json]:
    return list(value) if isinstance(value, list) else []


KIND = SiftKind(
    rule=GroupRule,
    compile=compile_group,
    order=80,
    label="Group",
    hint="all, any or none of several rules",
    manual="all, any or none of several rules, four levels deep at most",
    start={
        "mode": "any",
        "rules": [
            {"id": "terms", "title": "", "on": True, "failing": "refuse", "kind": "terms", **_TERMS.start},
            {"id": "number", "title": "", "on": True, "failing": "refuse", "kind": "number", **_NUMBER.start},
        ],
    },
)
