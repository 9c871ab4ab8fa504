"""Selectors as people write them, CSS (Selectors Level 3) or XPath 1.0, compiled once."""

import re
from collections.abc import Callable
from functools import lru_cache

from cssselect import SelectorSyntaxError
from cssselect.xpath import ExpressionError
from lxml import etree
from lxml.cssselect import CSSSelector
from lxml.html import HtmlElement

from glyptarch_core.errors import SelectorError
from glyptarch_core.text.trial import trial_tree

__all__ = ["Find", "compile_selector"]

Find = Callable[[HtmlElement], list[HtmlElement]]
"""Gives the elements below one that a selector matches, in the order of the document."""

_PLACE = re.compile(r" at (\d+)(?=>?$)")
_LONGEST = 500
_XPATH = ("/", "./", "(", "..", "ancestor", "following", "preceding", "descendant", "self")


@lru_cache(maxsize=512)
def compile_selector(text: str) -> Find:
    """Compile a selector.

    One that begins with ``/``, ``./`` or ``(`` is XPath, any other is CSS. Raises SelectorError with the offending
    character (from 1) where it is known.
    """
    written = text.strip()
    if not written:
        raise SelectorError("A selector is missing.", 1)
    if len(written) > _LONGEST:
        raise SelectorError(f"A selector may have {_LONGEST} characters.", _LONGEST)
    return _xpath(written) if written.startswith(_XPATH) else _css(written)


def _css(text: str) -> Find:
    try:
        path = CSSSelector(text, translator="html")
        path(trial_tree(text))
    except SelectorSyntaxError as error:
        message = str(error)
        place = _PLACE.search(message)
        raise SelectorError(_plain(message), int(place[1]) + 1 if place else 0) from error
    except (ExpressionError, etree.XPathError, NotImplementedError) as error:
        raise SelectorError(f"This cannot be found in a page: {error}", 0) from error
    return _finder(path)


def _plain(message: str) -> str:
    """Word the library's complaint: it quotes tokens in a form of its own."""
    text = _PLACE.sub("", message)
    text = re.sub(r"<(?:DELIM|IDENT|S|STRING|NUMBER|HASH) '(.*?)'>?", r"“\1”", text)
    return re.sub(r"<EOF>?", "the end", text).rstrip(".") + "."


def _xpath(text: str) -> Find:
    below = f".{text}" if text.startswith("/") else text
    try:
        path = etree.XPath(below)
        path(trial_tree(text))
    except (etree.XPathError, ValueError) as error:
        raise SelectorError(f"This XPath cannot be read: {error}.", 0) from error
    return _finder(path)


def _finder(path: etree.XPath) -> Find:
    def find(root: HtmlElement) -> list[HtmlElement]:
        try:
            nodes = path(root)
        except etree.XPathError:
            return []
        elements = [match for match in nodes if isinstance(match, HtmlElement)] if isinstance(nodes, list) else []
        return [element for element in elements if element is not root]

    return find
