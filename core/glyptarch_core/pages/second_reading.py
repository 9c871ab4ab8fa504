"""The main text by three readings: ours, and two well-kept libraries.

Each errs on other pages, so agreement counts. Ours is kept where the second agrees. Where it does not, a third is
asked, and what two of three share is taken. An empty or tiny text never wins over a full one.
"""

from collections import Counter
from logging import CRITICAL, getLogger

import trafilatura
from lxml import etree
from lxml.html import HtmlElement
from readability import Document  # type: ignore[import-untyped]

from glyptarch_core.pages.main_text import without_title
from glyptarch_core.pages.outside import is_box
from glyptarch_core.pages.page import Page, text_in
from glyptarch_core.text import Passage, absolute, plain_text, sanitise

__all__ = ["agreed_text"]

# Both write about each page that they find odd.
for _name in ("readability", "trafilatura"):
    getLogger(_name).setLevel(CRITICAL)

_AGREE = 0.93
"""Readings with this share of common words (F1) are one."""
_BOXED = 0.8
"""Part of the further text of another reading that must stand in boxes for ours to be kept."""
_MARGIN = 0.01
"""Ours has the better markup, so another reading must agree more by this."""
_TINY = 0.3
_LARGEST = 2 << 20
_MOST_ELEMENTS = 12_000
"""Larger pages, in characters or elements, have our reading alone: the others would take seconds."""


def agreed_text(page: Page, ours: str, main: HtmlElement, *, title: str = "") -> str:
    """Return the sanitised text of a page that most readings agree on.

    ``ours`` is our own reading, as HTML, and ``main`` the element with its text. ``title`` is left out of the others,
    which often repeat it. A reading that has more than ours in boxes only is no other reading.
    """
    if len(page.elements) > _MOST_ELEMENTS:
        return ours
    source = etree.tostring(page.root, encoding="unicode", method="html")
    if len(source) > _LARGEST:
        return ours
    second = _by_paragraphs(source, page, title)
    words, second_words = _words(ours), _words(second)
    agrees = bool(second_words) and _agreement(words, second_words) >= _AGREE
    if agrees or (words and _has_only_boxes_more(second, ours, page, main)):
        return ours
    third = without_title(_by_rules(source), title)
    third_words = _words(third)
    between = _agreement(words, second_words)
    ours_agrees = (between + _agreement(words, third_words)) / 2
    second_agrees = (between + _agreement(second_words, third_words)) / 2
    if words and ours_agrees >= second_agrees - _MARGIN:
        return ours
    if second_words.total() < _TINY * third_words.total():
        return sanitise(absolute(third, page.base)).strip()
    return second


def _has_only_boxes_more(second: str, ours: str, page: Page, main: HtmlElement) -> bool:
    """Whether all that a reading has beside our text stands in boxes, see :func:`is_box`."""
    shown = set(_lines_of(ours))
    further = [line for line in _lines_of(second) if line not in shown]
    if not further:
        return False
    places: dict[str, HtmlElement] = {}
    for element in page.body.iter(*_LINES):
        # A block has no line of its own but that between the blocks in it.
        for text in (_direct(element), "" if _has_blocks(element) else text_in(element)):
            if text:
                places[text] = element
    # Whether an element is in a box, for each that was asked about. The main text and what contains it are in none.
    in_box = dict.fromkeys((main, *main.iterancestors()), False)
    boxed = sum(len(line) for line in further if line in places and _is_boxed(places[line], in_box))
    return boxed >= _BOXED * sum(map(len, further))


def _lines_of(markup: str) -> list[str]:
    return [line for part in plain_text(markup).splitlines() if (line := part.strip())]


_BLOCKS = frozenset("p li div td dd dt h2 h3 h4 h5 h6 ul ol dl table section article aside blockquote".split())
_LINES = ("p", "li", "div", "span", "td", "dd", "dt", "h2", "h3", "h4", "h5", "h6", "strong", "a", "b")


def _direct(element: HtmlElement) -> str:
    """Return the text of an element without that of the elements in it."""
    return " ".join(" ".join([element.text or "", *(child.tail or "" for child in element)]).split())


def _has_blocks(element: HtmlElement) -> bool:
    return any(child.tag in _BLOCKS for child in element)


def _is_boxed(element: HtmlElement, in_box: dict[HtmlElement, bool]) -> bool:
    """Whether an element is in a box. ``in_box`` has the known answers, and gets the new ones."""
    asked: list[HtmlElement] = []
    found = False
    for ancestor in element.iterancestors():
        if ancestor in in_box:
            found = in_box[ancestor]
            break
        asked.append(ancestor)
        if is_box(ancestor):
            found = True
            break
    in_box.update(dict.fromkeys(asked, found))
    return found


def _words(markup: str) -> Counter[str]:
    return Counter(Passage(plain_text(markup)).words) if markup else Counter()


def _agreement(words: Counter[str], others: Counter[str]) -> float:
    """Return the share of words that two readings have in common (F1)."""
    total = words.total() + others.total()
    return 2 * (words & others).total() / total if total else 0.0


def _by_paragraphs(source: str, page: Page, title: str) -> str:
    """Return the reading of readability-lxml, which scores paragraphs and their parents."""
    try:
        markup = Document(source, url=page.base).summary(html_partial=True)
    except Exception:  # noqa: BLE001 - a library on a hostile page; the reading is then missing
        return ""
    return sanitise(absolute(without_title(markup, title), page.base)).strip()


def _by_rules(source: str) -> str:
    """Return the reading of trafilatura, which goes by rules of the trade."""
    try:
        return (
            trafilatura.extract(
                source, output_format="html", include_comments=False, include_images=True, include_links=True
            )
            or ""
        )
    except Exception:  # noqa: BLE001 - as above
        return ""
