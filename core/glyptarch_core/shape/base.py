"""What every Shape step works on, and what it gives back."""

import zlib
from collections.abc import Callable, Mapping
from typing import TypeAlias

from lxml.html import HtmlElement

from glyptarch_core.item import Captured
from glyptarch_core.settings import RuleSettings
from glyptarch_core.text import Passage
from glyptarch_core.text.markup import fragment, plain_text, serialise, text_of
from glyptarch_core.trace import Json

__all__ = ["Draftable", "ShapeStepBase", "Step", "choice_for"]


class ShapeStepBase(RuleSettings):
    """Settings common to all steps."""

    @property
    def uses_tables(self) -> tuple[str, ...]:
        """Give the keys of the blog's tables that the step goes by."""
        return ()


class Draftable:
    """The parts of a post while the steps work on them: a plain title, and a body as HTML or as a tree.

    The body is parsed once for all steps: each changes the tree in place and then says so. HTML
    and text are made of it again only when one asks for them after a change.
    """

    __slots__ = ("_body", "_passage", "_root", "title")

    def __init__(self, *, title: str, body: str, passage: Passage | None = None) -> None:
        self.title = title
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
        """What a reader sees of the body."""
        if self._passage is None:
            self._passage = Passage(text_of(self._root) if self._root is not None else plain_text(self.body))
        return self._passage

    def changed(self, *, text: bool = True) -> None:
        """Say that the tree has been changed; without ``text`` only in what a reader does not read."""
        self._body = None
        if text:
            self._passage = None

    def replace(self, root: HtmlElement) -> None:
        """Put another tree in the place of the body."""
        self._root = root
        self.changed()


def choice_for(captured: Captured, among: int) -> int:
    """Choose one of so many for an item: always the same one, in no order that anybody chose."""
    return zlib.crc32(captured.features.identity_key.encode("utf-8", "surrogatepass")) % among


Step: TypeAlias = Callable[[Draftable, Captured], Mapping[str, Json]]
"""A compiled step: it works on the parts in place and gives what it changed, nothing where it changed nothing."""
