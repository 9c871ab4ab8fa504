"""Sift: filter rules. An item must pass every rule that is on."""

from glyptarch_core.sift.base import Failing, Finding, SiftRuleBase, Unknown
from glyptarch_core.sift.fields import Amount, TextField, Trait
from glyptarch_core.sift.kinds.age import AgeRule
from glyptarch_core.sift.kinds.group import GroupMode, GroupRule
from glyptarch_core.sift.kinds.numbers import NumberRule
from glyptarch_core.sift.kinds.pattern import PatternRule
from glyptarch_core.sift.kinds.presence import PresenceRule
from glyptarch_core.sift.kinds.query import QueryRule, parse_query
from glyptarch_core.sift.kinds.terms import TermsMode, TermsRule
from glyptarch_core.sift.kinds.values import ValuesRule
from glyptarch_core.sift.registry import SiftRule
from glyptarch_core.sift.stage import Sifted, compile_sift

__all__ = [
    "AgeRule",
    "Amount",
    "Failing",
    "Finding",
    "GroupMode",
    "GroupRule",
    "NumberRule",
    "PatternRule",
    "PresenceRule",
    "QueryRule",
    "SiftRule",
    "SiftRuleBase",
    "Sifted",
    "TermsMode",
    "TermsRule",
    "TextField",
    "Trait",
    "Unknown",
    "ValuesRule",
    "compile_sift",
    "parse_query",
]
