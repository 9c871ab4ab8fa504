"""A first document for a site: the list of a page, its fields, and the next page."""

import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial
from urllib.parse import urlsplit

from lxml.html import HtmlElement

from glyptarch_core.languages import alternatives
from glyptarch_core.languages.dates import day_comes_first
from glyptarch_core.pages.carried import lists_in_data
from glyptarch_core.pages.derive import Derived, derive
from glyptarch_core.pages.document import FieldReader, ListPage, Section, Way
from glyptarch_core.pages.lists import ListFound, date_element, find_lists
from glyptarch_core.pages.page import Page, text_in, without_spaces
from glyptarch_core.pages.shown import price_element

__all__ = ["ListProposal", "counts_up", "next_link", "propose_lists", "sections_of"]

_MOST_LISTS = 4
_MOST_DATA_LISTS = 2
_MOST_SECTIONS = 40
_LOOKED_AT = 40
_NEXT_TEXT = re.compile(
    rf"^(?:\W*(?:{alternatives('next_page')})\W*\d*\W*|(?:older|earlier|next) \w+\W*|›|»|→|>|>>)$",
    re.IGNORECASE,
)
_PAGED = re.compile(r"[?&](?:page|p|paged|start|offset)=\d+|/page/\d+|[-_/]p?\d+/?$")
_NO_SECTION = re.compile(
    r"^(?:home|start|login|log in|sign in|sign up|register|account|search|about(?: us)?|contact|imprint|impressum"
    r"|privacy|terms|help|faq"
    r"|subscribe|newsletter|rss|shop|cart|jobs|advertise|skip to .*|menu)$",
    re.IGNORECASE,
)


@dataclass(frozen=True, slots=True, kw_only=True)
class ListProposal:
    """A likely list of a page as settings that find it.

    ``score`` is the evidence for it.
    """

    settings: ListPage
    titles: tuple[str, ...]
    score: float


def propose_lists(page: Page) -> list[ListProposal]:
    """Return settings for the lists of a page, likeliest first.

    Empty where there are none.
    """
    proposals: list[ListProposal] = []
    following = next_link(page)
    next_selector = _one(page, following) if following is not None else ""
    for found_list in find_lists(page)[:_MOST_LISTS]:
        link = _selector_of(page, found_list.links)
        if link:
            fields = _fields(page, found_list)
            settings = ListPage(link=link, fields=fields, next=next_selector)
            titles = tuple(teaser.title for teaser in found_list.teasers)
            proposals.append(ListProposal(settings=settings, titles=titles, score=found_list.score))
    # Data comes last, because visible lists can be picked; it comes first where nothing is visible.
    proposals += [
        ListProposal(settings=ListPage(data=where, next=next_selector), titles=titles, score=0.0)
        for where, titles in lists_in_data(page)[:_MOST_DATA_LISTS]
    ]
    return proposals


def _selector_of(page: Page, elements: Sequence[HtmlElement], *, all_of_them: bool = True) -> str:
    """Return the selector that finds these elements, or most of them with the fewest others."""
    if not all_of_them:
        return next((derived.selector for derived in derive(page, [elements[0], elements[len(elements) // 2]])), "")
    best = _best(derive(page, list(elements), only=True), elements)
    if best is not None and set(best.matches) == set(elements):
        return best.selector
    # Two distant elements stand for the whole list better than all with an outlier.
    ends = [elements[0], elements[len(elements) // 2]] if len(elements) > 2 else list(elements)  # noqa: PLR2004
    other = _best([*derive(page, list(elements)), *derive(page, ends), *([best] if best else [])], elements)
    return other.selector if other else ""


def _best(derived: Sequence[Derived], wanted: Sequence[HtmlElement]) -> Derived | None:
    aim = set(wanted)
    return min(derived, key=lambda derived: (len(aim ^ set(derived.matches)), derived.cost), default=None)


def _one(page: Page, element: HtmlElement) -> str:
    return next((derived.selector for derived in derive(page, [element], only=True)), "")


def _fields(page: Page, found_list: ListFound) -> tuple[FieldReader, ...]:
    # The first teasers represent a long list.
    teasers = found_list.teasers[:_LOOKED_AT]
    parts: dict[str, list[HtmlElement]] = {"date": [], "picture": [], "price": [], "excerpt": []}
    day_first = day_comes_first(text_in(part) for teaser in teasers for part in (teaser.block, *teaser.beside))
    date_in_block = partial(date_element, language=page.language, day_first=day_first)
    for teaser in teasers:
        blocks = (teaser.block, *teaser.beside)
        for name, found in (
            ("date", map(date_in_block, blocks)),
            ("picture", (next(block.iter("img"), None) for block in blocks)),
            ("price", map(price_element, blocks)),
            ("excerpt", (_excerpt(block, teaser.title) for block in blocks)),
        ):
            element = next((element for element in found if element is not None and element is not teaser.link), None)
            if element is not None:
                parts[name].append(element)
    fields = []
    for name, elements in parts.items():
        if len(elements) >= max(2, len(teasers) * 0.4) and (
            selector := _selector_of(page, elements, all_of_them=len(teasers) == len(found_list.teasers))
        ):
            fields.append(FieldReader(name=name, ways=(Way(selector=selector),)))
    return tuple(fields)


def _excerpt(block: HtmlElement, title: str) -> HtmlElement | None:
    longest, best = 40, None
    for element in block.iter("p", "div", "span", "dd", "td"):
        if any(child.tag in {"p", "div", "table", "ul"} for child in element):
            continue
        text = text_in(element)
        dense = len(text) + without_spaces(text)
        if dense > longest and text != title and element.find(".//h2") is None and element.find(".//h3") is None:
            longest, best = dense, element
    return best


_MOST_NEXT = 2
"""Words such as “Ver más” that more links have, lead to articles. A pager stands above and below its list at most."""


def next_link(page: Page) -> HtmlElement | None:
    """Return the link to the next page of a list, also one that only scripts follow."""
    best: tuple[float, HtmlElement] | None = None
    host = urlsplit(page.url).netloc
    said = Counter(text_in(link) for link in page.body.iter("a"))
    for link in page.root.iter("a", "link"):
        url = page.resolve(link.get("href"))
        if not url or urlsplit(url).netloc != host or url == page.url:
            continue
        rel = (link.get("rel") or "").lower().split()
        text = text_in(link) or link.get("aria-label") or link.get("title") or ""
        named = f"{link.get('class') or ''} {link.get('id') or ''}".lower()
        score = (
            4.0 * ("next" in rel)
            + 2.5 * (bool(_NEXT_TEXT.match(text.strip())) and said[text] <= _MOST_NEXT)
            + 1.0 * ("next" in named or "older" in named)
        )
        score += 0.8 * bool(_PAGED.search(url.removeprefix(page.url)))
        if counts_up(page.url, url) and (_is_number(text, url) or _in_pager(link)):
            score += 2.2
        if "prev" in rel or "prev" in named or "newer" in named or "newer" in text.lower():
            score = 0
        if link.tag == "link":
            score -= 0.5
        if score >= 2 and (best is None or score > best[0]):  # noqa: PLR2004 - a word or a relation that says so
            best = (score, link)
    return best[1] if best else None


_PAGER = re.compile(
    r"(?:^|[-_ ])(?:pag(?:er|ing|ination|es|enavi)?|nav-?links|page-?numbers?)(?:$|[-_ ])", re.IGNORECASE
)
_NUMBERS = re.compile(r"\d+")
_FIRST_PAGES = re.compile(
    r"[?&](?:page|p|paged|pg|pagina|seite|s|start|offset)=2$|/(?:page|p|seite|pagina)[/-]?2/?$|[-_/]2(?:/|\.html?)?$"
)


def counts_up(address: str, other: str) -> bool:
    """Whether an address is that of the next page: the same with one number higher by one.

    The first page often has no number; the second one ends in it.
    """
    if _NUMBERS.sub("#", address) == _NUMBERS.sub("#", other):
        pairs = zip(_NUMBERS.findall(address), _NUMBERS.findall(other), strict=True)
        changed = [(int(number), int(second)) for number, second in pairs if number != second]
        return len(changed) == 1 and changed[0][1] == changed[0][0] + 1
    rest = other.removeprefix(address.partition("#")[0].rstrip("/").removesuffix(".html"))
    return rest != other and bool(_FIRST_PAGES.search(rest))


def _is_number(text: str, url: str) -> bool:
    return text.strip().isdecimal() and text.strip() in _NUMBERS.findall(url)


def _in_pager(link: HtmlElement) -> bool:
    holders = (ancestor for ancestor, _ in zip(link.iterancestors(), range(3), strict=False))
    return any(_PAGER.search(f"{holder.get('class') or ''} {holder.get('id') or ''}") for holder in holders)


def sections_of(page: Page) -> tuple[Section, ...]:
    """Return the sections in a site's navigation, each address once.

    Links to other hosts are left out.
    """
    host = urlsplit(page.url).netloc
    sections: dict[str, Section] = {}
    for part in page.body.iter("nav", "ul", "header", "div"):
        if part.tag != "nav" and part.get("role") != "navigation" and not _is_menu(part):
            continue
        for link in part.iter("a"):
            url = page.resolve(link.get("href")).partition("#")[0].rstrip("/")
            name = text_in(link)
            if not url or urlsplit(url).netloc != host or not name or len(name) > 40 or _NO_SECTION.match(name):  # noqa: PLR2004
                continue
            if urlsplit(url).path in {"", "/"}:
                continue
            sections.setdefault(url, Section(url=url, name=name))
    return tuple(sections.values())[:_MOST_SECTIONS]


_MENU = re.compile(
    r"(?:^|[-_ ])(?:nav|navigation|menu|sections|topnav|navbar|main-?nav|categories)(?:$|[-_ ])", re.IGNORECASE
)


def _is_menu(part: HtmlElement) -> bool:
    named = f"{part.get('class') or ''} {part.get('id') or ''}"
    return part.tag in {"ul", "div"} and bool(_MENU.search(named)) and sum(1 for _ in part.iter("a")) <= 60  # noqa: PLR2004
