"""Text of the blog before or after the body, with variables.

One of several variants per item.
"""

from collections.abc import Mapping
from enum import StrEnum
from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from glyptarch_core.item import Captured
from glyptarch_core.ports import BlogContext
from glyptarch_core.shape.base import Draftable, Step, TextStepBase, choice_for
from glyptarch_core.shape.templates import compile_template, names_in, parses, variables
from glyptarch_core.text.markup import append, fragment
from glyptarch_core.trace import Json

__all__ = ["Standing", "StandingSide", "compile_standing"]


class StandingSide(StrEnum):
    """The side on which the text is added."""

    BEFORE = "before"
    AFTER = "after"


Variant = Annotated[str, Field(min_length=1, max_length=5000), AfterValidator(lambda text: parses(text, html=True))]


class Standing(TextStepBase):
    """An added text.

    An item always gets the same of several variants, so a proof equals the run.
    """

    kind: Literal["standing"] = "standing"
    side: StandingSide = StandingSide.AFTER
    variants: tuple[Variant, ...] = Field(min_length=1, max_length=20)


def compile_standing(step: Standing, _context: BlogContext) -> Step:
    """Parse every variant once."""
    templates = [(compile_template(variant, html=True), names_in(variant)) for variant in step.variants]

    def apply(parts: Draftable, captured: Captured) -> Mapping[str, Json]:
        number = choice_for(captured, len(templates))
        fill, used = templates[number]
        text = fill(variables(captured, parts, used, excerpt="", lead=None)).strip()
        if not text:
            return {}
        block = fragment(text if text.startswith("<") else f"<p>{text}</p>")
        first, second = (block, parts.root) if step.side is StandingSide.BEFORE else (parts.root, block)
        append(first, second)
        parts.replace(first)
        return {"side": step.side.value, "variant": number + 1, "text": text[:200]}

    return apply
