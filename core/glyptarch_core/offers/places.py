"""Places for offers in the text of a post.

They are filled when a page is made, so no price stands in a text.
"""

import re
from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum
from html import escape
from typing import Final

from lxml import etree
from lxml.html import HtmlElement

from glyptarch_core.text.markup import fragment, serialise

__all__ = ["Block", "Place", "filled", "has_places", "place_markup", "places_in", "without_places"]

_MARK: Final = "data-offer"
_KEY = re.compile(r"[A-Za-z0-9@._~%-]{1,140}/[A-Za-z0-9._~%-]{1,240}\Z")
_MOST_PRODUCTS = 20
_LONGEST_WORDING = 80


class Block(StrEnum):
    """What a place shows."""

    PRICE = "price"
    FACTS = "facts"
    FEATURES = "features"
    GALLERY = "gallery"
    RATING = "rating"
    REVIEWS = "reviews"
    HISTORY = "history"
    COMPARE = "compare"
    BEST = "best"
    DISCLOSURE = "disclosure"


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """A place: its block, the keys of its products, and the words of its button."""

    block: Block
    products: tuple[str, ...] = ()
    wording: str = ""


def place_markup(offer_place: Place, inside: str = "") -> str:
    """Return the place as HTML. ``inside`` is HTML shown where nothing fills it."""
    attributes = {
        _MARK: offer_place.block.value,
        "data-products": " ".join(offer_place.products),
        "data-wording": offer_place.wording,
    }
    written = "".join(f' {name}="{escape(value)}"' for name, value in attributes.items() if value)
    return f"<div{written}>{inside}</div>"


def has_places(markup: str) -> bool:
    """Whether HTML may have places."""
    return _MARK in markup


def places_in(markup: str) -> list[Place]:
    """Return the places of HTML, in order."""
    return [place for _, place in _found(fragment(markup))] if has_places(markup) else []


def filled(markup: str, fill: Callable[[Place], str]) -> str:
    """Return HTML with the content of each place replaced by the HTML that a function gives."""
    if not has_places(markup):
        return markup
    root = fragment(markup)
    for element, place in _found(root):
        inside = fragment(fill(place))
        tail = element.tail
        element.clear()
        element.tail = tail
        element.set("class", f"offer offer-{place.block.value}")
        element.text = inside.text
        element.extend(list(inside))
    return serialise(root)


def without_places(markup: str) -> str:
    """Return the HTML of a source without places.

    Only the blog's own templates and people put them in.
    """
    if not has_places(markup):
        return markup
    root = fragment(markup)
    for element in root.iter(etree.Element):
        for name in [name for name in element.attrib if name.lower().startswith("data-")]:
            del element.attrib[name]
    return serialise(root)


def _found(root: HtmlElement) -> list[tuple[HtmlElement, Place]]:
    places = []
    for element in root.iter("div"):
        kind = element.get(_MARK, "")
        # A place within a place is filled with it.
        if kind in Block._value2member_map_ and not any(above.get(_MARK) for above in element.iterancestors()):
            keys = [key for key in element.get("data-products", "").split() if _KEY.match(key)]
            wording = " ".join(element.get("data-wording", "").split())[:_LONGEST_WORDING]
            products = tuple(dict.fromkeys(keys))[:_MOST_PRODUCTS]
            places.append((element, Place(block=Block(kind), products=products, wording=wording)))
    return places
