"""The main text of a page: the smallest part with nearly all of its running text.

Share bars, related links, forms and notices inside it are removed. Nothing here is specific to one site.
"""

import re
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from copy import deepcopy

from lxml import etree
from lxml.html import HtmlElement, fragment_fromstring

from glyptarch_core.languages import alternatives
from glyptarch_core.languages.dates import find_date
from glyptarch_core.pages.byline import name_in_byline
from glyptarch_core.pages.lists import picture_address
from glyptarch_core.pages.outside import (
    BODY_NAMES,
    NEVER_TEXT,
    Measures,
    has_label,
    is_hinted,
    is_never_text,
    is_outside,
    measured,
    named,
)
from glyptarch_core.pages.page import Page, beginning_of, text_in, without_spaces
from glyptarch_core.text import absolute, sanitise

__all__ = ["main_element", "text_html", "without_title"]

_BLOCKS = frozenset(
    "p div section article main li ul ol dl dt dd blockquote pre table tr td th h1 h2 h3 h4 h5 h6 figure"
    " figcaption".split()
)
_HEADINGS = frozenset({"h1", "h2", "h3", "h4", "h5", "h6"})
# A single word such as “Stand” or “Mehr” is a label only before a colon, a number or the end of the line.
_LEAD_LINES = re.compile(
    rf"^(?:(?:{alternatives('dated', 'read_more')})(?:\s*[:：]|\s*\d|\W*$)"
    rf"|(?:{alternatives('dated', 'read_more', fewest=2)}|share(?: this)?|print|e-?mail|advertisement|related"
    r"|\d+ (?:comments?|min(?:ute)?s?(?: read)?|shares?)|comments?|tags?:|filed under|topics?:|click here"
    r"|subscribe|sign up|follow us)(?![^\W\d_]))",
    re.IGNORECASE,
)
# A notice of one word, such as “Anzeige”, has a line of its own.
_NOTICE = re.compile(
    rf"(?<![^\W\d_])(?:{alternatives('notices', fewest=2)})(?![^\W\d_])|©|^(?:{alternatives('notices')})\W*$",
    re.IGNORECASE,
)
_ENOUGH = 0.82
_SHORT = 12
_LINKED = 0.5


def _own_text(element: HtmlElement) -> str:
    """Return the text of an element and its inline parts, without its blocks."""
    pieces = [element.text or ""]
    for child in element:
        if isinstance(child.tag, str) and child.tag not in _BLOCKS and child.tag not in NEVER_TEXT:
            pieces.append(text_in(child))
        pieces.append(child.tail or "")
    return " ".join(" ".join(pieces).split())


def _linked(element: HtmlElement) -> int:
    return sum(len(text_in(link)) for link in element.iter("a"))


def _weight(text: str, linked: int) -> float:
    """Return how much a text looks like running text: long, in sentences, not made of links."""
    length = len(text)
    if not length or linked > length * _LINKED:
        return 0.0
    dense = 2 if without_spaces(text[:200]) > 20 else 1  # noqa: PLR2004 - signs
    stops = len(re.findall(r"[.!?…。！？।؟][\s\"'”»)]|[.!?…。！？।؟]$|[。！？।]", text))
    if length * dense < 40 and not stops:  # noqa: PLR2004 - characters of a label
        return length * 0.1
    return (length - linked) * dense * (1.0 if stops else 0.45)


def _texts(root: HtmlElement) -> Iterator[tuple[HtmlElement, float]]:
    """Yield elements with text of their own and its weight.

    Outside parts are skipped.
    """
    measures = measured(root)
    waiting = [(root, 1.0)]
    while waiting:
        element, trust = waiting.pop()
        if not isinstance(element.tag, str) or (element is not root and is_never_text(element)):
            continue
        if trust == 1 and element is not root and is_hinted(element, measures):
            trust = _HINTED
        if element.tag in _HEADINGS or _is_teaser(element):
            continue
        weight = _weight(_own_text(element), sum(len(text_in(child)) for child in element.iterchildren("a")))
        if weight and not _NOTICE.search(_own_text(element)[:400]):
            yield element, weight * trust
        waiting.extend((child, trust) for child in element if isinstance(child.tag, str) and child.tag in _WITH_TEXT)


_HINTED = 0.4
"""How much text counts whose name hints at something else."""
_LONGEST_TEASER = 500


def _is_teaser(element: HtmlElement) -> bool:
    """Whether an element announces another article.

    It is then one of several short blocks headed by a link.
    """
    if element.tag not in {"div", "li", "section", "article", "a"}:
        return False
    titled = any(
        element.tag in _HEADINGS and (element.find(".//a") is not None or _in_link(element))
        for element in element.iter(*_HEADINGS)
    )
    if not titled or len(beginning_of(element, _LONGEST_TEASER)) > _LONGEST_TEASER:
        return False
    kin = [sibling for sibling in (element.getprevious(), element.getnext()) if sibling is not None]
    return any(sibling.tag == element.tag and sibling.get("class") == element.get("class") for sibling in kin)


def _in_link(element: HtmlElement) -> bool:
    return next(element.iterancestors("a"), None) is not None


_WITH_TEXT = _BLOCKS | {
    "body",
    "center",
    "font",
    "span",
    "header",
    "details",
    "a",
    "b",
    "strong",
    "em",
    "i",
    "form",
    "tbody",
    "thead",
}


def main_element(page: Page) -> HtmlElement:
    """Return the smallest element with nearly all running text of a page."""
    body = page.body
    sums: dict[HtmlElement, float] = defaultdict(float)
    flows: dict[HtmlElement, list[float]] = defaultdict(list)
    for element, weight in _texts(body):
        if element.tag in {"span", "a", "b", "strong", "em", "i"}:
            continue
        # Half of the weight counts for the paragraph's own parent, because comments have many small paragraphs
        # elsewhere.
        sums[element] += weight
        if weight >= _PARAGRAPH and element is not body:
            flows[element if _has_lines(element) else element.getparent()].append(weight)
        for ancestor in element.iterancestors():
            sums[ancestor] += weight
            if ancestor is body:
                break
    total = sums.get(body, 0.0)
    if not total:
        return body
    current = body
    while True:
        child = max(
            (element for element in current if isinstance(element.tag, str)),
            key=lambda element: sums.get(element, 0.0),
            default=None,
        )
        if child is None:
            return _with_flow(current, sums, flows)
        share = sums.get(child, 0.0) / max(sums[current], 1e-9)
        favour = 0.2 if _says_text(child) else 0.0
        if share + favour < _ENOUGH or child.tag in {
            "p",
            "span",
            "tr",
            "td",
            "li",
            "blockquote",
            "ul",
            "ol",
            "pre",
        } - _only_cell(child):
            return _with_flow(current, sums, flows)
        current = child


_PARAGRAPH = 60
"""Weight from which a block is a paragraph."""
_MAIN_FLOW = 0.35
_PART_OF_FLOW = 0.15


def _has_lines(element: HtmlElement) -> bool:
    """Whether an element has paragraphs that are parted by line breaks."""
    return len(element.findall("br")) > 2  # noqa: PLR2004 - a verse or an address has fewer


def _with_flow(
    current: HtmlElement, sums: Mapping[HtmlElement, float], flows: Mapping[HtmlElement, Sequence[float]]
) -> HtmlElement:
    """Return the part of an element whose own paragraphs are most of its text, or the element.

    Boxes beside an article have paragraphs too, each box its own. An article in several parts has them in siblings
    that are alike.
    """
    groups: dict[tuple[HtmlElement, str, str], float] = defaultdict(float)
    for element in current.iter():
        if element in flows and element is not current and element.tag in {"div", "section"}:
            groups[element.getparent(), element.tag, element.get("class") or ""] += sum(flows[element])
    best = max(
        (element for element in current.iter() if element in flows), key=lambda one: sum(flows[one]), default=None
    )
    (parent, _, _), together = max(groups.items(), key=lambda group: group[1], default=((current, "", ""), 0.0))
    if best is None or max(together, sum(flows[best])) < _MAIN_FLOW * sums[current]:
        return current
    return parent if together > sum(flows[best]) * (1 + _PART_OF_FLOW) else best


def _only_cell(element: HtmlElement) -> set[str]:
    """Return the cells of layout tables, which may be the main element despite their tag."""
    return {"tr", "td"} if element.tag in {"tr", "td"} else set()


def _says_text(element: HtmlElement) -> bool:
    name = named(element)
    if element.tag in {"article", "main"} or element.get("itemprop") == "articleBody" or element.get("role") == "main":
        return True
    return bool(name and BODY_NAMES.search(name))


def text_html(page: Page, main: HtmlElement, *, title: str = "") -> str:
    """Return the main element as sanitised HTML, without parts that are no article text.

    Parts with a heading of their own beside the paragraphs of the text are left out.
    """
    copy = deepcopy(main)
    for image in copy.iter("img"):
        address = picture_address(image)
        if address:
            image.set("src", address)
    _clean(copy)
    _without_heading(copy, title)
    _without_edges(copy, page.language)
    inside = (copy.text or "") + "".join(
        etree.tostring(child, encoding="unicode", method="html") for child in copy if isinstance(child.tag, str)
    )
    return sanitise(absolute(inside, page.base)).strip()


def _clean(root: HtmlElement) -> None:
    # All are judged before the first is removed, because a teaser is recognised by its siblings.
    measures = measured(root)
    goes = [
        element
        for element in root.iter()
        if element is not root and (not isinstance(element.tag, str) or _goes(element, measures))
    ]
    for element in goes:
        _drop(element)
    for element in _boxes(root):
        _drop(element)


def _boxes(root: HtmlElement) -> list[HtmlElement]:
    """Return the parts with a heading of their own beside the paragraphs of a text.

    Letters, a calendar or words about the publisher often end an article. A text that consists of such parts keeps
    them all.
    """
    boxes = [child for child in root if child.tag in {"div", "section", "article", "aside"} and has_label(child)]
    others = [child for child in root if isinstance(child.tag, str) and child not in boxes]
    measures = measured(root)
    paragraphs = sum(
        measures.characters[part] >= _PARAGRAPH and not any(inside.tag in _BLOCKS for inside in part)
        for child in others
        for part in child.iter("p", "div")
    )
    theirs = sum(measures.characters[child] for child in others)
    if paragraphs < _FEWEST_PARAGRAPHS or theirs < _MAIN_FLOW * measures.characters[root]:
        return []
    return boxes


_FEWEST_PARAGRAPHS = 3


_LONGEST_HEAD = 400
_LARGE_FORM = 1000
_LONGEST_NOTICE = 300
_LONGEST_POINTER = 120
_LETTERS_OF_A_LINK = 90


def _goes(element: HtmlElement, measures: Measures) -> bool:
    """Whether an element within the main text is no article text. Lengths are in characters."""
    length = measures.characters[element]
    if element.tag in {"header", "hgroup"}:
        # The header of an article repeats its fields; a long text in it is a lead.
        return length < _LONGEST_HEAD
    if is_outside(element, measures):
        return not (element.tag == "form" and length > _LARGE_FORM)
    if _is_teaser(element):
        return True
    if element.tag not in {"ul", "ol", "div", "section", "p", "table", "dl"}:
        return False
    if not length:
        return _is_empty(element)
    return _is_only_links(element, measures) or (length < _LONGEST_NOTICE and _is_notice(element))


def _is_empty(element: HtmlElement) -> bool:
    return element.tag != "div" and next(element.iter("img", "video", "audio", "picture"), None) is None


def _is_only_links(element: HtmlElement, measures: Measures) -> bool:
    length, links = measures.characters[element], measures.links[element]
    return links > 1 and measures.linked[element] > length * 0.6 and length / links < _LETTERS_OF_A_LINK


def _is_notice(element: HtmlElement) -> bool:
    """Whether a short block is a notice of the site, or a single link elsewhere."""
    text = text_in(element)
    if element.tag not in {"p", "div"} or len(text) >= _LONGEST_NOTICE or len(element.findall(".//p")) > 1:
        return False
    one_link = sum(1 for _ in element.iter("a")) == 1 and _linked(element) > len(text) * 0.8
    return bool(_NOTICE.search(text)) or (one_link and len(text) < _LONGEST_POINTER)


def _drop(element: HtmlElement) -> None:
    parent = element.getparent()
    if parent is None:
        return
    if element.tail:
        before = element.getprevious()
        if before is not None:
            before.tail = (before.tail or "") + element.tail
        else:
            parent.text = (parent.text or "") + element.tail
    parent.remove(element)


def without_title(markup: str, title: str) -> str:
    """Return HTML without headings that repeat the title."""
    if not markup.strip():
        return ""
    root = fragment_fromstring(markup, create_parent="div")
    _without_heading(root, title)
    return (root.text or "") + "".join(etree.tostring(child, encoding="unicode", method="html") for child in root)


def _without_heading(root: HtmlElement, title: str) -> None:
    for element in list(root.iter("h1", "h2")):
        text = text_in(element)
        if element.tag == "h1" or (title and text and (text == title or text in title)):
            _drop(element)


def _leaves(root: HtmlElement) -> list[HtmlElement]:
    return [
        element
        for element in root.iter("p", "div", "li", "h2", "h3", "h4", "h5", "h6", "time", "address", "span")
        if text_in(element)
        and not any(
            descendant.tag in _BLOCKS for descendant in element.iterdescendants() if isinstance(descendant.tag, str)
        )
    ]


def _without_edges(root: HtmlElement, language: str) -> None:
    """Remove bylines, dates and counts before a text, and headings without text after it."""
    leaves = _leaves(root)
    for element in leaves[:6]:
        if element.getparent() is None:
            continue
        text = text_in(element)
        if len(text.split()) > _SHORT or (len(text) > 60 and text[-1:] in ".!?"):  # noqa: PLR2004 - a sentence
            break
        label = _is_label(text, language)
        if element.tag in {"h2", "h3"} and not label:
            break
        if label or element.tag in {"time", "address"} or _is_date(text):
            _drop(element)
    for element in reversed(_leaves(root)[-8:]):
        text = text_in(element)
        ends = text[-1:] in '.!?…"”»)。！？।:'
        label = element.tag in _HEADINGS or _is_label(text, language) or _is_date(text)
        if len(text.split()) > _SHORT or (ends and not label):
            break
        if label and element.getparent() is not None:
            _drop(element)


def _is_label(text: str, language: str) -> bool:
    return bool(_LEAD_LINES.match(text) or name_in_byline(text, language))


def _is_date(text: str) -> bool:
    """Whether a line is a date and little else, such as “Posted on 3 May 2026”."""
    found = find_date(text) if len(text) <= 60 else None  # noqa: PLR2004 - no date is longer
    return found is not None and len(text) - (found.end - found.start) <= _BESIDE_DATE


_BESIDE_DATE = 24
