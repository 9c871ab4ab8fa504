"""Clean up: empty paragraphs, inline styles, tracking pixels, double spaces, typographic quotes."""

import re
from collections.abc import Mapping
from typing import Literal

from lxml import etree
from lxml.html import HtmlElement

from glyptarch_core.item import Captured
from glyptarch_core.ports import House
from glyptarch_core.shape.base import Draftable, ShapeStepBase, Step
from glyptarch_core.trace import Json

__all__ = ["Tidy", "compile_tidy"]

_EMPTY = frozenset("p div span li h1 h2 h3 h4 h5 h6 blockquote figure em strong".split())
_HOLDS = ("img", "video", "audio", "iframe", "hr", "br", "picture", "table")
_VERBATIM = frozenset({"pre", "code", "kbd", "samp"})
_BLANK = " \t\r\n\xa0"
_LOOKS = ("style", "class", "id", "align", "bgcolor")
_HAS_LOOKS = etree.XPath(f".//*[{' or '.join(f'@{name}' for name in _LOOKS)}]")
_PIXEL = 2
_SPACES = re.compile(r"[ \t\xa0]{2,}")
# Opening and closing marks by language (CLDR); the second pair stands inside the first.
_QUOTES: Mapping[str, tuple[str, str, str, str]] = {
    "en": ("“", "”", "‘", "’"),
    "de": ("„", "“", "‚", "‘"),
    "fr": ("« ", " »", "“", "”"),
    "es": ("«", "»", "“", "”"),
    "it": ("«", "»", "“", "”"),
    "nl": ("‘", "’", "“", "”"),
    "sv": ("”", "”", "’", "’"),
}
_OPENING = re.compile(r'(^|[\s(\[—–-])"(?=\S)')
_SINGLE = re.compile(r"(^|[\s(\[—–“„«-])'(?=\S)")


class Tidy(ShapeStepBase):
    """Each part of the clean-up can be switched off. Quotes follow the language of the item."""

    kind: Literal["tidy"] = "tidy"
    empty: bool = True
    styles: bool = True
    pixels: bool = True
    spaces: bool = True
    quotes: bool = False


def _is_pixel(image: HtmlElement) -> bool:
    sizes = [image.get(name, "").removesuffix("px") for name in ("width", "height")]
    return any(size.isdigit() and int(size) <= _PIXEL for size in sizes)


def _is_empty(element: HtmlElement) -> bool:
    if (element.text or "").strip(_BLANK) or "".join(element.itertext()).strip(_BLANK):
        return False
    return next(element.iter(*_HOLDS), None) is None


def _typographic(text: str, language: str) -> str:
    marks = _QUOTES.get(language.partition("-")[0])
    if marks is None or ('"' not in text and "'" not in text):
        return text
    text = _OPENING.sub(rf"\1{marks[0]}", text).replace('"', marks[1])
    return _SINGLE.sub(rf"\1{marks[2]}", text).replace("'", "’")


def _may_have_double_spaces(text: str) -> bool:
    # Quicker than to search each text for the pattern: most have none.
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
                    element.drop_tree()
                    self._count("empty")
        # Quicker than to go through the texts one by one: most bodies have nothing to mend.
        if self._step.quotes or _may_have_double_spaces(etree.tostring(root, encoding="unicode", method="text")):
            self._texts(root)

    def _styles(self, root: HtmlElement) -> None:
        for element in _HAS_LOOKS(root):
            for name in _LOOKS:
                if element.attrib.pop(name, None) is not None:
                    self._count("styles")

    def _texts(self, element: HtmlElement) -> None:
        if element.tag in _VERBATIM:
            return
        text = element.text
        if text and (made := self._text(text)) != text:
            element.text = made
        for child in element:
            self._texts(child)
            tail = child.tail
            if tail and (made := self._text(tail)) != tail:
                child.tail = made

    def _text(self, text: str) -> str:
        made = _SPACES.sub(" ", text) if self._step.spaces and _may_have_double_spaces(text) else text
        if made != text:
            self._count("spaces")
        if self._step.quotes:
            quoted = _typographic(made, self._language)
            if quoted != made:
                self._count("quotes")
            made = quoted
        return made


def compile_tidy(step: Tidy, _house: House) -> Step:
    """Give the function that cleans a body."""

    def apply(parts: Draftable, captured: Captured) -> Mapping[str, Json]:
        cleaner = _Cleaner(step, captured.item.language or "en")
        cleaner.clean(parts.root)
        if cleaner.done:
            parts.changed()
        return cleaner.done

    return apply
