"""Steps that ask language services: translate, and say in other or fewer words.

They only look into the text memory. What is not there is noted with the parts, and the item waits for it.
"""

from collections.abc import Iterable, Mapping, Sequence
from typing import Literal, Protocol, Self

from lxml.html import Element, HtmlElement
from pydantic import Field

from glyptarch_core.editions import asked_of, blocks_of, fixed_words, same_runs
from glyptarch_core.item import Captured, Right
from glyptarch_core.language_services import Answer, Ask, FixedWord, TextTask
from glyptarch_core.languages import base_language
from glyptarch_core.ports import BlogContext
from glyptarch_core.settings import LanguageTag, LibraryKey
from glyptarch_core.shape.base import Draftable, Step, TextStepBase
from glyptarch_core.shape.replace import ReplaceIn
from glyptarch_core.text import sanitise
from glyptarch_core.text.markup import fragment
from glyptarch_core.trace import Json

__all__ = ["Rewrite", "Translate", "compile_rewrite", "compile_translate"]

_SHOWN = 12
_SHOWN_CHARACTERS = 160


class ServiceStepBase(TextStepBase):
    """Settings of steps that ask language services, the first one that answers.

    Terms of the ``glossary`` tables stay as they are, or have the replacement that stands beside them.
    """

    services: tuple[LibraryKey, ...] = Field(min_length=1, max_length=5)
    glossary: tuple[LibraryKey, ...] = Field(default=(), max_length=20)
    where: ReplaceIn = ReplaceIn.BOTH

    @property
    def uses_tables(self) -> tuple[str, ...]:
        """Return the keys of the glossary."""
        return self.glossary

    @property
    def uses_services(self) -> tuple[str, ...]:
        """Return the keys of the services."""
        return self.services

    def for_text(self) -> Self:
        """Return the step as it works on a text alone."""
        return self.model_copy(update={"where": ReplaceIn.BODY})


class Translate(ServiceStepBase):
    """Translate the body and the title block by block into the language ``to`` (BCP 47).

    What is in that language already stays, and so does what its source allows to link only.
    """

    kind: Literal["translate"] = "translate"
    to: LanguageTag


class Rewrite(ServiceStepBase):
    """Have the body and the title said in other words, or the body in at most so many ``words``."""

    kind: Literal["rewrite"] = "rewrite"
    task: Literal[TextTask.REWORD, TextTask.SUMMARISE] = TextTask.REWORD
    words: int = Field(default=120, ge=20, le=1000)


class _Puttable(Protocol):
    """A text and the way to put another in its place."""

    text: str

    def put(self, text: str) -> None: ...


class _Title:
    """The title of a post as a block."""

    def __init__(self, parts: Draftable) -> None:
        self._parts = parts
        self.text = parts.title.strip()

    def put(self, text: str) -> None:
        """Put another title in its place."""
        self._parts.title = text


class _Whole:
    """The text of a body as one block, which a summary takes the place of."""

    def __init__(self, parts: Draftable) -> None:
        self._parts = parts
        self.text = " ".join(parts.passage.text.split())

    def put(self, text: str) -> None:
        """Put a summary in the place of the body."""
        root, paragraph = Element("div"), Element("p")
        paragraph.text = text
        root.append(paragraph)
        self._parts.replace(root)


class _Work:
    """One pass of a step over one item: what was asked and what came of it."""

    def __init__(self, step: ServiceStepBase, glossary: Sequence[FixedWord], parts: Draftable) -> None:
        self._step, self._glossary, self._parts = step, glossary, parts
        self.done: list[tuple[str, str]] = []
        self.faults: list[tuple[str, str]] = []
        self.by: dict[str, None] = {}
        self.waits = 0

    def blocks(self, blocks: Iterable[_Puttable], task: TextTask, source: str, target: str, words: int = 0) -> bool:
        """Put the answers in the place of blocks. Return whether one has changed.

        The blocks of a text with a fault stay alone: the others change.
        """
        changed = False
        listed = list(blocks)
        whole = "\n".join(block.text for block in listed)
        for block in listed:
            ask = asked_of(
                block.text,
                whole,
                task=task,
                services=self._step.services,
                source=source,
                target=target,
                words=words,
                glossary=self._glossary,
            )
            answer = self._parts.ask(ask)
            if answer is None:
                self.waits += 1
            elif self._put(block, ask, answer):
                changed = True
        return changed

    def _put(self, block: _Puttable, ask: Ask, answer: Answer) -> bool:
        if answer.fault:
            self.faults.append((answer.fault, ask.text))
            return False
        try:
            block.put(answer.text)
        except ValueError:
            self.faults.append(("marks", ask.text))
            return False
        self.done.append((ask.text, answer.text))
        self.by[answer.by] = None
        return answer.text != ask.text

    def told(self) -> dict[str, Json]:
        """Return what a trace tells of it."""
        told: dict[str, Json] = {}
        if self.done:
            told |= {"blocks": len(self.done), "by": list(self.by)}
            told["examples"] = [[_short(before), _short(after)] for before, after in self.done[:_SHOWN]]
        if self.waits:
            told["waits"] = self.waits
        if self.faults:
            told["kept"] = len(self.faults)
            told["faults"] = [[fault, _short(text)] for fault, text in self.faults[:_SHOWN]]
        return told


def _short(text: str) -> str:
    return text if len(text) <= _SHOWN_CHARACTERS else f"{text[:_SHOWN_CHARACTERS]}…"


def _glossary(step: ServiceStepBase, context: BlogContext) -> list[FixedWord]:
    return [fixed_words(row.what, row.by) for key in step.glossary for row in context.tables.get(key, ())]


def _seen(parts: Draftable) -> HtmlElement:
    """Return the body as readers will see it: what is hidden is told to no service."""
    return fragment(sanitise(parts.body))


def compile_translate(step: Translate, context: BlogContext) -> Step:
    """Read the glossary once."""
    glossary = _glossary(step, context)

    def apply(parts: Draftable, captured: Captured) -> Mapping[str, Json]:
        if captured.source.rights.right is Right.LINK:
            return {"spared": "rights"}
        source = parts.language or captured.language
        if base_language(source) == base_language(step.to):
            return {"spared": "language"}
        work = _Work(step, glossary, parts)
        if step.where is not ReplaceIn.TITLE:
            root = _seen(parts)
            if work.blocks(blocks_of(root), TextTask.TRANSLATE, source, step.to):
                parts.replace(root)
        if step.where is not ReplaceIn.BODY:
            work.blocks([_Title(parts)] if parts.title.strip() else [], TextTask.TRANSLATE, source, step.to)
        if work.done:
            parts.language = step.to
            parts.translated = True
        return {**work.told(), "from": source, "to": step.to}

    return apply


def compile_rewrite(step: Rewrite, context: BlogContext) -> Step:
    """Read the glossary once."""
    glossary = _glossary(step, context)

    def apply(parts: Draftable, captured: Captured) -> Mapping[str, Json]:
        if captured.source.rights.right is Right.LINK:
            return {"spared": "rights"}
        language = parts.language or captured.language or context.language
        work, before = _Work(step, glossary, parts), parts.passage.text
        if step.task is TextTask.SUMMARISE:
            if len(before.split()) > step.words:
                work.blocks([_Whole(parts)], step.task, language, language, step.words)
            return work.told()
        if step.where is not ReplaceIn.TITLE:
            root = _seen(parts)
            if work.blocks(blocks_of(root), step.task, language, language):
                parts.replace(root)
        if step.where is not ReplaceIn.BODY:
            work.blocks([_Title(parts)] if parts.title.strip() else [], step.task, language, language)
        told = work.told()
        if work.done:
            parts.reworded = True
            told["same"] = round(100 * same_runs(parts.passage.text, before))
        return told

    return apply
