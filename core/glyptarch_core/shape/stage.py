"""The stage itself: body, steps, lead picture, excerpt, templates, sanitising."""

import re
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Self

from pydantic import AfterValidator, Field, model_validator

from glyptarch_core.draft import FieldValue
from glyptarch_core.editions import summary
from glyptarch_core.item import Captured, Media, MediaOrigin
from glyptarch_core.language_services import Ask, Texts
from glyptarch_core.offers import without_places
from glyptarch_core.ports import BlogContext
from glyptarch_core.settings import Settings
from glyptarch_core.shape.base import Draftable, TextStepBase
from glyptarch_core.shape.copies import CopySettings
from glyptarch_core.shape.fields import CustomField, Filled, compile_fields
from glyptarch_core.shape.finishing import code_of, compile_finishing, is_for_body
from glyptarch_core.shape.frames import with_links_for_frames
from glyptarch_core.shape.lead import LeadSettings, lead_choices, take_out_picture
from glyptarch_core.shape.registry import COMPILERS, ShapeStep
from glyptarch_core.shape.templates import compile_template, field_values, names_in, parses, variables
from glyptarch_core.source_words import TemplateWords
from glyptarch_core.text import Unit, clean_line, clean_text, count_words, cut, plain_text, sanitise
from glyptarch_core.trace import Json, Note, Stage

__all__ = [
    "TEMPLATE_PARTS",
    "ExcerptChoice",
    "ExcerptFrom",
    "ExcerptSettings",
    "ShapeSettings",
    "Shaped",
    "begun",
    "compile_shape",
]

_HOLDS_MEDIA = re.compile(r"<(?:img|video|audio) ")
_LONGEST_TITLE = 300
_LONGEST_DESCRIPTION = 500
_SPARE_LEADS = 3

PlainTemplate = Annotated[str, AfterValidator(lambda source: parses(source, html=False))]
HtmlTemplate = Annotated[str, AfterValidator(lambda source: parses(source, html=True))]


TEMPLATE_PARTS = ("excerpt_text", "title", "body", "address", "description")
"""The parts of a post that a template makes, beside the fields."""


class ExcerptFrom(StrEnum):
    """The text that an excerpt is cut from.

    Each falls back to the other when it is empty.
    """

    TEXT = "text"
    SUMMARY = "summary"


class ExcerptChoice(StrEnum):
    """Which sentences an excerpt has: the first, or the most telling (``editions/summary.py``)."""

    FIRST = "first"
    TELLING = "telling"


class ExcerptSettings(Settings):
    """The length of the excerpt. The most telling sentences are counted in words or sentences."""

    taken_from: ExcerptFrom = ExcerptFrom.TEXT
    choice: ExcerptChoice = ExcerptChoice.FIRST
    unit: Unit = Unit.SENTENCES
    count: int = Field(default=3, ge=1, le=1000)
    ellipsis: str = Field(default="…", max_length=20)

    @model_validator(mode="after")
    def _can_be_counted(self) -> Self:
        if self.choice is ExcerptChoice.TELLING and self.unit not in {Unit.WORDS, Unit.SENTENCES}:
            raise ValueError("the most telling sentences are counted in words or sentences")
        return self


class ShapeSettings(Settings):
    """The steps in order, and the templates of a post's parts.

    ``excerpt_text`` is rendered first, then the fields, then the other texts. ``address`` is the last part of the
    post's address; ``description`` is for search engines. ``characters_a_day`` limits what language services get on a
    day (UTC), for steps and for editions.
    """

    steps: tuple[ShapeStep, ...] = ()
    lead: LeadSettings = LeadSettings()
    copies: CopySettings = CopySettings()
    excerpt: ExcerptSettings = ExcerptSettings()
    excerpt_text: PlainTemplate = "{{ excerpt }}"
    fields: tuple[CustomField, ...] = Field(default=(), max_length=50)
    title: PlainTemplate = "{{ title }}"
    body: HtmlTemplate = "{{ body }}"
    address: PlainTemplate = "{{ title }}"
    description: PlainTemplate = "{{ excerpt }}"
    characters_a_day: int | None = Field(default=None, ge=1, le=1_000_000_000)

    @model_validator(mode="after")
    def _names_are_unique(self) -> Self:
        twice = [name for name, times in Counter(field.name for field in self.fields).items() if times > 1]
        if twice:
            raise ValueError(f"two fields are named “{twice[0]}”")
        return self

    @model_validator(mode="after")
    def _fields_are_there(self) -> Self:
        names = {f"fields.{field.name}" for field in self.fields}
        texts = (step.of for step in self.steps if isinstance(step, TextStepBase))
        missing = next((of for of in texts if of.startswith("fields.") and of not in names), None)
        if missing is not None:
            raise ValueError(f"a step works on the field “{missing.removeprefix('fields.')}”, which is not there")
        return self

    def templates(self) -> dict[str, str]:
        """Return every template by the name of its part."""
        named = {name: str(getattr(self, name)) for name in TEMPLATE_PARTS}
        return named | {f"fields.{field.name}": field.value for field in self.fields if field.on}


@dataclass(frozen=True, slots=True, kw_only=True)
class Shaped:
    """The texts and picture of a post.

    ``spare_leads`` replace a lead that cannot be fetched, in order. ``withheld`` says whether templates got less than
    the item has. ``language`` is that of a translation, ``asks`` are what language services have not answered yet.
    """

    title: str
    body: str
    excerpt: str
    lead: Media | None
    notes: tuple[Note, ...]
    empty: bool
    address: str
    description: str
    fields: tuple[FieldValue, ...]
    unread_fields: tuple[str, ...]
    spare_leads: tuple[Media, ...] = ()
    withheld: bool = False
    language: str = ""
    # Whether a step has translated or reworded it.
    own_words: bool = False
    asks: tuple[Ask, ...] = ()


def begun(captured: Captured, body: str, texts: Texts | None = None) -> Draftable:
    """Return the parts as in the item, with the visible text known since its capture."""
    item, features = captured.item, captured.features
    body = without_places(body)
    framed, words = with_links_for_frames(body, item.link), TemplateWords.of(captured)
    if framed.hosts:
        return Draftable(title=item.title, body=framed.html, frames=framed.hosts, words=words, texts=texts)
    passage = features.text if body == item.body else features.summary if body == item.summary else None
    return Draftable(title=item.title, body=framed.html, passage=passage, words=words, texts=texts)


def _blocks(settings: ExcerptSettings, captured: Captured, parts: Draftable) -> tuple[list[str], str]:
    texts = {"text": parts.passage.text, "summary": captured.features.summary.text}
    first, second = ("text", "summary") if settings.taken_from is ExcerptFrom.TEXT else ("summary", "text")
    chosen = first if texts[first] else second
    return texts[chosen].split("\n"), chosen


def _excerpt(blocks: list[str], settings: ExcerptSettings, language: str) -> str:
    unit, count, ellipsis = settings.unit, settings.count, settings.ellipsis
    if settings.choice is ExcerptChoice.TELLING and any(blocks):
        return " ".join(summary(blocks, unit=unit, count=count, language=language, ellipsis=ellipsis))
    return cut(blocks, unit=unit, count=count, ellipsis=ellipsis, language=language)


def compile_shape(
    settings: ShapeSettings, context: BlogContext, texts: Texts | None = None
) -> Callable[[Captured, str], Shaped]:
    """Compile steps and templates into one function over an item and the HTML of its body.

    ``texts`` are the answers of language services that are known.
    """
    steps = [(step, COMPILERS[type(step)](step, context)) for step in settings.steps if step.on and is_for_body(step)]
    finishing = compile_finishing(settings.steps, context)
    fill = compile_fields(settings.fields)
    pool = context.pictures.get(settings.lead.pool, ())
    text_of = {name: compile_template(getattr(settings, name), html=name == "body") for name in TEMPLATE_PARTS}
    used = frozenset[str]().union(*(names_in(template) for template in settings.templates().values()))

    def shape(captured: Captured, body: str) -> Shaped:
        notes: list[Note] = []
        parts = begun(captured, body, texts)
        if parts.frames:
            notes.append(Note(stage=Stage.SHAPE, code="shape.frames", data={"hosts": list(parts.frames)}))
        for step, apply in steps:
            changed = apply(parts, captured)
            note = Note(
                stage=Stage.SHAPE,
                rule=step.id,
                rule_title=step.title,
                code=code_of(step.kind, changed),
                # A text that no service could change as it should is for a person to see.
                against="kept" in changed,
                data=changed,
            )
            notes.append(note)
        choices, too_small = lead_choices(settings.lead, captured, pool)
        lead = choices[0] if choices else None
        if lead is not None and settings.lead.take_out_of_body:
            take_out_picture(parts, lead.url)
        notes.append(_lead_note(lead, too_small))
        blocks, taken_from = _blocks(settings.excerpt, captured, parts)
        excerpt = _excerpt(blocks, settings.excerpt, parts.language or captured.language)
        values = variables(captured, parts, used, excerpt=excerpt, lead=lead)
        finish = finishing(captured, parts, notes)
        values["excerpt"] = excerpt = finish("excerpt", clean_text(text_of["excerpt_text"](values)).strip())
        notes.append(Note(stage=Stage.SHAPE, code="excerpt", data={"from": taken_from, "words": count_words(excerpt)}))
        filled = fill(values, finish)
        if settings.fields:
            notes.append(_fields_note(filled))
            values["fields"] = field_values(filled.values)
        withheld = parts.words is not None and parts.words.withheld
        # What the rights leave of a template may be nothing; the title of the source may always be carried.
        title = finish("title", plain_text_line(text_of["title"](values)))
        title = plain_text_line(title) or (plain_text_line(values["title"]) if withheld else "")
        # A step may have reworded the excerpt or the title.
        values["reworded"] = parts.reworded or None
        values["translated"] = parts.translated or None
        html = sanitise(clean_text(text_of["body"](values)))
        shows = (
            excerpt
            or plain_text(html)
            or _HOLDS_MEDIA.search(html)
            or (lead and lead.origin is not MediaOrigin.BLOG)
            or withheld
        )
        empty = not title or not shows
        if empty:
            notes.append(Note(stage=Stage.SHAPE, code="shape.empty", against=True, data={"title": bool(title)}))
        return Shaped(
            title=title,
            body=html,
            excerpt=excerpt,
            lead=lead,
            notes=tuple(notes),
            empty=empty,
            address=plain_text_line(text_of["address"](values)),
            description=clean_line(finish("description", text_of["description"](values).strip()), _LONGEST_DESCRIPTION),
            fields=filled.values,
            unread_fields=tuple(filled.unread),
            spare_leads=tuple(choices[1 : 1 + _SPARE_LEADS]),
            withheld=withheld,
            language=parts.language,
            own_words=parts.translated or parts.reworded,
            asks=tuple(parts.asks),
        )

    return shape


def plain_text_line(text: str) -> str:
    """Return a title on one line, within the limit of post titles."""
    return clean_line(text, _LONGEST_TITLE)


def _lead_note(lead: Media | None, too_small: int) -> Note:
    if lead is None:
        return Note(stage=Stage.SHAPE, code="lead.none", data={"too_small": too_small})
    return Note(
        stage=Stage.SHAPE, code="lead", data={"url": lead.url, "from": lead.origin.value, "too_small": too_small}
    )


def _fields_note(filled: Filled) -> Note:
    data: dict[str, Json] = {
        "filled": [{"name": field.name, "value": str(field.value)[:200]} for field in filled.values],
        "unread": [{"name": name, "text": text} for name, text in filled.unread.items()],
    }
    return Note(stage=Stage.SHAPE, code="fields.unread" if filled.unread else "fields", data=data)
