"""The title of an article, from what its page states, its title element and its headings."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from urllib.parse import urlsplit

from lxml.html import HtmlElement

from glyptarch_core.pages.page import Page, beginning_of, text_in

__all__ = ["Title", "find_title", "stands_outside"]

_SITE = re.compile(r"\s+(?:[|·•–—»«:]|-{1,2}|::)\s+|\s*[|»]\s*")
_FEWEST_SIGNS = 8
_LARGEST_PART = 200
_HEADINGS = ("h1", "h2", "h3")


@dataclass(frozen=True, slots=True)
class Title:
    """A title, and the element that shows it, where one does."""

    text: str
    element: HtmlElement | None = None


def find_title(page: Page, main: HtmlElement, *, said: str = "", site: str = "") -> Title:
    """Return the title of an article.

    A heading that agrees with what the page states, or with its title element, is the title. Where none agrees, the
    statement is; then the title element, unless it only names the site; then the heading next to the text. ``said`` is
    the stated title, ``site`` the stated name of the site.
    """
    names = _SiteNames(page, site)
    element = page.root.find(".//title")
    whole = " ".join((element.text or "").split()) if element is not None else ""
    headings = [
        heading for heading in page.body.iter(*_HEADINGS) if text_in(heading) and not stands_outside(heading, page)
    ]
    agreeing = [
        heading
        for level in _HEADINGS
        for heading in _nearest_first([one for one in headings if one.tag == level], page, main)
        if _agrees(text := text_in(heading), said) or _agrees(text, whole) or _is_part(text, whole)
    ]
    if agreeing:
        # The title element often has the name of the site as well, which is the shorter of the two.
        longest = max(agreeing, key=lambda heading: len(text_in(heading)))
        return Title(text_in(longest), longest)
    if said:
        text = _without_site(said, names)
        return Title(text, _showing(page, text))
    named = _without_site(whole, names)
    beside = _heading_beside(headings, page, main)
    if beside is not None and (not named or whole in names):
        return Title(text_in(beside), beside)
    if named:
        return Title(named, _showing(page, named))
    return Title(text_in(headings[0]), headings[0]) if headings else Title("")


def stands_outside(element: HtmlElement, page: Page) -> bool:
    """Whether an element is in the navigation, foot or margin of a page."""
    for ancestor in element.iterancestors():
        if ancestor is page.body or ancestor.tag in {"article", "main"}:
            return False
        if ancestor.tag in {"nav", "footer", "aside"}:
            return True
    return False


def _bare(text: str) -> str:
    return re.sub(r"[\W_]+", " ", text).strip().casefold()


def _agrees(text: str, other: str) -> bool:
    return bool(other) and _bare(text) == _bare(other)


def _is_part(text: str, whole: str) -> bool:
    """Whether a heading is a large part of a title element."""
    mine, theirs = _bare(text), _bare(whole)
    return len(mine) >= _FEWEST_SIGNS and len(mine.split()) > 1 and f" {mine} " in f" {theirs} "


def _nearest_first(headings: list[HtmlElement], page: Page, main: HtmlElement) -> list[HtmlElement]:
    """Return the headings inside the main text, then those before it, then the others."""
    places, inside = page.places, set(main.iter(*_HEADINGS))
    own = [heading for heading in headings if heading in inside]
    before = [heading for heading in headings if heading not in inside and places[heading] < places[main]]
    after = [heading for heading in headings if heading not in inside and places[heading] > places[main]]
    return [*own, *reversed(before), *after]


class _SiteNames:
    """What a site is called: as stated, as its host, and as its pages show it."""

    def __init__(self, page: Page, stated: str) -> None:
        self._page, self.stated = page, stated

    def __contains__(self, text: str) -> bool:
        bare = _bare(text)
        host = (urlsplit(self._page.url).hostname or "").removeprefix("www.")
        hosts = {host.replace(".", "").replace("-", ""), host.partition(".")[0].replace("-", "")}
        return bare == _bare(self.stated) or bare.replace(" ", "") in hosts or bare in self._shown

    @cached_property
    def _shown(self) -> frozenset[str]:
        return frozenset(bare for text in _names_shown(self._page) if (bare := _bare(text)))


def _without_site(title: str, names: _SiteNames) -> str:
    """Return a title without the name of the site before or after it."""
    parts = [part for part in _SITE.split(title) if part]
    if len(parts) < 2:  # noqa: PLR2004 - nothing to part
        return title
    kept = [part for part in parts if part not in names]
    if kept and len(kept) < len(parts):
        return title[title.find(kept[0]) : title.rfind(kept[-1]) + len(kept[-1])]
    return title if names.stated else max(parts, key=len)


def _names_shown(page: Page) -> Iterator[str]:
    """Yield the texts of links to the first page, and the owner of the copyright."""
    for link, address in page.addresses.items():
        if urlsplit(address).path in {"", "/"}:
            yield beginning_of(link, _LARGEST_PART)
            for image in link.iter("img"):
                yield image.get("alt") or ""
    for element in page.body.iter("footer", "small", "p", "div"):
        if not len(element) or element.tag == "footer":
            text = beginning_of(element, _LARGEST_PART)
            if "©" in text:
                yield re.sub(r"^[\s\d–-]+", "", text.partition("©")[2]).partition(".")[0]


def _showing(page: Page, title: str) -> HtmlElement | None:
    """Return the innermost element that shows a title as its whole text."""
    bare = _bare(title)
    if not bare:
        return None
    shown = (
        element
        for element in page.body.iter("b", "strong", "font", "span", "div", "p", "td", "center", "h4", "h5", "a")
        if len(element) <= 1
        and _bare(beginning_of(element, 2 * len(title))) == bare
        and not stands_outside(element, page)
    )
    return next(shown, None)


def _heading_beside(headings: list[HtmlElement], page: Page, main: HtmlElement) -> HtmlElement | None:
    """Return the heading of the highest level in the main text, or the last one before it."""
    for level in _HEADINGS:
        chosen = _nearest_first([heading for heading in headings if heading.tag == level], page, main)
        if chosen and page.places[chosen[0]] <= page.ends[page.places[main]]:
            return chosen[0]
    return None
