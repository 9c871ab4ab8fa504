"""The address of a post, made from its title."""

from collections.abc import Container
from itertools import count

from glyptarch_core.text.words import title_key

__all__ = ["slugify", "unused"]


def slugify(title: str, *, longest: int = 80) -> str:
    """Give a title as words joined by hyphens, at most ``longest`` characters, cut between words.

    Letters outside ASCII stay (they are allowed in an IRI, RFC 3987). Empty when there is no word.
    """
    slug = title_key(title).replace(" ", "-")
    if len(slug) <= longest:
        return slug
    return slug[: longest + 1].rpartition("-")[0] or slug[:longest]


def unused(base: str, taken: Container[str]) -> str:
    """Give ``base`` if it is free, else ``base-2``, ``base-3`` and so on, whichever is free first."""
    if base not in taken:
        return base
    return next(slug for number in count(2) if (slug := f"{base}-{number}") not in taken)
