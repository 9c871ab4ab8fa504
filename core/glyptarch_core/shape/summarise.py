"""Put the most telling sentences in the place of a text."""

from collections.abc import Mapping
from typing import Literal

from lxml.html import Element
from pydantic import Field

from glyptarch_core.editions import summary
from glyptarch_core.item import Captured
from glyptarch_core.ports import BlogContext
from glyptarch_core.shape.base import Draftable, Step, TextStepBase
from glyptarch_core.text import Unit, count_words
from glyptarch_core.trace import Json

__all__ = ["Summarise", "compile_summarise"]


class Summarise(TextStepBase):
    """Keep the most telling sentences of the body, word for word, with at most so many words.

    Pictures, links and tables of the body go. A body that is short enough stays as it is.
    """

    kind: Literal["summarise"] = "summarise"
    words: int = Field(default=120, ge=5, le=2000)


def compile_summarise(step: Summarise, context: BlogContext) -> Step:
    """Return the function over a body."""

    def apply(parts: Draftable, captured: Captured) -> Mapping[str, Json]:
        text = parts.passage.text
        before = count_words(text)
        if before <= step.words:
            return {}
        paragraphs = [line for line in text.split("\n") if line]
        language = captured.language or context.language
        kept = summary(paragraphs, unit=Unit.WORDS, count=step.words, language=language)
        root = Element("div")
        for line in kept:
            paragraph = Element("p")
            paragraph.text = line
            root.append(paragraph)
        parts.replace(root)
        return {"words": before, "kept": count_words("\n".join(kept))}

    return apply
