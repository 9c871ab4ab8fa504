"""HTML cut at a number of words, with its tags closed."""

from lxml.html import HtmlElement

from glyptarch_core.text.markup import fragment, serialise, text_of
from glyptarch_core.text.measure import count_words, first_words

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

    def take(self, text: str | None, ellipsis: str) -> str | None:
        """Return the part of a text that still fits."""
        if not text or not text.strip():
            return text
        count = count_words(text)
        if count <= self.left:
            self.left -= count
            return text
        allowed, self.left = self.left, 0
        if allowed == 0:
            self.cut = True
            return None
        self.marked = True
        return first_words(text, allowed, ellipsis=ellipsis)


def _trim(element: HtmlElement, budget: _Budget, ellipsis: str) -> None:
    """Walk a tree in text order and remove what no longer fits."""
    element.text = budget.take(element.text, ellipsis)
    for child in list(element):
        if budget.left <= 0:
            budget.cut = budget.cut or bool(count_words(text_of(child)) or count_words(child.tail or ""))
            child.tail = None
            element.remove(child)
            continue
        _trim(child, budget, ellipsis)
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
