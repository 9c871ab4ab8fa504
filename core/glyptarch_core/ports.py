"""What the core asks of the outside. The adapters live in the server, the fakes in ``testing``."""

from collections.abc import Collection, Hashable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from enum import StrEnum
from typing import NamedTuple, Protocol, TypeAlias

from glyptarch_core.text import NOTHING_COMMON, CommonShingles, Fingerprint, Passage

__all__ = [
    "BlogContext",
    "Candidate",
    "ItemRef",
    "Key",
    "KeyKind",
    "Memory",
    "Near",
    "PostRef",
    "Reach",
    "Ref",
    "Scope",
    "Seen",
    "TableRow",
    "TermTables",
    "WordLists",
]

WordLists: TypeAlias = Mapping[str, tuple[str, ...]]
"""Terms kept for a blog and shared by its campaigns, by the key of each list."""


@dataclass(frozen=True, slots=True, kw_only=True, order=True)
class TableRow:
    """A line of a table of terms: what is looked for, what replaces it, and where it leads."""

    what: str
    by: str = ""
    link: str = ""


TermTables: TypeAlias = Mapping[str, tuple[TableRow, ...]]
"""Tables of terms kept for a blog, by the key of each table."""


@dataclass(frozen=True, slots=True, kw_only=True)
class BlogContext:
    """What a blog keeps for all its campaigns.

    ``tags`` and ``bylines`` are the names that exist, ``language`` is the blog's own (BCP 47),
    ``common`` are the passages of many of its stories, ``pictures`` address and text of those in its library, by label.
    """

    language: str = ""
    lists: WordLists = field(default_factory=dict)
    tables: TermTables = field(default_factory=dict)
    tags: tuple[str, ...] = ()
    bylines: tuple[str, ...] = ()
    common: CommonShingles = NOTHING_COMMON
    pictures: Mapping[str, tuple[tuple[str, str], ...]] = field(default_factory=dict)

    @property
    def stamp(self) -> tuple[object, ...]:
        """What changes whenever anything in it does; it can be a key."""
        return (
            self.language,
            *sorted(self.lists.items()),
            *sorted(self.tables.items()),
            self.tags,
            self.bylines,
            self.common.digest,
            *sorted(self.pictures.items()),
        )


class KeyKind(StrEnum):
    """By what two items can be called the same."""

    IDENTITY = "identity"
    LINK = "link"
    TITLE = "title"
    PRODUCT = "product"
    MEDIA = "media"
    KEYWORD = "keyword"


class Scope(StrEnum):
    """How far a look for duplicates goes."""

    CAMPAIGN = "campaign"
    BLOG = "blog"
    EVERYTHING = "everything"


class Key(NamedTuple):
    """One comparable trait of an item. A tuple, since thousands of them are looked up at once."""

    kind: KeyKind
    value: str


@dataclass(frozen=True, slots=True)
class PostRef:
    """Names a post by its number, with the number of the blog it is on."""

    post: int
    blog: int

    def __str__(self) -> str:
        return f"post:{self.post}"


@dataclass(frozen=True, slots=True)
class ItemRef:
    """Names an item of the same pass, of which no post exists yet."""

    source: str
    identity: str

    def __str__(self) -> str:
        return f"item:{self.source}:{self.identity}"


Ref: TypeAlias = PostRef | ItemRef


@dataclass(frozen=True, slots=True, kw_only=True)
class Seen:
    """Something that already has a key: a post, or an earlier item of the same pass."""

    ref: Ref
    title: str
    link: str
    at: datetime


class Near(StrEnum):
    """In what two items can be nearly the same."""

    TEXT = "text"
    TITLE = "title"


@dataclass(frozen=True, slots=True, kw_only=True)
class Candidate:
    """An earlier item that shares index keys, with what its likeness is measured by.

    ``main_text`` is its text with its ``fingerprint``, ``title_key`` its normalised title.
    """

    seen: Seen
    main_text: Passage
    fingerprint: Fingerprint
    title_key: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Reach:
    """How far a look into memory goes: scope, time, and whether refused posts count."""

    scope: Scope
    since: datetime | None = None
    refused: bool = True


class Memory(Protocol):
    """What has been seen and put out before. One call answers for a whole batch."""

    @property
    def stamp(self) -> Hashable | None:
        """Name the state of the memory: equal stamps give equal answers. None where it may change at any time."""
        return None

    def recall(self, keys: Collection[Key], reach: Reach) -> Mapping[Key, Seen]:
        """Give, for each known key, the earliest post within reach."""
        ...

    def resembling(self, near: Near, keys: Sequence[Sequence[int]], reach: Reach) -> Sequence[Sequence[Candidate]]:
        """Give, for each list of index keys, the posts that share most of them (at most a few dozen)."""
        ...

    def dates(self, first: datetime, last: datetime) -> Sequence[datetime]:
        """Give the dates of this campaign's posts from one moment to another, without the refused ones."""
        ...

    def put_out(self, since: datetime) -> Sequence[datetime]:
        """Give when posts of this campaign have gone out since then (later than that moment)."""
        ...
