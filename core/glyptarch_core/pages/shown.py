"""Tags and the price that a page shows for its article, where it states none."""

import re
from collections import defaultdict
from itertools import islice
from typing import NamedTuple

from lxml.html import HtmlElement

from glyptarch_core.languages import alternatives
from glyptarch_core.pages.outside import named
from glyptarch_core.pages.page import Page, beginning_of, text_in
from glyptarch_core.pages.title import stands_outside
from glyptarch_core.text.prices import amount_of, currency_in

__all__ = ["find_price", "find_tags", "price_element"]

_NAMES_TAGS = re.compile(
    r"(?:^|[-_ ])(?:tags|tag-?(?:list|links)|topics|keywords|labels|schlag(?:worte|wörter)|etiquetas|mots-?cles)"
    r"(?:$|[-_ ])",
    re.IGNORECASE,
)
_LABEL = re.compile(rf"^(?:{alternatives('tagged')})\s*(?P<mark>[:：]?)\s*", re.IGNORECASE)
_BETWEEN = re.compile(r"\s*[,،、，;|·•/]\s*")
_MOST_TAGS = 15
"""More are those of the whole site."""
_LONGEST_TAG = 50
_LONGEST_LINE = 400
_HOLD_LABELS = ("p", "div", "ul", "li", "span", "section", "footer", "td", "b", "strong", "dt", "em", "h3", "h4", "h5")
_MOST_LOOKED_AT = 4_000


def find_tags(page: Page, main: HtmlElement, heading: HtmlElement | None) -> tuple[str, ...]:
    """Return the tags of an article as its page shows them, the nearest to its text.

    They are links that say so (``rel="tag"``, HTML 4.6.7.19), or stand in an element that is named for tags or begins
    with a label such as “Tags:”.
    """
    for part in _around(page, main, heading):
        for found in (_related(part), _named(part, page), _labelled(part, page)):
            tags = tuple(dict.fromkeys(filter(None, map(_tag, found))))
            if tags:
                return tags if len(tags) <= _MOST_TAGS else ()
    return ()


def _around(page: Page, main: HtmlElement, heading: HtmlElement | None) -> list[HtmlElement]:
    """Return the text, what holds the text and its heading, what is around that, and the page."""
    above_heading = set(heading.iterancestors()) if heading is not None else set()
    within = next((above for above in main.iterancestors() if heading is None or above in above_heading), page.body)
    around = within.getparent()
    return [main, within, *([around] if around is not None and within is not page.body else []), page.body]


def _related(part: HtmlElement) -> list[str]:
    return [text_in(link) for link in part.iter("a") if "tag" in (link.get("rel") or "").lower().split()]


def _named(part: HtmlElement, page: Page) -> list[str]:
    for element in part.iter("ul", "ol", "div", "p", "span", "section", "footer", "nav", "dl"):
        if _NAMES_TAGS.search(named(element)) and "cloud" not in named(element) and not stands_outside(element, page):
            return _values_in(element)
    return []


def _labelled(part: HtmlElement, page: Page) -> list[str]:
    for element in part.iter(*_HOLD_LABELS):
        if not _LABEL.match((element.text or "").strip()):
            continue
        # A label alone, such as a word in bold, begins what is around it.
        alone = _LABEL.fullmatch(beginning_of(element, _LONGEST_LINE))
        line = element.getparent() if alone else element
        if line is not None and (values := _values_of_line(line, page)):
            return values
    return []


def _values_of_line(line: HtmlElement, page: Page) -> list[str]:
    text = beginning_of(line, _LONGEST_LINE)
    label = _LABEL.match(text)
    if label is None or len(text) > _LONGEST_LINE or stands_outside(line, page):
        return []
    linked = sum(len(text_in(link)) for link in line.iter("a"))
    # “Topics discussed …” begins a sentence: values follow a colon, or are links.
    return _values_in(line) if label["mark"] or linked >= (len(text) - label.end()) / 2 > 0 else []


def _values_in(element: HtmlElement) -> list[str]:
    """Return the values of a list of tags.

    They are its links, else its entries, else what signs part.
    """
    links = [text_in(link) for link in element.iter("a")]
    if any(links):
        return links
    entries = [text_in(entry) for entry in element.iter("li", "dd")]
    text = _LABEL.sub("", beginning_of(element, _LONGEST_LINE))
    return entries if any(entries) else _BETWEEN.split(text) if len(text) <= _LONGEST_LINE else []


def _tag(text: str) -> str:
    tag = text.strip().lstrip("#").strip(" ,.;:")
    return tag if len(tag) <= _LONGEST_TAG and not _LABEL.fullmatch(tag) else ""


_NAMES_PRICE = re.compile(
    r"(?:^|[-_ ])(?:price|preis|prix|precio|prezzo|prijs|pris|cena|amount)(?:$|[-_ ])", re.IGNORECASE
)
_FORMER = re.compile(
    r"(?:^|[-_ ])(?:old|was|former|rrp|msrp|uvp|strike\w*|crossed|compare|(?:regular|list|unit|base)-?price"
    r"|price-?(?:old|before))(?:$|[-_ ])",
    re.IGNORECASE,
)
_BUYING = re.compile(rf"\W*(?:{alternatives('buying')})[\W\d]*", re.IGNORECASE)
_BESIDE_PRICE = re.compile(
    r"(?:our|price|preis|prix|precio|prezzo|prijs|pris|cena|incl|inkl|including|with|vat|tax|mwst|ust|tva|ttc|iva|btw|moms)",
    re.IGNORECASE,
)
_LONGEST_PRICE = 40
_HOLD_PRICES = ("span", "p", "div", "b", "strong", "ins", "dd", "td", "em", "data", "bdi", "li", "small")
_STRUCK = frozenset({"del", "s", "strike"})
_NAMED_ABOVE = 3


def find_price(page: Page, heading: HtmlElement | None) -> str:
    """Return the price of the thing that a page sells, as it is written.

    It is the only price in what is nearest around the heading, and the page has a button that buys. Struck prices,
    those for a unit, and those of other things further off do not count. Of several different prices none is right.
    """
    if heading is None or not any(map(_buys, page.body.iter("button", "input", "a"))):
        return ""
    levels = {above: level for level, above in enumerate(heading.iterancestors())}
    near: dict[int, list[_Price]] = defaultdict(list)
    for price in filter(_is_bare, _prices_in(page.body)):
        near[next(levels[above] for above in price.element.iterancestors() if above in levels)].append(price)
    if not near:
        return ""
    prices = near[min(near)]
    # What is named a price is it rather than what it costs to send, unless another price comes first.
    named_ones = [price for price in prices if price.is_named] if prices[0].is_named else prices
    return prices[0].text if len({amount_of(price.text) for price in named_ones}) == 1 else ""


def price_element(block: HtmlElement) -> HtmlElement | None:
    """Return the element with the price of the thing that a block of a list shows."""
    prices = _prices_in(block)
    chosen = [price for price in prices if price.is_named] or prices
    return chosen[0].element if chosen else None


def _buys(control: HtmlElement) -> bool:
    return bool(_BUYING.fullmatch(beginning_of(control, _LONGEST_PRICE) or control.get("value") or ""))


def _is_bare(price: "_Price") -> bool:
    """Whether a text is a price, with no other words than those for a price and its tax.

    “from €5” is none.
    """
    words = re.findall(r"[^\W\d_]+", price.text.replace(currency_in(price.text), " "))
    return all(_BESIDE_PRICE.fullmatch(word) for word in words)


class _Price(NamedTuple):
    """An element whose text is one price with its currency.

    ``is_named`` says that a class or id names it one.
    """

    element: HtmlElement
    text: str
    is_named: bool


def _prices_in(part: HtmlElement) -> list[_Price]:
    """Return the prices in an element, each by its innermost one.

    Those that are struck or for a unit are left out.
    """
    found = []
    for element in islice(part.iter(*_HOLD_PRICES), _MOST_LOOKED_AT):
        text = beginning_of(element, _LONGEST_PRICE)
        inside = (inner for inner in element.iter(*_HOLD_PRICES) if inner is not element)
        if not _is_price(text) or any(_is_price(beginning_of(inner, _LONGEST_PRICE)) for inner in inside):
            continue
        around = [element, *islice(element.iterancestors(), _NAMED_ABOVE)]
        if not any(one.tag in _STRUCK or _FORMER.search(named(one)) for one in around):
            found.append(_Price(element, text, any(_NAMES_PRICE.search(named(one)) for one in around)))
    return found


def _is_price(text: str) -> bool:
    is_short = len(text) <= _LONGEST_PRICE and any(map(str.isdecimal, text))
    return is_short and amount_of(text) is not None and bool(currency_in(text))
