"""The address of a post, made from its title."""

import unicodedata
from collections.abc import Container
from itertools import count

from glyptarch_core.text.clean import stream_safe
from glyptarch_core.text.words import fold, runs_of

__all__ = ["slugify", "unused"]


def slugify(title: str, *, longest: int = 80) -> str:
    """Return a title as words joined by hyphens, cut between words to ``longest`` characters.

    Latin letters lose their accents. Other letters keep their marks, which make another letter there; an IRI may
    contain them (RFC 3987). Empty where there is no word.
    """
    slug = "-".join(_plain(run) for run in runs_of(title))
    if len(slug) <= longest:
        return slug
    return slug[: longest + 1].rpartition("-")[0] or slug[:longest]


def _plain(run: str) -> str:
    folded = fold(run)
    return folded if folded.isascii() else unicodedata.normalize("NFKC", stream_safe(run)).casefold()


def unused(base: str, taken: Container[str]) -> str:
    """Return ``base`` if it is free, else the first free of ``base-2``, ``base-3``, …."""
    if base not in taken:
        return base
    return next(slug for number in count(2) if (slug := f"{base}-{number}") not in taken)
