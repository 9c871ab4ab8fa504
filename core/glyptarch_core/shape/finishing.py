"""Steps that work on texts made by templates: title, excerpt, description, fields."""

from collections import defaultdict
from collections.abc import Callable, Mapping, Sequence
from typing import Final, TypeAlias

from glyptarch_core.item import Captured
from glyptarch_core.ports import BlogContext
from glyptarch_core.shape.base import Draftable, ShapeStepBase, Step, TextStepBase
from glyptarch_core.shape.registry import COMPILERS
from glyptarch_core.text import plain_text, text_to_html
from glyptarch_core.trace import Json, Note, Stage

__all__ = ["Finish", "code_of", "compile_finishing", "is_for_body"]

SAYS_NOTHING: Final = frozenset({"spared", "unread", "from", "to"})
"""What a step may tell of itself where it has changed nothing."""

Finish: TypeAlias = Callable[[str, str], str]
"""Gives, for a part and its text, the text that the steps of the part leave."""


def is_for_body(step: ShapeStepBase) -> bool:
    """Whether a step works on the body, before the templates."""
    return not isinstance(step, TextStepBase) or step.of == "body"


def code_of(kind: str, changed: Mapping[str, Json]) -> str:
    """Return the code of a step's note: what it did, that it may not, or that nothing was to do."""
    if "spared" in changed:
        return "step.spared"
    return f"step.{kind}" if changed.keys() - SAYS_NOTHING else "step.nothing"


def compile_finishing(
    steps: Sequence[ShapeStepBase], context: BlogContext
) -> Callable[[Captured, Draftable, list[Note]], Finish]:
    """Compile the steps that work on texts. Each has its note, in the order in which they work."""
    by_part: dict[str, list[tuple[TextStepBase, Step]]] = defaultdict(list)
    for step in steps:
        if isinstance(step, TextStepBase) and step.of != "body" and step.on:
            alone = step.for_text()
            by_part[step.of].append((alone, COMPILERS[type(step)](alone, context)))

    def of_item(captured: Captured, parts: Draftable, notes: list[Note]) -> Finish:
        def finish(part: str, text: str) -> str:
            for step, apply in by_part.get(part, ()):
                alone = parts.apart(text_to_html(text.replace("\n", "\n\n")))
                changed = apply(alone, captured) if text else {}
                after = plain_text(alone.body) if changed.keys() - SAYS_NOTHING else text
                data = {
                    "of": part,
                    **changed,
                    **({"before": text[:200], "after": after[:200]} if after != text else {}),
                }
                notes.append(
                    Note(
                        stage=Stage.SHAPE,
                        rule=step.id,
                        rule_title=step.title,
                        code=code_of(step.kind, changed),  # type: ignore[attr-defined]
                        against="kept" in changed,
                        data=data,
                    )
                )
                text = after
                parts.reworded |= alone.reworded
                parts.translated |= alone.translated
                parts.asks += alone.asks
            return text

        return finish

    return of_item
