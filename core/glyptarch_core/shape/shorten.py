"""Cut title or body to a length, never inside a tag or a word."""

from collections.abc import Mapping
from enum import StrEnum
from typing import Literal, Self

from pydantic import Field

from glyptarch_core.item import Captured
from glyptarch_core.ports import BlogContext
from glyptarch_core.shape.base import Draftable, Step, TextStepBase
from glyptarch_core.text import Unit, count_words, cut, trim
from glyptarch_core.trace import Json

__all__ = ["Shorten", "ShortenPart", "compile_shorten"]


class ShortenPart(StrEnum):
    """The part that is cut."""

    TITLE = "title"
    BODY = "body"


class Shorten(TextStepBase):
    """Cut to a number of words, sentences, paragraphs or characters.

    Open tags are closed.
    """

    kind: Literal["shorten"] = "shorten"
    part: ShortenPart = ShortenPart.BODY
    unit: Unit = Unit.PARAGRAPHS
    count: int = Field(default=5, ge=1, le=100_000)
    ellipsis: str = Field(default="…", max_length=20)

    def for_text(self) -> Self:
        """Return the step as it works on a text alone."""
        return self.model_copy(update={"part": ShortenPart.BODY})


def _words_that_fit(text: str, step: Shorten) -> int | None:
    """Return how many words of the body fit, None where all do."""
    short = cut([block for block in text.split("\n") if block], unit=step.unit, count=step.count, ellipsis="")
    fitting, whole = count_words(short), count_words(text)
    return fitting if fitting < whole else None


def compile_shorten(step: Shorten, _context: BlogContext) -> Step:
    """Return the function over the part that is cut."""

    def title(parts: Draftable) -> Mapping[str, Json]:
        before = parts.title
        parts.title = cut([before], unit=step.unit, count=step.count, ellipsis=step.ellipsis)
        return {"before": before, "after": parts.title} if parts.title != before else {}

    def apply(parts: Draftable, _captured: Captured) -> Mapping[str, Json]:
        if step.part is ShortenPart.TITLE:
            return title(parts)
        text = parts.passage.text
        fitting = _words_that_fit(text, step)
        if fitting is None:
            return {}
        ellipsis = step.ellipsis if step.unit in {Unit.WORDS, Unit.CHARACTERS} else ""
        trim(parts.root, fitting, ellipsis=ellipsis)
        parts.changed()
        return {"words": count_words(text), "kept": fitting}

    return apply
