"""The texts of a tree one by one, in runs between blocks.

So a change of words leaves the markup as it is.
"""

from collections import deque
from collections.abc import Sequence
from dataclasses import dataclass
from typing import TypeAlias

from lxml.html import HtmlElement

from glyptarch_core.text.markup import BLOCKS

__all__ = ["VERBATIM", "Change", "Slot", "put_in", "text_runs"]

VERBATIM = frozenset({"pre", "code", "kbd", "samp"})
"""Elements whose text is shown as it is written."""


Change: TypeAlias = tuple[int, int, str]
"""Where a change begins and ends, in characters of a whole run, and the new text."""


@dataclass(frozen=True, slots=True)
class Slot:
    """A text in a tree: that at the beginning of an element, or that after it.

    ``within`` are the tags of the elements around it.
    """

    element: HtmlElement
    after: bool
    within: frozenset[str]

    @property
    def text(self) -> str:
        """The text, empty for none."""
        return (self.element.tail if self.after else self.element.text) or ""

    @property
    def verbatim(self) -> bool:
        """Whether it is shown as it is written."""
        return not self.within.isdisjoint(VERBATIM)

    def set(self, text: str) -> None:
        """Put another text in its place."""
        if self.after:
            self.element.tail = text
        else:
            self.element.text = text


def text_runs(root: HtmlElement) -> list[list[Slot]]:
    """Return the texts of a tree in order, grouped between blocks."""
    runs: list[list[Slot]] = [[]]

    def walk(element: HtmlElement, within: frozenset[str]) -> None:
        if element.text:
            runs[-1].append(Slot(element, after=False, within=within))
        for child in element:
            parts = child.tag in BLOCKS
            if parts:
                runs.append([])
            if isinstance(child.tag, str):
                walk(child, within | {child.tag})
            if parts:
                runs.append([])
            if child.tail:
                runs[-1].append(Slot(child, after=True, within=within))

    walk(root, frozenset())
    return [run for run in runs if run]


def put_in(run: Sequence[Slot], changes: Sequence[Change]) -> list[Change]:
    """Put texts in the place of others in a run.

    ``changes`` are in order and apart from each other. One that reaches over two slots is left out. Return those made.
    """
    made: list[Change] = []
    waiting = deque(changes)
    start = 0
    for slot in run:
        text, end = slot.text, start + len(slot.text)
        pieces, at = list[str](), 0
        while waiting and waiting[0][0] < end:
            begin, stop, new = waiting.popleft()
            if begin >= start and stop <= end:
                pieces += [text[at : begin - start], new]
                at = stop - start
                made.append((begin, stop, new))
        if pieces:
            slot.set("".join([*pieces, text[at:]]))
        start = end
    return made
