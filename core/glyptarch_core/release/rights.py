"""The rights of the source, applied last: one budget of its words for every text of a post.

Whatever a template, a field or a tag is made of, what goes out is compared with all that came in: text, summary, names
of categories, alternative texts and stated facts, such as a transcript. Each run of words that stands in both spends
words of the budget, once however often it is shown. So no way around a limit has to be known.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from urllib.parse import unquote_plus

from glyptarch_core.draft import FieldType, FieldValue
from glyptarch_core.item import Features, Item, Media, Right, Rights
from glyptarch_core.text import (
    Passage,
    clean_line,
    count_words,
    first_words,
    first_words_of,
    name_key,
    plain_text,
)
from glyptarch_core.text.markup import fragment, serialise
from glyptarch_core.trace import Note, Stage

__all__ = ["Allowed", "Texts", "allow"]

_RUN = 4
"""So many words in a row that stand in both are the source's; fewer stand in any two texts."""

_LONGEST_TITLE = 12
"""The words of a title that is the beginning of the text, as notes have it. Other titles are meant to be carried."""

_MOST_TEXT = 400_000
_SHOWN_ATTRIBUTES = ("alt", "title")


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
    spare_leads: tuple[Media, ...] = ()
    tags: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Allowed:
    """The parts of a post that may be published, and the note about what was removed."""

    texts: Texts
    note: Note


def allow(rights: Rights, item: Item, features: Features, texts: Texts) -> Allowed:
    """Reduce a post to what its source allows.

    With ``excerpt`` all its texts together hold no more than ``words`` words of the source, and none of them is longer.
    Words are counted by :func:`glyptarch_core.text.count_words`. A link only keeps title, link and the blog's own tags.
    """
    words = count_words(plain_text(texts.body)) if rights.right is Right.EXCERPT else 0
    data = {"right": rights.right.value, "words": words, "limit": rights.words, "attribution": rights.attribution}
    if rights.right is Right.FULL:
        return Allowed(texts=texts, note=Note(stage=Stage.RELEASE, code="rights.kept", data=data))
    if rights.right is Right.LINK:
        return Allowed(
            texts=_link_only(texts, item, features), note=Note(stage=Stage.RELEASE, code="rights.link", data=data)
        )
    cut = _excerpt(texts, rights.words, item, features)
    code = "rights.kept" if cut == texts else "rights.cut"
    return Allowed(texts=cut, note=Note(stage=Stage.RELEASE, code=code, data=data))


def _texts_of(item: Item, features: Features) -> Iterator[Sequence[str]]:
    """Yield the words of every text that came from a source, except its title."""
    yield features.text.words
    yield features.summary.words
    stated = (value for value in item.facts.values() if isinstance(value, str))
    named = (" ".join(item.categories), *(medium.alt for medium in item.media))
    for text in (*stated, *named):
        if text:
            yield Passage(text[:_MOST_TEXT]).words


class _Budget:
    """The words of a source that a post may still show."""

    def __init__(self, words: int, item: Item, features: Features) -> None:
        self._left = words
        self._run = min(_RUN, words + 1) if words else _RUN
        self._source = {run for words in _texts_of(item, features) for run in self._runs(words)}
        self._shown = set(self._runs(Passage(carried_title(item, features)).words))

    def _runs(self, words: Sequence[str]) -> Iterator[tuple[str, ...]]:
        return (tuple(words[start : start + self._run]) for start in range(len(words) - self._run + 1))

    def spend(self, text: str) -> int | None:
        """Spend the words of a text. Return how many of its words fit, None for all."""
        within = False
        for start, run in enumerate(self._runs(Passage(text).words)):
            if run not in self._source:
                within = False
                continue
            cost = 0 if run in self._shown else 1 if within else self._run
            if cost > self._left:
                return start + self._run - 1
            self._left -= cost
            self._shown.add(run)
            within = True
        return None

    def line(self, text: str) -> str:
        """Return the part of a plain text that fits."""
        fitting = self.spend(text)
        return text if fitting is None else f"{Passage(text).between(0, fitting)}…" if fitting else ""

    def html(self, markup: str) -> str:
        """Return the part of a fragment that fits, with the texts of its attributes."""
        text = plain_text(markup)
        fitting = self.spend(text)
        if fitting is not None:
            kept = count_words(Passage(text).between(0, fitting)) if fitting else 0
            markup = first_words_of(markup, kept, ellipsis="…")
        return self._attributes(markup) if any(f"{name}=" in markup for name in _SHOWN_ATTRIBUTES) else markup

    def _attributes(self, markup: str) -> str:
        root, changed = fragment(markup), False
        for element in root.iter():
            for name in _SHOWN_ATTRIBUTES:
                value = element.get(name) if isinstance(element.tag, str) else None
                if value and self.spend(value) is not None:
                    element.set(name, "")
                    changed = True
        return serialise(root) if changed else markup

    def picture(self, picture: Media) -> Media:
        """Return a picture with the part of its text that fits."""
        return replace(picture, alt=self.line(picture.alt)) if picture.alt else picture

    def field(self, filled: FieldValue) -> FieldValue | None:
        """Return a field with the part of its value that fits. None where an address carries a text."""
        if not isinstance(filled.value, str):
            return filled
        if filled.type is FieldType.RICH_TEXT:
            return replace(filled, value=self.html(filled.value))
        if filled.type is FieldType.TEXT:
            return replace(filled, value=self.line(filled.value))
        return filled if self.spend(unquote_plus(filled.value)) is None else None


def carried_title(item: Item, features: Features) -> str:
    """Return the title of a source as far as it may always be carried.

    A title that is the beginning of the text gives its first twelve words only.
    """
    title = Passage(item.title)
    text = f" {features.text.folded} {features.summary.folded} "
    if len(title.words) <= _LONGEST_TITLE or title.padded not in text:
        return item.title
    return title.between(0, _LONGEST_TITLE)


def _link_only(texts: Texts, item: Item, features: Features) -> Texts:
    budget = _Budget(0, item, features)
    title = texts.title
    if budget.spend(title) is not None:
        title = clean_line(carried_title(item, features), len(texts.title)) or title[:0]
    address = texts.address if budget.spend(texts.address) is None else title
    given = {name_key(category) for category in item.categories}
    tags = tuple(tag for tag in texts.tags if name_key(tag) not in given and budget.spend(tag) is None)
    return Texts(title=title, body="", excerpt="", description="", address=address, fields=(), lead=None, tags=tags)


def _excerpt(texts: Texts, most: int, item: Item, features: Features) -> Texts:
    budget = _Budget(most, item, features)

    # The excerpt begins most bodies. What both show is spent once.
    title, excerpt = budget.line(texts.title), budget.line(first_words(texts.excerpt, most))
    body = budget.html(first_words_of(texts.body, most, ellipsis="…"))
    description, address = budget.line(first_words(texts.description, most)), budget.line(texts.address)
    return Texts(
        title=title,
        body=body,
        excerpt=excerpt,
        description=description,
        address=address,
        fields=tuple(kept for filled in texts.fields if (kept := budget.field(_shortened(filled, most))) is not None),
        lead=budget.picture(texts.lead) if texts.lead else None,
        spare_leads=tuple(budget.picture(picture) for picture in texts.spare_leads),
        tags=tuple(tag for tag in texts.tags if budget.spend(tag) is None),
    )


def _shortened(filled: FieldValue, most: int) -> FieldValue:
    if isinstance(filled.value, str) and filled.type is FieldType.RICH_TEXT:
        return replace(filled, value=first_words_of(filled.value, most, ellipsis="…"))
    if isinstance(filled.value, str) and filled.type is FieldType.TEXT:
        return replace(filled, value=first_words(filled.value, most))
    return filled
