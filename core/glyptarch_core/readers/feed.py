"""What a read feed is, and which reader takes the bytes."""

import re
from collections.abc import Callable
from dataclasses import replace

from glyptarch_core.errors import CostlyEntryError, ParseError
from glyptarch_core.item import Features, Item, features_of
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


def read_feed(
    body: bytes,
    *,
    source: str,
    url: str,
    content_type: str = "",
    features: Callable[[Item], Features] = features_of,
) -> Feed:
    """Read RSS 0.9x/1.0/2.0, Atom 1.0 (RFC 4287) or JSON Feed 1.x.

    ``source`` is the key its items carry, ``url`` the address relative links are resolved
    against, ``content_type`` the HTTP header, which may name the encoding. ``features`` reads off
    an item what the stages need; an entry for which it raises CostlyEntryError is left out. What is at
    fault in single entries comes back as warnings. Raises ParseError when the bytes are no feed.
    """
    start = body.lstrip(b"\xef\xbb\xbf\xff\xfe\x00 \t\r\n")[:_START]
    if not start:
        raise ParseError("empty", "The answer is empty: there is nothing to read in it.")
    if start[:1] in b"{[":
        return _finished(json_feed.read(body, source=source, url=url), features)
    plain = start.replace(b"\x00", b"")
    if _PAGE.search(plain) and not _XML_FEED.search(plain):
        raise ParseError("page", "This is a web page, not a feed.")
    return _finished(xml_feed.read(body, source=source, url=url, content_type=content_type), features)


def _finished(feed: Feed, features: Callable[[Item], Features]) -> Feed:
    """Give a feed whose entries and texts can be kept as they are; what had to be left out is warned of."""
    warnings = list(feed.warnings)
    kept: list[tuple[Item, Features]] = []
    for number, item in enumerate(feed.items, start=1):
        fitted, found = fit_item(item, number)
        warnings.extend(found)
        try:
            kept.append((fitted, features(fitted)))
        except CostlyEntryError:
            warnings.append(ReadWarning(code="entry_too_costly", entry=number))
    return replace(
        feed,
        title=clean_line(feed.title, _LONGEST_TITLE),
        link=clean_text(feed.link),
        language=clean_text(feed.language),
        items=tuple(item for item, _ in kept),
        features=tuple(read for _, read in kept),
        warnings=tuple(replace(warning, detail=clean_line(warning.detail, _LONGEST_DETAIL)) for warning in warnings),
    )
