"""Rewording by tables of synonyms of the blog."""

from collections.abc import Iterable, Mapping, Sequence
from typing import Literal, Self

from lxml.html import HtmlElement
from pydantic import Field

from glyptarch_core.editions import Synonym, Synonyms, read_synonym, same_runs
from glyptarch_core.item import Captured, Right
from glyptarch_core.ports import BlogContext, TableRow
from glyptarch_core.settings import LibraryKey
from glyptarch_core.shape.base import Draftable, Step, TextStepBase
from glyptarch_core.shape.replace import ReplaceIn
from glyptarch_core.text.slots import VERBATIM, Change, Slot, put_in, text_runs
from glyptarch_core.trace import Json

__all__ = ["Reword", "compile_reword"]

_QUOTED = frozenset({"blockquote", "q", "cite", "a"}) | VERBATIM
_HEADINGS = frozenset({"h1", "h2", "h3", "h4", "h5", "h6"})
_SHOWN = 12


class Reword(TextStepBase):
    """Reword a text by synonyms, in at most ``percent`` of its words.

    A line of the tables is a word with its forms (``walk/walks/walked``) and what can stand for it
    (``stroll/strolls/strolled | amble/ambles/ambled``). Names, quotations, links and code stay, and headings unless
    ``headings`` asks for them. What its source allows to link only is not reworded.
    """

    kind: Literal["reword"] = "reword"
    tables: tuple[LibraryKey, ...] = Field(min_length=1, max_length=20)
    percent: int = Field(default=20, ge=1, le=100)
    where: ReplaceIn = ReplaceIn.BODY
    headings: bool = False

    @property
    def uses_tables(self) -> tuple[str, ...]:
        """Return the keys of the tables."""
        return self.tables

    def for_text(self) -> Self:
        """Return the step as it works on a text alone."""
        return self.model_copy(update={"where": ReplaceIn.BODY})


class _Work:
    """One pass of a step over one item: what it changes, and what has been changed."""

    def __init__(self, step: Reword, synonyms: Synonyms, captured: Captured, language: str) -> None:
        self._synonyms, self._language = synonyms, captured.language or language
        self._seed, self._share = captured.features.identity_key, step.percent / 100
        self._spared = _QUOTED if step.headings else _QUOTED | _HEADINGS
        self.done: list[str] = []

    def title(self, title: str) -> str:
        """Return a title in other words."""
        found = self._changes(title, "title")
        self._note(title, found)
        for begin, end, new in reversed(found):
            title = title[:begin] + new + title[end:]
        return title

    def body(self, root: HtmlElement) -> bool:
        """Reword a body in place. Return whether a word has changed."""
        before = len(self.done)
        for number, run in enumerate(text_runs(root)):
            if all(slot.within.isdisjoint(self._spared) for slot in run):
                self._put(run, str(number))
                continue
            # Words around a link are reworded, those in it are not.
            for place, slot in enumerate(run):
                if slot.within.isdisjoint(self._spared):
                    self._put([slot], f"{number} {place}")
        return len(self.done) > before

    def _put(self, run: Sequence[Slot], name: str) -> None:
        text = "".join(slot.text for slot in run)
        self._note(text, put_in(run, self._changes(text, name)))

    def _changes(self, text: str, name: str) -> list[Change]:
        seed = f"{self._seed} {name}"
        return self._synonyms.changes(text, language=self._language, seed=seed, share=self._share)

    def _note(self, text: str, made: Sequence[Change]) -> None:
        self.done += [f"{text[begin:end]} → {new}" for begin, end, new in made]


def _read(rows: Iterable[TableRow]) -> tuple[list[Synonym], list[Json]]:
    """Return the synonyms of the rows of tables, and what is wrong with rows that have none."""
    lines: list[Synonym] = []
    unread: list[Json] = []
    for row in rows:
        try:
            lines.append(read_synonym(row.what, row.by))
        except ValueError as error:
            unread.append(str(error))
    return lines, unread


def compile_reword(step: Reword, context: BlogContext) -> Step:
    """Read the tables once."""
    lines, unread = _read(row for key in step.tables for row in context.tables.get(key, ()))
    synonyms = Synonyms(lines)
    told: Mapping[str, Json] = {"unread": unread[:3]} if unread else {}

    def apply(parts: Draftable, captured: Captured) -> Mapping[str, Json]:
        if captured.source.rights.right is Right.LINK:
            return {"spared": "rights"}
        work, before = _Work(step, synonyms, captured, context.language), parts.passage.text
        if step.where is not ReplaceIn.BODY:
            parts.title = work.title(parts.title)
        if step.where is not ReplaceIn.TITLE and work.body(parts.root):
            parts.changed()
        if not work.done:
            return told
        parts.reworded = True
        same = round(100 * same_runs(parts.passage.text, before))
        return {"replaced": list(work.done[:_SHOWN]), "times": len(work.done), "same": same, **told}

    return apply
