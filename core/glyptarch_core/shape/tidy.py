"""Clean up: empty paragraphs, inline styles, tracking pixels, spaces, and quotes."""

import re
from collections.abc import Mapping
from typing import Literal

from lxml import etree
from lxml.html import Element, HtmlElement

from glyptarch_core.item import Captured
from glyptarch_core.ports import BlogContext
from glyptarch_core.shape.base import Draftable, ShapeStepBase, Step
from glyptarch_core.text import pixels
from glyptarch_core.text.markup import BLOCKS
from glyptarch_core.text.quotes import typographic
from glyptarch_core.text.slots import text_runs
from glyptarch_core.trace import Json

__all__ = ["Tidy", "compile_tidy"]

_EMPTY = frozenset("p div span li h1 h2 h3 h4 h5 h6 blockquote figure em strong".split())
_HOLDS = ("img", "video", "audio", "iframe", "hr", "br", "picture", "table")
_BLANK = " \t\r\n\xa0"
_SPACE = frozenset(_BLANK)
_LOOKS = ("style", "class", "id", "align", "bgcolor")
_PIXEL = 2
_SPACES = re.compile(r"[ \t\xa0]{2,}")


class Tidy(ShapeStepBase):
    """Each part of the clean-up can be switched off. Quotes follow the language of the item."""

    kind: Literal["tidy"] = "tidy"
    empty: bool = True
    styles: bool = True
    pixels: bool = True
    spaces: bool = True
    quotes: bool = False


def _is_pixel(image: HtmlElement) -> bool:
    sizes = (pixels(image.get(name)) for name in ("width", "height"))
    return any(size is not None and size <= _PIXEL for size in sizes)


def _is_empty(element: HtmlElement) -> bool:
    if (element.text or "").strip(_BLANK) or "".join(element.itertext()).strip(_BLANK):
        return False
    return next(element.iter(*_HOLDS), None) is None


def _drop_between_words(element: HtmlElement) -> None:
    """Remove an empty element.

    A block between two texts leaves a line break, a blank one its space.
    """
    before = element.getprevious()
    text = (element.getparent().text if before is None else before.tail) or ""
    after = element.tail or ""
    if element.tag in BLOCKS:
        if text.strip(_BLANK) and after.strip(_BLANK):
            element.addprevious(Element("br"))
    elif element.text_content() and text[-1:] not in _SPACE and after[:1] not in _SPACE:
        element.tail = f" {after}"
    element.drop_tree()


def _may_have_double_spaces(text: str) -> bool:
    # Faster than searching each text with the pattern, since most have no such space.
    return "  " in text or "\t" in text or "\xa0" in text


class _Cleaner:
    def __init__(self, step: Tidy, language: str) -> None:
        self._step = step
        self._language = language
        self.done: dict[str, int] = {}

    def _count(self, what: str) -> None:
        self.done[what] = self.done.get(what, 0) + 1

    def clean(self, root: HtmlElement) -> None:
        if self._step.pixels:
            for image in [image for image in root.iter("img") if _is_pixel(image)]:
                image.drop_tree()
                self._count("pixels")
        if self._step.styles:
            self._styles(root)
        if self._step.empty:
            for element in reversed(list(root.iter(*_EMPTY))):
                if element is not root and _is_empty(element):
                    _drop_between_words(element)
                    self._count("empty")
        # Faster than testing the texts one by one, since most bodies need no change.
        whole = etree.tostring(root, encoding="unicode", method="text")
        if self._step.spaces and _may_have_double_spaces(whole):
            self._spaces(root)
        if self._step.quotes and ('"' in whole or "'" in whole):
            self._quotes(root)

    def _styles(self, root: HtmlElement) -> None:
        for element in root.iterdescendants(etree.Element):
            # Most elements have no attributes.
            for name in _LOOKS if element.keys() else ():
                if element.attrib.pop(name, None) is not None:
                    self._count("styles")

    def _spaces(self, root: HtmlElement) -> None:
        for run in text_runs(root):
            for slot in run:
                if not slot.verbatim and (text := _SPACES.sub(" ", slot.text)) != slot.text:
                    slot.set(text)
                    self._count("spaces")

    def _quotes(self, root: HtmlElement) -> None:
        for run in text_runs(root):
            for slot, text in zip(run, typographic([slot.text for slot in run], self._language), strict=True):
                if not slot.verbatim and text != slot.text:
                    slot.set(text)
                    self._count("quotes")


def compile_tidy(step: Tidy, _context: BlogContext) -> Step:
    """Return the function that cleans a body."""

    def apply(parts: Draftable, captured: Captured) -> Mapping[str, Json]:
        cleaner = _Cleaner(step, captured.language or "en")
        cleaner.clean(parts.root)
        if cleaner.done:
            parts.changed()
        return cleaner.done

    return apply
