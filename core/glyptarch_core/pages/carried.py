"""JSON in the script elements of a page, from which its scripts would draw the content."""

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from glyptarch_core.pages.document import LONGEST_PATH, DataList
from glyptarch_core.pages.page import Page
from glyptarch_core.text import count_words, plain_text, sanitise, text_to_html
from glyptarch_core.text.foreign_json import ForeignJsonDecoder, value_at

__all__ = ["DataEntry", "article_in_data", "carried_data", "entries_in_data", "lists_in_data"]

_DECODER = ForeignJsonDecoder()

_LARGEST = 4 << 20
_MOST_SCRIPTS = 40
_MOST_TRIES = 200
_MOST_NODES = 20_000
_DEEPEST = 12
_FEWEST = 3
_FEWEST_WORDS = 40
_MOST_ENTRIES = 500
# ``name = {``, ``window.name = [`` and ``window["name"] = {``: ways in which pages pass state to scripts.
_ASSIGNED = re.compile(r"(?:^|[\s;(.\[{])[\"']?([A-Za-z_$][\w$]{0,60})[\"']?\]?\s{0,9}=\s{0,9}(?=[{\[])")
_JSON_TYPES = re.compile(r"^application/(?:[\w.-]{1,40}\+)?json$")

_ADDRESSES = ("url", "link", "href", "permalink", "canonicalUrl", "canonical_url", "webUrl", "shareUrl", "path")
_TITLES = ("title", "headline", "name", "heading")
_DATES = ("date", "published", "publishedAt", "published_at", "datePublished", "pubDate", "createdAt", "created_at")
_PICTURES = ("picture", "image", "thumbnail", "imageUrl", "image_url", "cover", "photo")
_EXCERPTS = ("excerpt", "summary", "description", "teaser", "lead", "subtitle")
_AUTHORS = ("author", "byline", "authors", "writer", "creator")
_INNER = ("url", "src", "name", "text", "rendered")
_TEXTS = ("body", "content", "html", "text", "articleBody", "bodyHtml", "contentHtml", "paragraphs")


@dataclass(frozen=True, slots=True, kw_only=True)
class DataEntry:
    """One article in the data of a page, with the values as found."""

    url: str
    title: str = ""
    date: str = ""
    picture: str = ""
    excerpt: str = ""


def carried_data(page: Page) -> dict[str, Any]:
    """Return the data of a page by name: the id of its script, its variable, or ``data-N``."""
    values_by_name: dict[str, Any] = {}
    for number, script in enumerate(list(page.root.iter("script"))[:_MOST_SCRIPTS]):
        text = (script.text or "")[:_LARGEST]
        kind = (script.get("type") or "").strip().lower()
        if kind == "application/ld+json" or not text.strip():
            continue
        if _JSON_TYPES.match(kind):
            _keep(values_by_name, _plain_name(script.get("id") or f"data-{number}"), text.strip(), 0)
            continue
        position = tries = 0
        while tries < _MOST_TRIES and (assigned := _ASSIGNED.search(text, position)) is not None:
            tries += 1
            position = max(_keep(values_by_name, assigned[1], text, assigned.end()), assigned.end())
    return values_by_name


def _plain_name(name: str) -> str:
    return name.replace(".", "-")


def _keep(data_by_name: dict[str, Any], name: str, text: str, position: int) -> int:
    """Add the JSON value at a position, if there is one.

    Return where it ends, 0 for none.
    """
    try:
        value, end = _DECODER.raw_decode(text, position)
    except (ValueError, RecursionError):
        return 0
    if isinstance(value, dict | list) and value:
        data_by_name.setdefault(name, value)
    return end


def _text(value: Any, deepest: int = 4) -> str:  # noqa: ANN401
    """Return a value as text: an object's address, name or text, or the first texts of a list."""
    if isinstance(value, str):
        return value.strip()
    if isinstance(value, int | float) and not isinstance(value, bool):
        return str(value)
    if not deepest:
        return ""
    if isinstance(value, dict):
        texts = (_text(value.get(name), deepest - 1) for name in _INNER)
        return next((text for text in texts if text), "")
    if isinstance(value, list):
        return ", ".join(text for part in value[:10] if (text := _text(part, deepest - 1)))
    return ""


def entries_in_data(page: Page, where: DataList) -> tuple[DataEntry, ...]:
    """Return the entries of a list in the data of a page.

    Entries without an address are left out.
    """
    rows = value_at(carried_data(page), where.list)
    if not isinstance(rows, list):
        return ()
    entries = (
        DataEntry(
            url=page.resolve(_text(value_at(row, where.url))).partition("#")[0],
            title=plain_text(_text(value_at(row, where.title))) if where.title else "",
            date=_text(value_at(row, where.date)) if where.date else "",
            picture=page.resolve(_text(value_at(row, where.picture))) if where.picture else "",
            excerpt=plain_text(_text(value_at(row, where.excerpt))) if where.excerpt else "",
        )
        for row in rows[:_MOST_ENTRIES]
    )
    return tuple(entry for entry in entries if entry.url)


def lists_in_data(page: Page) -> list[tuple[DataList, tuple[str, ...]]]:
    """Return the paths and titles of lists of articles in a page's data, longest first."""
    lists: list[tuple[DataList, tuple[str, ...]]] = []
    for path, value in _nodes(carried_data(page)):
        if not isinstance(value, list) or len(path) > LONGEST_PATH:
            continue
        rows = [row for row in value if isinstance(row, dict)]
        if len(rows) < _FEWEST:
            continue
        names = {
            field: next(
                (name for name in key_path if sum(bool(_text(row.get(name))) for row in rows) > len(rows) / 2), ""
            )
            for field, key_path in _KNOWN.items()
        }
        addresses = {address for row in rows if (address := page.resolve(_text(row.get(names["url"]))))}
        titles = tuple(title for row in rows if (title := plain_text(_text(row.get(names["title"])))))
        if names["url"] and len(addresses) >= _FEWEST and len(set(titles)) >= _FEWEST:
            lists.append((DataList(list=path, **names), titles))
    return sorted(lists, key=lambda entry: -len(entry[1]))


_KNOWN = {"url": _ADDRESSES, "title": _TITLES, "date": _DATES, "picture": _PICTURES, "excerpt": _EXCERPTS}


def _nodes(data: Any) -> Iterator[tuple[str, Any]]:  # noqa: ANN401
    """Yield the values of data with their paths, outer ones first.

    Number and depth are limited.
    """
    level: list[tuple[str, Any]] = [("", data)]
    words = 0
    for _ in range(_DEEPEST):
        inner: list[tuple[str, Any]] = []
        for path, value in level:
            words += 1
            if words > _MOST_NODES:
                return
            yield path, value
            parts = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
            for name, part in parts:
                if isinstance(part, dict | list) and "." not in str(name):
                    inner.append((f"{path}.{name}" if path else str(name), part))
        level = inner


def article_in_data(page: Page) -> dict[str, str]:
    """Return the fields of the article with the longest text in the data.

    Empty where no text is long.
    """
    best: tuple[int, dict[str, str]] = (0, {})
    for _, value in _nodes(carried_data(page)):
        if not isinstance(value, dict):
            continue
        markup = next((html_ for name in _TEXTS if (html_ := _markup(value.get(name)))), "")
        words = count_words(plain_text(markup)) if markup else 0
        if words >= _FEWEST_WORDS and words > best[0]:
            best = (words, {"text": markup, **_beside(page, value)})
    return best[1]


def _beside(page: Page, value: Mapping[str, Any]) -> dict[str, str]:
    """Return the other fields of the object that has the text."""
    fields = {
        "title": plain_text(_first(value, _TITLES)),
        "date": _first(value, _DATES),
        "author": plain_text(_first(value, _AUTHORS)),
        "picture": page.resolve(_first(value, _PICTURES)),
        "description": plain_text(_first(value, _EXCERPTS)),
    }
    return {name: text[:2000] for name, text in fields.items() if text}


def _first(value: Mapping[str, Any], names: Sequence[str]) -> str:
    return next((text for name in names if (text := _text(value.get(name)))), "")


def _markup(value: Any) -> str:  # noqa: ANN401
    """Return a text as sanitised HTML.

    Plain text and lists of paragraphs are converted.
    """
    if isinstance(value, list):
        return "".join(_markup(part) for part in value if isinstance(part, str))
    text = _text(value) if not isinstance(value, dict) else _text(value.get("rendered") or value.get("html"))
    if not text:
        return ""
    return sanitise(text) if "<" in text and ">" in text else text_to_html(text)
