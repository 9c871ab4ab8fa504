"""Sift: filter rules. An item must pass every rule that is on."""

from glyptarch_core.sift.age import AgeRule
from glyptarch_core.sift.base import Failing, Finding, SiftRuleBase, Unknown
from glyptarch_core.sift.fields import Amount, TextField, Trait
from glyptarch_core.sift.group import GroupMode, GroupRule
from glyptarch_core.sift.numbers import NumberRule
from glyptarch_core.sift.pattern import PatternRule
from glyptarch_core.sift.presence import PresenceRule
from glyptarch_core.sift.query import QueryRule, parse_query
from glyptarch_core.sift.registry import SiftRule
from glyptarch_core.sift.stage import Sifted, compile_sift
from glyptarch_core.sift.terms import TermsMode, TermsRule
from glyptarch_core.sift.values import ValuesRule

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
