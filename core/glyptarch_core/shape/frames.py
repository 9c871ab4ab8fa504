"""Frames in the text of a source, such as players of films.

A post never has them, and never loses them silently.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from urllib.parse import urlsplit

from lxml.html import HtmlElement, builder

from glyptarch_core.text import absolute
from glyptarch_core.text.markup import fragment, serialise

__all__ = ["Framed", "with_links_for_frames"]

_FRAME = "<iframe"
_MOST = 20
# Pages that load frames late have their address here.
_ADDRESSES = ("src", "data-src", "data-lazy-src")


@dataclass(frozen=True, slots=True)
class Framed:
    """A text whose frames became links, and the hosts to which they lead."""

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
    hosts = []
    for frame in list(root.iter("iframe"))[:_MOST]:
        address = _address_of(frame, base)
        if address:
            hosts.append(urlsplit(address).netloc)
            _put(builder.FIGURE(builder.A(hosts[-1], href=address), {"class": "film"}), frame)
        frame.drop_tree()
    return Framed(serialise(root), hosts)


def _address_of(frame: HtmlElement, base: str) -> str:
    """Return the whole address of a frame, empty for one that leads nowhere on the web."""
    given = next((frame.get(name) for name in _ADDRESSES if (frame.get(name) or "").strip()), "") or ""
    link = absolute(f'<a href="{given.strip()}"></a>', base) if '"' not in given else ""
    found = fragment(link).find(".//a") if link else None
    address = found.get("href", "") if found is not None else ""
    try:
        parts = urlsplit(address)
    except ValueError:
        return ""
    return address if parts.scheme in {"http", "https"} and parts.hostname else ""


def _put(link: HtmlElement, frame: HtmlElement) -> None:
    """Put a link where a frame stands: after its paragraph, since a figure ends one."""
    place = frame
    while (above := place.getparent()) is not None and above.tag in {"p", "span", "b", "i", "em", "strong", "a"}:
        place = above
    place.addprevious(link) if place is frame else place.addnext(link)
