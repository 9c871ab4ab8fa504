"""The stage itself: body, steps, lead picture, excerpt, templates, sanitising."""

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated

from pydantic import AfterValidator, Field

from glyptarch_core.item import Captured, Media
from glyptarch_core.settings import Settings
from glyptarch_core.shape.base import Draftable
from glyptarch_core.shape.lead import LeadSettings, choose_lead, take_out_picture
from glyptarch_core.shape.registry import COMPILERS, ShapeStep
from glyptarch_core.shape.templates import compile_template, parses, variables
from glyptarch_core.text import Unit, cut, plain_text, sanitise
from glyptarch_core.trace import Note, Stage

__all__ = ["ExcerptFrom", "ExcerptSettings", "ShapeSettings", "Shaped", "compile_shape"]

_LONGEST_TITLE = 300


PlainTemplate = Annotated[str, AfterValidator(lambda source: parses(source, html=False))]
HtmlTemplate = Annotated[str, AfterValidator(lambda source: parses(source, html=True))]


class ExcerptFrom(StrEnum):
    """What an excerpt is cut from; each falls back to the other when it is empty."""

    TEXT = "text"
    SUMMARY = "summary"


class ExcerptSettings(Settings):
    """How long the excerpt is."""

    taken_from: ExcerptFrom = ExcerptFrom.TEXT
    unit: Unit = Unit.SENTENCES
    count: int = Field(default=3, ge=1, le=1000)
    ellipsis: str = Field(default="…", max_length=20)


class ShapeSettings(Settings):
    """The steps, in their order, and what the post is made of."""

    steps: tuple[ShapeStep, ...] = ()
    lead: LeadSettings = LeadSettings()
    excerpt: ExcerptSettings = ExcerptSettings()
    title: PlainTemplate = "{{ title }}"
    body: HtmlTemplate = "{{ body }}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Shaped:
    """The texts and picture of a post, or None where nothing is left to show."""

    title: str
    body: str
    excerpt: str
    lead: Media | None
    notes: tuple[Note, ...]
    empty: bool


def _begun(captured: Captured, body: str) -> Draftable:
    """Give the parts as the item has them; what a reader sees of its text is known since it was captured."""
    item, features = captured.item, captured.features
    passage = features.text if body == item.body else features.summary if body == item.summary else None
    return Draftable(title=item.title, body=body, passage=passage)


def _blocks(settings: ExcerptSettings, captured: Captured, parts: Draftable) -> tuple[list[str], str]:
    texts = {"text": parts.passage.text, "summary": captured.features.summary.text}
    first, second = ("text", "summary") if settings.taken_from is ExcerptFrom.TEXT else ("summary", "text")
    chosen = first if texts[first] else second
    return texts[chosen].split("\n"), chosen


def compile_shape(settings: ShapeSettings) -> Callable[[Captured, str], Shaped]:
    """Compile steps and templates into one function over an item and the HTML its body starts from."""
    steps = [(step, COMPILERS[type(step)](step)) for step in settings.steps if step.on]
    title_of = compile_template(settings.title, html=False)
    body_of = compile_template(settings.body, html=True)

    def shape(captured: Captured, body: str) -> Shaped:
        notes: list[Note] = []
        parts = _begun(captured, body)
        for step, apply in steps:
            changed = apply(parts, captured)
            code = f"step.{step.kind}" if changed else "step.nothing"
            notes.append(Note(stage=Stage.SHAPE, rule=step.id, code=code, data=changed))
        lead = choose_lead(settings.lead, captured)
        if lead is not None and settings.lead.take_out_of_body:
            take_out_picture(parts, lead.url)
        notes.append(_lead_note(lead))
        blocks, taken_from = _blocks(settings.excerpt, captured, parts)
        excerpt = cut(
            blocks, unit=settings.excerpt.unit, count=settings.excerpt.count, ellipsis=settings.excerpt.ellipsis
        )
        notes.append(Note(stage=Stage.SHAPE, code="excerpt", data={"from": taken_from, "words": len(excerpt.split())}))
        values = variables(captured, parts, excerpt=excerpt, lead=lead)
        title = plain_text_line(title_of(values))
        html = sanitise(body_of(values))
        empty = not title or not (excerpt or plain_text(html))
        if empty:
            notes.append(Note(stage=Stage.SHAPE, code="shape.empty", against=True, data={"title": bool(title)}))
        return Shaped(title=title, body=html, excerpt=excerpt, lead=lead, notes=tuple(notes), empty=empty)

    return shape


def plain_text_line(text: str) -> str:
    """Give a title on one line, at most as long as a post's title may be."""
    return " ".join(text.split())[:_LONGEST_TITLE]


def _lead_note(lead: Media | None) -> Note:
    if lead is None:
        return Note(stage=Stage.SHAPE, code="lead.none")
    return Note(stage=Stage.SHAPE, code="lead", data={"url": lead.url, "from": lead.origin.value})
