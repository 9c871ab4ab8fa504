"""HTML cut at a number of words, with its tags closed."""

from lxml.html import HtmlElement

from glyptarch_core.text.markup import BLOCKS, fragment, is_seen, serialise, text_of
from glyptarch_core.text.measure import closing_marks, count_words, first_words, joins

__all__ = ["first_words_of", "trim"]

_TEXTS = ("alt", "title")
"""The attributes that hold texts for readers."""


class _Budget:
    """The number of words that may still be kept."""

    def __init__(self, words: int) -> None:
        self.left = words
        self.cut = False
        self.marked = False
        """Whether words were left out, and whether an ellipsis says so."""
        self.within = False
        """Whether the text ended inside a word: a drop cap is the first letter of one."""

    def parted(self) -> None:
        """Begin a new block, at which words end."""
        self.within = False

    def take(self, text: str | None, ellipsis: str) -> str | None:
        """Return the part of a text that still fits."""
        if not text or not text.strip():
            self.within = self.within and not text
            return text
        count = count_words(text)
        going_on = self.within and joins(text)
        self.within = False
        if count <= self.left + going_on:
            self.within = bool(count) and text[-1].isalnum()
            self.left -= count - going_on
            return text
        allowed, self.left = self.left + going_on, 0
        if allowed == 0:
            self.cut = True
            # The full stop after a link ends the words in it.
            return closing_marks(text) or None
        self.marked = True
        return first_words(text, allowed, ellipsis=ellipsis)


def _trim(element: HtmlElement, budget: _Budget, ellipsis: str) -> None:
    """Walk a tree in text order and remove what no longer fits."""
    element.text = budget.take(element.text, ellipsis)
    for child in list(element):
        block = child.tag in BLOCKS
        if block:
            budget.parted()
        if not is_seen(child):
            # Its text counts for nothing, and goes where the text around it goes.
            child.tail = budget.take(child.tail, ellipsis)
            continue
        if budget.left <= 0 and not (budget.within and not block):
            budget.cut = budget.cut or bool(count_words(text_of(child)) or count_words(child.tail or ""))
            child.tail = None
            element.remove(child)
            continue
        _trim(child, budget, ellipsis)
        if block:
            budget.parted()
        child.tail = budget.take(child.tail, ellipsis)


def trim(root: HtmlElement, words: int, *, ellipsis: str) -> None:
    """Cut a tree to its first words.

    The ellipsis marks the end.
    """
    budget = _Budget(words)
    _trim(root, budget, ellipsis)
    if budget.cut and ellipsis and not budget.marked:
        _end_with(root, ellipsis)


def _end_with(element: HtmlElement, ellipsis: str) -> bool:
    """Add the ellipsis after the last text of a tree and return whether there was any."""
    for child in reversed(element):
        if child.tail and child.tail.strip():
            child.tail = f"{child.tail.rstrip()}{ellipsis}"
            return True
        if _end_with(child, ellipsis):
            return True
    if element.text and element.text.strip():
        element.text = f"{element.text.rstrip()}{ellipsis}"
        return True
    return False


def first_words_of(markup: str, words: int, *, ellipsis: str) -> str:
    """Return a fragment cut to so many words.

    Longer texts of attributes are removed.
    """
    root = fragment(markup)
    shown = count_words(text_of(root))
    hidden = [
        (element, name, value)
        for element in root.iter()
        for name in _TEXTS
        if (value := element.get(name)) and count_words(value) > words
    ]
    if shown <= words and not hidden:
        return markup
    for element, name, value in hidden:
        element.set(name, first_words(value, words, ellipsis=ellipsis))
    trim(root, words, ellipsis=ellipsis)
    return serialise(root)
