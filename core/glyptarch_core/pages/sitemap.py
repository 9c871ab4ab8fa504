"""Sitemaps (sitemaps.org protocol 0.9) and their indexes as lists of articles.

The extension for news is read as well.
"""

import zlib
from dataclasses import dataclass
from datetime import datetime

from lxml import etree

from glyptarch_core.errors import ParseError
from glyptarch_core.pages.days import read_date
from glyptarch_core.readers.model import resolve
from glyptarch_core.text import clean_line

__all__ = ["MapEntry", "Sitemap", "is_sitemap", "read_sitemap"]

_GZIP = b"\x1f\x8b"
_LARGEST = 60 << 20
_MOST = 50_000
_KEPT = 500
_START = 2000
_LONGEST_TITLE = 500


@dataclass(frozen=True, slots=True, kw_only=True)
class MapEntry:
    """An address in a sitemap, with its date and, for news, its title."""

    url: str
    at: datetime | None
    title: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Sitemap:
    """A read sitemap, newest first: addresses of pages, or of sitemaps where it is an index."""

    entries: tuple[MapEntry, ...]
    is_index: bool


def _plain(body: bytes) -> bytes:
    """Return a gzip body (RFC 1952) decompressed, at most 60 MB. Raises ParseError."""
    if not body.startswith(_GZIP):
        return body
    try:
        inflate = zlib.decompressobj(zlib.MAX_WBITS | 16)
        plain = inflate.decompress(body, _LARGEST)
    except zlib.error as error:
        raise ParseError("not_a_page", "The sitemap cannot be unpacked.") from error
    if inflate.unconsumed_tail:
        raise ParseError("too_large", f"The sitemap is larger than {_LARGEST >> 20} MB, the most that is read.")
    return plain


def is_sitemap(body: bytes) -> bool:
    """Whether bytes are a sitemap or an index of sitemaps."""
    try:
        start = _plain(body)[:_START]
    except ParseError:
        return False
    return b"<urlset" in start or b"<sitemapindex" in start


def read_sitemap(body: bytes, *, url: str) -> Sitemap:
    """Read a sitemap without expanding entities. Raises ParseError."""
    parser = etree.XMLParser(resolve_entities=False, no_network=True, huge_tree=False, recover=True)
    try:
        root = etree.fromstring(_plain(body).lstrip(), parser=parser)
    except (etree.XMLSyntaxError, ValueError) as error:
        raise ParseError("not_a_page", "The sitemap cannot be read as XML.") from error
    if root is None:
        raise ParseError("not_a_page", "The sitemap cannot be read as XML.")
    entries: list[MapEntry] = []
    for element in root.iterchildren():
        if len(entries) >= _MOST:
            break
        entry = _entry(element, url)
        if entry is not None:
            entries.append(entry)
    # Entries without a date come last.
    entries.sort(key=lambda entry: entry.at.timestamp() if entry.at else 0.0, reverse=True)
    name = etree.QName(root).localname
    return Sitemap(entries=tuple(entries[:_KEPT]), is_index=name == "sitemapindex")


def _entry(element: etree._Element, url: str) -> MapEntry | None:
    values: dict[str, str] = {}
    for part in element.iter():
        if isinstance(part.tag, str) and part.text and part.text.strip():
            values.setdefault(etree.QName(part).localname, part.text.strip())
    address = resolve(url, values.get("loc", ""))
    if not address:
        return None
    at = read_date(values.get("publication_date", "")) or read_date(values.get("lastmod", ""))
    return MapEntry(url=address, at=at, title=clean_line(values.get("title", ""), _LONGEST_TITLE))
