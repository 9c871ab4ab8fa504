"""Template variables that a source never fills, so each of its posts would have a gap."""

from collections.abc import Callable, Iterable, Mapping

from glyptarch_core.item import Captured, MediaKind
from glyptarch_core.shape.stage import ShapeSettings
from glyptarch_core.shape.templates import VARIABLES, names_in

__all__ = ["ageing_variables", "never_filled", "unknown_variables"]


def _has(kind: MediaKind) -> Callable[[Captured], bool]:
    return lambda captured: any(medium.kind is kind for medium in captured.item.media)


# Variables that depend on the source alone. All others always have a value or come from the rules.
_FILLED: Mapping[str, Callable[[Captured], bool]] = {
    "title": lambda captured: bool(captured.item.title),
    "body": lambda captured: bool(captured.item.body or captured.item.summary),
    "excerpt": lambda captured: bool(captured.item.body or captured.item.summary),
    "link": lambda captured: bool(captured.item.link),
    "author": lambda captured: bool(captured.item.authors),
    "authors": lambda captured: bool(captured.item.authors),
    "categories": lambda captured: bool(captured.item.categories),
    "language": lambda captured: bool(captured.language),
    "film": _has(MediaKind.FILM),
    "sound": _has(MediaKind.SOUND),
    "source.link": lambda captured: bool(captured.source.link),
}


def _asked_for(settings: ShapeSettings) -> dict[str, list[str]]:
    asked: dict[str, list[str]] = {}
    for part, template in settings.templates().items():
        for name in names_in(template):
            asked.setdefault(name, []).append(part)
    return asked


def never_filled(settings: ShapeSettings, items: Iterable[Captured]) -> dict[str, dict[str, list[str]]]:
    """Return by source key the variables that no item fills, with the templates using them."""
    asked = _asked_for(settings)
    by_source: dict[str, list[Captured]] = {}
    for captured in items:
        by_source.setdefault(captured.item.source, []).append(captured)
    return {
        source: holes
        for source, captured in by_source.items()
        if (holes := {name: parts for name, parts in asked.items() if not _any_fills(name, captured)})
    }


def _any_fills(name: str, items: Iterable[Captured]) -> bool:
    if name.startswith("facts."):
        return any(name.removeprefix("facts.") in captured.item.facts for captured in items)
    check = _FILLED.get(name)
    return check is None or any(check(captured) for captured in items)


_AGEING = frozenset({"facts.price", "facts.list_price", "facts.availability"})


def ageing_variables(settings: ShapeSettings) -> dict[str, list[str]]:
    """Return the variables whose values age in a text, with the templates using them.

    A place for the offer (``{% offer price %}``) does not.
    """
    return {name: parts for name, parts in _asked_for(settings).items() if name in _AGEING}


def unknown_variables(settings: ShapeSettings) -> dict[str, list[str]]:
    """Return the variables that do not exist, with the templates using them."""
    fields = {f"fields.{field.name}" for field in settings.fields if field.on}
    existing = {*VARIABLES, *(name.partition(".")[0] for name in VARIABLES if "." in name), "fields", *fields}
    return {
        name: parts
        for name, parts in _asked_for(settings).items()
        if name not in existing and not name.startswith("facts.")
    }
