"""The lines of a tree: text between blocks and breaks, however the page is built.

Some sources set paragraphs in ``p``, others in ``div``, others separate them by breaks, and many wrap the whole in
further elements. A line is what a reader sees as one in each of these.
"""

from collections.abc import Iterator
from dataclasses import dataclass

from lxml.html import HtmlElement

from glyptarch_core.text.markup import BLOCKS, UNSEEN, gather_text

__all__ = ["Line", "lines_of"]

_PARTING = frozenset({"br", "hr"})
_CELLS = frozenset({"td", "th"})


@dataclass(frozen=True, slots=True)
class Line:
    """A run of text and inline elements inside ``holder``, after its child ``before``.

    None means the start of ``holder``. Remove the last of several lines first, because a line is identified by the node
    before it.
    """

    holder: HtmlElement
    before: HtmlElement | None
    inline: tuple[HtmlElement, ...]
    raw: str
    """The text as the markup has it, spaces included."""

    @property
    def text(self) -> str:
        """The text as a reader sees it."""
        return " ".join(self.raw.split())

    def remove(self, root: HtmlElement) -> None:
        """Remove the line, one adjacent break, and elements left empty."""
        after = self._following()
        self._set_text(None)
        for element in self.inline:
            self.holder.remove(element)
        if after is not None and after.tag == "br":
            self._set_text(after.tail)
            self.holder.remove(after)
        elif self.before is not None and self.before.tag == "br":
            self.holder.remove(self.before)
        _remove_empty(self.holder, root)

    def remove_after(self, root: HtmlElement) -> None:
        """Remove everything after the line."""
        first = self._following()
        if first is not None:
            for element in [first, *first.itersiblings()]:
                self.holder.remove(element)
        for element in _upwards(self.holder, root):
            for sibling in list(element.itersiblings()):
                element.getparent().remove(sibling)
            element.tail = None

    def remove_before(self, root: HtmlElement) -> None:
        """Remove everything before the line. The line itself then needs a new object."""
        if self.before is not None:
            self.holder.text = self.before.tail
            for element in [*self.before.itersiblings(preceding=True), self.before]:
                self.holder.remove(element)
        for element in _upwards(self.holder, root):
            for sibling in list(element.itersiblings(preceding=True)):
                element.getparent().remove(sibling)
            element.getparent().text = None

    def _following(self) -> HtmlElement | None:
        """Return the block or break that ends the line."""
        last = self.inline[-1] if self.inline else self.before
        return last.getnext() if last is not None else next(self.holder.iterchildren(), None)

    def _set_text(self, text: str | None) -> None:
        """Set what the line begins with."""
        if self.before is None:
            self.holder.text = text
        else:
            self.before.tail = text


def _upwards(element: HtmlElement, root: HtmlElement) -> Iterator[HtmlElement]:
    while element is not root:
        yield element
        element = element.getparent()


def _remove_empty(element: HtmlElement, root: HtmlElement) -> None:
    for holder in list(_upwards(element, root)):
        # A row keeps empty cells, or the following ones would move to another column.
        if len(holder) or (holder.text or "").strip() or holder.tag in _CELLS:
            return
        if _runs_on(holder):
            holder.tag = "br"
            holder.attrib.clear()
            return
        holder.drop_tree()


def _runs_on(block: HtmlElement) -> bool:
    """Whether the lines before and after a block would become one without it."""
    before, after = block.getprevious(), block.getnext()
    text = (before.tail if before is not None else block.getparent().text) or ""
    begins = bool(text.strip()) or (before is not None and not _parts(before))
    return begins and (bool((block.tail or "").strip()) or (after is not None and not _parts(after)))


def _parts(element: HtmlElement) -> bool:
    """Whether an element ends the line before it: a block, a break, or one containing them."""
    return element.tag in BLOCKS or (len(element) > 0 and next(element.iter(*BLOCKS), None) is not None)


def lines_of(root: HtmlElement) -> Iterator[Line]:
    """Yield the lines in text order, without empty ones."""
    before: HtmlElement | None = None
    inline: list[HtmlElement] = []
    pieces = [root.text or ""]

    def line() -> Iterator[Line]:
        raw = "".join(pieces) if len(pieces) > 1 else pieces[0]
        if raw and not raw.isspace():
            yield Line(root, before, tuple(inline), raw)

    for child in root:
        if child.tag in UNSEEN or not _parts(child):
            inline.append(child)
            if child.tag not in UNSEEN:
                gather_text(child, pieces, verbatim=False)
            pieces.append(child.tail or "")
            continue
        yield from line()
        if child.tag not in _PARTING:
            yield from lines_of(child)
        before, inline, pieces = child, [], [child.tail or ""]
    yield from line()
