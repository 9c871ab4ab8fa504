"""An article in its page: the main text, and title, date, author and picture around it.

The main text is the smallest part of the page that holds nearly all of its running text. What stands in it
and is none (share bars, related links, forms, notices) is taken out. Nothing here knows a site.
"""

import re
from collections import defaultdict
from collections.abc import Iterator
from copy import deepcopy
from dataclasses import dataclass
from datetime import datetime

from lxml import etree
from lxml.html import HtmlElement

from glyptarch_core.pages.lists import date_element, picture_address
from glyptarch_core.pages.page import Page, text_in
from glyptarch_core.pages.structured import stated_by
from glyptarch_core.readers.dates import moment_of
from glyptarch_core.text import absolute, sanitise

__all__ = ["Article", "date_in", "extract", "main_element", "read_date", "text_html"]

_NEVER = frozenset(
    "script style noscript template iframe object embed form button input select textarea nav footer aside svg canvas dialog menu"
    " head link meta title".split()
)
_NOT_TEXT = re.compile(
    r"(?:^|[-_ ])(?:share|sharing|shares|social|related|recommend\w*|more-?(?:stories|articles|posts|news)|read-?(?:more|next|also)"
    r"|newsletter|subscri\w+|sign-?up|promo\w*|advert\w*|ads?|sponsor\w*|banner|cookies?|consent|gdpr|comments?|disqus|respond|replies"
    r"|sidebar|breadcrumbs?|pagination|pager|toolbar|menu|nav|navigation|footer|copyright|legal|tags|taglist|tag-?list|topics"
    r"|author-?(?:box|bio|card|info)|about-?author|bio|byline|meta|metadata|post-?meta|entry-?meta|dateline|credits?"
    r"|popup|modal|overlay|hidden|sr-?only|visually-?hidden|screen-?reader\w*|print-?only|skip-?link|widget|rating|feedback|outbrain"
    r"|teasers?|see-?also|next-?(?:post|article)|prev\w*-?(?:post|article)|jump|toc|table-?of-?contents|paywall|pay-?wall|barrier"
    r"|follow|donat\w+|support-?us|login|reactions?|likes|poll|trending|popular|latest|most-?read)(?:$|[-_ ])",
    re.IGNORECASE,
)
_BODY_NAMES = re.compile(
    r"(?:^|[-_ ])(?:article-?(?:body|text|content)|entry-?content|post-?(?:body|content|text)|story-?(?:body|text|content)|body-?text"
    r"|article__(?:body|text|content)|content-?(?:body|text)|main-?(?:text|content)|articlebody|prose|copy|text)(?:$|[-_ ])",
    re.IGNORECASE,
)
_BLOCKS = frozenset(
    "p div section article main li ul ol dl dt dd blockquote pre table tr td th h1 h2 h3 h4 h5 h6 figure figcaption".split()
)
_KEPT_WHOLE = frozenset("pre table blockquote figure ul ol dl code".split())
_HEADINGS = frozenset({"h1", "h2", "h3", "h4", "h5", "h6"})
_LEAD_LINES = re.compile(
    r"^(?:by|von|par|de|por|posted(?: on| by)?|published(?: on)?|written by|updated(?: on)?|last updated|veröffentlicht(?: am)?"
    r"|stand|share(?: this)?|teilen|print|e-?mail|advertisement|anzeige|read (?:more|also|next)|see also|related(?: articles| stories)?"
    r"|\d+ (?:comments?|min(?:ute)?s?(?: read)?|shares?)|comments?|tags?:|filed under|topics?:|click here|subscribe|sign up|follow us)\b",
    re.IGNORECASE,
)
_NOTICE = re.compile(
    r"cookies? (?:policy|settings|to (?:improve|give|provide))|we use cookies|accept (?:all )?cookies|all rights reserved"
    r"|sign up (?:for|to) (?:our|the)|subscribe to (?:our|the|continue|read)|our newsletter|©|enable javascript|turn on javascript"
    r"|share this (?:article|story|post|page)|follow us on|unsubscribe at any time|already a (?:subscriber|member)",
    re.IGNORECASE,
)
_ENOUGH = 0.82
_SHORT = 12
_LINKED = 0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Article:
    """An article as its page shows it. ``html`` is sanitised with full addresses; ``where`` says of each field whence it is."""

    title: str = ""
    html: str = ""
    date: datetime | None = None
    author: str = ""
    picture: str = ""
    tags: tuple[str, ...] = ()
    description: str = ""
    language: str = ""


def extract(page: Page) -> Article:
    """Give the article of a page, by what the page states and by how it is built."""
    stated = stated_by(page)
    main = main_element(page)
    heading = _heading(page, main)
    title = _title(page, stated, heading)
    language = stated.get("language", "").replace("_", "-").lower()[:35]
    return Article(
        title=title,
        html=text_html(page, main, title=title),
        date=moment_of(stated.get("date", "")) or _date_near(page, main, heading),
        author=_author(page, stated, main, heading),
        picture=stated.get("picture", "") or _first_picture(page, main),
        tags=tuple(dict.fromkeys(tag.strip() for tag in stated.get("tags", "").split(",") if tag.strip()))[:20],
        description=stated.get("description", ""),
        language=language,
    )


# The main text


def _named(element: HtmlElement) -> str:
    return f"{element.get('class') or ''} {element.get('id') or ''}".strip()


def _is_hidden(element: HtmlElement) -> bool:
    style = (element.get("style") or "").replace(" ", "").lower()
    return element.get("hidden") is not None or element.get("aria-hidden") == "true" or "display:none" in style


def _is_outside(element: HtmlElement) -> bool:
    """Tell whether an element, by what it is or is called, holds no text of an article."""
    if element.tag in _NEVER or _is_hidden(element):
        return True
    if element.get("role") in {"navigation", "complementary", "contentinfo", "search", "dialog", "menu", "banner"}:
        return True
    named = _named(element)
    return bool(named) and bool(_NOT_TEXT.search(named)) and not _BODY_NAMES.search(named) and element.tag != "body"


def _own_text(element: HtmlElement) -> str:
    """Give the text of an element and of its inline parts, without that of blocks in it."""
    pieces = [element.text or ""]
    for child in element:
        if isinstance(child.tag, str) and child.tag not in _BLOCKS and child.tag not in _NEVER:
            pieces.append(text_in(child))
        pieces.append(child.tail or "")
    return " ".join(" ".join(pieces).split())


def _linked(element: HtmlElement) -> int:
    return sum(len(text_in(link)) for link in element.iter("a"))


def _weight(text: str, linked: int) -> float:
    """Give how much a piece of text looks like running text: long, with sentences, not made of links."""
    length = len(text)
    if not length or linked > length * _LINKED:
        return 0.0
    dense = 2 if not text.isascii() and sum(ord(sign) > 0x2E80 for sign in text[:200]) > 20 else 1  # noqa: PLR2004
    stops = len(re.findall(r"[.!?…。！？।؟][\s\"'”»)]|[.!?…。！？।؟]$|[。！？।]", text))
    if length * dense < 40 and not stops:  # noqa: PLR2004 - characters of a label
        return length * 0.1
    return (length - linked) * dense * (1.0 if stops else 0.45)


def _texts(root: HtmlElement) -> Iterator[tuple[HtmlElement, float]]:
    """Give the elements that hold text of their own, with the weight of that text; what is outside is passed over."""
    waiting = [root]
    while waiting:
        element = waiting.pop()
        if not isinstance(element.tag, str) or (element is not root and _is_outside(element)):
            continue
        if element.tag in _HEADINGS or _is_teaser(element):
            continue
        weight = _weight(_own_text(element), sum(len(text_in(one)) for one in element.iterchildren("a")))
        if weight and not _NOTICE.search(_own_text(element)[:400]):
            yield element, weight
        waiting.extend(child for child in element if isinstance(child.tag, str) and child.tag in _WITH_TEXT)


_LONGEST_TEASER = 500


def _is_teaser(element: HtmlElement) -> bool:
    """Tell whether an element announces another article: a short block whose heading is a link, with others of its kind."""
    if element.tag not in {"div", "li", "section", "article", "a"}:
        return False
    titled = any(
        one.tag in _HEADINGS and (one.find(".//a") is not None or _in_link(one)) for one in element.iter(*_HEADINGS)
    )
    if not titled or len(text_in(element)) > _LONGEST_TEASER:
        return False
    kin = [one for one in (element.getprevious(), element.getnext()) if one is not None]
    return any(one.tag == element.tag and one.get("class") == element.get("class") for one in kin)


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
    """Give the smallest element that holds nearly all running text of a page."""
    body = page.body
    sums: dict[HtmlElement, float] = defaultdict(float)
    for element, weight in _texts(body):
        if element.tag in {"span", "a", "b", "strong", "em", "i"}:
            continue
        # Half of the worth is the paragraph's own: a page with comments has many small ones elsewhere.
        sums[element] += weight
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
            (one for one in current if isinstance(one.tag, str)), key=lambda one: sums.get(one, 0.0), default=None
        )
        if child is None:
            return current
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
            return current
        current = child


def _only_cell(element: HtmlElement) -> set[str]:
    """Give the tags that may be the main element after all: cells of tables that only lay out the page."""
    return {"tr", "td"} if element.tag in {"tr", "td"} else set()


def _says_text(element: HtmlElement) -> bool:
    named = _named(element)
    if element.tag in {"article", "main"} or element.get("itemprop") == "articleBody" or element.get("role") == "main":
        return True
    return bool(named and _BODY_NAMES.search(named))


def text_html(page: Page, main: HtmlElement, *, title: str = "") -> str:
    """Give the inside of the main element as sanitised HTML, without what is no text of the article."""
    copy = deepcopy(main)
    for image in copy.iter("img"):
        address = picture_address(image)
        if address:
            image.set("src", address)
    _clean(copy)
    _without_heading(copy, title)
    _without_edges(copy)
    inside = (copy.text or "") + "".join(
        etree.tostring(child, encoding="unicode", method="html") for child in copy if isinstance(child.tag, str)
    )
    return sanitise(absolute(inside, page.base)).strip()


def _clean(root: HtmlElement) -> None:
    for element in list(root.iter()):
        if element is root or element.getparent() is None:
            continue
        if not isinstance(element.tag, str) or _goes(element):
            _drop(element)


def _goes(element: HtmlElement) -> bool:
    if element.tag == "header" or element.tag == "hgroup":
        # The head of an article is told by the fields; what is long in it is a lead.
        return len(text_in(element)) < 400  # noqa: PLR2004 - characters
    if _is_outside(element):
        return not (element.tag in {"form"} and len(text_in(element)) > 1000)  # noqa: PLR2004 - a form around a page
    if _is_teaser(element):
        return True
    if element.tag in {"ul", "ol", "div", "section", "p", "table", "dl"}:
        text = text_in(element)
        if not text:
            return element.tag != "div" and next(element.iter("img", "video", "audio", "picture"), None) is None
        linked = _linked(element)
        links = sum(1 for _ in element.iter("a"))
        if links > 1 and linked > len(text) * 0.6 and len(text) / links < 90:  # noqa: PLR2004 - a list of links
            return True
        if element.tag in {"p", "div"} and len(text) < 300 and not len(element.findall(".//p")) > 1:  # noqa: PLR2004
            return bool(_NOTICE.search(text)) or (links == 1 and linked > len(text) * 0.8 and len(text) < 120)  # noqa: PLR2004
    return False


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
        and not any(one.tag in _BLOCKS for one in element.iterdescendants() if isinstance(one.tag, str))
    ]


def _without_edges(root: HtmlElement) -> None:
    """Take off what frames a text: bylines, dates and counts before it, labels and headings without a text after it."""
    leaves = _leaves(root)
    for element in leaves[:6]:
        if element.getparent() is None:
            continue
        text = text_in(element)
        if len(text.split()) > _SHORT or (len(text) > 60 and text[-1:] in ".!?"):  # noqa: PLR2004 - a sentence
            break
        if element.tag in {"h2", "h3"} and not _LEAD_LINES.match(text):
            break
        if _LEAD_LINES.match(text) or element.tag in {"time", "address"} or _is_date(text):
            _drop(element)
    for element in reversed(_leaves(root)[-8:]):
        text = text_in(element)
        ends = text[-1:] in '.!?…"”»)。！？।:'
        label = element.tag in _HEADINGS or _LEAD_LINES.match(text) or _is_date(text)
        if len(text.split()) > _SHORT or (ends and not label):
            break
        if label and element.getparent() is not None:
            _drop(element)


def _is_date(text: str) -> bool:
    return len(text) <= 60 and moment_of(_bare_date(text)) is not None  # noqa: PLR2004 - no date is longer


def _bare_date(text: str) -> str:
    return re.sub(r"^(?:\w+ ){0,2}?(?=\d|(?:Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec))", "", text).strip(
        " ·|–-,"
    )


# The fields around it


def _heading(page: Page, main: HtmlElement) -> HtmlElement | None:
    """Give the heading of the article: the h1 nearest before the main text, or in it."""
    places = page.places
    headings = [one for one in page.body.iter("h1") if text_in(one) and not _stands_outside(one, page)]
    inside = [one for one in headings if main in set(one.iterancestors())]
    if inside:
        return inside[0]
    before = [one for one in headings if places[one] < places[main]]
    return before[-1] if before else headings[0] if headings else None


def _stands_outside(element: HtmlElement, page: Page) -> bool:
    for ancestor in element.iterancestors():
        if ancestor is page.body:
            return False
        if ancestor.tag in {"article", "main"}:
            return False
        if ancestor.tag in {"nav", "footer", "aside"}:
            return True
    return False


_SITE = re.compile(r"\s+[|·•–—»:-]\s+|\s*[|»]\s*")


def _same(one: str, other: str) -> bool:
    def bare(text: str) -> str:
        return re.sub(r"\W+", " ", text).strip().lower()

    return bare(one) == bare(other)


def _without_site(title: str, site: str) -> str:
    """Give a title of a page without the name of its site."""
    parts = _SITE.split(title)
    if len(parts) < 2:  # noqa: PLR2004 - nothing to part
        return title
    if site:
        kept = [part for part in parts if not _same(part, site)]
        if kept and len(kept) < len(parts):
            return title if len(kept) == len(parts) else _from_to(title, kept)
    return max(parts, key=len)


def _from_to(title: str, kept: list[str]) -> str:
    return title[title.find(kept[0]) : title.rfind(kept[-1]) + len(kept[-1])]


def _title(page: Page, stated: dict[str, str], heading: HtmlElement | None) -> str:
    shown = text_in(heading) if heading is not None else ""
    element = page.root.find(".//title")
    whole = " ".join((element.text or "").split()) if element is not None else ""
    said = stated.get("title", "")
    if shown and (not said or shown in said or shown in whole or _same(shown, said)):
        return shown
    if said:
        return _without_site(said, stated.get("site", "")) if stated.get("site") else said
    if not shown and whole:
        for level in ("h2", "h3"):
            found = next((text for one in page.body.iter(level) if len(text := text_in(one)) > 8 and text in whole), "")  # noqa: PLR2004
            if found:
                return found
        return _without_site(whole, stated.get("site", ""))
    return shown or whole


def date_in(element: HtmlElement) -> datetime | None:
    """Give the time that an element states: by its attribute, else by its text."""
    for value in (element.get("datetime"), element.get("content"), element.get("title"), text_in(element)):
        if value and (found := read_date(value)) is not None:
            return found
    return None


_WITHIN = re.compile(
    r"\d{4}-\d{1,2}-\d{1,2}(?:[T ]\d{1,2}:\d{2}(?::\d{2})?(?:Z|[+-]\d{2}:?\d{2})?)?|\d{1,2}\.? ?(?:de )?[^\W\d_]{3,12}\.?,? (?:de )?\d{4}"
    r"|[^\W\d_]{3,12}\.? \d{1,2}(?:st|nd|rd|th)?,? \d{4}|\d{1,2}[./]\d{1,2}[./]\d{4}|\d{4}年\d{1,2}月\d{1,2}日"
)


def read_date(text: str) -> datetime | None:
    """Give the time that a text names, alone or among other words; none where it can be read in two ways."""
    found = moment_of(text)
    if found is None:
        for match in _WITHIN.finditer(text[:300]):
            found = moment_of(_in_order(match[0]))
            if found is not None:
                break
    return found


def _in_order(text: str) -> str:
    """Bring a date into an order that is read for certain: month first in words, dots, and signs for year, month and day."""
    written = re.sub(r"(?<=\d)(?:st|nd|rd|th)\b", "", text)
    words = re.match(r"([^\W\d_]+)\.? (\d{1,2}),? (\d{4})$", written)
    if words:
        return f"{words[2]} {words[1]} {words[3]}"
    signs = re.match(r"(\d{4})年(\d{1,2})月(\d{1,2})日$", written)
    if signs:
        return f"{signs[1]}-{int(signs[2]):02}-{int(signs[3]):02}"
    slashes = re.match(r"(\d{1,2})/(\d{1,2})/(\d{4})$", written)
    # 03/04 is March or April, by country: only one that can be read in one way is read.
    if slashes and (int(slashes[1]) > 12 or int(slashes[2]) > 12 or slashes[1] == slashes[2]):  # noqa: PLR2004 - months
        day, month = (
            (slashes[1], slashes[2]) if int(slashes[1]) > 12 or slashes[1] == slashes[2] else (slashes[2], slashes[1])
        )  # noqa: PLR2004
        return f"{slashes[3]}-{int(month):02}-{int(day):02}"
    dots = re.match(r"(\d{1,2})\.(\d{1,2})\.(\d{4})$", written)
    if dots and int(dots[2]) <= 12:  # noqa: PLR2004
        return f"{dots[3]}-{int(dots[2]):02}-{int(dots[1]):02}"
    return written.replace(",", "")


def _around(page: Page, main: HtmlElement, heading: HtmlElement | None) -> list[HtmlElement]:
    """Give the parts in which date and author are looked for: near the heading first, then the article, then the page."""
    parts: list[HtmlElement] = []
    if heading is not None:
        parts += [one for one, _ in zip(heading.iterancestors(), range(2), strict=False) if one is not page.body]
    parts.append(main)
    parent = main.getparent()
    if parent is not None:
        parts.append(parent)
    return [*parts, page.body]


def _date_near(page: Page, main: HtmlElement, heading: HtmlElement | None) -> datetime | None:
    for part in _around(page, main, heading):
        for element in part.iter("time"):
            if not _stands_outside(element, page) and (found := date_in(element)) is not None:
                return found
        element = date_element(part)
        if element is not None and (found := date_in(element)) is not None:
            return found
    return None


_BY = re.compile(
    r"^(?:written by|posted by|text(?: by)?:|words by|story by|by|von|par|por|di|av|door|author:|autor:|auteur ?:)\s+(.{3,80})$",
    re.IGNORECASE,
)
_AUTHOR_NAMES = re.compile(r"(?:^|[-_ ])(?:author|byline|writer|autor|auteur|vcard|by-?line)(?:$|[-_ ])", re.IGNORECASE)
_AFTER_NAME = re.compile(r"\s*(?:[|·•,–—(]|\bon\b|\bam\b|\bpublished\b|\bupdated\b|\d).*$", re.IGNORECASE)


def _author(page: Page, stated: dict[str, str], main: HtmlElement, heading: HtmlElement | None) -> str:
    if stated.get("author"):
        return _name(stated["author"])
    for part in _around(page, main, heading):
        for element in part.iter():
            if not isinstance(element.tag, str) or _stands_outside(element, page):
                continue
            if (
                element.get("rel") == "author"
                or element.get("itemprop") == "author"
                or _AUTHOR_NAMES.search(_named(element))
            ):
                name = _name(text_in(element))
                if name:
                    return name
        for element in part.iter("p", "div", "span", "address", "small", "em", "i", "b", "a", "td", "li"):
            text = text_in(element)
            if len(text) <= _LONGEST_LINE and (match := _BY.match(text)) and (name := _name(match[1])):
                return name
    return _named_beside_date(page, main, heading)


_LONGEST_LINE = 120
_PARTS = re.compile(r"\s+[|·•–—-]\s+|[|·•,]\s*|\b(?:posted|published|updated|written|on|am|le|el)\b", re.IGNORECASE)
_BY_WITHIN = re.compile(r"\b(?:by|von|par|por)\s+((?:[^\W\d_][\w.'’-]*\s?){1,4})", re.IGNORECASE)
_PERSON = re.compile(
    r"(?:[^\W\d_a-z][\w.'’-]*)(?:\s+(?:(?:de|van|von|der|la|le|al|bin|di|da)\s+)?[^\W\d_a-z][\w.'’-]*){1,3}"
)


def _named_beside_date(page: Page, main: HtmlElement, heading: HtmlElement | None) -> str:
    """Give the name that stands in one line with the date: “3 May 2026 | Name”, “Posted on 3 May by Name”."""
    for part in _around(page, main, heading)[:-1]:
        for element in part.iter("p", "div", "span", "i", "em", "small", "time", "td", "li"):
            text = text_in(element)
            if len(text) > _LONGEST_LINE or not (dated := _WITHIN.search(text)) or _stands_outside(element, page):
                continue
            named = _BY_WITHIN.search(text)
            if named and (name := _name(named[1])):
                return name
            rest = f"{text[: dated.start()]} | {text[dated.end() :]}"
            found = next((one.strip() for one in _PARTS.split(rest) if _PERSON.fullmatch(one.strip())), "")
            if found and not _WEEKDAY.match(found):
                return found
    return ""


_WEEKDAY = re.compile(r"(?:mon|tues|wednes|thurs|fri|satur|sun)day\b", re.IGNORECASE)


def _name(text: str) -> str:
    match = _BY.match(text)
    name = _AFTER_NAME.sub("", match[1] if match else text).strip(" .,:;")
    return name if 2 < len(name) <= 80 and len(name.split()) <= 6 else ""  # noqa: PLR2004 - a name of a person


def _first_picture(page: Page, main: HtmlElement) -> str:
    for image in main.iter("img"):
        address = page.resolve(picture_address(image))
        if address and not any(word in address.lower() for word in ("pixel", "avatar", "icon", "logo", "spacer")):
            return address
    return ""
