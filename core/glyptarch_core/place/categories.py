"""The rules that choose categories.

Each kind is a settings class and a function.
"""

from collections.abc import Callable, Mapping, Sequence
from enum import StrEnum
from typing import Annotated, Any, Literal, TypeAlias

from pydantic import Field, StringConstraints

from glyptarch_core.item import Captured
from glyptarch_core.place.base import Found, Name, NameFinder, NamesByWord, PlaceRuleBase, by_word
from glyptarch_core.ports import BlogContext
from glyptarch_core.settings import LibraryKey
from glyptarch_core.term_text import LooksForTerms, TermText, all_terms
from glyptarch_core.text import Term, title_key
from glyptarch_core.trace import Note

__all__ = ["CATEGORY_RULES", "CategoryRule", "FixedCategories", "KeywordCategories", "TableCategories", "Unmapped"]


class Unmapped(StrEnum):
    """The result for a word that no table has: its own category, the default one, or nothing."""

    CREATE = "create"
    FALL_BACK = "fall_back"
    IGNORE = "ignore"


class FixedCategories(PlaceRuleBase):
    """Always these."""

    kind: Literal["fixed"] = "fixed"
    names: tuple[Name, ...] = Field(min_length=1, max_length=10)


class TableCategories(PlaceRuleBase):
    """By the categories the source gives, through a table.

    With a ``separator`` such as ``>`` a word like “Garden > Tomatoes” is a branch, of which at most ``depth`` names
    count from the root. The table is asked for the whole branch first, then for its last name. Categories that are
    created stand under those above them.
    """

    kind: Literal["table"] = "table"
    rows: NamesByWord = ()
    unmapped: Unmapped = Unmapped.FALL_BACK
    separator: Annotated[str, StringConstraints(strip_whitespace=True, max_length=5)] = ""
    depth: int = Field(default=3, ge=1, le=6)


class TermCategories(LooksForTerms, PlaceRuleBase):
    """Categories for items with one of the terms in title or text.

    ``lists`` are keys of word lists whose terms count as well.
    """

    kind: Literal["terms"] = "terms"
    name: Name
    terms: tuple[TermText, ...] = Field(default=(), max_length=500)
    lists: tuple[LibraryKey, ...] = Field(default=(), max_length=20)


class KeywordCategories(PlaceRuleBase):
    """By the keyword that found the item, through a table."""

    kind: Literal["keyword"] = "keyword"
    rows: NamesByWord = ()
    unmapped: Unmapped = Unmapped.CREATE


CategoryRule: TypeAlias = Annotated[
    FixedCategories | TableCategories | TermCategories | KeywordCategories, Field(discriminator="kind")
]


def _fixed(rule: FixedCategories, _usual: str, _context: BlogContext) -> NameFinder:
    names = [Found(name, "") for name in rule.names]
    return lambda _captured, _trace, _context: names


def _through(rule: TableCategories | KeywordCategories, usual: str) -> Callable[[str], Found | None]:
    table = by_word(rule.rows)

    def look(word: str) -> Found | None:
        name = table.get(title_key(word), "")
        if not name and rule.unmapped is Unmapped.CREATE:
            name = word
        if not name and rule.unmapped is Unmapped.FALL_BACK:
            name = usual
        return Found(name, word) if name else None

    return look


def _table(rule: TableCategories, usual: str, _context: BlogContext) -> NameFinder:
    look, table = _through(rule, usual), by_word(rule.rows)

    def find(word: str) -> Found | None:
        names = [name for part in word.split(rule.separator) if (name := part.strip())] if rule.separator else [word]
        names = names[: rule.depth]
        if len(names) < _LEAST_OF_A_BRANCH or title_key(word) in table:
            return look(names[0] if len(names) == 1 else word)
        found = look(names[-1])
        if found is None or found.name != names[-1]:
            return found
        # It stands under what the table makes of the names above it.
        above = tuple(table.get(title_key(name), name) for name in names[:-1])
        return Found(found.name, word, above)

    def give(captured: Captured, _trace: Sequence[Note], _context: BlogContext) -> Sequence[Found]:
        return [category for word in captured.item.categories if word.strip() and (category := find(word))]

    return give


_LEAST_OF_A_BRANCH = 2


def _keyword(rule: KeywordCategories, usual: str, _context: BlogContext) -> NameFinder:
    look = _through(rule, usual)

    def give(captured: Captured, _trace: Sequence[Note], _context: BlogContext) -> Sequence[Found]:
        word = captured.keyword
        category = look(word) if word else None
        return [category] if category else []

    return give


def _terms(rule: TermCategories, _usual: str, context: BlogContext) -> NameFinder:
    terms = [Term.parse(text) for text in all_terms(rule.terms, rule.lists, context.lists)]

    def give(captured: Captured, _trace: Sequence[Note], _context: BlogContext) -> Sequence[Found]:
        features = captured.features
        for term in terms:
            if features.title.has(term) or features.main_text.has(term):
                return [Found(rule.name, term.text)]
        return []

    return give


CATEGORY_RULES: Mapping[type[PlaceRuleBase], Callable[[Any, str, BlogContext], NameFinder]] = {
    FixedCategories: _fixed,
    TableCategories: _table,
    TermCategories: _terms,
    KeywordCategories: _keyword,
}
