"""The address of a post, made from its title."""

import unicodedata
from collections.abc import Container
from itertools import count

from glyptarch_core.text.clean import stream_safe
from glyptarch_core.text.words import fold, runs_of

__all__ = ["slugify", "unused"]


def slugify(title: str, *, longest: int = 80) -> str:
    """Give a title as words joined by hyphens, at most ``longest`` characters, cut between words.

    Accents go where the letters are Latin. Letters of other scripts stay as they are (they are
    allowed in an IRI, RFC 3987), with their marks, which make another letter there. Empty when
    there is no word.
    """
    slug = "-".join(_plain(run) for run in runs_of(title))
    if len(slug) <= longest:
        return slug
    return slug[: longest + 1].rpartition("-")[0] or slug[:longest]


def _plain(run: str) -> str:
    folded = fold(run)
    return folded if folded.isascii() else unicodedata.normalize("NFKC", stream_safe(run)).casefold()


def unused(base: str, taken: Container[str]) -> str:
    """Give ``base`` if it is free, else ``base-2``, ``base-3`` and so on, whichever is free first."""
    if base not in taken:
        return base
    return next(slug for number in count(2) if (slug := f"{base}-{number}") not in taken)
