"""A page made safe for a frame: no script, no form, no request to another host.

The tree is kept, so that element numbers in the frame and in the page agree. Pictures and style sheets get addresses of
this server from ``served``.
"""

import re
from copy import deepcopy

from lxml import etree
from lxml.html import HtmlElement

from glyptarch_core.pages.lists import picture_address
from glyptarch_core.pages.page import Page
from glyptarch_core.text.style_sheets import Served, safe_declarations, safe_style_sheet

__all__ = ["PLACE", "framed"]

PLACE = "data-place"
"""The attribute that carries the number of an element in the order of the document."""

_EMPTIED = frozenset(
    "script noscript template iframe frame frameset object embed applet param portal svg math audio video canvas"
    " source track"
    " title".split()
)
_HEAD_ONLY = frozenset({"meta", "base", "link"})
_KEPT_ATTRIBUTES = frozenset(
    "class id lang dir title alt width height colspan rowspan align valign border cellpadding cellspacing"
    " bgcolor color face size"
    " type start value role open datetime hidden".split()
)
_FORMS = frozenset({"form", "input", "button", "select", "textarea", "fieldset", "label", "option", "datalist"})


def framed(page: Page, served: Served) -> str:
    """Return the page as a document for a sandboxed frame.

    ``data-place`` is each element's number.
    """
    root = deepcopy(page.root)
    for place, element in enumerate(list(root.iter(etree.Element))):
        _make_safe(page, element, served)
        element.set(PLACE, str(place))
    for comment in list(root.iter(etree.Comment, etree.ProcessingInstruction)):
        _unlink(comment)
    text: str = etree.tostring(root, encoding="unicode", method="html")
    return f"<!doctype html>\n{text}"


def _unlink(node: HtmlElement) -> None:
    parent = node.getparent()
    if parent is not None:
        before, tail = node.getprevious(), node.tail or ""
        if before is not None:
            before.tail = (before.tail or "") + tail
        else:
            parent.text = (parent.text or "") + tail
        parent.remove(node)


def _make_safe(page: Page, element: HtmlElement, served: Served) -> None:
    tag, attributes = str(element.tag).lower(), dict(element.attrib)
    picture = page.resolve(picture_address(element)) if tag == "img" else ""
    element.attrib.clear()
    for name, value in attributes.items():
        if name.lower() in _KEPT_ATTRIBUTES:
            element.set(name, value)
    if attributes.get("style"):
        element.set("style", safe_declarations(attributes["style"], page.resolve, served))
    if tag in _EMPTIED or ":" in tag:
        _empty(element)
    elif tag == "style":
        element.text = safe_style_sheet(element.text or "", page.resolve, served)
    elif tag == "link":
        _style_sheet(page, element, attributes, served)
    elif tag in _HEAD_ONLY or tag in _FORMS:
        element.tag = "div" if tag == "form" else "span"
    elif picture:
        element.set("src", served(picture))
        element.set("loading", "lazy")
    elif not _ORDINARY.fullmatch(tag):
        element.tag = "div"


_ORDINARY = re.compile(r"[a-z][a-z0-9]*")


def _empty(element: HtmlElement) -> None:
    """Leave nothing of an element but its place in the order of the document."""
    element.tag, element.text = "span", None
    element.set("hidden", "")
    for child in element.iterdescendants():
        child.text = child.tail = None


def _style_sheet(page: Page, element: HtmlElement, attributes: dict[str, str], served: Served) -> None:
    address = page.resolve(attributes.get("href"))
    if "stylesheet" in attributes.get("rel", "").lower().split() and address:
        element.set("rel", "stylesheet")
        element.set("href", served(address))
    else:
        element.tag = "span"
