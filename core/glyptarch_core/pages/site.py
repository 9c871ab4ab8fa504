"""What the articles of one site share: boxes, menus and notices that repeat on its pages.

One page cannot tell a letter of a reader from the article above it. Several articles of a site can: what stands on most
of them is furniture of the site, and what varies is the article.
"""

import re
from collections import Counter
from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from hashlib import blake2b

from lxml.html import HtmlElement

from glyptarch_core.languages.dates import find_date
from glyptarch_core.pages.page import Page, beginning_of, length_of, text_in

__all__ = ["Bared", "PagePrint", "Repeated", "SiteMemory", "print_of", "without_repeated"]

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
_FEWEST_OF_ITS_OWN = 3
"""Texts that a page has and another article has not. With fewer, both show one article, or one notice."""
_LINE = 8
"""Words from which a repeated text is left out by itself; a shorter one may be a heading within articles."""
_FEWEST_IN_BOX = 8
"""Words that a box has beside its heading. Smaller ones may say who wrote an article, and when."""
_ENOUGH_OF_BOX = 300
"""Characters of a box that are counted for that."""
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
        fresh = {page.url: page for page in prints}
        known = [page for page in self.pages if page.url not in fresh]
        return SiteMemory(pages=(*fresh.values(), *known)[:MOST_PAGES])

    def repeated(self, page: PagePrint) -> frozenset[str]:
        """Return the keys of texts that stand on most other articles, and on two at least."""
        own = set(page.blocks)
        texts = {key for key in own if not key.startswith((_TITLE, _LINK))}
        # The same article under another address shares all its texts; menus are shared by all articles.
        others = [
            blocks
            for other in self.pages
            if other.url != page.url and len(texts - (blocks := set(other.blocks))) >= _FEWEST_OF_ITS_OWN
        ]
        counts = Counter(key for blocks in others for key in blocks)
        least = max(_FEWEST, _MOST_OF * len(others))
        return frozenset(key for key in own if counts[key] >= least)


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
    """A part of a page that the articles of its site share: its key, beginning and length.

    ``kept`` says that a person wants it in the text.
    """

    key: str
    text: str
    words: int
    kept: bool = False


def _repeated_in(page: Page, keys: Collection[str], kept: Collection[str]) -> list[tuple[HtmlElement, Repeated]]:
    """Return the parts of a page that repeat, outermost only.

    A repeated line is a part. A repeated heading that begins a box is one with the whole box, whatever the box says on
    this page. A heading amid paragraphs stays: recipes and tests have the same headings in each article.
    """
    leaves = list(_leaves(page.body))
    own = _Own(leaves, keys)
    parts: dict[HtmlElement, tuple[str, str]] = {}
    for element, text, key in leaves:
        if key not in keys:
            continue
        words = length_of(text)
        box = _box_of(element, page) if words <= _LONGEST_HEADING else None
        if box is not None and own.allows(box):
            parts[box] = key, text
        elif words >= _LINE and element.tag not in _HEADINGS and find_date(text, page.language) is None:
            parts[element] = key, text
    return [
        (element, Repeated(key=key, text=text[:120], words=length_of(text_in(element)), kept=key in kept))
        for element, (key, text) in parts.items()
        if all(above not in parts for above in element.iterancestors())
    ]


class _Own:
    """What other pages have not: the words of each element, and the headings."""

    def __init__(self, leaves: Sequence[tuple[HtmlElement, str, str]], keys: Collection[str]) -> None:
        self._words: Counter[HtmlElement] = Counter()
        self._headed: set[HtmlElement] = set()
        for element, text, key in leaves:
            if key in keys:
                continue
            is_title = element.tag in {"h1", "h2", "h3"} and not key.startswith(_LINK)
            words = length_of(text)
            for around in (element, *element.iterancestors()):
                self._words[around] += words
                if is_title:
                    self._headed.add(around)
        self._all = max(self._words.values(), default=0)

    def allows(self, box: HtmlElement) -> bool:
        """Whether a box can be furniture: with little text of its own, and no title of an article."""
        return self._words[box] <= _LARGEST_BOX * self._all and box not in self._headed


def _box_of(heading: HtmlElement, page: Page) -> HtmlElement | None:
    """Return the smallest element that begins with a heading and has text after it."""
    box, label = heading, text_in(heading)
    while (parent := box.getparent()) is not None and parent is not page.body and not _text_before(box, parent):
        box = parent
        text = beginning_of(box, len(label) + _ENOUGH_OF_BOX)
        if len(text) > len(label):
            return box if length_of(text) >= length_of(label) + _FEWEST_IN_BOX else None
    return None


def _text_before(element: HtmlElement, parent: HtmlElement) -> bool:
    """Whether a parent has text or pictures before a child."""
    if (parent.text or "").strip():
        return True
    for sibling in parent:
        if sibling is element:
            return False
        if (isinstance(sibling.tag, str) and beginning_of(sibling, 1)) or (sibling.tail or "").strip():
            return True
    return False


@dataclass(frozen=True, slots=True, kw_only=True)
class Bared:
    """A page without what its site repeats, those parts, and the boxes that are kept."""

    page: Page
    parts: tuple[Repeated, ...] = ()
    boxes: tuple[HtmlElement, ...] = ()


def without_repeated(page: Page, keys: Collection[str], kept: Collection[str] = ()) -> Bared:
    """Return a page without the parts that repeat.

    Of those with a key in ``kept`` a line stays where it is. A box is taken out of the page as well, and returned: the
    reading of the main text would leave it out once more.
    """
    title = _title_key(page)
    if title and title in keys and (element := page.root.find(".//title")) is not None:
        element.text = ""
    found = _repeated_in(page, keys, kept)
    is_box = {element: any(child.tag in _BLOCKS for child in element) for element, _ in found}
    removed = [element for element, part in found if is_box[element] or not part.kept]
    return Bared(
        page=page.without(removed),
        parts=tuple(part for _, part in found),
        boxes=tuple(element for element, part in found if part.kept and is_box[element]),
    )
