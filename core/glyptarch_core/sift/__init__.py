"""Sift: filter rules. An item must pass every rule that is on."""

from glyptarch_core.sift.age import AgeRule
from glyptarch_core.sift.base import Failing, Finding, SiftRuleBase
from glyptarch_core.sift.registry import SiftRule
from glyptarch_core.sift.stage import Sifted, compile_sift
from glyptarch_core.sift.terms import TermsField, TermsMode, TermsRule
from glyptarch_core.sift.words import WordsRule

__all__ = [
    "AgeRule",
    "Failing",
    "Finding",
    "SiftRule",
    "SiftRuleBase",
    "Sifted",
    "TermsField",
    "TermsMode",
    "TermsRule",
    "WordsRule",
    "compile_sift",
]
