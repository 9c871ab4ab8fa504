"""A tree on which a selector can be tried before it meets a page."""

import re

from lxml.html import Element, HtmlElement

__all__ = ["trial_tree"]

_NAME = re.compile(r"[A-Za-z][A-Za-z0-9]*")


def trial_tree(selector: str) -> HtmlElement:
    """Return a tree with an element of every name in a selector, nested and as siblings.

    lxml finds unknown prefixes, functions and variables only when it evaluates them on an element.
    """
    root = below = Element("div")
    for name in dict.fromkeys(_NAME.findall(selector)):
        root.append(Element(name, {"class": "x"}))
        below.append(below := Element(name, {"id": "x"}))
        below.text = "x"
    return root
