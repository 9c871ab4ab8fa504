"""Every kind of filter rule: its settings class and the function that compiles it."""

from collections.abc import Callable, Mapping
from typing import Annotated, Any, TypeAlias

from pydantic import Field

from glyptarch_core.sift.age import AgeRule, compile_age
from glyptarch_core.sift.base import Check, SiftContext, SiftRuleBase
from glyptarch_core.sift.group import GroupRule, compile_group
from glyptarch_core.sift.numbers import NumberRule, compile_number
from glyptarch_core.sift.pattern import PatternRule, compile_pattern
from glyptarch_core.sift.presence import PresenceRule, compile_presence
from glyptarch_core.sift.query import QueryRule, compile_query
from glyptarch_core.sift.terms import TermsRule, compile_terms
from glyptarch_core.sift.values import ValuesRule, compile_values

__all__ = ["COMPILERS", "SiftRule", "compile_rule"]

SiftRule: TypeAlias = Annotated[
    TermsRule | QueryRule | PatternRule | ValuesRule | NumberRule | AgeRule | PresenceRule | GroupRule,
    Field(discriminator="kind"),
]
GroupRule.model_rebuild()

COMPILERS: Mapping[type[SiftRuleBase], Callable[[Any, SiftContext], Check]] = {
    TermsRule: compile_terms,
    QueryRule: compile_query,
    PatternRule: compile_pattern,
    ValuesRule: compile_values,
    NumberRule: compile_number,
    AgeRule: compile_age,
    PresenceRule: compile_presence,
    GroupRule: compile_group,
}


def compile_rule(rule: SiftRuleBase, lists: Mapping[str, tuple[str, ...]]) -> Check:
    """Compile one rule, with the blog's word lists at hand."""
    context = SiftContext(lists=lists, compile=lambda inner: compile_rule(inner, lists))
    return COMPILERS[type(rule)](rule, context)
