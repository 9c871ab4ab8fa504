"""RSS 0.9x, 1.0, 2.0 and Atom, read with feedparser.

feedparser is given a stream, never a string or bytes, since it would open or fetch what those
name. Its own sanitising and link resolving are off: nh3 and lxml do both later, and faster.
"""

import codecs
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
from glyptarch_core.readers.model import (
    MAX_ENTRIES,
    Feed,
    ReadWarning,
    identity_of,
    kind_of,
    pictures_in,
    pixels,
    resolve,
    seconds,
    stated,
    unique_media,
)
from glyptarch_core.text import absolute, plain_text, text_to_html

__all__ = ["read"]

_LANGUAGE = re.compile(r"^(?=.{2,35}$)[a-z]{2,8}(?:-[a-z0-9]{1,8})*$")
_ROOT = re.compile(rb"<((?:\w+:)?(?:rss|feed|RDF))[\s>]")
_ENTRY_END = re.compile(rb"</(?:\w+:)?(?:item|entry)\s*>")
_ENTITY = re.compile(rb"""<!ENTITY(?:[^>"']|"[^"]*"|'[^']*')*>""", re.IGNORECASE)
_ENCODING = re.compile(rb"""(<\?xml[^>]*encoding=["'])[^"']+(["'])""")
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


def read(body: bytes, *, source: str, url: str, content_type: str) -> Feed:
    """Read the bytes of an XML feed; see :func:`glyptarch_core.readers.read_feed`."""
    kept, left = _first_entries(_without_entities(body))
    try:
        parsed = feedparser.parse(
            io.BytesIO(kept),
            response_headers={"content-type": content_type, "content-location": url},
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
            item = _item(entry, source=source, url=url, language=parsed.feed.get("language", ""))
        except Exception as error:  # noqa: BLE001 - whatever is odd in one entry, the others are read
            warnings.append(ReadWarning(code="entry_unreadable", entry=number, detail=type(error).__name__))
            continue
        if item.title or item.summary or item.body or item.link:
            items.append(item)
            warnings.extend(_entry_warnings(item, number))
        else:
            warnings.append(ReadWarning(code="entry_empty", entry=number))
    return Feed(
        format=_FORMATS.get(parsed.version, parsed.version),
        title=plain_text(parsed.feed.get("title", "")),
        link=resolve(url, parsed.feed.get("link", "")),
        language=_language(parsed.feed.get("language", "")),
        items=tuple(items),
        warnings=tuple(warnings),
    )


def _without_entities(body: bytes) -> bytes:
    """Take entity declarations out of the prolog: feedparser would expand them, however often they nest."""
    if body[:2] in {codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE}:
        body = _ENCODING.sub(rb"\1utf-8\2", body.decode("utf-16", "replace").encode(), count=1)
    root = _ROOT.search(body)
    prolog = body[: root.start()] if root else body
    if b"<!ENTITY" not in prolog.upper():
        return body
    return _ENTITY.sub(b"", prolog) + body[len(prolog) :]


def _first_entries(body: bytes) -> tuple[bytes, int]:
    """Give a document that ends after its first entries, and how many were left out: parsing takes time for each."""
    ends = [match.end() for match in islice(_ENTRY_END.finditer(body), MAX_ENTRIES + 1)]
    root = _ROOT.search(body)
    if len(ends) <= MAX_ENTRIES or root is None:
        return body, 0
    kept, rest = body[: ends[MAX_ENTRIES - 1]], body[ends[MAX_ENTRIES - 1] :]
    name = root.group(1)
    channel = b"</channel>" if name == b"rss" and b"</channel>" not in kept else b""
    return kept + channel + b"</" + name + b">", sum(1 for _ in _ENTRY_END.finditer(rest))


def _feed_warnings(parsed: Any, left: int) -> Iterable[ReadWarning]:  # noqa: ANN401 - feedparser has no types
    if parsed.bozo:
        error = parsed.get("bozo_exception")
        if isinstance(error, feedparser.CharacterEncodingOverride):
            yield ReadWarning(code="encoding_differs", detail=parsed.get("encoding", ""))
        elif not isinstance(error, feedparser.NonXMLContentType):
            yield ReadWarning(code="ill_formed", detail=str(error)[:200])
    if left:
        yield ReadWarning(code="too_many_entries", detail=str(MAX_ENTRIES + left))


def _entry_warnings(item: Item, number: int) -> Iterable[ReadWarning]:
    if not item.title:
        yield ReadWarning(code="no_title", entry=number)
    if not item.link:
        yield ReadWarning(code="no_link", entry=number)
    if item.published is None:
        yield ReadWarning(code="no_date", entry=number)


def _item(entry: Any, *, source: str, url: str, language: str) -> Item:  # noqa: ANN401
    link = resolve(url, entry.get("link", ""))
    body = "".join(_markup(part, url) for part in entry.get("content", ()))
    detail = entry.get("summary_detail")
    summary = _markup(detail, url) if detail else ""
    if summary == body:
        summary = ""
    title_detail = entry.get("title_detail") or {}
    title = _title(title_detail)
    return Item(
        source=source,
        identity=identity_of(entry.get("id", ""), link, title, body or summary),
        link=link,
        title=title,
        summary=summary,
        body=body,
        authors=_authors(entry),
        categories=_categories(entry),
        published=_time(dict.get(entry, "published_parsed") or dict.get(entry, "created_parsed")),
        updated=_time(dict.get(entry, "updated_parsed")),
        media=unique_media((*_feed_media(entry, url), *_enclosures(entry, url), *pictures_in(body + summary))),
        language=_language(entry.get("language") or _content_language(entry) or language),
        credit=_credit(entry.get("source"), url),
        facts=_facts(entry),
        raw=_plain(entry),
    )


def _title(detail: Mapping[str, Any]) -> str:
    value = detail.get("value", "") or ""
    # A title typed as plain text may hold "<" that is no markup (RFC 4287, 3.1.1.1).
    text = plain_text(value) if "<" in value or "&" in value else value
    return " ".join((text or value).split())[:1000]


def _markup(part: Mapping[str, Any], url: str) -> str:
    value = part.get("value", "") or ""
    if part.get("type") == "text/plain" and "<" not in value:
        return text_to_html(value)
    return absolute(value, resolve(url, part.get("base", "") or "") or url)


def _authors(entry: Any) -> tuple[str, ...]:  # noqa: ANN401
    names = [author.get("name", "") for author in entry.get("authors", ()) if author]
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
        licence=next(iter(licences), None) or entry.get("license") or entry.get("rights"),
        **{name: _extension(entry, name) for name in _NUMBERS},
    )


# What shops and platforms state under prefixes of their own: numbers of products and films, the keyword.
_NUMBERS = ("gtin", "gtin13", "ean", "upc", "isbn", "sku", "mpn", "media_id", "keyword")


def _extension(entry: Any, name: str) -> str:  # noqa: ANN401
    """Give the text of an element of this name, whatever its prefix."""
    found = next((entry[key] for key in entry if key == name or key.endswith(f"_{name}")), "")
    return found if isinstance(found, str) else ""


def _content_language(entry: Any) -> str:  # noqa: ANN401
    return next((part.get("language") or "" for part in entry.get("content", ())), "")


def _language(value: str | None) -> str:
    """Give a language tag (BCP 47) in lower case, or nothing when it cannot be one."""
    tag = (value or "").strip().lower().replace("_", "-")
    return tag if _LANGUAGE.match(tag) else ""


def _time(parsed: Any) -> datetime | None:  # noqa: ANN401
    try:
        return datetime.fromtimestamp(timegm(parsed), tz=UTC) if parsed else None
    except (OverflowError, ValueError, OSError):
        return None


def _plain(value: Any) -> Any:  # noqa: ANN401
    """Give the payload as plain JSON values; parsed times are left out, their strings say the same."""
    if isinstance(value, Mapping):
        return {str(key): _plain(part) for key, part in value.items() if not str(key).endswith("_parsed")}
    if isinstance(value, Sequence) and not isinstance(value, str):
        return [_plain(part) for part in value]
    if value is None or isinstance(value, bool | int | float):
        return value
    return str(value)
