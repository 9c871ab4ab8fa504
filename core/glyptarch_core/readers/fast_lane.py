"""A fast reader for the entries of well-formed RSS 2.0 and Atom 1.0, with lxml.

A document with any element, attribute or order that is not named here is left to feedparser. Values are exactly
feedparser's; the tests compare both on the same entries.
"""

import re
from collections import Counter
from collections.abc import Callable, Container, Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass
from hashlib import blake2b
from typing import Any, TypeAlias

from feedparser.mixin import _FeedParserMixin
from feedparser.urls import _urljoin
from feedparser.util import FeedParserDict
from lxml import etree

from glyptarch_core.readers.model import is_whole

__all__ = ["Entries", "split"]

_ATOM = "{http://www.w3.org/2005/Atom}"
_MEDIA = ("{http://search.yahoo.com/mrss/}", "{http://search.yahoo.com/mrss}")
_DC = "{http://purl.org/dc/elements/1.1/}"
_CONTENT = "{http://purl.org/rss/1.0/modules/content/}"
# feedparser maps these to other characters (Windows' at the code points of ISO 8859-1).
_CONTROLS = re.compile("[\x80-\x9f]")
_TEXT_TYPES = {"": "", "text": "text/plain", "text/plain": "text/plain", "html": "text/html", "text/html": "text/html"}
_HTML = "text/html"
_READING = "1"
"""Another one where something else is read of the same entry: no mark of an earlier reading holds any more."""
_OF_FEED = ("language", "author")
_ENTRIES = frozenset({"item", "entry"})
_NAMED_BY = ("guid", "id", "link")
_LANGUAGE = "{http://www.w3.org/XML/1998/namespace}lang"

_Entry: TypeAlias = Any  # a FeedParserDict, which has no types
_Attributes = Mapping[str, str]


class _Odd(Exception):
    """Something is out of the ordinary."""


@dataclass(frozen=True, slots=True)
class Entries:
    """The entries of a feed as feedparser would return them, each with its mark.

    None for a known one. A mark is made of everything that an entry's reading depends on, so equal marks mean equal
    readings. An entry without a mark is always read.
    """

    entries: Sequence[_Entry | None]
    marks: Sequence[str]


def split(text: str, url: str, known_marks: Container[str] = ()) -> tuple[str, Entries] | None:
    """Return a feed without its entries, for feedparser, and the entries.

    Known ones are not read. ``text`` begins with the first element. None where the document is unusual or not
    well-formed.
    """
    if _CONTROLS.search(text) or not url.startswith(("http://", "https://")):
        return None
    parser = etree.XMLParser(resolve_entities=False, no_network=True, remove_comments=True, remove_pis=True)
    try:
        root = etree.fromstring(text.encode(), parser)
        return _split(root, _urljoin(url, url) or url, known_marks)
    except (etree.XMLSyntaxError, _Odd):
        return None


def _split(root: Any, url: str, known_marks: Container[str]) -> tuple[str, Entries]:  # noqa: ANN401 - lxml has no types
    if root.tag == "rss" and dict(root.attrib) == {"version": "2.0"}:
        parents = list(root)
        _demand(len(parents) == 1 and parents[0].tag == "channel" and not parents[0].attrib)
        parent, name, elements, language = parents[0], "item", _RSS, None
    elif root.tag == f"{_ATOM}feed":
        _demand(set(root.keys()) <= {_LANGUAGE})
        language = root.get(_LANGUAGE, "").replace("_", "-") or None
        parent, name, elements = root, f"{_ATOM}entry", _ATOM_ELEMENTS
    else:
        raise _Odd
    children = list(parent)
    begin = next((place for place, child in enumerate(children) if child.tag == name), len(children))
    # feedparser takes both names as entries in any format and at any place.
    inside = (element for child in children[:begin] for element in child.iter())
    _demand(all(str(element.tag).rpartition("}")[2] not in _ENTRIES for element in inside))
    entries = children[begin:]
    feed = _Feed(url, language)
    marks = _marks(feed, children[:begin], entries)
    pairs = zip(entries, marks, strict=True)
    read = [None if mark and mark in known_marks else _entry(feed, entry, name, elements) for entry, mark in pairs]
    for entry in entries:
        parent.remove(entry)
    return etree.tostring(root, encoding="unicode"), Entries(read, marks)


def _marks(feed: "_Feed", head: Sequence[Any], entries: Sequence[Any]) -> list[str]:
    """Return a mark for each entry.

    It is BLAKE2b (128 bits) of the entry and of the feed's shared values.
    """
    of_feed = [etree.tostring(child) for child in head if str(child.tag).rpartition("}")[2] in _OF_FEED]
    context = repr((_READING, feed.base, feed.language, of_feed)).encode("utf-8", "surrogatepass")
    begun = blake2b(context, digest_size=16)
    names = [_name(entry) for entry in entries]
    times = Counter(names)
    marks = []
    for entry, name in zip(entries, names, strict=True):
        hashed = begun.copy()
        hashed.update(etree.tostring(entry, with_tail=False))
        # Of entries with one name the last counts, so none of them can be skipped.
        marks.append(hashed.hexdigest() if not name or times[name] == 1 else "")
    return marks


def _name(entry: Any) -> str:  # noqa: ANN401
    """Return the identity of an entry as written, else its link."""
    written = {name: child for child in reversed(entry) if (name := str(child.tag).rpartition("}")[2]) in _NAMED_BY}
    naming_child = next((written[name] for name in _NAMED_BY if name in written), None)
    return "" if naming_child is None else (naming_child.text or naming_child.get("href") or "").strip()


_REFERENCE = re.compile(r"&[A-Za-z0-9_]+;")


def _demand(ordinary: object) -> None:
    if not ordinary:
        raise _Odd


@dataclass(frozen=True, slots=True)
class _Feed:
    """The feed around the entries: its address and stated language."""

    base: str
    language: str | None

    def part(self, kind: str, value: str) -> _Entry:
        return FeedParserDict(type=kind, language=self.language, base=self.base, value=value)

    def joined(self, address: str) -> str:
        if not address or is_whole(address):
            return address
        return _plain(_urljoin(self.base, address))


_How = Callable[[_Feed, _Entry, Any], None]


def _entry(feed: _Feed, element: Any, name: str, known_names: Mapping[str, _How]) -> _Entry:  # noqa: ANN401
    """Read one entry. Raises _Odd for anything that is not known here."""
    _demand(element.tag == name and not element.attrib)
    entry = FeedParserDict()
    seen: set[_How] = set()
    for child in element:
        how = known_names.get(child.tag)
        if how is None or how in seen:
            raise _Odd
        if how not in _REPEATED:
            seen.add(how)
        how(feed, entry, child)
    return entry


def _published(_feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    entry["published"] = _text(element)


def _updated(_feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    entry["updated"] = _text(element)


def _identity(feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    attributes = _attributes(element, {"ispermalink"})
    is_link = attributes.get("ispermalink", "true") == "true"
    value = _text(element, attributes=True)
    entry["id"] = value = feed.joined(value) if is_link else value
    entry.setdefault("guidislink", is_link and "link" not in entry)
    if is_link:
        entry.setdefault("link", value)


def _category(_feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    attributes = _attributes(element, {"term", "scheme", "domain", "label"})
    scheme = attributes.get("scheme", attributes.get("domain"))
    _add_tag(entry, attributes.get("term"), scheme, attributes.get("label"))
    value, tags = _text(element, attributes=True), entry["tags"]
    if value and tags and not tags[-1]["term"]:
        tags[-1]["term"] = value
    elif value:
        _add_tag(entry, value, None, None)


def _content_of(feed: _Feed, entry: _Entry, kind: str, value: str) -> None:
    entry["content"] = [feed.part(kind, value)]
    entry.setdefault("summary", value)


def _thumbnail(_feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    _demand(not _text(element, attributes=True))
    entry["url"] = ""
    entry.setdefault("media_thumbnail", []).append(_attributes(element))


def _media_content(_feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    _demand(not _text(element, attributes=True))
    entry.setdefault("media_content", []).append(_attributes(element))


def _rss_title(feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    value = _text(element)
    entry["title"] = value
    entry["title_detail"] = feed.part(_HTML if _looks_like_html(value) else "text/plain", value)


def _rss_link(feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    value = feed.joined(_text(element)).replace("&amp;", "&")
    # feedparser takes the semicolon from what looks like a reference to a character in an address.
    _demand(not _REFERENCE.search(value))
    link = FeedParserDict(rel="alternate", type=_HTML)
    entry.setdefault("links", []).append(link)
    entry["link"] = value
    if value:
        link["href"] = value


def _rss_author(_feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    value = _text(element)
    _demand(value and "@" not in value)
    person = FeedParserDict(name=value)
    entry.setdefault("authors", []).append(person)
    entry["author"] = value
    entry.setdefault("author_detail", person)


def _description(feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    value = _text(element)
    entry["summary"] = value
    entry["summary_detail"] = feed.part(_HTML, value)


def _encoded(feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    _content_of(feed, entry, _HTML, _text(element))


def _enclosure(_feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    _demand(not _text(element, attributes=True))
    attributes = _attributes(element, {"url", "type", "length"})
    _demand(attributes.get("url"))
    link = FeedParserDict({name: value for name, value in attributes.items() if name != "url"})
    link["href"], link["rel"] = attributes["url"], "enclosure"
    entry.setdefault("links", []).append(link)


def _source(_feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    attributes = _attributes(element, {"url"})
    value = _text(element, attributes=True)
    named = {"href": attributes["url"]} if "url" in attributes else {}
    entry["source"] = FeedParserDict({**named, **({"title": value} if value else {})})


def _comments(feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    entry["comments"] = feed.joined(_text(element))


def _comments_feed(feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    entry["wfw_commentrss"] = feed.joined(_text(element))


def _comments_number(_feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    entry["slash_comments"] = _text(element)


def _typed(element: Any, otherwise: str) -> tuple[str, str]:  # noqa: ANN401
    attributes = _attributes(element, {"type"})
    kind = _TEXT_TYPES.get(attributes.get("type", otherwise), "")
    _demand(kind)
    return kind, _text(element, attributes=True)


def _atom_title(feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    kind, value = _typed(element, "text")
    entry["title"], entry["title_detail"] = value, feed.part(kind, value)


def _summary(feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    kind, value = _typed(element, "text")
    entry["summary"], entry["summary_detail"] = value, feed.part(kind, value)


def _content(feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    _content_of(feed, entry, *_typed(element, "text"))


def _atom_link(feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    _demand(not _text(element, attributes=True))
    attributes = dict(_attributes(element, {"rel", "type", "href", "title", "hreflang", "length"}))
    _demand(attributes.get("href"))
    attributes.setdefault("rel", "alternate")
    attributes.setdefault("type", "application/atom+xml" if attributes["rel"] == "self" else _HTML)
    attributes["href"] = _urljoin(feed.base, attributes["href"])
    entry.setdefault("links", []).append(FeedParserDict(attributes))
    if attributes["rel"] == "alternate" and attributes["type"] in {_HTML, "html", "application/xhtml+xml", "xhtml"}:
        entry["link"] = attributes["href"]


def _atom_author(_feed: _Feed, entry: _Entry, element: Any) -> None:  # noqa: ANN401
    _demand(not element.attrib and [child.tag for child in element] == [f"{_ATOM}name"])
    name = _text(element[0])
    _demand(name and "@" not in name and not (element.text or "").strip() and not (element[0].tail or "").strip())
    entry.setdefault("author_detail", FeedParserDict())["name"] = name
    entry.setdefault("authors", []).append(FeedParserDict(name=name))
    entry["author"] = name


_RSS: Mapping[str, _How] = {
    "title": _rss_title,
    "link": _rss_link,
    "description": _description,
    "guid": _identity,
    "pubDate": _published,
    "author": _rss_author,
    "category": _category,
    "enclosure": _enclosure,
    "source": _source,
    "comments": _comments,
    f"{_DC}creator": _rss_author,
    f"{_DC}date": _updated,
    f"{_DC}subject": _category,
    f"{_CONTENT}encoded": _encoded,
    "{http://wellformedweb.org/CommentAPI/}commentRss": _comments_feed,
    "{http://purl.org/rss/1.0/modules/slash/}comments": _comments_number,
    **{f"{media}thumbnail": _thumbnail for media in _MEDIA},
    **{f"{media}content": _media_content for media in _MEDIA},
}

_ATOM_ELEMENTS: Mapping[str, _How] = {
    f"{_ATOM}title": _atom_title,
    f"{_ATOM}link": _atom_link,
    f"{_ATOM}id": _identity,
    f"{_ATOM}summary": _summary,
    f"{_ATOM}content": _content,
    f"{_ATOM}published": _published,
    f"{_ATOM}updated": _updated,
    f"{_ATOM}author": _atom_author,
    f"{_ATOM}category": _category,
    **{f"{media}thumbnail": _thumbnail for media in _MEDIA},
    **{f"{media}content": _media_content for media in _MEDIA},
}

_REPEATED = {
    _rss_author,
    _enclosure,
    _atom_author,
    _atom_link,
    _category,
    _thumbnail,
    _media_content,
}


def _attributes(element: Any, known_names: set[str] | None = None) -> dict[str, str]:  # noqa: ANN401
    """Return attributes by lower-case name.

    Raises _Odd for unknown names and those that change the meaning.
    """
    attributes = {name.lower(): value for name, value in element.attrib.items()}
    _demand(len(attributes) == len(element.attrib) and not attributes.keys() & {"base", "lang"})
    _demand(all("{" not in name for name in attributes) and (known_names is None or attributes.keys() <= known_names))
    return {name: value.lower() if name in {"rel", "type"} else value for name, value in attributes.items()}


def _text(element: Any, *, attributes: bool = False) -> str:  # noqa: ANN401
    """Return the text of an element without child elements."""
    _demand(len(element) == 0 and (attributes or not element.attrib))
    return _plain((element.text or "").strip())


def _plain(text: str) -> str:
    """Return a text as feedparser does, which repairs UTF-8 read as ISO 8859-1."""
    if text.isascii():
        return text
    with suppress(UnicodeEncodeError, UnicodeDecodeError):
        text = text.encode("iso-8859-1").decode()
    _demand(not _CONTROLS.search(text))
    return text


def _add_tag(entry: _Entry, term: str | None, scheme: str | None, label: str | None) -> None:
    tags = entry.setdefault("tags", [])
    tag = FeedParserDict(term=term, scheme=scheme, label=label)
    if (term or scheme or label) and tag not in tags:
        tags.append(tag)


def _looks_like_html(text: str) -> bool:
    return bool(_FeedParserMixin.looks_like_html(text))
