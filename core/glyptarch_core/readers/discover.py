"""Autodiscovery: the feeds in the link elements of a page (RSS autodiscovery, HTML 4.6.6)."""

from dataclasses import dataclass

from glyptarch_core.readers.html import base_of, page_root
from glyptarch_core.readers.model import resolve

__all__ = ["FeedLink", "discover_feeds"]

_TYPES = {
    "application/rss+xml": "RSS",
    "application/atom+xml": "Atom",
    "application/feed+json": "JSON Feed",
    "application/json": "JSON Feed",
    "application/rdf+xml": "RSS 1.0",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class FeedLink:
    """A feed that a page points to."""

    url: str
    title: str
    format: str


def discover_feeds(page: bytes, url: str) -> tuple[FeedLink, ...]:
    """Return the feeds that a page names, in its order, at most fifty. Any bytes give a list."""
    root = page_root(page)
    if root is None:
        return ()
    base = base_of(root, url)
    links: dict[str, FeedLink] = {}
    for element in root.iter("link"):
        kind = _TYPES.get(element.get("type", "").split(";")[0].strip().lower())
        address = resolve(base, element.get("href", ""))
        if kind and address and "alternate" in element.get("rel", "").lower().split():
            title = " ".join(element.get("title", "").split())[:200]
            links.setdefault(address, FeedLink(url=address, title=title, format=kind))
    return tuple(links.values())[:50]
