"""An article in its page: the main text, and title, date, author and picture around it."""

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import datetime
from itertools import islice

from lxml.html import HtmlElement

from glyptarch_core.languages.dates import find_date
from glyptarch_core.pages.byline import author_name, name_beside, name_in_byline
from glyptarch_core.pages.days import date_in
from glyptarch_core.pages.lists import date_element, picture_address
from glyptarch_core.pages.main_text import main_element, text_html
from glyptarch_core.pages.outside import is_outside, named
from glyptarch_core.pages.page import Page, beginning_of, text_in
from glyptarch_core.pages.second_reading import agreed_text
from glyptarch_core.pages.shown import find_price, find_tags
from glyptarch_core.pages.structured import stated_by
from glyptarch_core.pages.title import find_title, stands_outside
from glyptarch_core.readers.dates import moment_of

__all__ = ["Article", "extract"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Article:
    """An article as its page shows it. ``html`` is sanitised, with full addresses."""

    title: str = ""
    html: str = ""
    date: datetime | None = None
    author: str = ""
    picture: str = ""
    tags: tuple[str, ...] = ()
    price: str = ""
    description: str = ""
    language: str = ""


def extract(page: Page) -> Article:
    """Return the article of a page, from its stated data and its structure."""
    stated = stated_by(page)
    main = main_element(page)
    title = find_title(page, main, said=stated.get("title", ""), site=stated.get("site", ""))
    heading = title.element
    language = stated.get("language", "").replace("_", "-").lower()[:35]
    return Article(
        title=title.text,
        html=agreed_text(page, text_html(page, main, title=title.text), main, title=title.text),
        date=moment_of(stated.get("date", ""), language) or _date_near(page, main, heading),
        author=_author(page, stated, main, heading),
        picture=stated.get("picture", "") or _first_picture(page, main),
        tags=_stated_tags(stated) or find_tags(page, main, heading),
        price="" if stated.get("price") else find_price(page, heading),
        description=stated.get("description", ""),
        language=language,
    )


def _stated_tags(stated: Mapping[str, str]) -> tuple[str, ...]:
    return tuple(dict.fromkeys(tag.strip() for tag in stated.get("tags", "").split(",") if tag.strip()))[:20]


def _around(page: Page, main: HtmlElement, heading: HtmlElement | None) -> list[HtmlElement]:
    """Return the parts to search for date and author, nearest first.

    Near the heading, in the article, in the page.
    """
    parts: list[HtmlElement] = []
    if heading is not None:
        parts += [
            ancestor
            for ancestor, _ in zip(heading.iterancestors(), range(2), strict=False)
            if ancestor is not page.body
        ]
    parts.append(main)
    parent = main.getparent()
    if parent is not None:
        parts.append(parent)
    return [*parts, page.body]


def _date_near(page: Page, main: HtmlElement, heading: HtmlElement | None) -> datetime | None:
    for part in _around(page, main, heading):
        for element in part.iter("time"):
            if (
                not stands_outside(element, page)
                and (stated_time := date_in(element, page.language, now=page.at)) is not None
            ):
                return stated_time
        element = date_element(part, page.language)
        if element is not None and (stated_time := date_in(element, page.language, now=page.at)) is not None:
            return stated_time
    return None


_AUTHOR_NAMES = re.compile(r"(?:^|[-_ ])(?:author|byline|writer|autor|auteur|vcard|by-?line)(?:$|[-_ ])", re.IGNORECASE)


def _author(page: Page, stated: dict[str, str], main: HtmlElement, heading: HtmlElement | None) -> str:
    if stated.get("author"):
        return author_name(stated["author"], page.language)
    for part in _around(page, main, heading):
        for element in part.iter():
            if not isinstance(element.tag, str) or stands_outside(element, page):
                continue
            if (
                element.get("rel") == "author"
                or element.get("itemprop") == "author"
                or _AUTHOR_NAMES.search(named(element))
            ):
                name = author_name(text_in(element), page.language)
                if name:
                    return name
        for _, text in _lines(part, "p", "div", "span", "address", "small", "em", "i", "b", "a", "td", "li"):
            if name := name_in_byline(text, page.language):
                return name
    return _named_beside_date(page, main, heading)


_LONGEST_LINE = 120
_MOST_LINES = 2_000


def _lines(part: HtmlElement, *tags: str) -> Iterator[tuple[HtmlElement, str]]:
    """Yield the elements of a part with a short text, the first 2,000, and their texts."""
    texts = ((element, beginning_of(element, _LONGEST_LINE)) for element in part.iter(*tags))
    return islice(((element, text) for element, text in texts if 0 < len(text) <= _LONGEST_LINE), _MOST_LINES)


def _named_beside_date(page: Page, main: HtmlElement, heading: HtmlElement | None) -> str:
    """Return the name on one line with the date: “3 May 2026 | Name”, “Posted on 3 May by Name”."""
    for part in _around(page, main, heading)[:-1]:
        for element, text in _lines(part, "p", "div", "span", "i", "em", "small", "time", "td", "li"):
            dated = find_date(text, page.language, now=page.at)
            if dated is None or stands_outside(element, page):
                continue
            if name := name_beside(f"{text[: dated.start]} | {text[dated.end :]}", page.language):
                return name
    return ""


def _first_picture(page: Page, main: HtmlElement) -> str:
    # A picture above the text is its sibling, inside the parent of both.
    parent = main.getparent()
    for part in [main] if parent is None or parent is page.body else [main, parent]:
        for image in part.iter("img"):
            address = page.resolve(picture_address(image))
            if address and not _NO_PICTURE.search(address) and not _is_outside_of(image, part):
                return address
    return ""


_NO_PICTURE = re.compile(r"pixel|avatar|icon|logo|spacer|badge|emoji", re.IGNORECASE)


def _is_outside_of(element: HtmlElement, part: HtmlElement) -> bool:
    """Whether an element is inside a part of the page that is not the article."""
    for ancestor in element.iterancestors():
        if ancestor is part:
            return False
        if is_outside(ancestor):
            return True
    return False
