"""A page as it looks, made safe to be shown in a frame: no script, no form, nothing that loads from elsewhere.

The tree is kept as it is, so that an element in the frame is the one of the same number in the page. Pictures
and style sheets come by addresses of ours; ``served`` gives them.
"""

import re
import sys
from collections.abc import Callable
from copy import deepcopy

from lxml import etree
from lxml.html import HtmlElement

from glyptarch_core.pages.lists import picture_address
from glyptarch_core.pages.page import Page

__all__ = ["PLACE", "framed", "safe_css"]

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
# All lengths are bounded: what is opened again and again and never closed would be searched for its end each time.
# One that does not end so is taken out as well.
_URL = re.compile(r"url\((?:\s{0,20}[\"']?([^()'\"]{0,600})[\"']?\s{0,20}\))?", re.IGNORECASE)
_IMPORT = re.compile(r"@import[^;]*;?", re.IGNORECASE)
_ESCAPE = re.compile(r"\\(?:([0-9a-f]{1,6})\s?|(.))", re.IGNORECASE | re.DOTALL)
_IMAGE_SET = re.compile(r"(?:-webkit-)?image-set\([^)]{0,2000}\)|src\s*:[^;}]*", re.IGNORECASE)
_LONGEST_CSS = 600_000

Served = Callable[[str], str]
"""Gives the address under which we serve what stands at an address."""


def _meant(escape: re.Match[str]) -> str:
    """Give the sign that an escape stands for (CSS Syntax 3, 4.3.7); one that could end a text is left out."""
    number = int(escape[1], 16) if escape[1] else 0
    sign = chr(number) if 0 < number <= sys.maxunicode and not 0xD800 <= number < 0xE000 else escape[2] or ""  # noqa: PLR2004
    return sign if sign not in {'"', "'", "\\", "\n"} else ""


def _without_comments(css: str) -> str:
    """Give a style sheet without its comments (CSS Syntax 3, 4.3.2); one that is not closed goes to the end."""
    first, *rest = css.split("/*")
    return first + "".join(part.partition("*/")[2] for part in rest)


def safe_css(css: str, resolve: Callable[[str], str], served: Served) -> str:
    """Give a style sheet whose pictures come from us and that takes in nothing else."""
    text = _ESCAPE.sub(_meant, _without_comments(css[:_LONGEST_CSS]))
    text = _IMAGE_SET.sub("", _IMPORT.sub("", text))

    def own(match: re.Match[str]) -> str:
        address = resolve((match[1] or "").strip())
        return f'url("{served(address)}")' if address else "none"

    return _URL.sub(own, text).replace("</", "<\\/").replace("@import", "")


def framed(page: Page, served: Served) -> str:
    """Give the page as a whole document for a sandboxed frame. Every element carries its number (``data-place``)."""
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
    tag, given = str(element.tag).lower(), dict(element.attrib)
    picture = page.resolve(picture_address(element)) if tag == "img" else ""
    element.attrib.clear()
    for name, value in given.items():
        if name.lower() in _KEPT_ATTRIBUTES:
            element.set(name, value)
    if given.get("style"):
        element.set("style", safe_css(given["style"], page.resolve, served).replace("<", ""))
    if tag in _EMPTIED or ":" in tag:
        _empty(element)
    elif tag == "style":
        element.text = safe_css(element.text or "", page.resolve, served)
    elif tag == "link":
        _style_sheet(page, element, given, served)
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


def _style_sheet(page: Page, element: HtmlElement, given: dict[str, str], served: Served) -> None:
    address = page.resolve(given.get("href"))
    if "stylesheet" in given.get("rel", "").lower().split() and address:
        element.set("rel", "stylesheet")
        element.set("href", served(address))
    else:
        element.tag = "span"
