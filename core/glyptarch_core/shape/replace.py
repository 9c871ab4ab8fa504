"""Put one word, phrase or pattern in the place of another, as text or as a link."""

import re
from collections.abc import Callable, Iterator, Mapping
from enum import StrEnum
from typing import Annotated, Any, Literal, Self

import re2
from lxml.html import HtmlElement
from pydantic import Field, StringConstraints, model_validator

from glyptarch_core.item import Captured
from glyptarch_core.ports import BlogContext
from glyptarch_core.settings import OptionalAddress
from glyptarch_core.shape.base import Draftable, Step, TextStepBase
from glyptarch_core.text import Passage, Term
from glyptarch_core.trace import Json

__all__ = ["Replace", "ReplaceFind", "ReplaceIn", "compile_replace"]

_SPARED = frozenset({"a", "code", "pre", "kbd", "samp", "h1", "h2", "h3", "h4", "h5", "h6"})


class ReplaceFind(StrEnum):
    """The kind of search: words or a pattern."""

    WORDS = "words"
    PATTERN = "pattern"


class ReplaceIn(StrEnum):
    """The parts that are searched."""

    BODY = "body"
    TITLE = "title"
    BOTH = "both"


class Replace(TextStepBase):
    r"""Replace words.

    In the body, words in links, headings and code stay. ``link`` makes the replacement a link. ``first`` limits the
    number of replacements. An empty ``by`` removes the words. A pattern is RE2; ``\1`` in ``by`` is its first group,
    ``\g<name>`` a named one, ``\\`` a backslash.
    """

    kind: Literal["replace"] = "replace"
    find: ReplaceFind = ReplaceFind.WORDS
    what: Annotated[str, StringConstraints(min_length=1, max_length=300)]
    by: str = Field(default="", max_length=500)
    where: ReplaceIn = ReplaceIn.BODY
    link: OptionalAddress = ""
    first: int | None = Field(default=None, ge=1, le=1000)

    def for_text(self) -> Self:
        """Return the step as it works on a text alone."""
        return self.model_copy(update={"where": ReplaceIn.BODY, "link": ""})

    @model_validator(mode="after")
    def _can_be_found(self) -> Self:
        _finder(self)
        return self


Finder = Callable[[str], Iterator[tuple[int, int, str]]]
"""Gives, for a text, the places to replace and what to put there."""


def _finder(step: Replace) -> Finder:
    if step.find is ReplaceFind.WORDS:
        term = Term.parse(step.what)

        def words(text: str) -> Iterator[tuple[int, int, str]]:
            passage = Passage.of_text(text)
            # Most texts lack the words, and testing that is faster than numbering all words.
            if passage.has(term):
                for hit in passage.find(term):
                    yield hit.start, hit.end, step.by

        return words
    options = re2.Options()
    options.max_mem, options.log_errors = 8 << 20, False
    try:
        pattern = re2.compile(step.what, options)
    except re2.error as error:
        raise ValueError(f"this pattern cannot be read: {error}") from error

    parts = _expansion(step.by, pattern)

    def matches(text: str) -> Iterator[tuple[int, int, str]]:
        for match in pattern.finditer(text):
            if match.end() > match.start():
                by = "".join([part if isinstance(part, str) else match.group(part) or "" for part in parts])
                yield match.start(), match.end(), by

    return matches


_REFERENCE = re.compile(r"\\(?:(?P<number>\d)|g<(?P<name>\w+)>|(?P<sign>\\))?")


def _expansion(by: str, pattern: Any) -> list[str | int]:  # noqa: ANN401 - re2 has no types
    """Return the replacement as texts and group numbers. Raises ValueError for a bad reference."""
    parts: list[str | int] = []
    at = 0
    for match in _REFERENCE.finditer(by):
        parts.append(by[at : match.start()])
        at = match.end()
        place = f"at character {match.start() + 1} of what is put there"
        if match["sign"]:
            parts.append("\\")
        elif match["number"] is None and match["name"] is None:
            raise ValueError(f"{place}: a backslash stands before the number of a group; write two for one")
        else:
            name = match["number"] or match["name"]
            group = int(name) if name.isdecimal() else pattern.groupindex.get(name, -1)
            if not 0 <= group <= pattern.groups:
                raise ValueError(f"{place}: the pattern has no group {name}")
            parts.append(group)
    return [*parts, by[at:]]


class _Work:
    """One pass of a step over one item: replacements left and made."""

    def __init__(self, step: Replace, find: Finder) -> None:
        self._step = step
        self._find = find
        self.left = step.first if step.first is not None else 1 << 30
        self.done: list[str] = []

    def pieces(self, text: str) -> list[tuple[str, str | None]]:
        """Return a text as pairs of unchanged words and the replacement after them.

        The last replacement is None.
        """
        pieces: list[tuple[str, str | None]] = []
        at = 0
        if self.left <= 0:
            return [(text, None)]
        for start, end, by in self._find(text):
            if self.left <= 0:
                break
            if start < at:
                continue
            pieces.append((text[at:start], by))
            self.done.append(f"{text[start:end]} → {by}" if by else text[start:end])
            self.left -= 1
            at = end
        return [*pieces, (text[at:], None)]

    def plain(self, text: str) -> str:
        return "".join(stays + (by or "") for stays, by in self.pieces(text))

    def walk(self, element: HtmlElement) -> None:
        """Walk a tree in text order, leaving spared elements alone."""
        if self.left <= 0 or element.tag in _SPARED or not isinstance(element.tag, str):
            return
        children = list(element)
        if element.text:
            self._put(element, None, element.text)
        for child in children:
            self.walk(child)
            if child.tail:
                self._put(element, child, child.tail)

    def _put(self, parent: HtmlElement, after: HtmlElement | None, text: str) -> None:
        pieces = self.pieces(text)
        if len(pieces) == 1:
            return
        if not self._step.link:
            joined = "".join(stays + (by or "") for stays, by in pieces)
            if after is None:
                parent.text = joined
            else:
                after.tail = joined
            return
        if after is None:
            parent.text = pieces[0][0]
        else:
            after.tail = pieces[0][0]
        place = 0 if after is None else parent.index(after) + 1
        for number, (_, by) in enumerate(pieces[:-1]):
            link = parent.makeelement("a", {"href": self._step.link})
            link.text = by
            link.tail = pieces[number + 1][0]
            parent.insert(place + number, link)


def compile_replace(step: Replace, _context: BlogContext) -> Step:
    """Compile the search once."""
    find = _finder(step)
    term = Term.parse(step.what) if step.find is ReplaceFind.WORDS else None

    def apply(parts: Draftable, _captured: Captured) -> Mapping[str, Json]:
        work = _Work(step, find)
        if step.where is not ReplaceIn.BODY:
            parts.title = work.plain(parts.title)
        if step.where is not ReplaceIn.TITLE and (term is None or parts.passage.has(term)):
            before = len(work.done)
            work.walk(parts.root)
            if len(work.done) > before:
                parts.changed()
        return {"replaced": work.done[:12], "times": len(work.done)} if work.done else {}

    return apply
