"""The words of the pages.

The usual ones of each language, and those that a blog has in their place.
"""

from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from functools import lru_cache
from pathlib import Path
from typing import TYPE_CHECKING, Any

from babel.messages.pofile import read_po
from django.utils.translation import override, trans_real
from glyptarch_core.editions import languages_of

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Blog

__all__ = ["speaking", "usual_words"]

_CATALOGUE = Path(__file__).parent / "locale" / "de" / "LC_MESSAGES" / "django.po"


def in_words(language: str) -> str:
    """Return the language of wordings for a language of texts (BCP 47), as Django names it."""
    # English without a country is not that of America, where the month comes first.
    return "en-gb" if language.lower() == "en" else language.lower()


@lru_cache(maxsize=1)
def _wordings() -> tuple[str, ...]:
    """Return the English wordings of the pages, without those that depend on a number."""
    with _CATALOGUE.open("rb") as file:
        return tuple(message.id for message in read_po(file) if isinstance(message.id, str) and message.id)


def usual_words(language: str) -> list[tuple[str, str]]:
    """Return each English wording of the pages with that of a language (BCP 47)."""
    with override(in_words(language)):
        return [(wording, trans_real.gettext(wording)) for wording in _wordings()]


class _Own:
    """The translation of a language with some words of a blog's own."""

    def __init__(self, usual: Any, words: Mapping[str, str]) -> None:  # noqa: ANN401 - Django's class has no public name
        self._usual, self._words = usual, words

    def __getattr__(self, name: str) -> Any:  # noqa: ANN401
        return getattr(self._usual, name)

    def gettext(self, wording: str) -> str:
        """Return the blog's own wording, or the usual one."""
        return self._words.get(wording) or str(self._usual.gettext(wording))


@contextmanager
def speaking(blog: "Blog") -> Iterator[None]:
    """Write in the language in which a blog is read, and in its own words, inside the block."""
    document = languages_of(blog.languages)
    chosen = document.named(blog.reading) if blog.reading else document
    with override(in_words(blog.language)):
        if chosen and chosen.words:
            # Django knows translations of whole sites only; leaving the block brings the former one back.
            active: Any = trans_real._active  # type: ignore[attr-defined]  # noqa: SLF001
            active.value = _Own(active.value, chosen.words)
        yield
