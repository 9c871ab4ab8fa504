"""Lists of feeds as OPML 2.0 (opml.org/spec2), read and written."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from email.utils import format_datetime

from lxml import etree

from glyptarch_core.errors import ParseError
from glyptarch_core.text import clean_line

__all__ = ["MOST_FEEDS", "ListedFeed", "read_opml", "write_opml"]

MOST_FEEDS = 5_000
"""Feeds taken from one list; what comes after is left."""

_LONGEST_TITLE = 300
_LONGEST_ADDRESS = 2_000
_LONGEST_FOLDER = 200


@dataclass(frozen=True, slots=True, kw_only=True)
class ListedFeed:
    """A feed of a list: its address, the stated name and site, and its folders as ``A / B``."""

    url: str
    title: str = ""
    link: str = ""
    folder: str = ""


def read_opml(body: bytes) -> list[ListedFeed]:
    """Return the feeds of a list in order, each address once. Raises ParseError.

    A list with entity declarations is refused. Nothing is fetched. The parser stops at a depth of 256 elements. Entries
    without an http(s) address are left out.
    """
    parser = etree.XMLParser(resolve_entities=False, no_network=True, recover=True, huge_tree=False)
    try:
        root = etree.fromstring(body, parser)
    except (etree.XMLSyntaxError, ValueError) as error:
        raise ParseError("not_opml", "This cannot be read as OPML: it is no XML.") from error
    if root is None or not isinstance(root.tag, str) or etree.QName(root).localname.lower() != "opml":
        raise ParseError("not_opml", "This is no OPML: its first element is another one.")
    declared = root.getroottree().docinfo.internalDTD
    if declared is not None and any(True for _ in declared.iterentities()):
        raise ParseError(
            "not_opml", "This list declares entities of its own, which no list needs. Save it without them."
        )
    feeds: dict[str, ListedFeed] = {}
    body_of = root.find("body")
    left = [(outline, "") for outline in reversed(body_of if body_of is not None else [])]
    while left and len(feeds) < MOST_FEEDS:
        outline, folder = left.pop()
        if not isinstance(outline.tag, str):
            continue
        name = clean_line(outline.get("title") or outline.get("text") or "", _LONGEST_TITLE)
        url = outline.get("xmlUrl") or outline.get("xmlurl") or ""
        url = url.strip()
        if url.lower().startswith(("http://", "https://")) and len(url) <= _LONGEST_ADDRESS:
            link = clean_line(outline.get("htmlUrl") or "", _LONGEST_ADDRESS)
            feeds.setdefault(url, ListedFeed(url=url, title=name, link=link, folder=folder))
        inner = clean_line(f"{folder} / {name}".strip(" /"), _LONGEST_FOLDER)
        left.extend((child, inner) for child in reversed(outline))
    return list(feeds.values())


def write_opml(title: str, feeds: Iterable[ListedFeed], *, now: datetime) -> bytes:
    """Write a list of feeds as OPML 2.0, in UTF-8."""
    root = etree.Element("opml", version="2.0")
    head = etree.SubElement(root, "head")
    etree.SubElement(head, "title").text = clean_line(title, _LONGEST_TITLE)
    etree.SubElement(head, "dateCreated").text = format_datetime(now)
    body = etree.SubElement(root, "body")
    for feed in feeds:
        name = clean_line(feed.title, _LONGEST_TITLE)
        outline = etree.SubElement(body, "outline", type="rss", text=name, title=name, xmlUrl=feed.url)
        if feed.link:
            outline.set("htmlUrl", feed.link)
        if feed.folder:
            # OPML 2.0 writes several groups as a comma-separated list.
            outline.set("category", clean_line(feed.folder, _LONGEST_FOLDER))
    written: bytes = etree.tostring(root, xml_declaration=True, encoding="utf-8", pretty_print=True)
    return written
