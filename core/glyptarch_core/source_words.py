"""The words of a source that a post may show: one budget for all of its texts.

It is spent twice. At Shape, where texts of an item become the values of templates, every word of a value is taken for
the source's: whatever a template does with it, no more can come out. At Release what goes out is compared with all that
came in, and each run of words that stands in both is spent, once however often it is shown.
"""

from collections.abc import Iterator, Sequence
from functools import cached_property

from glyptarch_core.item import Captured, Features, Item, Right, Rights
from glyptarch_core.text import Passage, count_words, first_words, first_words_of, plain_text
from glyptarch_core.text.markup import fragment, serialise

__all__ = ["LONGEST_NAME", "SourceWords", "TemplateWords", "carried_title"]

_RUN = 4
"""So many words in a row that stand in both are the source's; fewer stand in any two texts."""

_LONGEST_TITLE = 12
"""The words of a title that is the beginning of the text, as notes have it. Other titles are meant to be carried."""

LONGEST_NAME = 12
"""Words. What is longer names nobody."""

_MOST_TEXT = 400_000
_SHOWN_ATTRIBUTES = ("alt", "title")


class SourceWords:
    """The words of an item that may still be shown.

    What is shown is compared with the item.
    """

    def __init__(self, words: int, item: Item, features: Features) -> None:
        self._left = words
        self._run = min(_RUN, words + 1) if words else _RUN
        self._item, self._features = item, features
        self._shown = set(self._runs(Passage(carried_title(item, features)).words))

    def _runs(self, words: Sequence[str]) -> Iterator[tuple[str, ...]]:
        return (tuple(words[start : start + self._run]) for start in range(len(words) - self._run + 1))

    @cached_property
    def _source(self) -> frozenset[tuple[str, ...]]:
        return frozenset(run for text in _texts_of(self._item, self._features) for run in self._runs(text))

    def _is_source(self, run: tuple[str, ...]) -> bool:
        return run in self._source

    def spend(self, text: str) -> int | None:
        """Spend the words of a text. Return how many of its words fit, None for all."""
        within = False
        for start, run in enumerate(self._runs(Passage(text).words)):
            if not self._is_source(run):
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
            markup = _first_parts_of(markup, Passage(text).between(0, fitting) if fitting else "", fitting)
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


class TemplateWords(SourceWords):
    """The words of an item that may still go into templates.

    There every word is the item's, also a changed one.
    """

    def __init__(self, rights: Rights, item: Item, features: Features) -> None:
        self._most = rights.words if rights.right is Right.EXCERPT else 0
        super().__init__(self._most, item, features)
        self.withheld = False
        """Whether a template got less than the item has."""

    @classmethod
    def of(cls, captured: Captured) -> "TemplateWords | None":
        """Return the budget of an item. None where its source allows everything."""
        rights = captured.source.rights
        return None if rights.right is Right.FULL else cls(rights, captured.item, captured.features)

    def _is_source(self, _run: tuple[str, ...]) -> bool:
        return True

    def spend(self, text: str) -> int | None:
        """Spend the words of a text. Return how many of its words fit, None for all."""
        fitting = super().spend(text)
        # Nothing fits where no run does.
        return 0 if fitting is not None and fitting < self._run else fitting

    def title(self, title: str) -> str:
        """Return a title that may have been changed, at most as long as the one that may be carried."""
        carried = Passage(carried_title(self._item, self._features))
        return self._noted(title, first_words(title, max(len(carried.words), _LONGEST_TITLE), ellipsis=""))

    def text(self, text: str) -> str:
        """Return the part of a plain text that fits. Nothing where only a link is allowed."""
        return self._noted(text, self.line(first_words(text, self._most))) if self._most else self._noted(text, "")

    def body(self, markup: str) -> str:
        """Return the part of a body that fits. Nothing where only a link is allowed."""
        if not self._most:
            return self._noted(markup, "")
        return self._noted(markup, self.html(first_words_of(markup, self._most, ellipsis="…")))

    def names(self, names: Sequence[str]) -> list[str]:
        """Return those of some names that are short enough to be names."""
        return [name for name in names if self._noted(name, name if count_words(name) <= LONGEST_NAME else "")]

    def stated(self, value: str) -> str:
        """Return the part of a stated value that fits. A few words always do."""
        return self._noted(value, self.line(value))

    def _noted(self, before: str, after: str) -> str:
        self.withheld = self.withheld or before != after
        return after


def carried_title(item: Item, features: Features) -> str:
    """Return the title of a source as far as it may always be carried.

    A title that is the beginning of the text gives its first twelve words only.
    """
    title = Passage(item.title)
    text = f" {features.text.folded} {features.summary.folded} "
    if len(title.words) <= _LONGEST_TITLE or title.padded not in text:
        return item.title
    return title.between(0, _LONGEST_TITLE)


def _texts_of(item: Item, features: Features) -> Iterator[Sequence[str]]:
    """Yield the words of every text that came from a source, except its title."""
    yield features.text.words
    yield features.summary.words
    stated = (value for value in item.facts.values() if isinstance(value, str))
    long_names = (name for name in item.authors if count_words(name) > LONGEST_NAME)
    named = (" ".join(item.categories), *(medium.alt for medium in item.media))
    for text in (*stated, *named, *long_names):
        if text:
            yield Passage(text[:_MOST_TEXT]).words


def _first_parts_of(markup: str, beginning: str, most: int) -> str:
    """Return the beginning of a fragment with at most so many folded words.

    Where a dictionary parts a text into words, it may part its beginning otherwise.
    """
    for words in range(count_words(beginning), 0, -1):
        cut = first_words_of(markup, words, ellipsis="…")
        if len(Passage(plain_text(cut)).words) <= most:
            return cut
    return first_words_of(markup, 0, ellipsis="…")
