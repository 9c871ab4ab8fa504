"""What the core asks of the outside. The adapters live in the server, the fakes in ``testing``."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Protocol, TypeAlias

__all__ = ["Key", "KeyKind", "Memory", "Scope", "Seen", "WordLists"]

WordLists: TypeAlias = Mapping[str, tuple[str, ...]]
"""Terms kept for a blog and shared by its campaigns, by the key of each list."""


class KeyKind(StrEnum):
    """By what two items can be called the same."""

    IDENTITY = "identity"
    LINK = "link"
    TITLE = "title"


class Scope(StrEnum):
    """How far a look for duplicates goes."""

    CAMPAIGN = "campaign"
    BLOG = "blog"
    EVERYTHING = "everything"


@dataclass(frozen=True, slots=True)
class Key:
    """One comparable trait of an item."""

    kind: KeyKind
    value: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Seen:
    """Something that already has a key: a post, or an earlier item of the same pass."""

    ref: str
    title: str
    link: str
    at: datetime


class Memory(Protocol):
    """Who has been seen. One call answers for a whole batch."""

    def recall(self, keys: Collection[Key], *, scope: Scope, since: datetime | None) -> Mapping[Key, Seen]:
        """Give, for each known key, the earliest post in ``scope`` made at or after ``since``."""
        ...
