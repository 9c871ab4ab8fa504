"""The stage itself. Nothing leaves here: every shaped item gets a place."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import TypeAlias

from glyptarch_core.item import Captured
from glyptarch_core.place.base import Found, NameFinder, PlaceRuleBase, by_word, unique
from glyptarch_core.place.categories import CATEGORY_RULES
from glyptarch_core.place.dates import Calendar
from glyptarch_core.place.settings import BylineFrom, PlaceSettings
from glyptarch_core.place.tags import TAG_RULES
from glyptarch_core.ports import BlogContext
from glyptarch_core.reuse import remembered
from glyptarch_core.term_text import all_terms
from glyptarch_core.text import Passage, Term, name_key, title_key
from glyptarch_core.trace import Json, Note, Stage

__all__ = ["Placed", "Placing", "compile_place"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Placed:
    """The names of one post, its date and its language.

    ``fell_back`` says that no rule found a category, though there are rules. ``branches`` are categories of a tree with
    those above them, from the root.
    """

    categories: tuple[str, ...]
    branches: tuple[tuple[str, ...], ...]
    fell_back: bool
    tags: tuple[str, ...]
    byline: str
    date: datetime
    language: str
    notes: tuple[Note, ...]


Placing: TypeAlias = Callable[[Captured, Sequence[Note], dict[str, object]], Placed]
"""The compiled stage: an item, its trace so far and what is kept for it in, its place out."""


def _note(name: str, rule: PlaceRuleBase, names: Sequence[Found]) -> Note:
    code = f"{name}.given" if names else f"{name}.nothing"
    names_data: list[Json] = [{"name": name.name, "because": name.because} for name in names[:12]]
    data: dict[str, Json] = {"given": names_data} if names else {}
    return Note(stage=Stage.PLACE, rule=rule.id, rule_title=rule.title, code=code, data=data)


class _Asked:
    """One compiled rule with the names it finds and their trace data."""

    def __init__(
        self,
        name: str,
        rule: PlaceRuleBase,
        finder: NameFinder,
        context: BlogContext,
        *,
        key: str = "",
        allowed: Callable[[str], bool] = lambda _name: True,
    ) -> None:
        self._name, self._rule, self._finder, self._context, self._allowed = name, rule, finder, context, allowed
        # Everything that the names depend on besides the item.
        words = [context.lists.get(name, ()) for name in rule.uses_lists]
        self._key = f"place {rule.model_dump_json()} {words} {context.language} {key}"

    def names(self, captured: Captured, trace: Sequence[Note], results: dict[str, object]) -> tuple[list[Found], Note]:
        if self._rule.looks_at_trace:
            return self._give(captured, trace)
        return remembered(results, self._key, lambda: self._give(captured, trace))

    def _give(self, captured: Captured, trace: Sequence[Note]) -> tuple[list[Found], Note]:
        names = unique([name for name in self._finder(captured, trace, self._context) if self._allowed(name.name)])
        return names, _note(self._name, self._rule, names)


def compile_place(settings: PlaceSettings, context: BlogContext, calendar: Calendar, *, may_be_ahead: bool) -> Placing:
    """Compile the settings for one pass.

    ``may_be_ahead`` allows dates in the future.
    """
    categories_of, tags_of = _categories(settings, context), _tags(settings, context)
    byline_of = _byline(settings, context)
    renamed = context.renamed
    new_categories, new_tags, new_bylines = dict(renamed.categories), dict(renamed.tags), dict(renamed.bylines)

    def place(captured: Captured, trace: Sequence[Note], results: dict[str, object]) -> Placed:
        categories, branches, fell_back, notes = categories_of(captured, trace, results)
        tags, tag_notes = tags_of(captured, trace, results)
        byline, byline_from = byline_of(captured)
        categories, tags = _present(categories, new_categories), _present(tags, new_tags)
        byline = "".join(_present((byline,), new_bylines))
        date, date_from = calendar.date_for(captured, may_be_ahead=may_be_ahead)
        placed = Note(
            stage=Stage.PLACE,
            code="placed",
            data={
                "category": ", ".join(categories),
                "fell_back": fell_back,
                "tags": list(tags),
                "byline": byline,
                "byline_from": byline_from,
                "date": date.isoformat(),
                "date_from": date_from,
                "in_future": date_from == "ahead",
                "visibility": settings.visibility.value,
            },
        )
        return Placed(
            categories=categories,
            branches=branches,
            fell_back=fell_back,
            tags=tags,
            byline=byline,
            date=date,
            language=settings.language or captured.language,
            notes=(*notes, *tag_notes, placed),
        )

    return place


def _present(names: tuple[str, ...], renamed: Mapping[str, str]) -> tuple[str, ...]:
    """Return names with those that were renamed in their present form, each once."""
    return tuple(dict.fromkeys(renamed.get(name_key(name), name) for name in names)) if renamed else names


_Results: TypeAlias = dict[str, object]


_Filed: TypeAlias = tuple[tuple[str, ...], tuple[tuple[str, ...], ...], bool, list[Note]]
"""Categories, their branches, whether no rule found one, and the notes of the rules."""


def _categories(
    settings: PlaceSettings, context: BlogContext
) -> Callable[[Captured, Sequence[Note], _Results], _Filed]:
    usual = settings.category.strip()
    asked = [
        _Asked("category", rule, CATEGORY_RULES[type(rule)](rule, usual, context), context, key=usual)
        for rule in settings.category_rules
        if rule.on
    ]

    def give(captured: Captured, trace: Sequence[Note], results: _Results) -> _Filed:
        named = [rule.names(captured, trace, results) for rule in asked]
        place_names = unique(
            [name for names_of_rule, _ in named for name in names_of_rule], settings.at_most_categories
        )
        names = tuple(name.name for name in place_names)
        branches = tuple((*name.under, name.name) for name in place_names if name.under)
        chosen = names or ((usual,) if usual else ())
        return chosen, branches, bool(asked) and not names, [note for _, note in named]

    return give


def _tags(
    settings: PlaceSettings, context: BlogContext
) -> Callable[[Captured, Sequence[Note], _Results], tuple[tuple[str, ...], list[Note]]]:
    never = all_terms(settings.remove_tags, settings.remove_lists, context.lists)
    removed = [Term.parse(text) for text in never]
    # A name of signs alone, such as an emoji, has no words to be known by.
    by_key = {title_key(name) or name: name for name in context.tags}
    always = [Found(name, "") for name in settings.tags]

    def allowed(name: str) -> bool:
        if settings.only_existing_tags and (title_key(name) or name) not in by_key:
            return False
        return not any(Passage.of_text(name).has(term) for term in removed)

    key = f"{never} {sorted(by_key) if settings.only_existing_tags else ''}"
    asked = [
        _Asked("tags", rule, TAG_RULES[type(rule)](rule), context, key=key, allowed=allowed)
        for rule in settings.tag_rules
        if rule.on
    ]

    def give(captured: Captured, trace: Sequence[Note], results: _Results) -> tuple[tuple[str, ...], list[Note]]:
        named = [rule.names(captured, trace, results) for rule in asked]
        names = unique(
            [*always, *(name for names_of_rule, _ in named for name in names_of_rule)], settings.at_most_tags
        )
        return tuple(by_key.get(name.key, name.name) for name in names), [note for _, note in named]

    return give


def _byline(settings: PlaceSettings, context: BlogContext) -> Callable[[Captured], tuple[str, str]]:
    fixed = settings.byline.strip()
    table = by_word(settings.byline_table)
    by_key = {title_key(name): name for name in context.bylines}

    def give(captured: Captured) -> tuple[str, str]:
        if settings.byline_from is BylineFrom.AUTHOR:
            for author in captured.item.authors:
                key = title_key(author)
                if key in table:
                    return table[key], "table"
                if key in by_key:
                    return by_key[key], "author"
            return fixed, "fallback"
        return fixed, "fixed"

    return give
