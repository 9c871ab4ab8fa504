"""One campaign document, compiled for one pass: what each stage does to one item."""

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from typing import Any

from glyptarch_core.campaign import BodyFrom, CampaignDocument, GatherSettings
from glyptarch_core.draft import Draft, Visibility
from glyptarch_core.errors import TemplateError
from glyptarch_core.item import Captured, Right
from glyptarch_core.language_services import Texts
from glyptarch_core.outside import OutsideTexts
from glyptarch_core.place import Calendar, Canonical, DateFrom, Placed, compile_place
from glyptarch_core.ports import BlogContext, Memory
from glyptarch_core.release import (
    Finished,
    Gate,
    PostTexts,
    Released,
    ReleaseMode,
    allow,
    compile_holds,
    release,
)
from glyptarch_core.reuse import MOST_TEXTS, Kept, Reuse, remembered
from glyptarch_core.shape import Shaped, compile_shape
from glyptarch_core.sift import Sifted, compile_sift
from glyptarch_core.trace import Decision, Json, Note, Stage, Verdict, speaks_against

__all__ = ["CampaignPass", "ShapedItem", "leaves"]


def leaves(captured: Captured, stage: Stage, trace: Sequence[Note], verdict: Verdict = Verdict.REFUSED) -> Decision:
    """Return the decision of an item that leaves at a stage."""
    return Decision(captured=captured, verdict=verdict, left_at=stage, trace=tuple(trace), draft=None)


_GATHER_KEYS = {body: f"gather {body}" for body in BodyFrom}


class _Sources:
    """The sources of a campaign: named ones, and all with one of its labels."""

    def __init__(self, settings: GatherSettings) -> None:
        self._named, self._labels = frozenset(settings.sources), frozenset(settings.labels)

    def __contains__(self, captured: object) -> bool:
        """Whether the source of an item belongs to the campaign."""
        if not isinstance(captured, Captured):
            return False
        return captured.item.source in self._named or not self._labels.isdisjoint(captured.source.labels)


def _gather(
    captured: Captured, settings: GatherSettings, sources: _Sources, now: datetime, results: dict[str, Any]
) -> Note:
    key = _GATHER_KEYS[settings.body]
    gathered: Note | None = results.get(key)
    if gathered is None:
        gathered = results[key] = _gathered(captured, settings)
    if captured not in sources:
        return replace(gathered, code="gather.other_source", against=True)
    if settings.look_back_days and captured.dated < now - timedelta(days=settings.look_back_days):
        data = {**gathered.data, "look_back_days": settings.look_back_days}
        return replace(gathered, code="gather.too_far_back", against=True, data=data)
    if settings.not_before and captured.dated.astimezone(UTC).date() < settings.not_before:
        data = {**gathered.data, "not_before": settings.not_before.isoformat()}
        return replace(gathered, code="gather.too_early", against=True, data=data)
    return gathered


def _gathered(captured: Captured, settings: GatherSettings) -> Note:
    body = body_of(captured, settings)
    data: dict[str, Json] = {
        "words": captured.features.words,
        "pictures": captured.pictures,
        "body": "full" if body is captured.item.body else "summary",
        "dated": captured.dated.isoformat(),
        "has_date": captured.item.published is not None,
    }
    if captured.item.page:
        data["page"] = captured.item.page
    return Note(stage=Stage.GATHER, code="gathered", data=data)


def body_of(captured: Captured, settings: GatherSettings) -> str:
    """Return the HTML that Shape starts from.

    It is the full text or the summary, each in place of a missing other.
    """
    item = captured.item
    first, second = (item.body, item.summary) if settings.body is BodyFrom.FULL else (item.summary, item.body)
    return first or second


def _template_fault(fault: TemplateError) -> Note:
    data = {"message": str(fault), "line": fault.line, "column": fault.column}
    return Note(stage=Stage.SHAPE, code="shape.template_failed", against=True, data=data)


def _waits(shaped: Shaped) -> Note:
    blocks = {ask.key: len(ask.text) for ask in shaped.asks}
    data: dict[str, Json] = {"blocks": len(blocks), "characters": sum(blocks.values())}
    data["services"] = sorted({ask.services[0] for ask in shaped.asks})
    return Note(stage=Stage.SHAPE, code="shape.waits", against=True, data=data)


@dataclass(frozen=True, slots=True)
class ShapedItem:
    """A shaped item, with its trace so far and the notes that ask for review."""

    captured: Captured
    kept: Kept
    shaped: Shaped
    trace: tuple[Note, ...]
    held_by: tuple[Note, ...]


# The share of the characters of a text from which on a post is a copy of it.
_COPIED = 0.6
_TAG = re.compile(r"<[^<>]*>")
_LAYOUT_CHANGED = Note(stage=Stage.RELEASE, code="hold.layout_changed", against=True)


@dataclass(frozen=True, slots=True)
class _Ending:
    """The results of Place and Release for an item, with the parts of the item they depend on."""

    shaped: Shaped
    held_by: tuple[Note, ...]
    trace: tuple[Note, ...]
    now: datetime
    verdict: Verdict
    notes: tuple[Note, ...]
    draft: Draft


class CampaignPass:
    """One campaign document compiled for one pass at one time.

    ``posts_made`` counts posts of the run before this pass.
    """

    def __init__(
        self,
        document: CampaignDocument,
        memory: Memory,
        now: datetime,
        *,
        reuse: Reuse,
        context: BlogContext,
        posts_made: int,
    ) -> None:
        self._document = document
        self._sources = _Sources(document.gather)
        self._now = now
        self._reuse = reuse
        used = [context.lists.get(key, ()) for step in document.shape.steps for key in step.uses_lists]
        tables = [context.tables.get(key, ()) for key in sorted(document.uses_tables)]
        self._shape_key = f"shape {document.gather.body} {document.shape.model_dump_json()} {used} {tables}"
        self._sift = compile_sift(document.sift.rules, context.lists)
        self.texts = Texts(OutsideTexts(context.texts))
        self._shape = compile_shape(document.shape, context, self.texts)
        if document.uses_services:
            self._shape_key += f" {self.texts.stamp} {context.language}"
        place, settings = document.place, document.release
        # Only the scheduled mode publishes posts at a date in the future.
        ahead = settings.mode is ReleaseMode.SCHEDULED
        calendar = Calendar(place.date, place.dates, memory, now)
        self._place = compile_place(place, context, calendar, may_be_ahead=ahead)
        self._holds = compile_holds(settings.hold_when)
        self._gate = Gate(settings.at_most, settings.pace, memory, now, posts_made=posts_made, may_wait=not ahead)
        # Where no date depends on earlier posts, an unchanged item ends as it did before.
        self._ends_alike = settings.pace is None and not calendar.is_in_order
        self._end_key = f"end {place.model_dump_json()} {settings.model_dump_json()} {context.stamp}"
        self._keeps_dates = place.date is DateFrom.ORIGINAL and not ahead
        self._place_looks_at_trace = any(rule.looks_at_trace for rule in (*place.category_rules, *place.tag_rules))

    def before_match(self, captured: Captured) -> tuple[list[Note], Sifted | None]:
        """Gather and sift one item.

        No Sift result where it left at Gather.
        """
        kept = self._reuse.of(captured)
        gathered = _gather(captured, self._document.gather, self._sources, self._now, kept.results)
        if gathered.against:
            return [gathered], None
        sifted = self._sift(captured, self._now, kept)
        return [gathered, *sifted.notes], sifted

    def shape(self, captured: Captured, trace: Sequence[Note], *, again: bool = False) -> ShapedItem | Decision:
        """Shape one item, ``again`` where language services have answered since.

        Return its decision where it leaves here. One whose texts are not there yet has what it asks for in it.
        """
        kept = self._reuse.of(captured)
        if again:
            kept.shapes.pop(self._shape_key, None)
        try:
            shaped = kept.shaped(
                self._shape_key, lambda: self._shape(captured, body_of(captured, self._document.gather))
            )
        except TemplateError as fault:
            return leaves(captured, Stage.SHAPE, [*trace, _template_fault(fault)])
        whole = (*trace, *shaped.notes)
        held_by = tuple([note for note in whole if note.against]) if speaks_against(whole) else ()
        if shaped.asks:
            return replace(leaves(captured, Stage.SHAPE, [*whole, _waits(shaped)], Verdict.WAITING), asks=shaped.asks)
        if shaped.empty:
            return leaves(captured, Stage.SHAPE, whole)
        return ShapedItem(captured, kept, shaped, whole, held_by)

    def end(self, item: ShapedItem) -> Decision:
        """Place and release one item. Called in the order in which posts are to be taken."""
        captured = item.captured
        full = self._gate.full()
        if full is not None:
            note = Note(stage=Stage.RELEASE, code="release.full", against=True, data=full)
            return leaves(captured, Stage.RELEASE, [*item.trace, note], Verdict.WAITING)
        ending = self._ending(item)
        self._gate.made()
        trace = item.trace + ending.notes
        return Decision(captured=captured, verdict=ending.verdict, left_at=None, trace=trace, draft=ending.draft)

    def _ending(self, item: ShapedItem) -> _Ending:
        """Return what Place and Release make of an item.

        The result of the last pass is reused where nothing changed.
        """
        if not self._ends_alike:
            return self._end(item)
        endings = item.kept.endings
        last_ending = endings.get(self._end_key)
        if isinstance(last_ending, _Ending) and self._still_holds(last_ending, item):
            return last_ending
        ending = self._end(item)
        endings.pop(self._end_key, None)
        remembered(endings, self._end_key, lambda: ending, most=MOST_TEXTS)
        return ending

    def _still_holds(self, ending: _Ending, item: ShapedItem) -> bool:
        same_time = ending.now == self._now or (
            # A date in the past stays the same in a later pass.
            self._keeps_dates and item.captured.dated <= min(ending.now, self._now)
        )
        same_trace = not self._place_looks_at_trace or ending.trace == item.trace
        return same_time and same_trace and ending.shaped is item.shaped and ending.held_by == item.held_by

    def _end(self, item: ShapedItem) -> _Ending:
        captured, shaped = item.captured, item.shaped
        placed = self._place(captured, item.trace, item.kept.results)
        allowed = allow(
            captured.source.rights,
            captured.item,
            captured.features,
            PostTexts(
                title=shaped.title,
                body=shaped.body,
                excerpt=shaped.excerpt,
                description=shaped.description,
                address=shaped.address,
                fields=shaped.fields,
                lead=shaped.lead,
                spare_leads=shaped.spare_leads,
                tags=placed.tags,
                withheld=shaped.withheld,
            ),
        )
        holds = self._holds(
            Finished(
                title=allowed.texts.title,
                body=allowed.texts.body,
                excerpt=allowed.texts.excerpt,
                lead=allowed.texts.lead,
                categories=placed.categories,
                fell_back=placed.fell_back,
                unread_fields=shaped.unread_fields,
            )
        )
        doubts = [_LAYOUT_CHANGED] if captured.source.in_doubt else []
        held_by = [*item.held_by, *(note for note in holds if note.against), *doubts]
        settings, language = self._document.release, shaped.language or placed.language
        editions = settings.editions_of(language, captured.source.rights.right) if settings.together else ()
        released = release(settings.mode, held_by, date=placed.date, now=self._now, gate=self._gate, waits_for=editions)
        return _Ending(
            shaped=shaped,
            held_by=item.held_by,
            trace=item.trace,
            now=self._now,
            verdict=released.verdict,
            notes=(*placed.notes, allowed.note, *self._copy_notes(captured), *holds, *doubts, released.note),
            draft=self._draft(item, placed, allowed.texts, released),
        )

    def _leads_to_original(self, item: ShapedItem, texts: PostTexts) -> bool:
        """Whether search engines are told that the page of the source is the original."""
        canonical = self._document.place.canonical
        if canonical is not Canonical.COPIED:
            return canonical is Canonical.ORIGINAL
        theirs = len(item.captured.features.text.text)
        return not item.shaped.own_words and theirs > 0 and len(_TAG.sub("", texts.body)) >= _COPIED * theirs

    def _copy_notes(self, captured: Captured) -> tuple[Note, ...]:
        copies = self._document.shape.copies
        if not (copies.pictures or copies.recordings):
            return ()
        code = "copies.made" if captured.source.rights.right is Right.FULL else "copies.not_allowed"
        data = {"pictures": copies.pictures, "recordings": copies.recordings}
        return (Note(stage=Stage.RELEASE, code=code, data=data),)

    def _draft(self, item: ShapedItem, placed: Placed, texts: PostTexts, released: Released) -> Draft:
        settings, captured, shaped = self._document.place, item.captured, item.shaped
        copies = self._document.shape.copies
        may_copy = captured.source.rights.right is Right.FULL
        private = released.verdict is Verdict.PRIVATE
        return Draft(
            title=texts.title,
            body=texts.body,
            excerpt=texts.excerpt,
            lead=texts.lead,
            address=texts.address,
            description=texts.description,
            fields=texts.fields,
            categories=placed.categories,
            branches=placed.branches,
            tags=texts.tags,
            byline=placed.byline,
            date=released.date,
            link=captured.item.link,
            language=shaped.language or placed.language,
            attribution=captured.source.rights.attribution,
            kind=settings.kind,
            comments=settings.comments,
            pinned=settings.pinned,
            visibility=Visibility.PRIVATE if private else settings.visibility,
            pass_phrase=settings.pass_phrase if settings.visibility is Visibility.PHRASE and not private else "",
            canonical=captured.item.link if self._leads_to_original(item, texts) else "",
            spare_leads=texts.spare_leads if texts.lead else (),
            copies_pictures=copies.pictures and may_copy,
            copies_recordings_mb=copies.most_mb if copies.recordings and may_copy else 0,
        )
