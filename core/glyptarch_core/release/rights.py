"""The rights of the source, applied last: they bound every text of a post."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from glyptarch_core.draft import FieldType, FieldValue
from glyptarch_core.item import Features, Item, Media, Right, Rights
from glyptarch_core.text import Passage, clean_line, count_words, first_words, first_words_of, plain_text, shares_run
from glyptarch_core.trace import Note, Stage

__all__ = ["Allowed", "Texts", "allow"]

_NONE_OF_THE_TEXT = 3
"""So many words in a row of a source that allows a link only may stand in a title by chance."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Texts:
    """Every text of a post that may hold something of its source."""

    title: str
    body: str
    excerpt: str
    description: str
    address: str
    fields: tuple[FieldValue, ...]
    lead: Media | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Allowed:
    """The parts of a post that may be published, and the note about what was removed."""

    texts: Texts
    note: Note


def allow(rights: Rights, item: Item, features: Features, texts: Texts) -> Allowed:
    """Reduce a post to what its source allows.

    With ``excerpt`` no text has more than ``words`` words of the source in a row, and all parts made of the source's
    text together have no more than that. Words are counted by :func:`glyptarch_core.text.count_words`. A link only
    keeps title and link.
    """
    words = count_words(plain_text(texts.body)) if rights.right is Right.EXCERPT else 0
    data = {"right": rights.right.value, "words": words, "limit": rights.words, "attribution": rights.attribution}
    if rights.right is Right.FULL:
        return Allowed(texts=texts, note=Note(stage=Stage.RELEASE, code="rights.kept", data=data))
    own = _own_words(features)
    if rights.right is Right.LINK:
        return Allowed(
            texts=_link_only(texts, item, own), note=Note(stage=Stage.RELEASE, code="rights.link", data=data)
        )
    cut = _excerpt(texts, rights.words, own)
    code = "rights.kept" if cut == texts else "rights.cut"
    return Allowed(texts=cut, note=Note(stage=Stage.RELEASE, code=code, data=data))


def _own_words(features: Features) -> list[Sequence[str]]:
    """Return the words of the source's own texts.

    Its title is meant to be carried.
    """
    return [passage.words for passage in (features.text, features.summary)]


def _holds_too_much(text: str, own: Sequence[Sequence[str]], most: int) -> bool:
    words = Passage(text).words
    return any(shares_run(words, theirs, most) for theirs in own)


def _link_only(texts: Texts, item: Item, own: Sequence[Sequence[str]]) -> Texts:
    title = texts.title
    if title != item.title and _holds_too_much(title, own, _NONE_OF_THE_TEXT):
        title = clean_line(item.title, len(texts.title)) or title[:0]
    address = texts.address if not _holds_too_much(texts.address, own, _NONE_OF_THE_TEXT) else title
    return Texts(title=title, body="", excerpt="", description="", address=address, fields=(), lead=None)


def _excerpt(texts: Texts, most: int, own: Sequence[Sequence[str]]) -> Texts:
    def line(text: str) -> str:
        return first_words(text, most) if _holds_too_much(text, own, most) else text

    def field(filled: FieldValue) -> FieldValue:
        if not isinstance(filled.value, str):
            return filled
        if filled.type is FieldType.RICH_TEXT:
            return replace(filled, value=first_words_of(filled.value, most, ellipsis="…"))
        return replace(filled, value=first_words(filled.value, most)) if filled.type is FieldType.TEXT else filled

    return Texts(
        title=line(texts.title),
        body=first_words_of(texts.body, most, ellipsis="…"),
        excerpt=first_words(texts.excerpt, most),
        description=first_words(texts.description, most),
        address=line(texts.address),
        fields=tuple(field(filled) for filled in texts.fields),
        lead=replace(texts.lead, alt=first_words(texts.lead.alt, most)) if texts.lead else None,
    )
