"""Remove elements from the body, or keep only them, by CSS (Selectors Level 3) or XPath 1.0."""

from collections.abc import Mapping, Sequence
from enum import StrEnum
from typing import Annotated, Literal

from lxml import etree
from lxml.cssselect import CSSSelector
from lxml.html import Element, HtmlElement
from pydantic import Field, StringConstraints, model_validator

from glyptarch_core.item import Captured
from glyptarch_core.ports import BlogContext
from glyptarch_core.shape.base import Draftable, ShapeStepBase, Step
from glyptarch_core.text.trial import trial_tree
from glyptarch_core.trace import Json

__all__ = ["Select", "SelectMode", "compile_select"]


class SelectMode(StrEnum):
    """The treatment of the matched elements."""

    REMOVE = "remove"
    KEEP = "keep"


class Select(ShapeStepBase):
    """Elements found by a selector are removed, or everything else is.

    A selector that begins with ``/`` or ``.//`` is XPath, any other CSS. Without a match the body stays unchanged.
    """

    kind: Literal["select"] = "select"
    mode: SelectMode = SelectMode.REMOVE
    selector: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=500)] = Field()

    @model_validator(mode="after")
    def _can_be_read(self) -> "Select":
        try:
            _xpath(self.selector)(trial_tree(self.selector))
        except etree.LxmlError as error:
            raise ValueError(f"this selector cannot be read: {error}") from error
        return self


def _xpath(selector: str) -> etree.XPath:
    try:
        if selector.startswith(("/", ".//")):
            return etree.XPath(selector if selector.startswith(".") else f".{selector}")
        return CSSSelector(selector)
    except Exception as error:
        raise ValueError(f"this selector cannot be read: {error}") from error


def _only(elements: Sequence[HtmlElement]) -> HtmlElement:
    """Return a tree of only these elements, without those nested in another of them."""
    root = Element("div")
    chosen = set(elements)
    for element in [element for element in elements if chosen.isdisjoint(element.iterancestors())]:
        element.tail = None
        root.append(element)
    return root


def compile_select(step: Select, _context: BlogContext) -> Step:
    """Compile the selector once."""
    find = _xpath(step.selector)

    def apply(parts: Draftable, _captured: Captured) -> Mapping[str, Json]:
        root = parts.root
        result = find(root)
        elements = [match for match in (result if isinstance(result, list) else []) if isinstance(match, HtmlElement)]
        elements = [match for match in elements if match is not root]
        if not elements:
            return {}
        if step.mode is SelectMode.REMOVE:
            for element in elements:
                if element.getparent() is not None:
                    element.drop_tree()
            parts.changed()
        else:
            parts.replace(_only(elements))
        return {"mode": step.mode.value, "elements": len(elements)}

    return apply
