"""The fields of an item that rules can look at, as passages, values and numbers."""

from collections.abc import Callable, Mapping, Sequence
from enum import StrEnum

from glyptarch_core.item import Captured, MediaKind
from glyptarch_core.text import Passage, hashtags, host_of, number_in

__all__ = ["Amount", "TextField", "Trait", "amount", "has", "passages", "values"]


class TextField(StrEnum):
    """A field that words and patterns are searched in.

    ``text`` is the body, or the summary without one.
    """

    TITLE_OR_TEXT = "title_or_text"
    TITLE = "title"
    TEXT = "text"
    SUMMARY = "summary"
    AUTHOR = "author"
    SOURCE = "source"
    CATEGORIES = "categories"
    HASHTAGS = "hashtags"
    LINK = "link"
    HOST = "host"
    LANGUAGE = "language"
    LICENCE = "licence"
    CUSTOM = "custom"


class Amount(StrEnum):
    """A countable or measurable field. ``length`` is in seconds."""

    WORDS = "words"
    TITLE_WORDS = "title_words"
    PICTURES = "pictures"
    RATING = "rating"
    VIEWS = "views"
    LENGTH = "length"
    PRICE = "price"
    CUSTOM = "custom"


class Trait(StrEnum):
    """A property that an item can have or lack."""

    PICTURE = "picture"
    FILM = "film"
    SOUND = "sound"
    TEXT = "text"
    SUMMARY = "summary"
    AUTHOR = "author"
    CATEGORIES = "categories"
    LINK = "link"
    DATE = "date"
    LANGUAGE = "language"
    LICENCE = "licence"
    RATING = "rating"
    PRICE = "price"
    CUSTOM = "custom"


def _hashtags(captured: Captured) -> list[str]:
    features = captured.features
    tags = hashtags(f"{features.title.text} {features.main_text.text}")
    return [*tags, *(name.lstrip("#") for name in captured.item.categories if name.startswith("#"))]


def _fact(captured: Captured, name: str) -> list[str]:
    value = captured.item.facts.get(name)
    return [] if value is None else [str(value)]


_VALUES: Mapping[TextField, Callable[[Captured], Sequence[str]]] = {
    TextField.AUTHOR: lambda captured: captured.item.authors,
    TextField.SOURCE: lambda captured: [captured.source.title, captured.source.key],
    TextField.CATEGORIES: lambda captured: captured.item.categories,
    TextField.HASHTAGS: _hashtags,
    TextField.LINK: lambda captured: [captured.item.link],
    TextField.HOST: lambda captured: [host_of(captured.item.link)],
    TextField.LANGUAGE: lambda captured: [captured.language],
    TextField.LICENCE: lambda captured: _fact(captured, "licence"),
    TextField.TITLE: lambda captured: [captured.item.title],
}


def values(field: TextField, name: str, captured: Captured) -> list[str]:
    """Return the values of a field.

    ``name`` selects one of the source's own fields.
    """
    if field is TextField.CUSTOM:
        return _fact(captured, name)
    if field in _VALUES:
        return [value for value in _VALUES[field](captured) if value]
    return [passage.text for _, passage in passages(field, name, captured)]


def passages(field: TextField, name: str, captured: Captured) -> Sequence[tuple[str, Passage]]:
    """Return the passages of a field, each with its own name."""
    features = captured.features
    body = ("text", features.text) if features.text.text else ("summary", features.summary)
    match field:
        case TextField.TITLE_OR_TEXT:
            return (("title", features.title), body)
        case TextField.TITLE:
            return (("title", features.title),)
        case TextField.TEXT:
            return (body,)
        case TextField.SUMMARY:
            return (("summary", features.summary),)
        case _:
            # One passage per value, so that no phrase matches across two.
            return tuple((field.value, Passage.of_text(value)) for value in values(field, name, captured))


def amount(field: Amount, name: str, captured: Captured) -> float | None:
    """Return the number in a field.

    None where the item does not state it.
    """
    item = captured.item
    match field:
        case Amount.WORDS:
            return captured.features.words
        case Amount.TITLE_WORDS:
            return captured.features.title.word_count
        case Amount.PICTURES:
            return captured.pictures
        case _:
            value = item.facts.get(name if field is Amount.CUSTOM else field.value)
    return number_in(value) if isinstance(value, str) else value


def has(trait: Trait, name: str, captured: Captured) -> bool:
    """Whether an item has a trait."""
    item = captured.item
    match trait:
        case Trait.PICTURE | Trait.FILM | Trait.SOUND:
            return any(medium.kind is MediaKind(trait.value) for medium in item.media)
        case Trait.DATE:
            return item.published is not None or item.updated is not None
        case Trait.RATING | Trait.PRICE | Trait.LICENCE:
            return trait.value in item.facts
        case Trait.CUSTOM:
            return name in item.facts
        case Trait.TEXT:
            return bool(captured.features.text.text)
        case _:
            simple = {
                Trait.SUMMARY: captured.features.summary.text,
                Trait.AUTHOR: item.authors,
                Trait.CATEGORIES: item.categories,
                Trait.LINK: item.link,
                Trait.LANGUAGE: captured.language,
            }
            return bool(simple[trait])
