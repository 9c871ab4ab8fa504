"""Take out the paragraphs that hold a phrase: leftovers such as “originally posted on …”."""

from collections.abc import Mapping
from typing import Literal

from pydantic import Field

from glyptarch_core.item import Captured
from glyptarch_core.shape.base import Draftable, ShapeStepBase, Step
from glyptarch_core.term_text import TermText
from glyptarch_core.text import Passage, Term
from glyptarch_core.trace import Json

__all__ = ["DropParagraphs", "compile_drop_paragraphs"]

_BLOCKS = frozenset({"p", "li", "blockquote", "h1", "h2", "h3", "h4", "h5", "h6", "figcaption", "pre"})


class DropParagraphs(ShapeStepBase):
    """Every paragraph, list entry or heading that holds one of the terms leaves the body."""

    kind: Literal["drop_paragraphs"] = "drop_paragraphs"
    terms: tuple[TermText, ...] = Field(min_length=1, max_length=100)


def compile_drop_paragraphs(step: DropParagraphs) -> Step:
    """Parse the terms once; the step then looks at each innermost block of the body."""
    terms = [Term.parse(text) for text in step.terms]

    def apply(parts: Draftable, _captured: Captured) -> Mapping[str, Json]:
        whole = parts.passage
        if not any(whole.has(term) for term in terms):
            return {}
        dropped: list[str] = []
        for element in list(parts.root.iter(*_BLOCKS)):
            if any(True for _ in element.iterchildren(*_BLOCKS)):
                continue
            passage = Passage.of_text(" ".join("".join(element.itertext()).split()))
            if any(passage.has(term) for term in terms):
                dropped.append(passage.text[:200])
                element.drop_tree()
        if not dropped:
            return {}
        parts.changed()
        return {"dropped": dropped}

    return apply
