"""The rights of the source, applied last: one budget of its words for every text of a post.

Whatever a template, a field or a tag is made of, what goes out is compared with all that came in: text, summary, names
of categories, alternative texts and stated facts, such as a transcript. Each run of words that stands in both spends
words of the budget, once however often it is shown. So no way around a limit has to be known.
"""

from dataclasses import dataclass, replace
from urllib.parse import unquote_plus

from glyptarch_core.draft import FieldType, FieldValue
from glyptarch_core.item import Features, Item, Media, Right, Rights
from glyptarch_core.source_words import SourceWords, carried_title
from glyptarch_core.text import clean_line, count_words, first_words, first_words_of, name_key, plain_text
from glyptarch_core.trace import Note, Stage

__all__ = ["Allowed", "PostTexts", "allow"]


@dataclass(frozen=True, slots=True, kw_only=True)
class PostTexts:
    """Every text of a post that may hold something of its source."""

    title: str
    body: str
    excerpt: str
    description: str
    address: str
    fields: tuple[FieldValue, ...]
    lead: Media | None
    spare_leads: tuple[Media, ...] = ()
    tags: tuple[str, ...] = ()
    withheld: bool = False
    """Whether templates got less than the item has."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Allowed:
    """The parts of a post that may be published, and the note about what was removed."""

    texts: PostTexts
    note: Note


def allow(rights: Rights, item: Item, features: Features, texts: PostTexts) -> Allowed:
    """Reduce a post to what its source allows.

    With ``excerpt`` all its texts together hold no more than ``words`` words of the source, and none of them is longer.
    In scripts without spaces the budget is one of characters, so that it does not depend on how a dictionary parts a
    text. A link only keeps title, link and the blog's own tags.
    """
    words = count_words(plain_text(texts.body)) if rights.right is Right.EXCERPT else 0
    if texts.withheld:
        words = max(words, features.words)
    data = {"right": rights.right.value, "words": words, "limit": rights.words, "attribution": rights.attribution}
    if rights.right is Right.FULL:
        return Allowed(texts=texts, note=Note(stage=Stage.RELEASE, code="rights.kept", data=data))
    if rights.right is Right.LINK:
        return Allowed(
            texts=_link_only(texts, item, features), note=Note(stage=Stage.RELEASE, code="rights.link", data=data)
        )
    cut = _excerpt(texts, rights.words, item, features)
    code = "rights.cut" if texts.withheld or cut != texts else "rights.kept"
    return Allowed(texts=cut, note=Note(stage=Stage.RELEASE, code=code, data=data))


def _picture(budget: SourceWords, picture: Media) -> Media:
    """Return a picture with the part of its text that fits."""
    return replace(picture, alt=budget.line(picture.alt)) if picture.alt else picture


def _field(budget: SourceWords, filled: FieldValue) -> FieldValue | None:
    """Return a field with the part of its value that fits. None where an address carries a text."""
    if not isinstance(filled.value, str):
        return filled
    if filled.type is FieldType.RICH_TEXT:
        return replace(filled, value=budget.html(filled.value))
    if filled.type is FieldType.TEXT:
        return replace(filled, value=budget.line(filled.value))
    return filled if budget.spend(unquote_plus(filled.value)) is None else None


def _link_only(texts: PostTexts, item: Item, features: Features) -> PostTexts:
    budget = SourceWords(0, item, features)
    title = texts.title
    if budget.spend(title) is not None:
        title = clean_line(carried_title(item, features), len(texts.title)) or title[:0]
    address = texts.address if budget.spend(texts.address) is None else title
    given = {name_key(category) for category in item.categories}
    tags = tuple(tag for tag in texts.tags if name_key(tag) not in given and budget.spend(tag) is None)
    return PostTexts(title=title, body="", excerpt="", description="", address=address, fields=(), lead=None, tags=tags)


def _excerpt(texts: PostTexts, most: int, item: Item, features: Features) -> PostTexts:
    budget = SourceWords(most, item, features)

    # The excerpt begins most bodies. What both show is spent once.
    title, excerpt = budget.line(texts.title), budget.line(first_words(texts.excerpt, most))
    body = budget.html(first_words_of(texts.body, most, ellipsis="…"))
    description, address = budget.line(first_words(texts.description, most)), budget.line(texts.address)
    return PostTexts(
        title=title,
        body=body,
        excerpt=excerpt,
        description=description,
        address=address,
        fields=tuple(kept for filled in texts.fields if (kept := _field(budget, _shortened(filled, most))) is not None),
        lead=_picture(budget, texts.lead) if texts.lead else None,
        spare_leads=tuple(_picture(budget, picture) for picture in texts.spare_leads),
        tags=tuple(tag for tag in texts.tags if budget.spend(tag) is None),
    )


def _shortened(filled: FieldValue, most: int) -> FieldValue:
    if isinstance(filled.value, str) and filled.type is FieldType.RICH_TEXT:
        return replace(filled, value=first_words_of(filled.value, most, ellipsis="…"))
    if isinstance(filled.value, str) and filled.type is FieldType.TEXT:
        return replace(filled, value=first_words(filled.value, most))
    return filled
