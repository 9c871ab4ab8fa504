"""HTML cut at a number of words, with its tags closed."""

from lxml.html import HtmlElement

from glyptarch_core.text.excerpt import Unit, cut
from glyptarch_core.text.markup import fragment, serialise

__all__ = ["first_words_of", "trim"]


class _Budget:
    """How much of a body may still stand."""

    def __init__(self, words: int) -> None:
        self.left = words

    def take(self, text: str | None, ellipsis: str) -> str | None:
        """Give the part of a text that still has room."""
        if not text or not text.strip():
            return text
        count = len(text.split())
        if count <= self.left:
            self.left -= count
            return text
        allowed, self.left = self.left, 0
        if allowed == 0:
            return None
        lead = text[: len(text) - len(text.lstrip())]
        return lead + cut([text.strip()], unit=Unit.WORDS, count=allowed, ellipsis=ellipsis)


def _trim(element: HtmlElement, budget: _Budget, ellipsis: str) -> None:
    """Walk a tree in the order of its text and take out what has no room."""
    element.text = budget.take(element.text, ellipsis)
    for child in list(element):
        if budget.left <= 0:
            child.tail = None
            element.remove(child)
            continue
        _trim(child, budget, ellipsis)
        child.tail = budget.take(child.tail, ellipsis)


def trim(root: HtmlElement, words: int, *, ellipsis: str) -> None:
    """Take all but the first so many words out of a tree."""
    _trim(root, _Budget(words), ellipsis)


def first_words_of(markup: str, words: int, *, ellipsis: str) -> str:
    """Give a fragment up to so many words of its text."""
    root = fragment(markup)
    trim(root, words, ellipsis=ellipsis)
    return serialise(root)
