"""Lists of feeds as OPML 2.0 (opml.org/spec2), read and written."""

import html
import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import datetime
from email.utils import format_datetime
from enum import StrEnum
from urllib.parse import urlsplit

from lxml import etree

from glyptarch_core.errors import ParseError
from glyptarch_core.readers.decode import decode
from glyptarch_core.text import clean_line

__all__ = ["MOST_FEEDS", "ListFault", "ListedFeed", "listed_addresses", "read_opml", "write_opml"]

MOST_FEEDS = 10_000
"""Entries taken from one list; what comes after is left."""

_LONGEST_TITLE = 300
_LONGEST_ADDRESS = 2_000
_LONGEST_FOLDER = 200
_DECLARATION = re.compile(r"\A\s*<\?xml[^>]*\?>")
_ENTITY = re.compile(r"<!ENTITY", re.IGNORECASE)
_REFERENCE = re.compile(r"&(?:(#x[0-9a-f]{1,6}|#[0-9]{1,7}|[a-z][a-z0-9]{1,31});)?", re.IGNORECASE)
_PREDEFINED = frozenset({"amp", "lt", "gt", "quot", "apos"})
_SURROGATES = range(0xD800, 0xE000)
# XML 1.0, 2.2.
_CHARACTER = re.compile("[\t\n\r\x20-\ud7ff\ue000-\ufffd\U00010000-\U0010ffff]")


class ListFault(StrEnum):
    """Why an entry of a list cannot become a source."""

    NO_HOST = "no_host"
    NOT_WEB = "not_web"
    TOO_LONG = "too_long"
    DOUBLE = "double"


@dataclass(frozen=True, slots=True, kw_only=True)
class ListedFeed:
    """A feed of a list: its address, the stated name and site, and its folders.

    ``folders`` are those around it, outermost first, and those of its ``category`` (OPML 2.0). An entry with a
    ``fault`` is no feed.
    """

    url: str
    title: str = ""
    link: str = ""
    folders: tuple[str, ...] = ()
    fault: ListFault | None = None


def read_opml(body: bytes) -> list[ListedFeed]:
    """Return the entries of a list that name an address, in order. Raises ParseError.

    Names of elements and attributes are read in any case, texts in any encoding, also where they are no exact XML. A
    list with entity declarations is refused. Nothing is fetched.
    """
    text = _DECLARATION.sub("", decode(body).text.replace("\x00", ""), count=1)
    if _ENTITY.search(text):
        raise ParseError(
            "not_opml", "This list declares entities of its own, which no list needs. Save it without them."
        )
    # Without entities the size of the body bounds that of the tree, so that no limit of depth is needed.
    parser = etree.XMLParser(resolve_entities=False, no_network=True, recover=True, huge_tree=True)
    try:
        root = etree.fromstring(_with_plain_references(text), parser)
    except (etree.XMLSyntaxError, ValueError) as error:
        raise ParseError("not_opml", "This cannot be read as OPML: it is no XML.") from error
    if root is None or _name(root) != "opml":
        raise ParseError("not_opml", "This is no OPML: its first element is another one.")
    return list(_entries(root))


def listed_addresses(addresses: Iterable[str]) -> list[ListedFeed]:
    """Return typed addresses as the entries of a list."""
    seen: set[str] = set()
    return [_entry({"xmlurl": address}, "", (), seen) for address in addresses]


def _with_plain_references(text: str) -> str:
    """Return a text with the references of XML only: no bare ampersands, no names of HTML."""
    replaced = _REFERENCE.sub(_plain_reference, text)
    # Some programs write a character above U+FFFF as a pair of surrogates; UTF-16 joins them.
    return replaced.encode("utf-16", "surrogatepass").decode("utf-16", "replace")


def _plain_reference(found: re.Match[str]) -> str:
    name = (found[1] or "").lower()
    if not name:
        return "&amp;"
    if name in _PREDEFINED:
        return f"&{name};"
    if name.startswith("#"):
        number = int(f"0{name[1:]}", 0) if name.startswith("#x") else int(name[1:])
        if number in _SURROGATES:
            return chr(number)
        return found[0] if _CHARACTER.fullmatch(chr(min(number, 0x10FFFF))) else "\ufffd"
    character = html.unescape(found[0])
    return f"&amp;{found[1]};" if character == found[0] else html.escape(character)


def _name(element: etree._Element) -> str:
    return etree.QName(element).localname.lower() if isinstance(element.tag, str) else ""


def _entries(root: etree._Element) -> Iterator[ListedFeed]:
    seen: set[str] = set()
    bodies = [child for child in root if _name(child) == "body"]
    left: list[tuple[etree._Element, tuple[str, ...]]] = [
        (child, ()) for body in reversed(bodies) for child in reversed(body)
    ]
    number = 0
    while left and number < MOST_FEEDS:
        element, folders = left.pop()
        if _name(element) != "outline":
            continue
        said = {str(key).lower(): str(value) for key, value in element.attrib.items()}
        title = _line(said.get("title") or said.get("text") or "", _LONGEST_TITLE)
        inner = folders
        if "xmlurl" in said:
            yield _entry(said, title, folders, seen)
            number += 1
        elif title:
            inner = (*folders, _line(title, _LONGEST_FOLDER))
        left.extend((child, inner) for child in reversed(element))


def _entry(said: dict[str, str], title: str, folders: tuple[str, ...], seen: set[str]) -> ListedFeed:
    url = "".join(said["xmlurl"].split())
    fault = _fault_of(url)
    if fault is None and url in seen:
        fault = ListFault.DOUBLE
    seen.add(url)
    categories = [part for path in said.get("category", "").split(",") for part in path.split("/")]
    named = (_line(part, _LONGEST_FOLDER) for part in (*folders, *categories))
    return ListedFeed(
        url=url[:_LONGEST_ADDRESS],
        title=title,
        link=_line(said.get("htmlurl", ""), _LONGEST_ADDRESS),
        folders=tuple(dict.fromkeys(part for part in named if part)),
        fault=fault,
    )


def _fault_of(url: str) -> ListFault | None:
    try:
        parts = urlsplit(url)
    except ValueError:
        return ListFault.NO_HOST
    if parts.scheme.lower() not in {"http", "https"}:
        return ListFault.NOT_WEB
    if not parts.hostname:
        return ListFault.NO_HOST
    return ListFault.TOO_LONG if len(url) > _LONGEST_ADDRESS else None


def _line(text: str, longest: int) -> str:
    """Return a clean line, with a mark where it was cut."""
    line = clean_line(text, longest + 1)
    return line if len(line) <= longest else f"{line[: longest - 1].rstrip()}…"


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
        if feed.folders:
            # OPML 2.0 writes several groups as a comma-separated list of paths.
            plain = (folder.replace("/", " ").replace(",", " ") for folder in feed.folders)
            outline.set("category", ",".join(clean_line(folder, _LONGEST_FOLDER) for folder in plain))
    written: bytes = etree.tostring(root, xml_declaration=True, encoding="utf-8", pretty_print=True)
    return written
