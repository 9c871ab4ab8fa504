"""The exact comparisons: identity, link, title, product, media and keyword."""

from collections.abc import Callable, Mapping
from typing import Any, Literal

from pydantic import Field

from glyptarch_core.item import Captured, MediaKind
from glyptarch_core.match.base import KeyOf, MatchRuleBase
from glyptarch_core.match.products import product_number
from glyptarch_core.ports import Key, KeyKind
from glyptarch_core.text import about_words, canonical_link, title_key

__all__ = [
    "EXACT",
    "SameIdentity",
    "SameKeyword",
    "SameLink",
    "SameMedia",
    "SameProduct",
    "SameTitle",
    "keys_of",
]


class SameIdentity(MatchRuleBase):
    """The same entry again: guid (RSS), id (Atom, JSON Feed)."""

    kind: Literal["identity"] = "identity"


class SameLink(MatchRuleBase):
    """The same page, after tracking parameters and other variants of the address are taken off."""

    kind: Literal["link"] = "link"


class SameTitle(MatchRuleBase):
    """The same title, without regard to case, accents and punctuation.

    Titles of fewer words than ``at_least_words`` are not compared: “Weekly notice” names no story.
    """

    kind: Literal["title"] = "title"
    at_least_words: int = Field(default=3, ge=1, le=50)


class SameProduct(MatchRuleBase):
    """The same product: by trade number (GTIN, EAN, UPC, ISBN), else by the number at one host."""

    kind: Literal["product"] = "product"


class SameMedia(MatchRuleBase):
    """The same film or sound, by the address of its file or the number its platform gives it."""

    kind: Literal["media"] = "media"


class SameKeyword(MatchRuleBase):
    """A keyword that a post has been made for already: one post for each keyword."""

    kind: Literal["keyword"] = "keyword"


def _key(kind: KeyKind, value: str) -> Key | None:
    return Key(kind, value) if value else None


def _title(rule: SameTitle) -> KeyOf:
    def key_of(captured: Captured) -> Key | None:
        key = captured.features.title_key
        return Key(KeyKind.TITLE, key) if about_words(key.split()) >= rule.at_least_words else None

    return key_of


def _media_key(captured: Captured) -> str:
    number = str(captured.item.facts.get("media_id") or "").strip()
    if number:
        return f"{captured.source.link or captured.item.source} {number}"
    kinds = {MediaKind.FILM, MediaKind.SOUND}
    return next((canonical_link(medium.url) for medium in captured.item.media if medium.kind in kinds), "")


_VALUES: Mapping[KeyKind, Callable[[Captured], str]] = {
    KeyKind.IDENTITY: lambda captured: captured.features.identity_key,
    KeyKind.LINK: lambda captured: captured.features.link_key,
    KeyKind.TITLE: lambda captured: captured.features.title_key,
    KeyKind.PRODUCT: lambda captured: product_number(captured.item.facts, captured.item.link),
    KeyKind.MEDIA: _media_key,
    KeyKind.KEYWORD: lambda captured: title_key(captured.keyword),
}


def keys_of(captured: Captured) -> tuple[Key, ...]:
    """Return every exact key of a post made from an item, for all rules."""
    keys = (_key(kind, value(captured)) for kind, value in _VALUES.items())
    return tuple(key for key in keys if key is not None)


def _by(kind: KeyKind) -> Callable[[MatchRuleBase], KeyOf]:
    value = _VALUES[kind]
    return lambda _rule: lambda captured: _key(kind, value(captured))


EXACT: Mapping[type[MatchRuleBase], Callable[[Any], KeyOf]] = {
    SameIdentity: _by(KeyKind.IDENTITY),
    SameLink: _by(KeyKind.LINK),
    SameTitle: _title,
    SameProduct: _by(KeyKind.PRODUCT),
    SameMedia: _by(KeyKind.MEDIA),
    SameKeyword: _by(KeyKind.KEYWORD),
}
