"""The entry of a source as captured, and the features computed from it once."""

import hashlib
import json
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from enum import StrEnum
from typing import Any

from glyptarch_core.text import (
    Fingerprint,
    Passage,
    bounded_key,
    canonical_link,
    fingerprint_of,
    found_language,
    sanitise,
    title_key,
)

__all__ = [
    "FEATURES_VERSION",
    "Captured",
    "Credit",
    "Features",
    "Item",
    "Media",
    "MediaKind",
    "MediaOrigin",
    "Review",
    "Right",
    "Rights",
    "SourceCard",
    "features_of",
    "identity_key",
]


class MediaKind(StrEnum):
    """The kind of a medium: picture, film or sound."""

    PICTURE = "picture"
    FILM = "film"
    SOUND = "sound"
    OTHER = "other"


class MediaOrigin(StrEnum):
    """The origin of a media address: the entry, its page, or the blog's pictures."""

    FEED = "feed"
    ENCLOSURE = "enclosure"
    PAGE = "page"
    TEXT = "text"
    BLOG = "blog"


@dataclass(frozen=True, slots=True, kw_only=True)
class Media:
    """A picture, film or sound that belongs to an item. Width and height are in pixels."""

    url: str
    kind: MediaKind
    origin: MediaOrigin
    mime: str = ""
    width: int | None = None
    height: int | None = None
    alt: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Credit:
    """The original source of an entry (RSS 2.0 and Atom ``source`` elements)."""

    title: str
    link: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Review:
    """An excerpt of a review of a product. ``stars`` are of five, None for none."""

    text: str
    by: str = ""
    stars: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Item:
    """One entry of a source.

    ``title`` is plain text; ``summary`` and ``body`` are unsanitised HTML, kept apart as in the source. Times carry a
    zone. ``facts`` holds other stated values: ``rating``, ``views``, ``length`` (seconds), ``price``, ``licence``, and
    the source's own fields under their names. ``raw`` is the payload of the entry. ``page`` is the result of fetching
    the linked page for its full text: ``taken``, ``shorter``, ``not_found``, ``unread``, or the kind of page found
    instead of an article. ``features`` and ``reviews`` are those of a product; they are kept with it
    (``offers/details.py``), not with the item.
    """

    source: str
    identity: str
    link: str
    title: str
    summary: str = ""
    body: str = ""
    authors: tuple[str, ...] = ()
    categories: tuple[str, ...] = ()
    published: datetime | None = None
    updated: datetime | None = None
    media: tuple[Media, ...] = ()
    language: str = ""
    credit: Credit | None = None
    facts: Mapping[str, str | float] = field(default_factory=dict, hash=False)
    raw: Mapping[str, Any] = field(default_factory=dict, compare=False, hash=False)
    page: str = ""
    features: tuple[str, ...] = field(default=(), compare=False)
    reviews: tuple[Review, ...] = field(default=(), compare=False)

    def __post_init__(self) -> None:
        if not self.identity:
            raise ValueError("an item needs an identity")
        for moment in (self.published, self.updated):
            if moment is not None and moment.tzinfo is None:
                raise ValueError(f"{self.identity}: a time needs a zone")

    def identity_hash(self) -> str:
        """SHA-256 (hex) of the identity, of fixed length and in unpredictable order."""
        return hashlib.sha256(self.identity.encode("utf-8", "surrogatepass")).hexdigest()

    def content_hash(self) -> str:
        """SHA-256 (hex) over everything a reader could see.

        Changes when the source edits the entry. A picture found on the linked page is not part of the entry and is left
        out.
        """
        seen: list[object] = [self.link, self.title, self.summary, self.body, self.authors, self.categories]
        addresses = [medium.url for medium in self.media if medium.origin is not MediaOrigin.PAGE]
        seen.extend([addresses, sorted(self.facts.items())])
        return hashlib.sha256(json.dumps(seen, ensure_ascii=False).encode("utf-8", "surrogatepass")).hexdigest()


class Right(StrEnum):
    """The extent to which items of a source may be republished."""

    FULL = "full"
    EXCERPT = "excerpt"
    LINK = "link"


@dataclass(frozen=True, slots=True, kw_only=True)
class Rights:
    """The rights of a source: full text, an excerpt of at most ``words`` words, or only a link.

    ``attribution`` is the line required under each post; empty where none is.
    """

    right: Right = Right.FULL
    words: int = 100
    attribution: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class SourceCard:
    """The facts about an item's source that rules and templates may use.

    ``keyword`` is the search that the source makes, where it is a search. ``in_doubt`` says that the layout of the site
    has changed, so its fields may be wrong. ``labels`` are those that people gave it. ``shop`` is the shop whose
    product numbers its items have, where other sources may have the same products.
    """

    key: str
    title: str
    labels: frozenset[str] = frozenset()
    link: str = ""
    keyword: str = ""
    shop: str = ""
    rights: Rights = Rights()
    in_doubt: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Features:
    """The parts of an item that depend on no rule, computed once.

    ``words`` and ``fingerprint`` are those of the text, or of the summary where there is no text. ``language`` is found
    by the text (BCP 47), only where the source states none.
    """

    title: Passage
    text: Passage
    summary: Passage
    words: int
    identity_key: str
    link_key: str
    title_key: str
    fingerprint: Fingerprint
    language: str = ""

    @property
    def main_text(self) -> Passage:
        """The text of the item, or its summary where there is no text."""
        return self.text if self.text.text else self.summary


@dataclass(frozen=True, slots=True, kw_only=True, eq=False, weakref_slot=True)
class Captured:
    """An item with its features, its source and its time of capture.

    Compared by object identity, for use as a cache key in :mod:`glyptarch_core.reuse`.
    """

    item: Item
    features: Features
    source: SourceCard
    captured_at: datetime

    @property
    def language(self) -> str:
        """The language of the item (BCP 47): as its source states it, else as its text shows it."""
        return self.item.language or self.features.language

    @property
    def pictures(self) -> int:
        """The number of distinct pictures of the item."""
        return len({medium.url for medium in self.item.media if medium.kind is MediaKind.PICTURE})

    @property
    def keyword(self) -> str:
        """The search that found the item: its own, or that of its source."""
        return str(self.item.facts.get("keyword") or self.source.keyword)

    @property
    def dated(self) -> datetime:
        """The time the item counts from: published, else updated, else captured."""
        return self.item.published or self.item.updated or self.captured_at


# In characters. Escaping a link or folding a title can lengthen it many times.
_LONGEST_KEY = 4000
_LONGEST_TITLE_KEY = 1000


def identity_key(item: Item) -> str:
    """Return the key that identities are compared by.

    An absolute URI counts alone, anything else together with its source.
    """
    # An absolute URI identifies the same entry in every feed (RFC 4287, 4.2.6). A bare number or word is unique only in
    # its feed.
    if item.identity.startswith(("http://", "https://", "tag:", "urn:")):
        return item.identity
    return f"{item.source} {item.identity}"


FEATURES_VERSION = 5
"""Raised whenever the features of an unchanged item come out otherwise; those kept with another number are stale."""


def features_of(item: Item) -> Features:
    """Compute the features of an item.

    Texts are those that would be published.
    """
    text, summary = Passage.of_html(sanitise(item.body)), Passage.of_html(sanitise(item.summary))
    shown = text.text or f"{item.title}\n{summary.text}"
    return Features(
        title=Passage.of_text(item.title),
        text=text,
        summary=summary,
        words=text.word_count or summary.word_count,
        identity_key=identity_key(item),
        link_key=bounded_key(canonical_link(item.link), _LONGEST_KEY),
        title_key=bounded_key(title_key(item.title), _LONGEST_TITLE_KEY),
        fingerprint=fingerprint_of(text if text.text else summary),
        language="" if item.language else found_language(shown),
    )
