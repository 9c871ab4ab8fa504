"""A text in blocks for language services, with marks in the place of inline elements.

A service gets words only. ``⟦1⟧word⟦/1⟧`` stands for an element around a word, ``⟦2/⟧`` for what has no words of its
own: a picture, code, an address. So no address is told to a service, and none can be changed by one.
"""

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from typing import Final, NamedTuple

from lxml.html import HtmlElement

from glyptarch_core.text.markup import BLOCKS
from glyptarch_core.text.slots import VERBATIM

__all__ = ["ADDRESS", "MARK", "AltText", "Block", "MarkToken", "blocks_of", "mark_tokens", "without_marks"]

MARK: Final = re.compile(r"⟦(/?)(\d{1,3})(/?)⟧")
"""A mark: that of an end has a stroke before its number, that of something without words one after it."""

_SIGNS = re.compile("[⟦⟧]")
ADDRESS: Final = re.compile(r"(?:https?://|www\.)[^\s<>\"“”«»⟦⟧]*[\w/]|[\w.+-]+@[\w-]+(?:\.[\w-]+)+")
"""Addresses of the web and of mail in a text."""

_SPACE = re.compile(r"\s+")
_MOST_MARKS = 200


class MarkToken(NamedTuple):
    """A piece of a marked text: words, or a mark with its number."""

    words: str = ""
    number: int = -1
    closes: bool = False
    void: bool = False


def mark_tokens(text: str) -> Iterator[MarkToken]:
    """Yield the words and marks of a text in order."""
    at = 0
    for mark in MARK.finditer(text):
        if mark.start() > at:
            yield MarkToken(text[at : mark.start()])
        yield MarkToken(number=int(mark[2]), closes=bool(mark[1]), void=bool(mark[3]))
        at = mark.end()
    if at < len(text):
        yield MarkToken(text[at:])


def without_marks(text: str) -> str:
    """Return the words of a marked text, with a space where there was something without words."""
    return _SPACE.sub(" ", MARK.sub(lambda mark: " " if mark[3] else "", text)).strip()


@dataclass(slots=True)
class _Place:
    """Where a run of inline content stands: in an element, after the block before it."""

    within: HtmlElement
    nodes: list[HtmlElement] = field(default_factory=list)
    after: HtmlElement | None = None

    @property
    def lead(self) -> str:
        """The text before the first element."""
        return (self.within.text if self.after is None else self.after.tail) or ""

    def set_lead(self, text: str) -> None:
        """Put another text before the first element."""
        if self.after is None:
            self.within.text = text
        else:
            self.after.tail = text


class Block:
    """A block of a tree: its marked text, and a way to put another in its place.

    ``text`` is empty where there is nothing to say to a service.
    """

    def __init__(self, place: _Place) -> None:
        self._place = place
        self._marks: list[HtmlElement | str] = []
        pieces = [self._words(place.lead)]
        for node in place.nodes:
            pieces += [self._element(node), self._words(node.tail or "")]
        whole = _SPACE.sub(" ", "".join(pieces))
        self._before, self._behind = whole[: len(whole) - len(whole.lstrip())], whole[len(whole.rstrip()) :]
        says_something = any(letter.isalpha() for letter in without_marks(whole))
        self.text = whole.strip() if says_something and len(self._marks) <= _MOST_MARKS else ""

    def _words(self, text: str) -> str:
        # The signs of marks are ours alone.
        text = _SIGNS.sub(" ", text)
        return ADDRESS.sub(lambda found: self._void(found[0]), text)

    def _void(self, what: HtmlElement | str) -> str:
        self._marks.append(what)
        return f"⟦{len(self._marks)}/⟧"

    def _element(self, node: HtmlElement) -> str:
        if not isinstance(node.tag, str) or node.tag in VERBATIM or not (node.text or len(node)):
            return self._void(node)
        self._marks.append(node)
        number = len(self._marks)
        inside = [self._words(node.text or "")]
        for child in node:
            inside += [self._element(child), self._words(child.tail or "")]
        return f"⟦{number}⟧{''.join(inside)}⟦/{number}⟧"

    def put(self, text: str) -> None:
        """Put a marked text in the place of this one.

        Raises ValueError where a mark is missing, strange, or closes another. The tree is then as it was.
        """
        _check_marks(text, mark_tokens(self.text))
        place = self._place
        for node in place.nodes:
            place.within.remove(node)
        for mark in self._marks:
            if isinstance(mark, str):
                continue
            mark.tail = None
        at = 0 if place.after is None else place.within.index(place.after) + 1
        writer = _Writer(place, at)
        writer.words(self._before)
        for token in mark_tokens(text):
            if token.words:
                writer.words(token.words)
                continue
            marked = self._marks[token.number - 1]
            if isinstance(marked, str):
                writer.words(marked)
            elif token.closes:
                writer.close()
            else:
                writer.element(marked, opens=not token.void)
        writer.words(self._behind)


def _check_marks(text: str, wanted: Iterable[MarkToken]) -> None:
    """Compare the marks of a text. Raises ValueError where they are not those wanted."""
    seen: list[tuple[int, bool]] = []
    open_marks: list[int] = []
    for token in mark_tokens(text):
        if token.number < 0:
            continue
        if token.closes:
            if not open_marks or open_marks.pop() != token.number:
                raise ValueError(f"the mark {token.number} closes another one")
            continue
        seen.append((token.number, token.void))
        if not token.void:
            open_marks.append(token.number)
    kinds = [(token.number, token.void) for token in wanted if token.number >= 0 and not token.closes]
    if open_marks or sorted(seen) != sorted(kinds):
        raise ValueError("marks are missing or strange")


class _Writer:
    """Writes words and elements into a place of a tree, one after another."""

    def __init__(self, place: _Place, at: int) -> None:
        self._place, self._at = place, at
        self._last: HtmlElement | None = None
        self._open: list[HtmlElement] = []
        place.set_lead("")

    def words(self, text: str) -> None:
        """Write words after what has been written."""
        if self._last is not None:
            self._last.tail = (self._last.tail or "") + text
        elif self._open:
            self._open[-1].text = (self._open[-1].text or "") + text
        else:
            self._place.set_lead(self._place.lead + text)

    def element(self, element: HtmlElement, *, opens: bool) -> None:
        """Write an element, and go on inside it where it opens."""
        if opens:
            element.text = None
            del element[:]
        if self._open:
            self._open[-1].append(element)
        else:
            self._place.within.insert(self._at, element)
            self._at += 1
        if opens:
            self._open.append(element)
            self._last = None
        else:
            self._last = element

    def close(self) -> None:
        """Go on after the element that was opened last."""
        self._last = self._open.pop()


class AltText:
    """The text in place of a picture, as a block."""

    def __init__(self, picture: HtmlElement) -> None:
        self._picture = picture
        self.text = _SPACE.sub(" ", _SIGNS.sub(" ", picture.get("alt", ""))).strip()

    def put(self, text: str) -> None:
        """Put another text in the place of this one. Raises ValueError where it has marks."""
        _check_marks(text, ())
        self._picture.set("alt", text)


def blocks_of(root: HtmlElement) -> "list[Block | AltText]":
    """Return the blocks of a tree that say something, and then the texts of its pictures."""
    places: list[_Place] = []
    _places(root, places)
    return [
        *(block for block in map(Block, places) if block.text),
        *(alt for alt in map(AltText, root.iter("img")) if any(map(str.isalpha, alt.text))),
    ]


def _has_blocks(element: HtmlElement) -> bool:
    return element.tag in BLOCKS or any(child.tag in BLOCKS for child in element.iterdescendants())


def _places(element: HtmlElement, places: list[_Place]) -> None:
    if element.tag in VERBATIM:
        return
    place = _Place(element)
    for child in element:
        if not isinstance(child.tag, str) or not _has_blocks(child):
            place.nodes.append(child)
            continue
        places.append(place)
        _places(child, places)
        place = _Place(element, after=child)
    places.append(place)
