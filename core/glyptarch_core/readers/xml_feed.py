"""RSS 0.9x, 1.0, 2.0 and Atom, read with feedparser.

feedparser is given a stream, never a string or bytes, since it would open or fetch what those
name. Its own sanitising and link resolving are off: nh3 and lxml do both later, and faster.
"""

import io
import re
from calendar import timegm
from collections.abc import Iterable, Mapping, Sequence
from datetime import UTC, datetime
from itertools import islice
from typing import Any

import feedparser

from glyptarch_core.errors import ParseError
from glyptarch_core.item import Credit, Item, Media, MediaOrigin
from glyptarch_core.readers.dates import moment_of
from glyptarch_core.readers.model import (
    MAX_ENTRIES,
    Feed,
    ReadWarning,
    identity_of,
    kind_of,
    pictures_in,
    resolve,
    seconds,
    stated,
    unique_media,
)
from glyptarch_core.text import absolute, clean_text, pixels, plain_text, text_to_html
from glyptarch_core.text.markup import well_formed_references

__all__ = ["read"]

_LANGUAGE = re.compile(r"^(?=.{2,35}$)[a-z]{2,8}(?:-[a-z0-9]{1,8})*$")
_ROOT = re.compile(r"<((?:\w{1,40}:)?(?:rss|feed|RDF))[\s>]")
_ENTRY_END = re.compile(r"</(?:\w{1,40}:)?(?:item|entry)\s{0,9}>")
_MOST_NAMESPACES = 1000
# The library looks for addresses in the names of people by patterns whose time grows faster than the names.
_PERSON = "author|creator|managingEditor|webMaster|contributor|publisher|name|email|owner|uri"
_LONG_NAME = re.compile(rf"(<(?:\w{{1,40}}:)?(?:{_PERSON})\b[^<>]{{0,500}}>[^<]{{500}})[^<]+")
_LONG_TAG = re.compile(r"(<[\w:.-]{1,100})\s[^<>]{20000,}(?=>)")
_SIGN = re.compile(r"[\"'\[>]")
_FORMATS = {
    "rss090": "RSS 0.90",
    "rss091n": "RSS 0.91",
    "rss091u": "RSS 0.91",
    "rss092": "RSS 0.92",
    "rss093": "RSS 0.93",
    "rss094": "RSS 0.94",
    "rss10": "RSS 1.0",
    "rss20": "RSS 2.0",
    "rss": "RSS",
    "atom01": "Atom 0.1",
    "atom02": "Atom 0.2",
    "atom03": "Atom 0.3",
    "atom10": "Atom 1.0",
    "atom": "Atom",
}


def read(text: str, *, source: str, url: str) -> Feed:
    """Read the text of an XML feed; see :func:`glyptarch_core.readers.read_feed`."""
    kept, left = _first_entries(_without_prolog(well_formed_references(clean_text(text))))
    if kept.count("xmlns:") > _MOST_NAMESPACES:
        raise ParseError("not_a_feed", "The answer declares more namespaces than any feed has.")
    kept = _LONG_NAME.sub(r"\1", _LONG_TAG.sub(r"\1", kept))
    try:
        parsed = feedparser.parse(
            io.BytesIO(kept.encode()),
            response_headers={"content-type": "application/xml; charset=utf-8", "content-location": url},
            sanitize_html=False,
            resolve_relative_uris=False,
        )
    except Exception as error:
        # feedparser promises to set "bozo" instead of raising, and does not always keep it.
        raise ParseError("not_a_feed", "The answer cannot be read as a feed.") from error
    if not parsed.get("version"):
        raise ParseError("not_a_feed", "The answer is neither RSS, Atom nor JSON Feed.")
    warnings = list(_feed_warnings(parsed, left))
    items: list[Item] = []
    for number, entry in enumerate(parsed.entries[:MAX_ENTRIES], start=1):
        try:
            item = _item(entry, parsed.feed, source=source, url=url, atom=parsed.version.startswith("atom"))
        except Exception as error:  # noqa: BLE001 - whatever is odd in one entry, the others are read
            warnings.append(ReadWarning(code="entry_unreadable", entry=number, detail=type(error).__name__))
            continue
        if item.title or item.summary or item.body or item.link or item.media:
            items.append(item)
            warnings.extend(_entry_warnings(item, number, str(dict.get(entry, "published") or "")))
        else:
            warnings.append(ReadWarning(code="entry_empty", entry=number))
    return Feed(
        format=_FORMATS.get(parsed.version, parsed.version),
        title=plain_text(parsed.feed.get("title") or ""),
        link=resolve(url, parsed.feed.get("link", "")),
        language=_language(parsed.feed.get("language", "")),
        items=tuple(items),
        warnings=tuple(warnings),
    )


def _without_prolog(text: str) -> str:
    """Give a document from its first element on (XML 1.0, 2.8).

    What stands before it names an encoding that the text is not in any more, and may declare
    entities, which feedparser would expand, however often they nest.
    """
    place = 0
    while (place := text.find("<", place)) >= 0:
        if text.startswith("<!--", place):
            place = _after(text, "-->", place)
        elif text.startswith("<?", place):
            place = _after(text, "?>", place)
        elif text.startswith("<!", place):
            place = _after_declaration(text, place + 2)
        else:
            return text[place:]
    return text


def _after(text: str, end: str, place: int) -> int:
    found = text.find(end, place)
    return found + len(end) if found >= 0 else len(text)


def _after_declaration(text: str, place: int) -> int:
    """Give where a declaration ends, or where the declarations inside its brackets begin; quotes may hold anything."""
    while (sign := _SIGN.search(text, place)) is not None:
        if sign.group() in "[>":
            return sign.end()
        place = _after(text, sign.group(), sign.end()) if sign.group() in "\"'" else sign.end()
    return len(text)


def _first_entries(body: str) -> tuple[str, int]:
    """Give a document that ends after its first entries, and how many were left out: parsing takes time for each."""
    ends = [match.end() for match in islice(_ENTRY_END.finditer(body), MAX_ENTRIES + 1)]
    root = _ROOT.search(body)
    if len(ends) <= MAX_ENTRIES or root is None:
        return body, 0
    kept, rest = body[: ends[MAX_ENTRIES - 1]], body[ends[MAX_ENTRIES - 1] :]
    name = root.group(1)
    channel = "</channel>" if name == "rss" and "</channel>" not in kept else ""
    return f"{kept}{channel}</{name}>", sum(1 for _ in _ENTRY_END.finditer(rest))


def _feed_warnings(parsed: Any, left: int) -> Iterable[ReadWarning]:  # noqa: ANN401 - feedparser has no types
    if parsed.bozo:
        yield ReadWarning(code="ill_formed", detail=str(parsed.get("bozo_exception"))[:200])
    if left:
        yield ReadWarning(code="too_many_entries", detail=str(MAX_ENTRIES + left))


def _entry_warnings(item: Item, number: int, date: str) -> Iterable[ReadWarning]:
    if not item.title:
        yield ReadWarning(code="no_title", entry=number)
    if not item.link:
        yield ReadWarning(code="no_link", entry=number)
    if item.published is None:
        yield ReadWarning(code="date_unreadable" if date else "no_date", entry=number, detail=date)


def _item(entry: Any, feed: Any, *, source: str, url: str, atom: bool) -> Item:  # noqa: ANN401
    contents = entry.get("content", ())
    elsewhere = next((part.get("src") for part in contents if part.get("src")), "")
    link = resolve(url, entry.get("link")) or resolve(url, elsewhere)
    body = "".join(_markup(part, url, atom=atom) for part in contents)
    detail = entry.get("summary_detail")
    summary = _markup(detail, url, atom=atom) if detail else ""
    if summary == body:
        summary = ""
    title_detail = entry.get("title_detail") or {}
    title = _title(title_detail, atom=atom)
    return Item(
        source=source,
        identity=identity_of(entry.get("id", ""), link, title, body or summary),
        link=link,
        title=title,
        summary=summary,
        body=body,
        # RFC 4287, 4.2.1: an entry without an author has that of its feed.
        authors=_authors(entry) or (_authors(feed) if atom else ()),
        categories=_categories(entry),
        published=_moment(entry, "published", "created"),
        updated=_moment(entry, "updated"),
        media=unique_media(
            (
                *_feed_media(entry, url),
                *_enclosures(entry, url),
                *_contents_elsewhere(contents, url),
                *pictures_in(body + summary),
            )
        ),
        language=_language(entry.get("language") or _content_language(entry) or feed.get("language")),
        credit=_credit(entry.get("source"), url),
        facts=_facts(entry),
        raw=_plain(entry),
    )


def _title(detail: Mapping[str, Any], *, atom: bool) -> str:
    value = detail.get("value", "") or ""
    # A title typed as plain text may hold "<" that is no markup (RFC 4287, 3.1.1.1).
    as_it_is = atom and detail.get("type") == "text/plain"
    text = plain_text(value) if not as_it_is and ("<" in value or "&" in value) else value
    return " ".join((text or value).split())[:1000]


def _markup(part: Mapping[str, Any], url: str, *, atom: bool) -> str:
    value = part.get("value", "") or ""
    if part.get("type") == "text/plain" and (atom or "<" not in value):
        return text_to_html(value)
    return absolute(value, resolve(url, part.get("base", "") or "") or url)


def _authors(entry: Any) -> tuple[str, ...]:  # noqa: ANN401
    return _names(entry.get("authors", ()))


def _names(people: Iterable[Any]) -> tuple[str, ...]:
    names = [person.get("name") for person in people if person]
    return tuple(dict.fromkeys(" ".join(name.split())[:200] for name in names if name and name.strip()))


def _categories(entry: Any) -> tuple[str, ...]:  # noqa: ANN401
    terms = (tag.get("label") or tag.get("term") or "" for tag in entry.get("tags", ()))
    return tuple(dict.fromkeys(" ".join(term.split())[:200] for term in terms if term.strip()))


def _feed_media(entry: Any, url: str) -> Iterable[Media]:  # noqa: ANN401
    for kind, part in [
        *(("picture", thumbnail) for thumbnail in entry.get("media_thumbnail", ())),
        *(("", content) for content in entry.get("media_content", ())),
        *(("picture", image) for image in [entry.get("image")] if image),
    ]:
        address = resolve(url, part.get("url") or part.get("href") or "")
        medium = "image" if kind == "picture" else part.get("medium", "")
        yield Media(
            url=address,
            kind=kind_of(address, part.get("type", ""), medium),
            origin=MediaOrigin.FEED,
            mime=part.get("type", ""),
            width=pixels(part.get("width")),
            height=pixels(part.get("height")),
        )


def _enclosures(entry: Any, url: str) -> Iterable[Media]:  # noqa: ANN401
    for enclosure in entry.get("enclosures", ()):
        address = resolve(url, enclosure.get("href") or enclosure.get("url") or "")
        mime = enclosure.get("type", "")
        yield Media(url=address, kind=kind_of(address, mime), origin=MediaOrigin.ENCLOSURE, mime=mime)


def _contents_elsewhere(contents: Iterable[Any], url: str) -> Iterable[Media]:
    """Give what an entry has for its content and does not hold itself (RFC 4287, 4.1.3.2)."""
    for part in contents:
        if part.get("src"):
            address, mime = resolve(url, part["src"]), part.get("type") or ""
            yield Media(url=address, kind=kind_of(address, mime), origin=MediaOrigin.ENCLOSURE, mime=mime)


def _credit(source: Any, url: str) -> Credit | None:  # noqa: ANN401
    if not source:
        return None
    title = plain_text(source.get("title") or source.get("value") or "")
    link = resolve(url, source.get("href") or source.get("link") or "")
    return Credit(title=title, link=link) if title or link else None


def _facts(entry: Any) -> dict[str, str | float]:  # noqa: ANN401
    lengths = [entry.get("itunes_duration"), *(part.get("duration") for part in entry.get("media_content", ()))]
    licences = [link.get("href") for link in entry.get("links", ()) if link.get("rel") == "license"]
    return stated(
        rating=(entry.get("media_starrating") or {}).get("average"),
        views=(entry.get("media_statistics") or {}).get("views"),
        length=next((seconds(value) for value in lengths if value), None),
        price=_extension(entry, "price"),
        contributors=", ".join(_names(entry.get("contributors", ()))),
        licence=next(iter(licences), None) or entry.get("license") or entry.get("rights"),
        **{name: _extension(entry, name) for name in _NUMBERS},
    )


# What shops and platforms state under prefixes of their own: numbers of products and films, the keyword.
_NUMBERS = ("gtin", "gtin13", "ean", "upc", "isbn", "sku", "mpn", "media_id", "keyword")


def _extension(entry: Any, name: str) -> str:  # noqa: ANN401
    """Give the text of an element of this name, whatever its prefix."""
    # The library writes prefix and name with "_" between them; a prefix holds none.
    found = next((entry[key] for key in entry if key == name or key.partition("_")[2] == name), "")
    return found if isinstance(found, str) else ""


def _content_language(entry: Any) -> str:  # noqa: ANN401
    return next((part.get("language") or "" for part in entry.get("content", ())), "")


def _language(value: str | None) -> str:
    """Give a language tag (BCP 47) in lower case, or nothing when it cannot be one."""
    tag = (value or "").strip().lower().replace("_", "-")
    return tag if _LANGUAGE.match(tag) else ""


def _moment(entry: Any, *names: str) -> datetime | None:  # noqa: ANN401
    """Give the first time that can be read under one of these names."""
    for name in names:
        # Through ``dict``: the library answers for one name with the value of another.
        text = str(dict.get(entry, name) or "")
        found = moment_of(text) or _parsed_by_library(dict.get(entry, f"{name}_parsed"), text)
        if found is not None:
            return found
    return None


def _parsed_by_library(parsed: Any, text: str) -> datetime | None:  # noqa: ANN401
    """Give the library's reading of a time, where the year that it found stands in the text."""
    try:
        found = datetime.fromtimestamp(timegm(parsed), tz=UTC) if parsed else None
    except (OverflowError, ValueError, OSError):
        return None
    return found if found is not None and f"{found.year:04}" in text and not text.strip().isdigit() else None


def _plain(value: Any) -> Any:  # noqa: ANN401
    """Give the payload as plain JSON values; parsed times are left out, their strings say the same."""
    if isinstance(value, Mapping):
        return {str(key): _plain(part) for key, part in value.items() if not str(key).endswith("_parsed")}
    if isinstance(value, Sequence) and not isinstance(value, str):
        return [_plain(part) for part in value]
    if value is None or isinstance(value, bool | int | float):
        return value
    return str(value)
