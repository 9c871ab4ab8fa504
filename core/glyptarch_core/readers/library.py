"""A typed interface to feedparser.

feedparser has no types and answers one name with another's value. Ordinary feeds take a faster way to the same entries
(:mod:`glyptarch_core.readers.fast_lane`).

feedparser gets a stream, never a string or bytes, which it would open or fetch where they look like an address. Its
sanitising and resolving are off, since lxml and nh3 do both in less time.
"""

import io
from collections.abc import Container, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import islice
from typing import Any

import feedparser
from feedparser.datetimes import _parse_date
from feedparser.util import FeedParserDict

from glyptarch_core.errors import ParseError
from glyptarch_core.readers import fast_lane

__all__ = ["Node", "Parsed", "parse", "parse_whole"]

# feedparser computes these names from others.
_WORKED_OUT = frozenset({"category", "enclosures", "license", "updated", "updated_parsed", *FeedParserDict.keymap})


class Node:
    """A feed, an entry, or an element of one, as feedparser returns it.

    Missing values read as empty.
    """

    __slots__ = ("_values",)

    def __init__(self, values: Any) -> None:  # noqa: ANN401 - the library has no types
        self._values: dict[str, Any] = values if isinstance(values, dict) else {}

    def __bool__(self) -> bool:
        """Whether anything is there."""
        return bool(self._values)

    def _get(self, name: str) -> Any:  # noqa: ANN401
        """Return a value.

        Empty where feedparser fails to compute it from an element with text only.
        """
        if name not in _WORKED_OUT:
            return dict.get(self._values, name)
        try:
            return self._values.get(name)
        except (TypeError, AttributeError, LookupError):
            return None

    def text(self, *names: str) -> str:
        """Return the first text under one of these names."""
        for name in names:
            value = self._get(name)
            if isinstance(value, str) and value:
                return value
        return ""

    def exact(self, name: str) -> str:
        """Return the text under exactly this name.

        Feedparser else answers ``published`` with ``updated``.
        """
        return str(dict.get(self._values, name) or "")

    def time(self, name: str) -> Sequence[int] | None:
        """Return the parsed time under exactly this name, in UTC, as ``time.struct_time``."""
        value = dict.get(self._values, f"{name}_parsed")
        # Entries from the fast lane have their times as text only.
        value = value or _parse_date(self.exact(name))
        return value if isinstance(value, tuple) else None

    def node(self, name: str) -> "Node":
        """Return the node under a name.

        An empty one where there is none.
        """
        return Node(self._get(name))

    def nodes(self, name: str) -> "list[Node]":
        """Return the list under a name, without empty entries."""
        values = self._get(name)
        if not isinstance(values, list | tuple):
            return []
        return [part for part in map(Node, values) if part]

    def links(self, rel: str) -> "list[Node]":
        """Return the links of a relation (RFC 4287, 4.2.7.2)."""
        return [link for link in self.nodes("links") if link.text("rel") == rel]

    def extensions(self, *names: str) -> dict[str, str]:
        """Return the texts of elements with these names under any prefix."""
        keys: dict[str, str] = {}
        for key in self._values:
            # feedparser joins prefix and name with "_"; a prefix has no "_".
            keys.setdefault(key, key)
            keys.setdefault(key.partition("_")[2], key)
        return {name: self.text(keys[name]) if name in keys else "" for name in names}

    def plain(self) -> dict[str, Any]:
        """Return everything as JSON values, without parsed times, whose texts are kept."""
        return {str(key): _plain(part) for key, part in self._values.items() if not str(key).endswith("_parsed")}


def _plain(value: Any) -> Any:  # noqa: ANN401
    if isinstance(value, str):
        return str(value)
    if isinstance(value, dict):
        return Node(value).plain()
    if isinstance(value, list | tuple):
        return [_plain(part) for part in value]
    return value if value is None or isinstance(value, bool | int | float) else str(value)


@dataclass(frozen=True, slots=True, kw_only=True)
class Parsed:
    """A parsed feed: the name of its format, the feed, its entries, and faults."""

    version: str
    feed: Node
    entries: fast_lane.Entries
    fault: str

    def nodes(self, most: int) -> Iterator[tuple[Node | None, str]]:
        """Yield at most so many entries with their marks, in feed order.

        None for known ones.
        """
        pairs = zip(self.entries.entries, self.entries.marks, strict=True)
        return ((None if entry is None else Node(entry), mark) for entry, mark in islice(pairs, most))


def parse(text: str, *, url: str, known_marks: Container[str] = ()) -> Parsed:
    """Parse the text of a feed, without entries in ``known_marks``. Raises ParseError."""
    split = fast_lane.split(text, url, known_marks)
    if split is None:
        return parse_whole(text, url=url)
    head, entries = split
    return replace(parse_whole(head, url=url), entries=entries)


def parse_whole(text: str, *, url: str) -> Parsed:
    """Parse the text of a feed with feedparser alone. Raises ParseError."""
    try:
        parsed = feedparser.parse(
            io.BytesIO(text.encode()),
            response_headers={"content-type": "application/xml; charset=utf-8", "content-location": url},
            sanitize_html=False,
            resolve_relative_uris=False,
        )
    except Exception as error:
        # feedparser documents that it sets "bozo" instead of raising, but does not always do so.
        raise ParseError("not_a_feed", "The answer cannot be read as a feed.") from error
    version = parsed.get("version")
    if not isinstance(version, str) or not version:
        raise ParseError("not_a_feed", "The answer is neither RSS, Atom nor JSON Feed.")
    fault = str(parsed.get("bozo_exception") or "unknown") if parsed.bozo else ""
    entries = fast_lane.Entries(parsed.entries, [""] * len(parsed.entries))
    return Parsed(version=version, feed=Node(parsed.feed), entries=entries, fault=fault)
