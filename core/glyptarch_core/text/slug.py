"""The address of a post, made from its title."""

from glyptarch_core.text.passage import title_key

__all__ = ["slugify"]


def slugify(title: str, *, longest: int = 80) -> str:
    """Give a title as words joined by hyphens, at most ``longest`` characters, cut between words.

    Letters outside ASCII stay (they are allowed in an IRI, RFC 3987). Empty when there is no word.
    """
    slug = title_key(title).replace(" ", "-")
    if len(slug) <= longest:
        return slug
    return slug[: longest + 1].rpartition("-")[0] or slug[:longest]
