"""The rights of the source, over whatever the rules and templates have made."""

from dataclasses import dataclass

from glyptarch_core.item import Media, Right, Rights
from glyptarch_core.text import Unit, cut, first_words_of, plain_text
from glyptarch_core.trace import Note, Stage

__all__ = ["Allowed", "allow"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Allowed:
    """What of a post may go out, and the note that says what was taken off."""

    body: str
    excerpt: str
    lead: Media | None
    note: Note


def allow(rights: Rights, *, body: str, excerpt: str, lead: Media | None) -> Allowed:
    """Hold a post to what its source allows. A link only leaves title and link, without text or picture."""
    words = len(plain_text(body).split()) if rights.right is Right.EXCERPT else 0
    data = {"right": rights.right.value, "words": words, "limit": rights.words, "attribution": rights.attribution}
    if rights.right is Right.LINK:
        note = Note(stage=Stage.RELEASE, code="rights.link", data=data)
        return Allowed(body="", excerpt="", lead=None, note=note)
    if rights.right is Right.EXCERPT and max(words, len(excerpt.split())) > rights.words:
        note = Note(stage=Stage.RELEASE, code="rights.cut", data=data)
        return Allowed(
            body=first_words_of(body, rights.words, ellipsis="…"),
            excerpt=cut([excerpt], unit=Unit.WORDS, count=rights.words),
            lead=lead,
            note=note,
        )
    return Allowed(body=body, excerpt=excerpt, lead=lead, note=Note(stage=Stage.RELEASE, code="rights.kept", data=data))
