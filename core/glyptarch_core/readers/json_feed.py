"""JSON Feed 1.0 and 1.1 (jsonfeed.org/version/1.1), with odd types forgiven and warned of."""

from collections.abc import Iterable, Iterator, Mapping
from typing import Any

from glyptarch_core.errors import ParseError
from glyptarch_core.item import Item, Media, MediaKind, MediaOrigin
from glyptarch_core.readers.dates import moment_of
from glyptarch_core.readers.model import (
    MAX_ENTRIES,
    Feed,
    FeedEntry,
    ReadWarning,
    identity_of,
    kind_of,
    pictures_in,
    resolve,
    stated,
    unique_media,
)
from glyptarch_core.text import absolute, clean_text, plain_text, text_to_html
from glyptarch_core.text.foreign_json import load_json

__all__ = ["read"]

_VERSION = "https://jsonfeed.org/version/"


def read(text: str, *, source: str, url: str) -> Feed:
    """Read the text of a JSON Feed.

    See :func:`glyptarch_core.readers.read_feed`. Raises ParseError.
    """
    try:
        data = load_json(text)
    except ValueError as error:
        raise ParseError("bad_json", f"The answer begins like JSON but is not: {error}.") from error
    version = data.get("version") if isinstance(data, Mapping) else None
    if not isinstance(version, str) or not version.startswith(_VERSION):
        raise ParseError("not_a_feed", "The answer is JSON, but not a JSON Feed: it names no version of one.")
    entries = data.get("items")
    if not isinstance(entries, list):
        raise ParseError("not_a_feed", "The JSON Feed has no list of items.")
    base = resolve(url, _text(data, "home_page_url")) or url
    read: list[FeedEntry] = []
    warnings: list[ReadWarning] = []
    for number, entry in enumerate(entries[:MAX_ENTRIES], start=1):
        if not isinstance(entry, Mapping):
            warnings.append(ReadWarning(code="entry_empty", entry=number))
            continue
        try:
            item = _item(entry, data, source=source, base=base)
        except Exception as error:  # noqa: BLE001 - whatever is odd in one entry, the others are read
            warnings.append(ReadWarning(code="entry_unreadable", entry=number, detail=type(error).__name__))
            continue
        read.append(FeedEntry(item, number))
        warnings.extend(_entry_warnings(item, number, _text(entry, "date_published")))
    if len(entries) > MAX_ENTRIES:
        warnings.append(ReadWarning(code="too_many_entries", detail=str(len(entries))))
    return Feed(
        format=f"JSON Feed {version.removeprefix(_VERSION).rstrip('/')}",
        title=plain_text(_text(data, "title")),
        link=resolve(url, _text(data, "home_page_url")),
        language=_text(data, "language").lower(),
        entries=tuple(read),
        warnings=tuple(warnings),
        hub=_hub(data, url),
        self_link=resolve(url, _text(data, "feed_url")),
        older=resolve(url, _text(data, "next_url")),
    )


def _entry_warnings(item: Item, number: int, date: str) -> Iterator[ReadWarning]:
    if date and item.published is None:
        yield ReadWarning(code="date_unreadable", entry=number, detail=date)
    elif item.published is None and item.updated is None:
        yield ReadWarning(code="no_date", entry=number)
    if not item.title:
        yield ReadWarning(code="no_title", entry=number)


def _hub(data: Mapping[str, Any], url: str) -> str:
    """Return the first WebSub hub (JSON Feed 1.1, ``hubs``)."""
    hubs = data.get("hubs")
    named = [hub for hub in hubs if isinstance(hub, Mapping)] if isinstance(hubs, list) else []
    return next((resolve(url, _text(hub, "url")) for hub in named if _text(hub, "type").lower() == "websub"), "")


def _text(data: Mapping[str, Any], key: str) -> str:
    value = data.get(key)
    if isinstance(value, bool) or not isinstance(value, str | int | float):
        return ""
    return clean_text(str(value))


def _item(entry: Mapping[str, Any], feed: Mapping[str, Any], *, source: str, base: str) -> Item:
    link = resolve(base, _text(entry, "url")) or resolve(base, _text(entry, "external_url"))
    body = absolute(_text(entry, "content_html"), base) or text_to_html(_text(entry, "content_text"))
    title = " ".join(plain_text(_text(entry, "title")).split())[:10_000]
    return Item(
        source=source,
        identity=identity_of(_text(entry, "id"), link, title, body),
        link=link,
        title=title,
        summary=text_to_html(_text(entry, "summary")),
        body=body,
        authors=_authors(entry) or _authors(feed),
        categories=_tags(entry),
        published=moment_of(_text(entry, "date_published")),
        updated=moment_of(_text(entry, "date_modified")),
        media=unique_media((*_pictures(entry, base), *_attachments(entry, base), *pictures_in(body))),
        language=(_text(entry, "language") or _text(feed, "language")).lower(),
        facts=_facts(entry),
        raw=entry,
    )


def _authors(holder: Mapping[str, Any]) -> tuple[str, ...]:
    authors = holder.get("authors")
    people = authors if isinstance(authors, list) else [holder.get("author")]  # JSON Feed 1.0 had a single author.
    names = (_text(person, "name") for person in people if isinstance(person, Mapping))
    return tuple(dict.fromkeys(" ".join(name.split())[:200] for name in names if name.strip()))


def _tags(entry: Mapping[str, Any]) -> tuple[str, ...]:
    stated_tags = entry.get("tags")
    tags = stated_tags if isinstance(stated_tags, list) else ()
    return tuple(dict.fromkeys(tag[:200] for tag in tags if isinstance(tag, str) and tag))


def _pictures(entry: Mapping[str, Any], base: str) -> Iterable[Media]:
    for key in ("image", "banner_image"):
        url = resolve(base, _text(entry, key))
        yield Media(url=url, kind=MediaKind.PICTURE, origin=MediaOrigin.FEED)


def _attachments(entry: Mapping[str, Any], base: str) -> Iterable[Media]:
    attachments = entry.get("attachments")
    for attachment in attachments if isinstance(attachments, list) else ():
        if isinstance(attachment, Mapping):
            url, mime = resolve(base, _text(attachment, "url")), _text(attachment, "mime_type")
            yield Media(url=url, kind=kind_of(url, mime), origin=MediaOrigin.ENCLOSURE, mime=mime)


def _facts(entry: Mapping[str, Any]) -> dict[str, str | float]:
    """Return facts from extensions (JSON Feed 1.1).

    Extensions are objects whose names begin with an underscore.
    """
    attachments = entry.get("attachments")
    lengths = [
        attachment.get("duration_in_seconds")
        for attachment in (attachments if isinstance(attachments, list) else ())
        if isinstance(attachment, Mapping)
    ]
    own: dict[str, Any] = {}
    for name, value in entry.items():
        if str(name).startswith("_"):
            own |= value if isinstance(value, Mapping) else {str(name).lstrip("_"): value}
    return stated(**{str(name): value for name, value in own.items()}) | stated(
        length=next((length for length in lengths if length), own.get("length"))
    )
