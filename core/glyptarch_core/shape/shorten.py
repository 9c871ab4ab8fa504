"""Cut title or body to a length; never inside a tag or a word."""

from enum import StrEnum
from typing import Literal

from pydantic import Field

from glyptarch_core.item import Captured
from glyptarch_core.shape.base import Draftable, ShapeStepBase, Step, StepResult
from glyptarch_core.text import Unit, cut, first_words_of, plain_text

__all__ = ["Shorten", "ShortenPart", "compile_shorten"]


class ShortenPart(StrEnum):
    """Which part is cut."""

    TITLE = "title"
    BODY = "body"


class Shorten(ShapeStepBase):
    """At most so many words, sentences, paragraphs or characters. In a body tags are closed where it is cut."""

    kind: Literal["shorten"] = "shorten"
    part: ShortenPart = ShortenPart.BODY
    unit: Unit = Unit.PARAGRAPHS
    count: int = Field(default=5, ge=1, le=100_000)
    ellipsis: str = Field(default="…", max_length=20)


def _words_that_fit(body: str, step: Shorten) -> int | None:
    """Give how many words of the body fit, or None where all of it does."""
    text = plain_text(body)
    short = cut([block for block in text.split("\n") if block], unit=step.unit, count=step.count, ellipsis="")
    fitting, whole = len(short.split()), len(text.split())
    return fitting if fitting < whole else None


def compile_shorten(step: Shorten) -> Step:
    """Give the function over the part that is cut."""

    def title(parts: Draftable) -> StepResult:
        short = cut([parts.title], unit=step.unit, count=step.count, ellipsis=step.ellipsis)
        if short == parts.title:
            return StepResult(parts=parts)
        changed = {"before": parts.title, "after": short}
        return StepResult(parts=Draftable(title=short, body=parts.body), changed=changed)

    def apply(parts: Draftable, _captured: Captured) -> StepResult:
        if step.part is ShortenPart.TITLE:
            return title(parts)
        fitting = _words_that_fit(parts.body, step)
        if fitting is None:
            return StepResult(parts=parts)
        ellipsis = step.ellipsis if step.unit in {Unit.WORDS, Unit.CHARACTERS} else ""
        made = Draftable(title=parts.title, body=first_words_of(parts.body, fitting, ellipsis=ellipsis))
        return StepResult(parts=made, changed={"words": len(plain_text(parts.body).split()), "kept": fitting})

    return apply
