"""Frames in the text of a source, such as players of films.

A post never has them. Those with an address on the web become links.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from urllib.parse import urljoin, urlsplit

from lxml.html import HtmlElement, builder

from glyptarch_core.text.markup import fragment, serialise

__all__ = ["Framed", "with_links_for_frames"]

_FRAME = "<iframe"
# Pages that load frames late have their address here.
_ADDRESSES = ("src", "data-src", "data-lazy-src")
# A figure ends these, so it follows them.
_AROUND = frozenset({"p", "h1", "h2", "h3", "h4", "h5", "h6", "span", "b", "i", "em", "strong", "a"})


@dataclass(frozen=True, slots=True)
class Framed:
    """A text whose frames became links, and the hosts to which they lead, each once."""

    html: str
    hosts: Sequence[str] = ()


def with_links_for_frames(html: str, base: str) -> Framed:
    """Return a text with a link in the place of each frame.

    It is a ``figure.film`` with the host as its words. A blog that allows the host shows its player there. ``base`` is
    the address of the page, for relative ones.
    """
    if _FRAME not in html.lower():
        return Framed(html)
    root = fragment(html)
    hosts: dict[str, None] = {}
    last_after: dict[HtmlElement, HtmlElement] = {}
    for frame in list(root.iter("iframe")):
        address = _address_of(frame, base)
        if address:
            host = urlsplit(address).netloc
            hosts[host] = None
            _put(builder.FIGURE(builder.A(host, href=address), {"class": "film"}), frame, last_after)
        frame.drop_tree()
    return Framed(serialise(root), list(hosts))


def _address_of(frame: HtmlElement, base: str) -> str:
    """Return the whole address of a frame, empty for one that leads nowhere on the web."""
    given = next((found for name in _ADDRESSES if (found := (frame.get(name) or "").strip())), "")
    try:
        address = urljoin(base, given) if given else ""
        parts = urlsplit(address)
    except ValueError:
        return ""
    return address if parts.scheme in {"http", "https"} and parts.hostname else ""


def _put(link: HtmlElement, frame: HtmlElement, last_after: dict[HtmlElement, HtmlElement]) -> None:
    """Put a link where a frame stands, or after its paragraph.

    ``last_after`` has the last link after each paragraph, so that several keep their order.
    """
    place = frame
    while (above := place.getparent()) is not None and above.tag in _AROUND:
        place = above
    if place is frame:
        place.addprevious(link)
    else:
        last_after.get(place, place).addnext(link)
        last_after[place] = link
