"""The exact comparisons: identity, link and title."""

from typing import Literal

from pydantic import Field

from glyptarch_core.item import Captured
from glyptarch_core.match.base import MatchRuleBase, Trait
from glyptarch_core.ports import Key, KeyKind

__all__ = ["SameIdentity", "SameLink", "SameTitle", "identity_trait", "link_trait", "title_trait"]


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


def identity_trait(_rule: SameIdentity) -> Trait:
    """Compare by the entry's own identity."""
    return lambda captured: Key(KeyKind.IDENTITY, captured.features.identity_key)


def link_trait(_rule: SameLink) -> Trait:
    """Compare by canonical link; an item without a link has none."""

    def trait(captured: Captured) -> Key | None:
        return Key(KeyKind.LINK, captured.features.link_key) if captured.features.link_key else None

    return trait


def title_trait(rule: SameTitle) -> Trait:
    """Compare by normalised title, when it is long enough to name a story."""

    def trait(captured: Captured) -> Key | None:
        key = captured.features.title_key
        return Key(KeyKind.TITLE, key) if len(key.split()) >= rule.at_least_words else None

    return trait
