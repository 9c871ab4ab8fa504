"""A regular expression, matched in time linear in the text (RE2 syntax)."""

from datetime import datetime
from typing import Annotated, Literal

import re2
from pydantic import AfterValidator, StringConstraints

from glyptarch_core.item import Captured
from glyptarch_core.sift.base import Check, CustomName, Finding, SiftContext, SiftRuleBase
from glyptarch_core.sift.description import SiftKind
from glyptarch_core.sift.fields import TextField, passages
from glyptarch_core.sift.hits import shown
from glyptarch_core.text import Hit
from glyptarch_core.trace import Json

__all__ = ["KIND", "PatternRule"]


def _options(*, case: bool) -> re2.Options:
    options = re2.Options()
    options.max_mem = 8 << 20
    options.log_errors = False
    options.case_sensitive = case
    return options


def _compiles(pattern: str) -> str:
    try:
        re2.compile(pattern, _options(case=True))
    except re2.error as error:
        reason = error.args[0] if error.args else ""
        text = reason.decode("utf-8", "replace") if isinstance(reason, bytes) else str(reason)
        raise ValueError(f"this pattern cannot be read: {text}") from error
    return pattern


class PatternRule(SiftRuleBase):
    """A pattern that must or must not match in a field. RE2 never hangs on any text."""

    kind: Literal["pattern"] = "pattern"
    field: TextField = TextField.TITLE
    name: CustomName = ""
    wanted: bool = True
    case_matters: bool = False
    pattern: Annotated[str, StringConstraints(min_length=1, max_length=500), AfterValidator(_compiles)]


def compile_pattern(rule: PatternRule, _context: SiftContext) -> Check:
    """Compile the pattern once."""
    pattern = re2.compile(rule.pattern, _options(case=rule.case_matters))

    def check(captured: Captured, _now: datetime) -> Finding:
        hits: list[Json] = []
        for where, passage in passages(rule.field, rule.name, captured):
            match = pattern.search(passage.text)
            if match:
                hits.append(shown(rule.pattern, where, passage, Hit(*match.span()), 1))
        code = "pattern.found" if hits else "pattern.not_found"
        return Finding(passed=bool(hits) is rule.wanted, code=code, data={"hits": hits, "pattern": rule.pattern})

    return check


KIND = SiftKind(
    rule=PatternRule,
    compile=compile_pattern,
    order=70,
    label="Pattern",
    hint="a regular expression",
    manual="a regular expression in RE2 syntax. Its time is linear, so it cannot hang",
    start={"field": "title", "name": "", "wanted": False, "case_matters": False, "pattern": "^ad:"},
)
