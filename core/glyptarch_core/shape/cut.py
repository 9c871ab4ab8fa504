"""Cut the body before or after a phrase, at the block that holds it."""

from collections.abc import Mapping
from enum import StrEnum
from typing import Literal

from glyptarch_core.item import Captured
from glyptarch_core.ports import House
from glyptarch_core.shape.base import Draftable, ShapeStepBase, Step
from glyptarch_core.term_text import TermText
from glyptarch_core.text import Passage, Term
from glyptarch_core.trace import Json

__all__ = ["Cut", "CutSide", "compile_cut"]


class CutSide(StrEnum):
    """Which side of the phrase goes."""

    BEFORE = "before"
    AFTER = "after"


class Cut(ShapeStepBase):
    """Everything before or after the block that first holds a phrase goes; ``with_it`` the block as well."""

    kind: Literal["cut"] = "cut"
    side: CutSide = CutSide.AFTER
    phrase: TermText
    with_it: bool = True


def compile_cut(step: Cut, _house: House) -> Step:
    """Parse the phrase once; blocks are looked at in the order of the text."""
    term = Term.parse(step.phrase)

    def apply(parts: Draftable, _captured: Captured) -> Mapping[str, Json]:
        if not parts.passage.has(term):
            return {}
        root = parts.root
        blocks = list(root.iterchildren())
        for place, block in enumerate(blocks):
            text = " ".join("".join(block.itertext()).split())
            if not Passage.of_text(text).has(term):
                continue
            gone = blocks[place + 1 :] if step.side is CutSide.AFTER else blocks[:place]
            gone = [*gone, block] if step.with_it else gone
            if not gone:
                return {}
            for other in gone:
                other.tail = None
                root.remove(other)
            if step.side is CutSide.BEFORE:
                root.text = None
            parts.changed()
            return {"side": step.side.value, "blocks": len(gone), "at": text[:120]}
        return {}

    return apply
