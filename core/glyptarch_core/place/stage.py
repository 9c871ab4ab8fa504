"""The stage itself. Nothing leaves here: every shaped item gets a place."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from typing import TypeAlias

from glyptarch_core.item import Captured
from glyptarch_core.place.base import Found, by_word, unique
from glyptarch_core.place.categories import CATEGORY_RULES
from glyptarch_core.place.dates import Calendar
from glyptarch_core.place.settings import BylineFrom, Canonical, PlaceSettings
from glyptarch_core.place.tags import TAG_RULES
from glyptarch_core.ports import House
from glyptarch_core.text import Passage, Term, title_key
from glyptarch_core.trace import Json, Note, Stage

__all__ = ["Placed", "Placing", "compile_place"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Placed:
    """The names of one post, its date, language and canonical address.

    ``fell_back`` says that no rule found a category, though there are rules.
    """

    categories: tuple[str, ...]
    fell_back: bool
    tags: tuple[str, ...]
    byline: str
    date: datetime
    language: str
    canonical: str
    notes: tuple[Note, ...]


Placing: TypeAlias = Callable[[Captured, Sequence[Note]], Placed]
"""The compiled stage: an item and its trace so far in, its place out."""


@dataclass(slots=True)
class _Told:
    """The notes of one item."""

    notes: list[Note] = field(default_factory=list)

    def rule(self, name: str, rule: str, found: Sequence[Found]) -> None:
        code = f"{name}.given" if found else f"{name}.nothing"
        given: list[Json] = [{"name": one.name, "because": one.because} for one in found[:12]]
        self.notes.append(Note(stage=Stage.PLACE, rule=rule, code=code, data={"given": given} if found else {}))


def compile_place(settings: PlaceSettings, house: House, calendar: Calendar, *, may_be_ahead: bool) -> Placing:
    """Compile the settings for one pass; ``may_be_ahead`` allows dates in the future."""
    categories_of, tags_of = _categories(settings, house), _tags(settings, house)
    byline_of = _byline(settings, house)

    def place(captured: Captured, trace: Sequence[Note]) -> Placed:
        told = _Told()
        categories, fell_back = categories_of(captured, trace, told)
        tags = tags_of(captured, trace, told)
        byline, byline_from = byline_of(captured)
        date, date_from = calendar.date_for(captured, may_be_ahead=may_be_ahead)
        told.notes.append(
            Note(
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
        )
        return Placed(
            categories=categories,
            fell_back=fell_back,
            tags=tags,
            byline=byline,
            date=date,
            language=settings.language or captured.item.language,
            canonical=captured.item.link if settings.canonical is Canonical.ORIGINAL else "",
            notes=tuple(told.notes),
        )

    return place


def _categories(
    settings: PlaceSettings, house: House
) -> Callable[[Captured, Sequence[Note], _Told], tuple[tuple[str, ...], bool]]:
    usual = settings.category.strip()
    givers = [(rule.id, CATEGORY_RULES[type(rule)](rule, usual)) for rule in settings.category_rules if rule.on]

    def give(captured: Captured, trace: Sequence[Note], told: _Told) -> tuple[tuple[str, ...], bool]:
        found: list[Found] = []
        for rule, giver in givers:
            given = unique(giver(captured, trace, house))
            told.rule("category", rule, given)
            found.extend(given)
        names = tuple(one.name for one in unique(found, settings.at_most_categories))
        return names or ((usual,) if usual else ()), bool(givers) and not names

    return give


def _tags(settings: PlaceSettings, house: House) -> Callable[[Captured, Sequence[Note], _Told], tuple[str, ...]]:
    givers = [(rule.id, TAG_RULES[type(rule)](rule)) for rule in settings.tag_rules if rule.on]
    removed = [Term.parse(text) for text in settings.remove_tags]
    known = {title_key(name): name for name in house.tags}

    def allowed(name: str) -> bool:
        if settings.only_existing_tags and title_key(name) not in known:
            return False
        return not any(Passage.of_text(name).has(term) for term in removed)

    def give(captured: Captured, trace: Sequence[Note], told: _Told) -> tuple[str, ...]:
        found = [Found(name, "") for name in settings.tags]
        for rule, giver in givers:
            given = [one for one in unique(giver(captured, trace, house)) if allowed(one.name)]
            told.rule("tags", rule, given)
            found.extend(given)
        names = (known.get(title_key(one.name), one.name) for one in unique(found, settings.at_most_tags))
        return tuple(names)

    return give


def _byline(settings: PlaceSettings, house: House) -> Callable[[Captured], tuple[str, str]]:
    fixed = settings.byline.strip()
    table = by_word(settings.byline_table)
    known = {title_key(name): name for name in house.bylines}

    def give(captured: Captured) -> tuple[str, str]:
        if settings.byline_from is BylineFrom.AUTHOR:
            for author in captured.item.authors:
                key = title_key(author)
                if key in table:
                    return table[key], "table"
                if key in known:
                    return known[key], "author"
            return fixed, "fallback"
        return fixed, "fixed"

    return give
