"""The languages of a blog, and how its editions are made."""

import re
from collections.abc import Mapping
from enum import StrEnum
from typing import Annotated, Any, Self

from pydantic import AfterValidator, Field, StringConstraints, ValidationError, model_validator

from glyptarch_core.languages import base_language
from glyptarch_core.settings import LanguageTag, LibraryKey, Settings, ShortText

__all__ = ["BlogLanguage", "LanguageDocument", "NotePlace", "languages_of"]


_PLACES = re.compile(r"%\(\w+\)[sd]|\{\w*\}|%")


def _checked_words(words: dict[str, str]) -> dict[str, str]:
    """Return own words without empty ones.

    Raises ValueError where one has other places for values than the usual one.
    """
    for usual, own in words.items():
        if own.strip() and sorted(_PLACES.findall(usual)) != sorted(_PLACES.findall(own)):
            wanted = ", ".join(place for place in _PLACES.findall(usual) if place != "%") or "no places for values"
            raise ValueError(f"“{own}” must have {wanted}, as “{usual}” has")
    return {usual: own.strip() for usual, own in words.items() if own.strip()}


OwnWords = Annotated[
    dict[Annotated[str, StringConstraints(max_length=500)], Annotated[str, StringConstraints(max_length=500)]],
    Field(max_length=500),
    AfterValidator(_checked_words),
]
"""Wordings of a blog's pages in place of the usual ones, by the English wording."""


class NotePlace(StrEnum):
    """Where the note on an edition stands: above its text, or below."""

    BEGIN = "begin"
    END = "end"


class BlogLanguage(Settings):
    """A language of a blog beside its usual one.

    ``title`` and ``tagline`` are those of the blog in this language. ``services`` translate its editions, the first
    that answers, with the terms of the ``glossary`` tables. ``names`` is a table of the names of categories and tags.
    With ``follows`` an edition is made anew when its original has changed, unless people have edited it. ``note``
    stands on each edition, to tell that it was translated. ``words`` are the blog's own in this language.
    """

    tag: LanguageTag
    title: ShortText = ""
    tagline: ShortText = ""
    services: tuple[LibraryKey, ...] = Field(default=(), max_length=5)
    glossary: tuple[LibraryKey, ...] = Field(default=(), max_length=20)
    names: LibraryKey | None = None
    follows: bool = True
    note: ShortText = ""
    note_place: NotePlace = NotePlace.END
    words: OwnWords = Field(default_factory=dict)


class LanguageDocument(Settings):
    """The languages of a blog beside its usual one, in the order in which readers see them.

    ``words`` are the blog's own in its usual language.
    """

    languages: tuple[BlogLanguage, ...] = Field(default=(), max_length=20)
    words: OwnWords = Field(default_factory=dict)

    @model_validator(mode="after")
    def _each_once(self) -> Self:
        tags = [language.tag.lower() for language in self.languages]
        twice = next((tag for tag in tags if tags.count(tag) > 1), None)
        if twice:
            raise ValueError(f"the language “{twice}” is there twice")
        return self

    def named(self, tag: str) -> BlogLanguage | None:
        """Return a language by its tag (BCP 47), in any case. None where the blog has it not."""
        return next((language for language in self.languages if language.tag.lower() == tag.lower()), None)

    def of_text(self, tag: str) -> BlogLanguage | None:
        """Return the language in which readers find a text.

        It is this very one, or that of which it is a form.
        """
        base = base_language(tag)
        alike = (language for language in self.languages if base and language.tag.lower() == base)
        return self.named(tag) or next(alike, None)


def languages_of(stored: Mapping[str, Any]) -> LanguageDocument:
    """Return a stored document. None of its languages where it cannot be read any more."""
    try:
        return LanguageDocument.model_validate(stored) if stored else LanguageDocument()
    except ValidationError:
        return LanguageDocument()
