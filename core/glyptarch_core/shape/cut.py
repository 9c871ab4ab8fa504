"""Cut the body before or after a phrase, at the line that holds it."""

from collections.abc import Mapping
from enum import StrEnum
from typing import Literal

from glyptarch_core.item import Captured
from glyptarch_core.ports import BlogContext
from glyptarch_core.shape.base import Draftable, ShapeStepBase, Step
from glyptarch_core.term_text import TermText
from glyptarch_core.text import Passage, Term
from glyptarch_core.text.lines import lines_of
from glyptarch_core.trace import Json

__all__ = ["Cut", "CutSide", "compile_cut"]


class CutSide(StrEnum):
    """The side of the phrase that is removed."""

    BEFORE = "before"
    AFTER = "after"


class Cut(ShapeStepBase):
    """Remove everything before or after the first paragraph or line with a phrase.

    ``with_it`` also that.
    """

    kind: Literal["cut"] = "cut"
    side: CutSide = CutSide.AFTER
    phrase: TermText
    with_it: bool = True


def compile_cut(step: Cut, _context: BlogContext) -> Step:
    """Parse the phrase once.

    Lines are searched in text order.
    """
    term = Term.parse(step.phrase)

    def apply(parts: Draftable, _captured: Captured) -> Mapping[str, Json]:
        if not parts.passage.has(term):
            return {}
        root, body = parts.root, parts.body
        lines = list(lines_of(root))
        position = next((position for position, line in enumerate(lines) if Passage.of_text(line.text).has(term)), None)
        if position is None:
            return {}
        line_found = lines[position]
        if step.side is CutSide.AFTER:
            line_found.remove_after(root)
            gone = len(lines) - position - 1
        else:
            line_found.remove_before(root)
            gone = position
        if step.with_it:
            # Everything before the line is gone, so it is now the first with content.
            (line_found if step.side is CutSide.AFTER else next(lines_of(root))).remove(root)
            gone += 1
        parts.changed()
        return {"side": step.side.value, "blocks": gone, "at": line_found.text[:120]} if parts.body != body else {}

    return apply
