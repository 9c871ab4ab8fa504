"""A read feed, and the choice of the reader for its bytes."""

import re
from collections.abc import Callable, Container
from dataclasses import replace

from glyptarch_core.errors import CostlyEntryError, ParseError
from glyptarch_core.item import Features, Item, features_of
from glyptarch_core.readers import json_feed, xml_feed
from glyptarch_core.readers.decode import decode
from glyptarch_core.readers.fitting import fit_item
from glyptarch_core.readers.model import Feed, FeedEntry, ReadWarning
from glyptarch_core.text import clean_line, clean_text

__all__ = ["Feed", "FeedEntry", "ReadWarning", "read_feed"]

_PAGE = re.compile(r"<!doctype html|<html[\s>]", re.IGNORECASE)
_LOGIN = re.compile(r"<input\b[^>]{0,500}\btype\s*=\s*[\"']?password", re.IGNORECASE)
_XML_FEED = re.compile(r"<(?:\w+:)?(?:rss|feed|RDF)[\s>]")
_START = 4096
_LONGEST_TITLE = 300
_LONGEST_DETAIL = 300


def read_feed(
    body: bytes,
    *,
    source: str,
    url: str,
    content_type: str = "",
    features: Callable[[Item], Features | None] = features_of,
    known_marks: Container[str] = (),
) -> Feed:
    """Read RSS 0.9x/1.0/2.0, Atom 1.0 (RFC 4287) or JSON Feed 1.x.

    ``source`` is the key of the items, ``url`` the base of relative links, ``content_type`` the HTTP header, which may
    name the encoding. ``features`` computes an item's features; an entry for which it raises CostlyEntryError is left
    out. Entries whose mark is in ``known_marks`` are counted, not read. Faults of single entries are returned as
    warnings. Raises ParseError where the bytes are no feed.
    """
    decoded = decode(body, content_type)
    text = decoded.text.lstrip("\ufeff\x00 \t\r\n")
    start = text[:_START]
    if not start:
        raise ParseError("empty", "The answer is empty: there is nothing to read in it.")
    if start[0] in "{[":
        feed = json_feed.read(text, source=source, url=url)
    elif not _XML_FEED.search(start) and _PAGE.search(start):
        if _LOGIN.search(text):
            raise ParseError("login_page", "A login page came instead of a feed.")
        raise ParseError("page", "This is a web page, not a feed.")
    else:
        feed = xml_feed.read(text, source=source, url=url, known_marks=known_marks)
    if decoded.declared:
        differs = ReadWarning(code="encoding_differs", detail=f"{decoded.encoding}, not {decoded.declared}")
        feed = replace(feed, warnings=(differs, *feed.warnings))
    return _finished(feed, features)


def _finished(feed: Feed, features: Callable[[Item], Features | None]) -> Feed:
    """Return a feed that fits its limits, with warnings for what was left out."""
    warnings = list(feed.warnings)
    entries: list[FeedEntry] = []
    for entry in feed.entries:
        fitted, left_out = fit_item(entry.item, entry.number)
        warnings.extend(left_out)
        try:
            read = features(fitted)
        except CostlyEntryError:
            warnings.append(ReadWarning(code="entry_too_costly", entry=entry.number))
            continue
        entries.append(FeedEntry(fitted, entry.number, "" if left_out else entry.mark, read))
    return replace(
        feed,
        title=clean_line(feed.title, _LONGEST_TITLE),
        link=clean_text(feed.link),
        language=clean_text(feed.language),
        entries=tuple(entries),
        warnings=tuple(replace(warning, detail=clean_line(warning.detail, _LONGEST_DETAIL)) for warning in warnings),
    )
