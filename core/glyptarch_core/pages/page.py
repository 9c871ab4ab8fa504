"""A fetched web page as a tree: bounded, decoded, with its base address."""

import re
from collections import Counter
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from functools import cached_property

from lxml import etree
from lxml import html as lxml_html
from lxml.html import HtmlElement

from glyptarch_core.errors import ParseError
from glyptarch_core.readers.decode import decode
from glyptarch_core.readers.html import base_of
from glyptarch_core.readers.model import resolve
from glyptarch_core.text import clean_text
from glyptarch_core.text.markup import well_formed_references

__all__ = ["MOST_ELEMENTS", "Page", "beginning_of", "length_of", "load_page", "text_in", "without_spaces"]

_LARGEST = 6 << 20
_DEEPEST = 200
MOST_ELEMENTS = 80_000
"""Elements of a page that are looked at; one with more is refused."""

_UNSEEN = frozenset({"script", "style", "noscript", "template", "head", "svg", "math", "iframe", "object"})


@dataclass(frozen=True, kw_only=True, eq=False)
class Page:
    """A page: its tree, the address its links start from, and when it came."""

    root: HtmlElement
    url: str
    base: str
    # In document order. Holding them keeps lxml from creating each proxy object again on access.
    elements: Sequence[HtmlElement]
    at: datetime | None = None

    @property
    def language(self) -> str:
        """The language that the page states (BCP 47). Empty for none."""
        return (self.root.get("lang") or "").strip()[:35]

    def resolve(self, address: str | None) -> str:
        """Return an address of the page in absolute form.

        Empty where HTTP cannot fetch it.
        """
        if not address:
            return ""
        resolved = self._resolved.get(address)
        if resolved is None:
            resolved = self._resolved[address] = resolve(self.base, address)
        return resolved

    @cached_property
    def _resolved(self) -> dict[str, str]:
        return {}

    @cached_property
    def body(self) -> HtmlElement:
        """The visible part of the page."""
        body = self.root.find("body")
        return self.root if body is None else body

    @cached_property
    def places(self) -> dict[HtmlElement, int]:
        """The place of each element in the order of the document."""
        return {element: place for place, element in enumerate(self.elements)}

    @cached_property
    def ends(self) -> list[int]:
        """For each element number, the number of its last descendant, or its own where it has none."""
        ends = list(range(len(self.elements)))
        for place in range(len(ends) - 1, 0, -1):
            above = self.places[self.elements[place].getparent()]
            ends[above] = max(ends[above], ends[place])
        return ends

    @cached_property
    def addresses(self) -> dict[HtmlElement, str]:
        """The links of the body with their absolute addresses.

        Links without one are left out.
        """
        links = ((link, self.resolve(link.get("href"))) for link in self.body.iter("a"))
        return {link: address for link, address in links if address}

    @cached_property
    def nth(self) -> Mapping[HtmlElement, int]:
        """Each element's number among siblings of the same tag, from 1 (CSS ``:nth-of-type``)."""
        return _Numbers()

    def without(self, elements: Collection[HtmlElement]) -> "Page":
        """Remove elements from the tree, and return the page as it is now.

        Text after an element stays.
        """
        for element in elements:
            if element.getparent() is not None and element is not self.body:
                element.drop_tree()
        return replace(self, elements=list(self.root.iter(etree.Element))) if elements else self


class _Numbers(dict[HtmlElement, int]):
    """Counts the children of one parent when the first of them is asked for."""

    def __missing__(self, element: HtmlElement) -> int:
        parent, seen = element.getparent(), Counter[str]()
        for child in (element,) if parent is None else parent:
            if isinstance(child.tag, str):
                seen[child.tag] += 1
                self[child] = seen[child.tag]
        return self[element]


# libxml2 knows only the void elements of HTML 4; these would contain everything after them (HTML 13.1.2).
_VOID = re.compile(r"<(source|embed|track|wbr)\b([^<>]{0,2000}?)/?>", re.IGNORECASE)


# The parser compares each attribute of an element with all earlier ones.
_LONG_TAG = re.compile(r"(<[\w:.-]{1,100})\s[^<>]{50000,}(?=>)")


_TAG = re.compile(r"<[a-zA-Z][^<>]*")


def _without_braces(tag: re.Match[str]) -> str:
    """Escape braces, since an attribute name beginning with one would be parsed as a namespace."""
    return tag[0].replace("{", "&#123;")


# lxml.html's own lookup calls Python for the class of every element, to distinguish forms and fields.
_CLASSES = etree.ElementDefaultClassLookup(element=HtmlElement, comment=lxml_html.HtmlComment)


def load_page(body: bytes, *, url: str, content_type: str = "", at: datetime | None = None) -> Page:
    """Parse an HTML page. Raises ParseError for anything else, and for pages that are too large."""
    if len(body) > _LARGEST:
        raise ParseError("too_large", f"The page is larger than {_LARGEST >> 20} MB, the most that is looked at.")
    text = well_formed_references(clean_text(decode(body, content_type).text))
    if "{" in text:
        text = _TAG.sub(_without_braces, text)
    text = _LONG_TAG.sub(r"\1", text)
    text = _VOID.sub(r"<\1\2></\1>", text)
    if not text.strip():
        raise ParseError("empty", "The page is empty.")
    parser = etree.HTMLParser(encoding="utf-8", huge_tree=False, no_network=True, remove_pis=True)
    parser.set_element_class_lookup(_CLASSES)
    try:
        root = lxml_html.document_fromstring(text.encode(), parser=parser)
    except (etree.ParserError, etree.XMLSyntaxError, ValueError) as error:
        raise ParseError("not_a_page", "The answer cannot be read as a web page.") from error
    return Page(root=root, url=url, base=base_of(root, url), elements=_elements_of(root), at=at)


def _elements_of(root: HtmlElement) -> list[HtmlElement]:
    """Return all elements in order. Raises ParseError for too many elements or too much depth."""
    elements: list[HtmlElement] = []
    depths: dict[HtmlElement | None, int] = {None: 0}
    for element in root.iter(etree.Element):
        depth = depths[element] = depths[element.getparent()] + 1
        elements.append(element)
        if depth > _DEEPEST:
            raise ParseError(
                "too_deep", f"The page nests its elements more than {_DEEPEST} deep; none for readers does."
            )
        if len(elements) > MOST_ELEMENTS:
            raise ParseError(
                "too_large", f"The page has more than {MOST_ELEMENTS:,} elements, the most that are looked at."
            )
    return elements


def _pieces(element: HtmlElement) -> Iterator[str]:
    if not isinstance(element.tag, str) or element.tag in _UNSEEN:
        return
    if element.text:
        yield element.text
    for child in element:
        yield from _pieces(child)
        if child.tail:
            yield child.tail


def text_in(element: HtmlElement) -> str:
    """Return the visible text of an element on one line."""
    if not len(element):
        # Most elements contain only text.
        return " ".join((element.text or "").split()) if element.tag not in _UNSEEN else ""
    return " ".join(" ".join(_pieces(element)).split())


def beginning_of(element: HtmlElement, most: int) -> str:
    """Return the visible text of an element on one line, or the beginning of a longer one.

    More than ``most`` are returned for a longer text, so that its length can be compared. The rest is not walked
    through: asking every ancestor of a text for all of it takes minutes on a page that nests deep.
    """
    pieces, length = list[str](), 0
    for piece in _pieces(element):
        pieces.append(piece)
        length += len(piece.strip())
        if length > most:
            break
    return " ".join(" ".join(pieces).split())


# Thai, Lao, Burmese and Khmer, and everything from the CJK radicals on.
_SPACELESS = re.compile("[\u0e00-\u0eff\u1000-\u109f\u1780-\u17ff\u2e80-\U0010ffff]")


def without_spaces(text: str) -> int:
    """Return the number of characters from scripts without spaces between words."""
    return 0 if text.isascii() else len(_SPACELESS.findall(text))


def length_of(text: str) -> int:
    """Return an approximate word count, two characters per word in scripts without spaces."""
    return len(text.split()) + without_spaces(text) // 2
