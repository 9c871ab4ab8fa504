"""RSS 0.9x, 1.0, 2.0 and Atom, read with feedparser (:mod:`glyptarch_core.readers.library`)."""

import re
from calendar import timegm
from collections.abc import Container, Iterable, Sequence
from datetime import UTC, datetime, timedelta
from itertools import islice

from glyptarch_core.errors import ParseError
from glyptarch_core.item import Credit, Item, Media, MediaOrigin
from glyptarch_core.readers.dates import moment_of
from glyptarch_core.readers.library import Node, Parsed, parse
from glyptarch_core.readers.model import (
    MAX_ENTRIES,
    Feed,
    FeedEntry,
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
# feedparser searches names of people for addresses with patterns of more than linear time.
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


def read(text: str, *, source: str, url: str, known_marks: Container[str] = ()) -> Feed:
    """Read the text of an XML feed.

    See :func:`glyptarch_core.readers.read_feed`. Raises ParseError.
    """
    kept, left = _first_entries(_without_prolog(well_formed_references(clean_text(text))))
    if kept.count("xmlns:") > _MOST_NAMESPACES:
        raise ParseError("not_a_feed", "The answer declares more namespaces than any feed has.")
    kept = _LONG_NAME.sub(r"\1", _LONG_TAG.sub(r"\1", kept))
    kept = _MEDIA_DESCRIPTION.sub(r"\1media:words\2", kept)
    parsed = parse(kept, url=url, known_marks=known_marks)
    warnings = list(_feed_warnings(parsed, left))
    entries: list[FeedEntry] = []
    unchanged = 0
    for number, (entry, mark) in enumerate(parsed.nodes(MAX_ENTRIES), start=1):
        if entry is None:
            unchanged += 1
            continue
        try:
            item = _item(entry, parsed.feed, source=source, url=url, atom=parsed.version.startswith("atom"))
        except Exception as error:  # noqa: BLE001 - whatever is odd in one entry, the others are read
            warnings.append(ReadWarning(code="entry_unreadable", entry=number, detail=type(error).__name__))
            continue
        if item.title or item.summary or item.body or item.link or item.media:
            left_out = list(_entry_warnings(item, number, entry.exact("published")))
            warnings.extend(left_out)
            # An entry with a fault is read each time, so that its warning is repeated.
            entries.append(FeedEntry(item, number, "" if left_out else mark))
        else:
            warnings.append(ReadWarning(code="entry_empty", entry=number))
    return Feed(
        format=_FORMATS.get(parsed.version, parsed.version),
        title=plain_text(parsed.feed.text("title")),
        link=resolve(url, parsed.feed.text("link")),
        language=_language(parsed.feed.text("language")),
        entries=tuple(entries),
        unchanged=unchanged,
        warnings=tuple(warnings),
        wished=_wished(parsed.feed),
        skip_hours=_skip_hours(kept),
        hub=_relation(parsed.feed, url, "hub"),
        self_link=_relation(parsed.feed, url, "self"),
        older=_relation(parsed.feed, url, "prev-archive") or _relation(parsed.feed, url, "next"),
    )


# feedparser reads it as a second description of the entry, which then replaces the text. Of an element that it does
# not know it keeps the text only where it has no attributes.
_MEDIA_DESCRIPTION = re.compile(r"(</?)media:description(?:\s[^<>]{0,500}?)?(/?>)")


def _relation(feed: Node, url: str, rel: str) -> str:
    """Return the first address of a relation of the feed itself (RFC 4287, 4.2.7.2)."""
    return next((full for link in feed.links(rel) if (full := resolve(url, link.text("href")))), "")


_SKIP_HOURS = re.compile(
    r"<skipHours\s{0,9}>([^<]{0,20}(?:<hour\s{0,9}>[^<]{0,20}</hour\s{0,9}>[^<]{0,20}){1,24})</skipHours"
)
_HOUR = re.compile(r"<hour\s{0,9}>\s{0,9}(\d{1,2})\s{0,9}</hour")
_HOURS = 24


def _skip_hours(text: str) -> frozenset[int]:
    """Return the hours in which a feed asks not to be read.

    RSS 2.0 counts GMT hours from 0 to 23, RSS 0.91 from 1 to 24.
    """
    match = _SKIP_HOURS.search(text)
    hours = {int(hour) % _HOURS for hour in _HOUR.findall(match[1])} if match else set()
    return frozenset(hours) if len(hours) < _HOURS else frozenset()


_PERIODS = {"hourly": 1, "daily": 24, "weekly": 7 * 24, "monthly": 30 * 24, "yearly": 365 * 24}
"""Hours (RSS 1.0 syndication module)."""
_MOST_DIGITS = 6


def _wished(feed: Node) -> timedelta:
    """Return the polling interval of a feed: its ``ttl`` (RSS 2.0, minutes) or ``updatePeriod``."""
    ttl, period = feed.text("ttl").strip(), feed.text("sy_updateperiod").strip().lower()
    minutes = int(ttl) if ttl.isascii() and ttl.isdecimal() and len(ttl) <= _MOST_DIGITS else 0
    times = feed.text("sy_updatefrequency").strip()
    often = int(times) if times.isascii() and times.isdecimal() and len(times) <= _MOST_DIGITS else 1
    return max(timedelta(minutes=minutes), timedelta(hours=_PERIODS.get(period, 0) / max(often, 1)))


def _without_prolog(text: str) -> str:
    """Return a document from its first element on (XML 1.0, 2.8).

    The prolog names an encoding that the text no longer has, and may declare entities, which feedparser would expand at
    any depth.
    """
    position = 0
    while (position := text.find("<", position)) >= 0:
        if text.startswith("<!--", position):
            position = _after(text, "-->", position)
        elif text.startswith("<?", position):
            position = _after(text, "?>", position)
        elif text.startswith("<!", position):
            position = _after_declaration(text, position + 2)
        else:
            return text[position:]
    return text


def _after(text: str, end: str, position: int) -> int:
    end_position = text.find(end, position)
    return end_position + len(end) if end_position >= 0 else len(text)


def _after_declaration(text: str, position: int) -> int:
    """Return the end of a declaration, or the beginning of its internal subset.

    Quotes may contain anything.
    """
    while (sign := _SIGN.search(text, position)) is not None:
        if sign.group() in "[>":
            return sign.end()
        position = _after(text, sign.group(), sign.end()) if sign.group() in "\"'" else sign.end()
    return len(text)


def _first_entries(body: str) -> tuple[str, int]:
    """Return a document cut after its first entries, and the number left out.

    The cut bounds the parsing time.
    """
    ends = [match.end() for match in islice(_ENTRY_END.finditer(body), MAX_ENTRIES + 1)]
    root = _ROOT.search(body)
    if len(ends) <= MAX_ENTRIES or root is None:
        return body, 0
    kept, rest = body[: ends[MAX_ENTRIES - 1]], body[ends[MAX_ENTRIES - 1] :]
    name = root.group(1)
    channel = "</channel>" if name == "rss" and "</channel>" not in kept else ""
    return f"{kept}{channel}</{name}>", sum(1 for _ in _ENTRY_END.finditer(rest))


def _feed_warnings(parsed: Parsed, left: int) -> Iterable[ReadWarning]:
    if parsed.fault:
        yield ReadWarning(code="ill_formed", detail=parsed.fault[:200])
    if left:
        yield ReadWarning(code="too_many_entries", detail=str(MAX_ENTRIES + left))


def _entry_warnings(item: Item, number: int, date: str) -> Iterable[ReadWarning]:
    if not item.title:
        yield ReadWarning(code="no_title", entry=number)
    if not item.link:
        yield ReadWarning(code="no_link", entry=number)
    if date and item.published is None:
        yield ReadWarning(code="date_unreadable", entry=number, detail=date)
    elif item.published is None and item.updated is None:
        yield ReadWarning(code="no_date", entry=number)


def _item(entry: Node, feed: Node, *, source: str, url: str, atom: bool) -> Item:
    contents = entry.nodes("content")
    elsewhere = next((src for part in contents if (src := part.text("src"))), "")
    link = resolve(url, entry.text("link")) or resolve(url, elsewhere)
    body = "".join(_markup(part, url, atom=atom) for part in contents)
    detail = entry.node("summary_detail")
    summary = _markup(detail, url, atom=atom) if detail else ""
    if summary == body:
        summary = ""
    if not summary and not body:
        # Entries of films often have no other text (Media RSS 1.5.1, media:description).
        summary = text_to_html(plain_text(entry.text("media_words")))
    title = _title(entry.node("title_detail"), atom=atom)
    language = entry.text("language") or next((part.text("language") for part in contents), "") or feed.text("language")
    return Item(
        source=source,
        identity=identity_of(entry.text("id"), link, title, body or summary),
        link=link,
        title=title,
        summary=summary,
        body=body,
        # RFC 4287, 4.2.1: an entry without an author has its feed's.
        authors=_names(entry, "authors") or (_names(feed, "authors") if atom else ()),
        categories=_categories(entry),
        published=_moment(entry, language, "published", "created"),
        updated=_moment(entry, language, "updated"),
        media=unique_media(
            (
                *_feed_media(entry, url),
                *_enclosures(entry, url),
                *_contents_elsewhere(contents, url),
                *pictures_in(body + summary),
            )
        ),
        language=_language(language),
        credit=_credit(entry.node("source"), url),
        facts=_facts(entry),
        raw=entry.plain(),
    )


def _title(detail: Node, *, atom: bool) -> str:
    value = detail.text("value")
    # A plain-text title may contain "<" that is not markup (RFC 4287, 3.1.1.1).
    as_it_is = atom and detail.text("type") == "text/plain"
    text = plain_text(value) if not as_it_is and ("<" in value or "&" in value) else value
    return " ".join((text or value).split())[:10_000]


def _markup(part: Node, url: str, *, atom: bool) -> str:
    value = part.text("value")
    if part.text("type") == "text/plain" and (atom or "<" not in value):
        return text_to_html(value)
    return absolute(value, resolve(url, part.text("base")) or url)


def _names(node: Node, kind: str) -> tuple[str, ...]:
    names = (person.text("name") for person in node.nodes(kind))
    return tuple(dict.fromkeys(" ".join(name.split())[:200] for name in names if name.strip()))


def _categories(entry: Node) -> tuple[str, ...]:
    terms = (tag.text("label", "term") for tag in entry.nodes("tags"))
    return tuple(dict.fromkeys(" ".join(term.split())[:200] for term in terms if term.strip()))


def _feed_media(entry: Node, url: str) -> Iterable[Media]:
    image = entry.node("image")
    for is_picture, part in [
        *((True, thumbnail) for thumbnail in entry.nodes("media_thumbnail")),
        *((False, content) for content in entry.nodes("media_content")),
        *((True, picture) for picture in [image] if picture),
    ]:
        address, mime = resolve(url, part.text("url", "href")), part.text("type")
        yield Media(
            url=address,
            kind=kind_of(address, mime, "image" if is_picture else part.text("medium")),
            origin=MediaOrigin.FEED,
            mime=mime,
            width=pixels(part.text("width")),
            height=pixels(part.text("height")),
        )


def _enclosures(entry: Node, url: str) -> Iterable[Media]:
    for enclosure in entry.links("enclosure"):
        address, mime = resolve(url, enclosure.text("href", "url")), enclosure.text("type")
        yield Media(url=address, kind=kind_of(address, mime), origin=MediaOrigin.ENCLOSURE, mime=mime)


def _contents_elsewhere(contents: Iterable[Node], url: str) -> Iterable[Media]:
    """Yield the remote contents of an entry (RFC 4287, 4.1.3.2)."""
    for part in contents:
        if part.text("src"):
            address, mime = resolve(url, part.text("src")), part.text("type")
            yield Media(url=address, kind=kind_of(address, mime), origin=MediaOrigin.ENCLOSURE, mime=mime)


def _credit(source: Node, url: str) -> Credit | None:
    title, link = plain_text(source.text("title", "value")), resolve(url, source.text("href", "link"))
    return Credit(title=title, link=link) if title or link else None


def _facts(entry: Node) -> dict[str, str | float]:
    lengths = [entry.text("itunes_duration"), *(part.text("duration") for part in entry.nodes("media_content"))]
    licences = [link.text("href") for link in entry.links("license")]
    facts = entry.extensions("price", "season", "episode", *_NUMBERS)
    return stated(
        rating=entry.node("media_starrating").text("average"),
        views=entry.node("media_statistics").text("views"),
        length=next((seconds(value) for value in lengths if value), None),
        **{name: facts[name] for name in ("price", "season", "episode")},
        transcript=_addressed(entry, "podcast_transcript"),
        chapters=_addressed(entry, "podcast_chapters"),
        contributors=", ".join(_names(entry, "contributors")),
        licence=next(iter(licences), "") or entry.text("license", "rights"),
        **{name: facts[name] for name in _NUMBERS},
    )


def _addressed(entry: Node, name: str) -> str:
    """Return the address in an element of the podcast namespace.

    See podcastindex.org/namespace/1.0.
    """
    address = entry.node(name).text("url")
    return address if address.startswith(("http://", "https://")) else ""


# Prefixed elements of shops and platforms: product numbers, film numbers, and the keyword.
_NUMBERS = ("gtin", "gtin13", "ean", "upc", "isbn", "sku", "mpn", "media_id", "keyword")


def _language(value: str) -> str:
    """Return a language tag (BCP 47) in lower case.

    Empty for an invalid one.
    """
    tag = value.strip().lower().replace("_", "-")
    return tag if _LANGUAGE.match(tag) else ""


def _moment(entry: Node, language: str, *names: str) -> datetime | None:
    """Return the first readable time under one of these names."""
    for name in names:
        text = entry.exact(name)
        moment = (moment_of(text, language) or _read_by_library(entry.time(name), text)) if text else None
        if moment is not None:
            return moment
    return None


def _read_by_library(parsed: Sequence[int] | None, text: str) -> datetime | None:
    """Return feedparser's reading of a time, if its year occurs in the text."""
    try:
        moment = datetime.fromtimestamp(timegm(tuple(parsed)), tz=UTC) if parsed else None
    except (OverflowError, ValueError, OSError):
        return None
    return moment if moment is not None and f"{moment.year:04}" in text and not text.strip().isdigit() else None
