"""Shared by the rules of Place: names on the blog, and tables from a source's words to them."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Annotated, TypeAlias

from pydantic import Field, StringConstraints

from glyptarch_core.item import Captured
from glyptarch_core.ports import BlogContext
from glyptarch_core.settings import RuleSettings, Settings
from glyptarch_core.text import clean_line, title_key
from glyptarch_core.trace import Note

__all__ = ["Found", "Name", "NameFinder", "NameRow", "NamesByWord", "PlaceRuleBase", "by_word", "unique"]

LONGEST_NAME = 80
"""Characters of the name of a category, tag or byline."""

_LONGEST_CAUSE = 200

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=LONGEST_NAME)]


class PlaceRuleBase(RuleSettings):
    """Settings common to all rules that give a post names."""

    @property
    def looks_at_trace(self) -> bool:
        """Whether the names depend on what earlier stages found, and not on the item alone."""
        return False


class NameRow(Settings):
    """A line of a table: the source's word, and the name on this blog."""

    word: Name
    name: Name


NamesByWord: TypeAlias = Annotated[tuple[NameRow, ...], Field(max_length=500)]


@dataclass(frozen=True, slots=True)
class Found:
    """A name that a rule gives a post, and the word it comes from.

    Both on one line and bounded. ``under`` are the names above it in a tree, the highest first.
    """

    name: str
    because: str
    under: tuple[str, ...] = ()
    key: str = field(init=False, repr=False, compare=False)
    """The name as it is compared with others."""

    def __post_init__(self) -> None:
        object.__setattr__(self, "name", clean_line(self.name, LONGEST_NAME))
        object.__setattr__(self, "because", clean_line(self.because, _LONGEST_CAUSE))
        object.__setattr__(self, "under", tuple(clean_line(name, LONGEST_NAME) for name in self.under))
        object.__setattr__(self, "key", title_key(self.name) or self.name)


NameFinder: TypeAlias = Callable[[Captured, Sequence[Note], BlogContext], Sequence[Found]]
"""A compiled rule: an item, its trace so far and what the blog keeps in; names out."""


def by_word(rows: Sequence[NameRow]) -> Mapping[str, str]:
    """Return a table for lookups that ignore case, accents and punctuation."""
    return {title_key(row.word): row.name for row in rows}


def unique(names: Sequence[Found], most: int | None = None) -> list[Found]:
    """Return the first of each name, ignoring case, at most ``most``."""
    kept: dict[str, Found] = {}
    for name in names:
        if name.name:
            kept.setdefault(name.key, name)
    return list(kept.values())[:most]
