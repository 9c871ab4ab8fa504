"""The input and result of every Shape step."""

import zlib
from collections.abc import Callable, Mapping, Sequence
from typing import Annotated, Self, TypeAlias

from lxml.html import HtmlElement
from pydantic import StringConstraints

from glyptarch_core.item import Captured
from glyptarch_core.language_services import Answer, Ask, Texts
from glyptarch_core.settings import RuleSettings
from glyptarch_core.source_words import TemplateWords
from glyptarch_core.text import Passage
from glyptarch_core.text.markup import fragment, plain_text, serialise, text_of
from glyptarch_core.trace import Json

__all__ = ["Draftable", "ShapeStepBase", "Step", "StepPart", "TextStepBase", "choice_for"]


class ShapeStepBase(RuleSettings):
    """Settings common to all steps."""

    @property
    def uses_tables(self) -> tuple[str, ...]:
        """Return the keys of the tables that the step uses."""
        return ()

    @property
    def uses_services(self) -> tuple[str, ...]:
        """Return the keys of the language services that the step asks."""
        return ()


StepPart = Annotated[str, StringConstraints(pattern=r"^(body|title|excerpt|description|fields\.[a-z][a-z0-9_]{0,39})$")]
"""What a step works on: the body, or a text that a template has made."""


class TextStepBase(ShapeStepBase):
    """Settings of steps that can work on any text of a post.

    On the body they work before the templates, on the others on what the template has made, in their order.
    """

    of: StepPart = "body"

    def for_text(self) -> Self:
        """Return the step as it works on a text alone, without a place of its own within a post."""
        return self


class Draftable:
    """The parts of a post during the steps: a plain title, and a body as HTML or as a tree.

    The body is parsed once for all steps. Each step changes the tree in place and reports it; HTML and text are derived
    again only on demand.
    """

    __slots__ = (
        *("_body", "_passage", "_root", "_texts", "asks", "frames", "language", "reworded", "title", "translated"),
        "words",
    )

    def __init__(
        self,
        *,
        title: str,
        body: str,
        passage: Passage | None = None,
        frames: Sequence[str] = (),
        words: TemplateWords | None = None,
        texts: Texts | None = None,
    ) -> None:
        self.title = title
        # What a step has asked of language services and is not answered yet.
        self.asks: list[Ask] = []
        self._texts = texts
        # The language that a step has translated into. Empty where none has.
        self.language = ""
        self.translated = False
        # Whether words were put in the place of others by synonyms, which a post may have to say.
        self.reworded = False
        # What templates may have of the source's words. None for all of them.
        self.words = words
        # The hosts of the frames that became links.
        self.frames = frames
        self._body: str | None = body
        self._root: HtmlElement | None = None
        self._passage = passage

    @property
    def body(self) -> str:
        """The body as HTML."""
        if self._body is None:
            self._body = serialise(self.root)
        return self._body

    @property
    def root(self) -> HtmlElement:
        """The body as a tree: one ``div`` that holds it."""
        if self._root is None:
            self._root = fragment(self._body or "")
        return self._root

    @property
    def passage(self) -> Passage:
        """The visible text of the body."""
        if self._passage is None:
            self._passage = Passage(text_of(self._root) if self._root is not None else plain_text(self.body))
        return self._passage

    def ask(self, ask: Ask) -> Answer | None:
        """Return the answer of a language service. What there is none for yet is noted in ``asks``."""
        answer = self._texts.answer(ask) if self._texts else None
        if answer is None:
            self.asks.append(ask)
        return answer

    def apart(self, text: str) -> "Draftable":
        """Return parts for a text alone, with the same answers of services."""
        alone = Draftable(title=self.title, body=text, words=self.words, texts=self._texts)
        alone.language = self.language
        return alone

    def changed(self, *, text: bool = True) -> None:
        """Note a change of the tree.

        ``text`` says whether the visible text changed.
        """
        self._body = None
        if text:
            self._passage = None

    def replace(self, root: HtmlElement) -> None:
        """Put another tree in the place of the body."""
        self._root = root
        self.changed()


def choice_for(captured: Captured, among: int) -> int:
    """Return a number below ``count`` for an item: pseudo-random and always the same."""
    return zlib.crc32(captured.features.identity_key.encode("utf-8", "surrogatepass")) % among


Step: TypeAlias = Callable[[Draftable, Captured], Mapping[str, Json]]
"""A compiled step: it works on the parts in place and gives what it changed, nothing where it changed nothing."""
