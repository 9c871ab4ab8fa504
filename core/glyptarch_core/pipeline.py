"""The one way through: captured items in, decisions out.

The proof on the bench, the run, the replay, the command line and the tests all call
:func:`decide`. It is a function of its arguments alone.
"""

from collections.abc import Sequence
from datetime import datetime, timedelta

from glyptarch_core.campaign import BodyFrom, CampaignDocument, GatherSettings
from glyptarch_core.errors import TemplateError
from glyptarch_core.item import Captured
from glyptarch_core.match import Matched, match_batch
from glyptarch_core.place import place
from glyptarch_core.ports import Memory, WordLists
from glyptarch_core.release import allow, release
from glyptarch_core.reuse import Reuse, kept
from glyptarch_core.shape import compile_shape
from glyptarch_core.sift import Sifted, compile_sift
from glyptarch_core.trace import Decision, Draft, Note, Stage, Verdict

__all__ = ["decide"]


def _gather(captured: Captured, settings: GatherSettings, now: datetime) -> Note:
    body = _body(captured, settings)
    data = {
        "words": captured.features.words,
        "pictures": len(captured.item.media),
        "body": "full" if body is captured.item.body else "summary",
        "dated": captured.dated.isoformat(),
        "has_date": captured.item.published is not None,
    }
    if captured.item.source not in settings.sources:
        return Note(stage=Stage.GATHER, code="gather.other_source", against=True, data=data)
    if settings.look_back_days and captured.dated < now - timedelta(days=settings.look_back_days):
        data |= {"look_back_days": settings.look_back_days}
        return Note(stage=Stage.GATHER, code="gather.too_far_back", against=True, data=data)
    return Note(stage=Stage.GATHER, code="gathered", data=data)


def _body(captured: Captured, settings: GatherSettings) -> str:
    item = captured.item
    first, second = (item.body, item.summary) if settings.body is BodyFrom.FULL else (item.summary, item.body)
    return first or second


def _leaves(captured: Captured, stage: Stage, trace: Sequence[Note], verdict: Verdict = Verdict.REFUSED) -> Decision:
    return Decision(captured=captured, verdict=verdict, left_at=stage, trace=tuple(trace), draft=None)


def _template_fault(fault: TemplateError) -> Note:
    data = {"message": str(fault), "line": fault.line}
    return Note(stage=Stage.SHAPE, code="shape.template_failed", against=True, data=data)


class _Pass:
    """One campaign document compiled for one pass at one time."""

    def __init__(self, document: CampaignDocument, now: datetime, reuse: Reuse, lists: WordLists) -> None:
        self._document = document
        self._now = now
        self._reuse = reuse
        self._shape_key = f"shape {document.gather.body} {document.shape.model_dump_json()}"
        self._sift = compile_sift(document.sift.rules, lists)
        self._shape = compile_shape(document.shape)

    def before_match(self, captured: Captured) -> tuple[list[Note], Sifted | None]:
        """Gather and Sift one item; None where it already left at Gather."""
        gathered = _gather(captured, self._document.gather, self._now)
        if gathered.against:
            return [gathered], None
        sifted = self._sift(captured, self._now, self._reuse.of(captured))
        return [gathered, *sifted.notes], sifted

    def after_match(self, captured: Captured, trace: list[Note], held_by: Sequence[Note]) -> Decision:
        """Shape, place and release one item."""
        try:
            shaped = kept(
                self._reuse.of(captured),
                self._shape_key,
                lambda: self._shape(captured, _body(captured, self._document.gather)),
            )
        except TemplateError as fault:
            return _leaves(captured, Stage.SHAPE, [*trace, _template_fault(fault)])
        trace = [*trace, *shaped.notes]
        if shaped.empty:
            return _leaves(captured, Stage.SHAPE, trace)
        placed = place(captured, self._document.place, self._now)
        verdict, note = release(self._document.release, held_by)
        rights = captured.source.rights
        allowed = allow(rights, body=shaped.body, excerpt=shaped.excerpt, lead=shaped.lead)
        draft = Draft(
            title=shaped.title,
            body=allowed.body,
            excerpt=allowed.excerpt,
            lead=allowed.lead,
            category=placed.category,
            tags=placed.tags,
            byline=placed.byline,
            date=placed.date,
            link=captured.item.link,
            language=captured.item.language,
            attribution=rights.attribution,
        )
        trace += [placed.note, allowed.note, note]
        return Decision(captured=captured, verdict=verdict, left_at=None, trace=tuple(trace), draft=draft)


def decide(
    batch: Sequence[Captured],
    document: CampaignDocument,
    *,
    memory: Memory,
    now: datetime,
    reuse: Reuse | None = None,
    lists: WordLists | None = None,
) -> tuple[Decision, ...]:
    """Take captured items through the stages; give one decision for each, in the same order.

    ``memory`` is asked once for the whole batch; ``now`` is the time of the pass. With ``reuse``
    the results of earlier passes over the same items are taken up where they still hold.
    ``lists`` are the blog's word lists, by key.
    """
    this_pass = _Pass(document, now, reuse or Reuse(), lists or {})
    begun = [this_pass.before_match(captured) for captured in batch]
    passed = [
        (place, captured)
        for place, (captured, (_, sifted)) in enumerate(zip(batch, begun, strict=True))
        if sifted and not sifted.refused
    ]
    matched = match_batch(passed, document.match, memory=memory, now=now, sources=document.gather.sources)
    return tuple(
        _finish(this_pass, captured, trace, sifted, matched.get(place))
        for place, (captured, (trace, sifted)) in enumerate(zip(batch, begun, strict=True))
    )


def _finish(
    this_pass: _Pass, captured: Captured, trace: list[Note], sifted: Sifted | None, matched: Matched | None
) -> Decision:
    if sifted is None:
        return _leaves(captured, Stage.GATHER, trace)
    if sifted.refused or matched is None:
        return _leaves(captured, Stage.SIFT, trace)
    trace = [*trace, *matched.notes]
    if matched.duplicate:
        return _leaves(captured, Stage.MATCH, trace, Verdict.DUPLICATE)
    held_by = [note for note in trace if note.against]
    return this_pass.after_match(captured, trace, held_by)
