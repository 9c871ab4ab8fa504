"""The interfaces that the core needs. The server has the adapters.

``testing`` has the fakes.
"""

from collections.abc import Collection, Hashable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from enum import StrEnum
from typing import NamedTuple, Protocol, TypeAlias

from glyptarch_core.language_services import NO_TEXTS, TextMemory
from glyptarch_core.text import NOTHING_COMMON, CommonShingles, Fingerprint, Passage

__all__ = [
    "NOT_RENAMED",
    "BlogContext",
    "Candidate",
    "EmptyMemory",
    "ItemRef",
    "Key",
    "KeyKind",
    "Memory",
    "Near",
    "PostRef",
    "Reach",
    "Ref",
    "Renamed",
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
    """A row of a term table: the term, its replacement, and its link."""

    what: str
    by: str = ""
    link: str = ""


TermTables: TypeAlias = Mapping[str, tuple[TableRow, ...]]
"""Tables of terms kept for a blog, by the key of each table."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Renamed:
    """Former names with the present ones, as pairs of key and name, for each kind of name."""

    categories: tuple[tuple[str, str], ...] = ()
    tags: tuple[tuple[str, str], ...] = ()
    bylines: tuple[tuple[str, str], ...] = ()


NOT_RENAMED = Renamed()


@dataclass(frozen=True, slots=True, kw_only=True)
class BlogContext:
    """Values that a blog shares among all its campaigns.

    ``tags`` and ``bylines`` are existing names; ``language`` is the blog's (BCP 47); ``common`` are passages of many of
    its stories; ``pictures`` are address and text of library pictures, by label. ``renamed`` are the present names of
    categories, tags and bylines by the keys of their former ones (:func:`name_key`). ``texts`` are the answers of
    language services.
    """

    language: str = ""
    lists: WordLists = field(default_factory=dict)
    tables: TermTables = field(default_factory=dict)
    tags: tuple[str, ...] = ()
    bylines: tuple[str, ...] = ()
    common: CommonShingles = NOTHING_COMMON
    pictures: Mapping[str, tuple[tuple[str, str], ...]] = field(default_factory=dict)
    renamed: Renamed = NOT_RENAMED
    texts: TextMemory = NO_TEXTS

    @property
    def stamp(self) -> tuple[object, ...]:
        """A hashable value that changes whenever the context does."""
        return (
            self.language,
            *sorted(self.lists.items()),
            *sorted(self.tables.items()),
            self.tags,
            self.bylines,
            self.common.digest,
            *sorted(self.pictures.items()),
            self.renamed,
            self.texts.stamp,
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
    """The posts that Match searches for duplicates."""

    CAMPAIGN = "campaign"
    BLOG = "blog"
    EVERYTHING = "everything"


class Key(NamedTuple):
    """One comparable trait of an item. A tuple, because thousands are looked up together."""

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

    ``main_text`` is its text with its ``fingerprint``, ``title_key`` its normalised title. ``product`` is the number of
    the product that it is about, empty where it is about none.
    """

    seen: Seen
    main_text: Passage
    fingerprint: Fingerprint
    title_key: str
    product: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Reach:
    """The limits of a memory lookup: scope, time, and whether refused posts count."""

    scope: Scope
    since: datetime | None = None
    refused: bool = True


class Memory(Protocol):
    """Earlier items and posts. One call answers for a whole batch."""

    @property
    def stamp(self) -> Hashable | None:
        """Return a stamp of the state: equal stamps mean equal answers.

        None where it may always change.
        """
        return None

    def recall(self, keys: Collection[Key], reach: Reach) -> Mapping[Key, Seen]:
        """Return, for each known key, the earliest post within reach."""
        ...

    def resembling(self, near: Near, keys: Sequence[Sequence[int]], reach: Reach) -> Sequence[Sequence[Candidate]]:
        """Return, for each list of index keys, the few dozen posts that share most of them."""
        ...

    def dates(self, first: datetime, last: datetime) -> Sequence[datetime]:
        """Return the dates of this campaign's posts in a time range, without refused ones."""
        ...

    def put_out(self, since: datetime) -> Sequence[datetime]:
        """Return the times later than ``since`` at which posts of this campaign were published."""
        ...


class EmptyMemory(Memory):
    """The memory of a blog without a post: only items of the same pass are known."""

    @property
    def stamp(self) -> Hashable:
        """The same for all, since nothing is ever added."""
        return "empty"

    def recall(self, keys: Collection[Key], reach: Reach) -> Mapping[Key, Seen]:
        """Return nothing."""
        del keys, reach
        return {}

    def resembling(self, near: Near, keys: Sequence[Sequence[int]], reach: Reach) -> Sequence[Sequence[Candidate]]:
        """Return no candidate for each."""
        del near, reach
        return [()] * len(keys)

    def dates(self, first: datetime, last: datetime) -> Sequence[datetime]:
        """Return no date."""
        del first, last
        return ()

    def put_out(self, since: datetime) -> Sequence[datetime]:
        """Return no time."""
        del since
        return ()
