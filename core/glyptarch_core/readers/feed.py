"""What a read feed is, and which reader takes the bytes."""

import re
from dataclasses import replace

from glyptarch_core.errors import ParseError
from glyptarch_core.readers import json_feed, xml_feed
from glyptarch_core.readers.fitting import fit_item
from glyptarch_core.readers.model import Feed, ReadWarning
from glyptarch_core.text import clean_line, clean_text

__all__ = ["Feed", "ReadWarning", "read_feed"]

_PAGE = re.compile(rb"<!doctype html|<html[\s>]", re.IGNORECASE)
_XML_FEED = re.compile(rb"<(?:\w+:)?(?:rss|feed|RDF)[\s>]")
_START = 4096
_LONGEST_TITLE = 300
_LONGEST_DETAIL = 300


def read_feed(body: bytes, *, source: str, url: str, content_type: str = "") -> Feed:
    """Read RSS 0.9x/1.0/2.0, Atom 1.0 (RFC 4287) or JSON Feed 1.x.

    ``source`` is the key its items carry, ``url`` the address relative links are resolved
    against, ``content_type`` the HTTP header, which may name the encoding. What is at fault in
    single entries comes back as warnings. Raises ParseError when the bytes are no feed.
    """
    start = body.lstrip(b"\xef\xbb\xbf\xff\xfe\x00 \t\r\n")[:_START]
    if not start:
        raise ParseError("empty", "The answer is empty: there is nothing to read in it.")
    if start[:1] in b"{[":
        return _fitted(json_feed.read(body, source=source, url=url))
    plain = start.replace(b"\x00", b"")
    if _PAGE.search(plain) and not _XML_FEED.search(plain):
        raise ParseError("page", "This is a web page, not a feed.")
    return _fitted(xml_feed.read(body, source=source, url=url, content_type=content_type))


def _fitted(feed: Feed) -> Feed:
    """Give a feed whose entries and texts can be kept as they are; what had to be left out is warned of."""
    fitted = [fit_item(item, number) for number, item in enumerate(feed.items, start=1)]
    warnings = [*feed.warnings, *(warning for _, found in fitted for warning in found)]
    return replace(
        feed,
        title=clean_line(feed.title, _LONGEST_TITLE),
        link=clean_text(feed.link),
        language=clean_text(feed.language),
        items=tuple(item for item, _ in fitted),
        warnings=tuple(replace(warning, detail=clean_line(warning.detail, _LONGEST_DETAIL)) for warning in warnings),
    )
