"""What the articles of one site share: boxes, menus and notices that repeat on its pages.

One page cannot tell a letter of a reader from the article above it. Several articles of a site can: what stands on most
of them is furniture of the site, and what varies is the article.
"""

import re
from collections import Counter
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from hashlib import blake2b

from lxml.html import HtmlElement

from glyptarch_core.languages.dates import find_date
from glyptarch_core.pages.page import Page, length_of, text_in

__all__ = ["PagePrint", "Repeated", "SiteMemory", "print_of", "repeated_in", "without_repeated"]

MOST_PAGES = 8
"""Articles that a memory keeps."""
_MOST_BLOCKS = 800
_BLOCKS = frozenset(
    "p div section article main li ul ol dl dt dd blockquote pre table tr td th h1 h2 h3 h4 h5 h6 figure figcaption"
    " header footer aside nav form address center fieldset details summary".split()
)
_HEADINGS = frozenset({"h1", "h2", "h3", "h4", "h5", "h6"})
_FEWEST = 2
"""Other articles on which a text repeats."""
_MOST_OF = 0.6
_ONE_ARTICLE = 0.7
"""Two pages that share this part of their texts show one article."""
_LINE = 8
"""Words from which a repeated text is left out by itself; a shorter one may be a heading within articles."""
_FEWEST_IN_BOX = 8
"""Words that a box has beside its heading. Smaller ones may say who wrote an article, and when."""
_LONGEST_HEADING = 8
_LARGEST_BOX = 0.4
"""Part of the text of a page that does not repeat which a box may have at most."""
_TITLE, _LINK = "title:", "a:"


@dataclass(frozen=True, slots=True, kw_only=True)
class PagePrint:
    """The texts of a page, each as a key of 16 hexadecimal digits."""

    url: str
    blocks: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class SiteMemory:
    """The prints of the newest articles of a site, newest first."""

    pages: tuple[PagePrint, ...] = ()

    def with_pages(self, prints: Sequence[PagePrint]) -> "SiteMemory":
        """Return a memory with these pages before the others. An address is kept once."""
        pages = {page.url: page for page in [*prints, *self.pages]}
        return SiteMemory(pages=tuple(pages.values())[:MOST_PAGES])

    def repeated(self, page: PagePrint) -> frozenset[str]:
        """Return the keys of texts that stand on most other articles, and on two at least."""
        own = set(page.blocks)
        others = [other for other in self.pages if other.url != page.url and not _is_one(own, set(other.blocks))]
        counts = Counter(key for other in others for key in set(other.blocks))
        least = max(_FEWEST, _MOST_OF * len(others))
        return frozenset(key for key in own if counts[key] >= least)


def _is_one(keys: Collection[str], others: Collection[str]) -> bool:
    shared = len(set(keys) & set(others))
    return shared > _ONE_ARTICLE * max(len(keys), len(others), 1)


_SPACE_OR_SIGN = re.compile(r"[\W_]+")


def _key(text: str) -> str:
    bare = _SPACE_OR_SIGN.sub(" ", text.casefold()).strip()
    return blake2b(bare.encode(), digest_size=8).hexdigest() if bare else ""


def _leaves(body: HtmlElement) -> Iterator[tuple[HtmlElement, str, str]]:
    """Yield the innermost blocks with text, their texts and the keys of these.

    The title of an article is text on its own page and a link on others, so a link has another key.
    """
    for element in body.iter(*_BLOCKS):
        if any(child.tag in _BLOCKS for child in element.iterdescendants() if isinstance(child.tag, str)):
            continue
        text = text_in(element)
        key = _key(text)
        if key:
            link = next(element.iterancestors("a"), None)
            if link is None:
                link = next((inside for inside in element.iter("a") if text_in(inside) == text), None)
            yield element, text, key if link is None else _LINK + key


def _title_key(page: Page) -> str:
    element = page.root.find(".//title")
    text = " ".join((element.text or "").split()) if element is not None else ""
    return _TITLE + _key(text) if text else ""


def print_of(page: Page) -> PagePrint:
    """Return the print of a page."""
    keys = dict.fromkeys(key for _, _, key in _leaves(page.body))
    title = _title_key(page)
    return PagePrint(url=page.url, blocks=(*([title] if title else []), *list(keys)[:_MOST_BLOCKS]))


@dataclass(frozen=True, slots=True, kw_only=True)
class Repeated:
    """A part of a page that the articles of its site share: its key, beginning and length."""

    key: str
    text: str
    words: int


def repeated_in(page: Page, keys: Collection[str]) -> list[tuple[HtmlElement, Repeated]]:
    """Return the parts of a page that repeat, outermost only.

    A repeated line is a part. A repeated heading that begins a box is one with the whole box, whatever the box says on
    this page. A heading amid paragraphs stays: recipes and tests have the same headings in each article.
    """
    leaves = list(_leaves(page.body))
    own = {element: length_of(text) for element, text, key in leaves if key not in keys}
    most = _LARGEST_BOX * sum(own.values())
    parts: dict[HtmlElement, Repeated] = {}
    for element, text, key in leaves:
        if key not in keys:
            continue
        words = length_of(text)
        box = _box_of(element, page) if words <= _LONGEST_HEADING else None
        if box is not None and _is_furniture(box, own, most):
            parts[box] = Repeated(key=key, text=text[:120], words=length_of(text_in(box)))
        elif words >= _LINE and element.tag not in _HEADINGS and find_date(text, page.language) is None:
            parts[element] = Repeated(key=key, text=text[:120], words=words)
    return [
        (element, part)
        for element, part in parts.items()
        if all(above not in parts for above in element.iterancestors())
    ]


def _box_of(heading: HtmlElement, page: Page) -> HtmlElement | None:
    """Return the smallest element that begins with a heading and has text after it."""
    box, shown = heading, len(text_in(heading))
    while (parent := box.getparent()) is not None and parent is not page.body and not _text_before(box, parent):
        box = parent
        if len(text_in(box)) > shown:
            return box if length_of(text_in(box)) >= length_of(text_in(heading)) + _FEWEST_IN_BOX else None
    return None


def _is_furniture(box: HtmlElement, own: Mapping[HtmlElement, int], most: float) -> bool:
    """Whether a box has little text of its own, and no title of an article.

    ``own`` are the words that other pages do not have, by element.
    """
    if sum(own.get(inside, 0) for inside in box.iter()) > most:
        return False
    return not any(
        heading in own and heading.find(".//a") is None and next(heading.iterancestors("a"), None) is None
        for heading in box.iter("h1", "h2", "h3")
    )


def _text_before(element: HtmlElement, parent: HtmlElement) -> bool:
    """Whether a parent has text or pictures before a child."""
    if (parent.text or "").strip():
        return True
    for sibling in parent:
        if sibling is element:
            return False
        if (isinstance(sibling.tag, str) and text_in(sibling)) or (sibling.tail or "").strip():
            return True
    return False


def without_repeated(
    page: Page, keys: Collection[str], kept: Collection[str] = ()
) -> tuple[Page, tuple[Repeated, ...]]:
    """Return a page without the parts that repeat, and what was removed.

    Parts with a key in ``kept`` stay.
    """
    title = _title_key(page)
    if title and title in keys and (element := page.root.find(".//title")) is not None:
        element.text = ""
    parts = [(element, part) for element, part in repeated_in(page, keys) if part.key not in kept]
    return page.without([element for element, _ in parts]), tuple(part for _, part in parts)
