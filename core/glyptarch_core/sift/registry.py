"""Every kind of filter rule: its settings class and the function that compiles it."""

from collections.abc import Callable, Mapping
from typing import Annotated, Any, TypeAlias

from pydantic import Field

from glyptarch_core.sift.age import AgeRule, compile_age
from glyptarch_core.sift.base import Check, SiftRuleBase
from glyptarch_core.sift.terms import TermsRule, compile_terms
from glyptarch_core.sift.words import WordsRule, compile_words

__all__ = ["COMPILERS", "SiftRule"]

SiftRule: TypeAlias = Annotated[TermsRule | WordsRule | AgeRule, Field(discriminator="kind")]

COMPILERS: Mapping[type[SiftRuleBase], Callable[[Any], Check]] = {
    TermsRule: compile_terms,
    WordsRule: compile_words,
    AgeRule: compile_age,
}
