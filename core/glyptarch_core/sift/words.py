"""How many words the text has."""

from datetime import datetime
from typing import Literal, Self

from pydantic import Field, model_validator

from glyptarch_core.item import Captured
from glyptarch_core.sift.base import Check, Finding, SiftRuleBase

__all__ = ["WordsRule", "compile_words"]


class WordsRule(SiftRuleBase):
    """The text (or the summary, where there is no text) has between so many words; an empty bound is open."""

    kind: Literal["words"] = "words"
    at_least: int | None = Field(default=None, ge=0, le=1_000_000)
    at_most: int | None = Field(default=None, ge=0, le=1_000_000)

    @model_validator(mode="after")
    def _bounded(self) -> Self:
        if self.at_least is None and self.at_most is None:
            raise ValueError("give “at least”, “at most” or both")
        if self.at_least is not None and self.at_most is not None and self.at_least > self.at_most:
            raise ValueError(f"nothing has at least {self.at_least} and at most {self.at_most} words")
        return self


def compile_words(rule: WordsRule) -> Check:
    """Compare the word count of an item with the bounds."""

    def check(captured: Captured, _now: datetime) -> Finding:
        words = captured.features.words
        data = {"words": words, "at_least": rule.at_least, "at_most": rule.at_most}
        if rule.at_least is not None and words < rule.at_least:
            return Finding(passed=False, code="words.few", data=data)
        if rule.at_most is not None and words > rule.at_most:
            return Finding(passed=False, code="words.many", data=data)
        return Finding(passed=True, code="words.within", data=data)

    return check
