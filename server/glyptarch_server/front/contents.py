"""The contents of a guide: a way to each of its headings, above its text."""

from dataclasses import dataclass

from glyptarch_core.text.markup import fragment, serialise, text_of

__all__ = ["Heading", "with_contents"]

_GUIDE = "guide"
_FEWEST = 3
_MOST = 60


@dataclass(frozen=True, slots=True)
class Heading:
    """A heading of a text, with the name that leads to it."""

    name: str
    title: str


def with_contents(kind: str, body: str) -> tuple[str, tuple[Heading, ...]]:
    """Return a sanitised text with names at its headings, and those headings.

    None for posts that are no guide, and for guides of fewer than three parts.
    """
    if kind != _GUIDE or "<h2" not in body:
        return body, ()
    root = fragment(body)
    titled = [(element, text_of(element)) for element in root.iter("h2")]
    titled = [(element, " ".join(title.split())) for element, title in titled if title.strip()][:_MOST]
    if len(titled) < _FEWEST:
        return body, ()
    headings = tuple(Heading(f"part-{number}", title) for number, (_, title) in enumerate(titled, start=1))
    for (element, _), heading in zip(titled, headings, strict=True):
        element.set("id", heading.name)
    return serialise(root), headings
