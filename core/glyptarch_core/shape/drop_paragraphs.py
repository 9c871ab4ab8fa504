"""Remove paragraphs with a phrase: leftovers such as “originally posted on …”."""

from collections.abc import Iterable, Mapping
from typing import Literal

from pydantic import Field

from glyptarch_core.item import Captured
from glyptarch_core.ports import BlogContext
from glyptarch_core.settings import LibraryKey
from glyptarch_core.shape.base import Draftable, ShapeStepBase, Step
from glyptarch_core.term_text import LooksForTerms, TermText, all_terms
from glyptarch_core.text import Passage, Term
from glyptarch_core.text.lines import lines_of
from glyptarch_core.trace import Json

__all__ = ["DropParagraphs", "compile_drop_paragraphs"]


class DropParagraphs(LooksForTerms, ShapeStepBase):
    """Remove every paragraph, list entry, heading or line with one of the terms.

    ``lists`` are keys of word lists whose terms count as well.
    """

    kind: Literal["drop_paragraphs"] = "drop_paragraphs"
    terms: tuple[TermText, ...] = Field(default=(), max_length=100)
    lists: tuple[LibraryKey, ...] = Field(default=(), max_length=20)


def _may_have(text: str, words: Iterable[str]) -> bool:
    """Whether a folded word may occur in the text: a quick test before the exact one."""
    if not text.isascii():
        return True
    lower = text.lower()
    return any(word in lower for word in words)


def compile_drop_paragraphs(step: DropParagraphs, context: BlogContext) -> Step:
    """Parse the terms once.

    The step tests each line of the body.
    """
    terms = [Term.parse(text) for text in all_terms(step.terms, step.lists, context.lists)]
    # No emoji occurs in ASCII text, so only other lines are searched for them.
    firsts = {term.words[0][0] for term in terms if term.words}

    def apply(parts: Draftable, _captured: Captured) -> Mapping[str, Json]:
        whole = parts.passage
        if not any(whole.has(term) for term in terms):
            return {}
        dropped: list[str] = []
        for line in reversed(list(lines_of(parts.root))):
            if not _may_have(line.raw, firsts):
                continue
            passage = Passage.of_text(line.text)
            if any(passage.has(term) for term in terms):
                dropped.append(passage.text[:200])
                line.remove(parts.root)
        if not dropped:
            return {}
        parts.changed()
        return {"dropped": dropped[::-1]}

    return apply
