"""The one way through: captured items in, decisions out.

The proof on the bench, the run, the replay, the command line and the tests all call
:func:`decide`. It is a function of its arguments alone.
"""

from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import partial
from typing import TypeVar

from glyptarch_core.campaign import BodyFrom, CampaignDocument, GatherSettings
from glyptarch_core.draft import Draft, Visibility
from glyptarch_core.errors import TemplateError
from glyptarch_core.item import Captured
from glyptarch_core.match import Matched, match_batch
from glyptarch_core.place import Calendar, Placed, compile_place
from glyptarch_core.ports import BlogContext, Candidate, Key, Memory, Near, Reach, Seen
from glyptarch_core.release import (
    Finished,
    Gate,
    Released,
    ReleaseMode,
    Texts,
    allow,
    compile_holds,
    order_of,
    release,
)
from glyptarch_core.reuse import Reuse, kept
from glyptarch_core.shape import Shaped, compile_shape
from glyptarch_core.sift import Sifted, compile_sift
from glyptarch_core.text import clean_line
from glyptarch_core.trace import Decision, Json, Note, Stage, Verdict

__all__ = ["decide"]

_LONGEST_MESSAGE = 200
_Told = TypeVar("_Told")


def _gather(captured: Captured, settings: GatherSettings, now: datetime, results: dict[str, object]) -> Note:
    gathered = kept(results, f"gather {settings.body}", lambda: _gathered(captured, settings))
    if captured.item.source not in settings.sources:
        return replace(gathered, code="gather.other_source", against=True)
    if settings.look_back_days and captured.dated < now - timedelta(days=settings.look_back_days):
        data = {**gathered.data, "look_back_days": settings.look_back_days}
        return replace(gathered, code="gather.too_far_back", against=True, data=data)
    return gathered


def _gathered(captured: Captured, settings: GatherSettings) -> Note:
    body = _body(captured, settings)
    data = {
        "words": captured.features.words,
        "pictures": captured.pictures,
        "body": "full" if body is captured.item.body else "summary",
        "dated": captured.dated.isoformat(),
        "has_date": captured.item.published is not None,
    }
    return Note(stage=Stage.GATHER, code="gathered", data=data)


def _body(captured: Captured, settings: GatherSettings) -> str:
    item = captured.item
    first, second = (item.body, item.summary) if settings.body is BodyFrom.FULL else (item.summary, item.body)
    return first or second


def _leaves(captured: Captured, stage: Stage, trace: Sequence[Note], verdict: Verdict = Verdict.REFUSED) -> Decision:
    return Decision(captured=captured, verdict=verdict, left_at=stage, trace=tuple(trace), draft=None)


def _template_fault(fault: TemplateError) -> Note:
    data = {"message": str(fault), "line": fault.line, "column": fault.column}
    return Note(stage=Stage.SHAPE, code="shape.template_failed", against=True, data=data)


@dataclass(frozen=True, slots=True)
class _Formed:
    """An item that has been shaped, with its trace so far and what asked for a person's eye."""

    captured: Captured
    shaped: Shaped
    trace: list[Note]
    held_by: list[Note]


class _Pass:
    """One campaign document compiled for one pass at one time."""

    def __init__(
        self,
        document: CampaignDocument,
        memory: Memory,
        now: datetime,
        *,
        reuse: Reuse,
        context: BlogContext,
        made: int,
    ) -> None:
        self._document = document
        self._now = now
        self._reuse = reuse
        used = [context.lists.get(key, ()) for step in document.shape.steps for key in step.uses_lists]
        tables = [context.tables.get(key, ()) for key in sorted(document.uses_tables)]
        self._shape_key = f"shape {document.gather.body} {document.shape.model_dump_json()} {used} {tables}"
        self._sift = compile_sift(document.sift.rules, context.lists)
        self._shape = compile_shape(document.shape, context)
        settings = document.release
        # A post may lie ahead only where something will bring it out when its time comes.
        ahead = settings.mode is ReleaseMode.SCHEDULED
        calendar = Calendar(document.place.date, document.place.dates, memory, now)
        self._place = compile_place(document.place, context, calendar, may_be_ahead=ahead)
        self._holds = compile_holds(settings.hold_when)
        self._gate = Gate(settings.at_most, settings.pace, memory, now, made=made, may_wait=not ahead)

    def before_match(self, captured: Captured) -> tuple[list[Note], Sifted | None]:
        """Gather and Sift one item; None where it already left at Gather."""
        results = self._reuse.of(captured)
        gathered = _gather(captured, self._document.gather, self._now, results)
        if gathered.against:
            return [gathered], None
        sifted = self._sift(captured, self._now, results)
        return [gathered, *sifted.notes], sifted

    def shape(self, captured: Captured, trace: list[Note]) -> _Formed | Decision:
        """Shape one item; a decision where it leaves here."""
        held_by = [note for note in trace if note.against]
        try:
            shaped = self._reuse.shaped(
                captured,
                self._shape_key,
                lambda: self._shape(captured, _body(captured, self._document.gather)),
            )
        except TemplateError as fault:
            return _leaves(captured, Stage.SHAPE, [*trace, _template_fault(fault)])
        trace = [*trace, *shaped.notes]
        return _leaves(captured, Stage.SHAPE, trace) if shaped.empty else _Formed(captured, shaped, trace, held_by)

    def put_out(self, formed: _Formed) -> Decision:
        """Place and release one item. Called in the order in which posts are to be taken."""
        captured, shaped = formed.captured, formed.shaped
        full = self._gate.full()
        if full is not None:
            note = Note(stage=Stage.RELEASE, code="release.full", against=True, data=full)
            return _leaves(captured, Stage.RELEASE, [*formed.trace, note], Verdict.WAITING)
        placed = self._place(captured, formed.trace, self._reuse.of(captured))
        allowed = allow(
            captured.source.rights,
            captured.item,
            captured.features,
            Texts(
                title=shaped.title,
                body=shaped.body,
                excerpt=shaped.excerpt,
                description=shaped.description,
                address=shaped.address,
                fields=shaped.fields,
                lead=shaped.lead,
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
        held_by = [*formed.held_by, *(note for note in holds if note.against)]
        mode = self._document.release.mode
        released = release(mode, held_by, date=placed.date, now=self._now, gate=self._gate)
        trace = (*formed.trace, *placed.notes, allowed.note, *holds, released.note)
        draft = self._draft(formed, placed, allowed.texts, released)
        return Decision(captured=captured, verdict=released.verdict, left_at=None, trace=trace, draft=draft)

    def _draft(self, formed: _Formed, placed: Placed, texts: Texts, released: Released) -> Draft:
        item, settings = formed.captured.item, self._document.place
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
            tags=placed.tags,
            byline=placed.byline,
            date=released.date,
            link=item.link,
            language=placed.language,
            attribution=formed.captured.source.rights.attribution,
            kind=settings.kind,
            comments=settings.comments,
            pinned=settings.pinned,
            visibility=Visibility.PRIVATE if private else settings.visibility,
            pass_phrase=settings.pass_phrase if settings.visibility is Visibility.PHRASE and not private else "",
            canonical=placed.canonical,
        )


def decide(
    batch: Sequence[Captured],
    document: CampaignDocument,
    *,
    memory: Memory,
    now: datetime,
    reuse: Reuse | None = None,
    context: BlogContext | None = None,
    made: int = 0,
) -> tuple[Decision, ...]:
    """Take captured items through the stages; give one decision for each, in the same order.

    ``memory`` is asked a few times for the whole batch; ``now`` is the time of the pass. With
    ``reuse`` the results of earlier passes over the same items are taken up where they still
    hold. ``context`` is what the blog keeps; ``made`` is how many posts the run has made before.

    Whatever goes wrong with one item becomes its own decision. Raises only what ``memory`` raises.
    """
    outside = _Outside(memory)
    try:
        this_pass = _Pass(document, outside, now, reuse=reuse or Reuse(), context=context or BlogContext(), made=made)
        return _decide(batch, this_pass, document, outside, now)
    except _OutsideError as failed:
        raise failed.error from failed.error.__cause__


def _decide(
    batch: Sequence[Captured], this_pass: "_Pass", document: CampaignDocument, memory: Memory, now: datetime
) -> tuple[Decision, ...]:
    ended: dict[int, Decision] = {}
    begun: dict[int, tuple[list[Note], Sifted | None]] = {}
    for place, captured in enumerate(batch):
        with _alone(ended, place, captured):
            begun[place] = this_pass.before_match(captured)
    passed = [(place, batch[place]) for place, (_, sifted) in begun.items() if sifted and not sifted.refused]
    matched = _match(passed, ended, document, memory, now)
    formed: dict[int, _Formed] = {}
    for place, (trace, sifted) in begun.items():
        if place in ended:
            continue
        with _alone(ended, place, batch[place], trace):
            outcome = _until_shaped(this_pass, batch[place], trace, sifted, matched.get(place))
            if isinstance(outcome, Decision):
                ended[place] = outcome
            else:
                formed[place] = outcome
    order = order_of(document.release.order)
    for place in sorted(formed, key=lambda place: order(batch[place])):
        with _alone(ended, place, batch[place], formed[place].trace):
            ended[place] = this_pass.put_out(formed[place])
    return tuple(ended[place] for place in range(len(batch)))


def _match(
    passed: Sequence[tuple[int, Captured]],
    ended: dict[int, Decision],
    document: CampaignDocument,
    memory: Memory,
    now: datetime,
) -> dict[int, Matched]:
    """Compare the items with memory and with each other; each alone, where one of them spoils that."""
    compare = partial(match_batch, settings=document.match, memory=memory, now=now, sources=document.gather.sources)
    try:
        return compare(passed)
    except Exception:  # noqa: BLE001 - whatever is odd in one item
        matched: dict[int, Matched] = {}
        for place, captured in passed:
            with _alone(ended, place, captured):
                matched |= compare([(place, captured)])
        return matched


@contextmanager
def _alone(ended: dict[int, Decision], place: int, captured: Captured, trace: Sequence[Note] = ()) -> Iterator[None]:
    """Make whatever goes wrong with one item its own decision: it leaves at Shape, and the pass goes on."""
    try:
        yield
    except Exception as error:  # noqa: BLE001 - whatever is odd in one item, the others are decided
        data: dict[str, Json] = {"error": type(error).__name__, "message": clean_line(str(error), _LONGEST_MESSAGE)}
        note = Note(stage=Stage.SHAPE, code="shape.failed", against=True, data=data)
        ended[place] = _leaves(captured, Stage.SHAPE, [*trace, note])


class _OutsideError(BaseException):
    """What the outside raised, on its way past everything that holds an item's own troubles."""

    def __init__(self, error: Exception) -> None:
        self.error = error
        super().__init__(error)


class _Outside(Memory):
    """The memory of the caller. An error of it concerns the whole pass and is no item's fault."""

    def __init__(self, memory: Memory) -> None:
        self._memory = memory

    def _ask(self, question: Callable[[], _Told]) -> _Told:
        try:
            return question()
        except Exception as error:
            raise _OutsideError(error) from error

    def recall(self, keys: Collection[Key], reach: Reach) -> Mapping[Key, Seen]:
        return self._ask(lambda: self._memory.recall(keys, reach))

    def resembling(self, near: Near, keys: Sequence[Sequence[int]], reach: Reach) -> Sequence[Sequence[Candidate]]:
        return self._ask(lambda: self._memory.resembling(near, keys, reach))

    def dates(self, first: datetime, last: datetime) -> Sequence[datetime]:
        return self._ask(lambda: self._memory.dates(first, last))

    def put_out(self, since: datetime) -> Sequence[datetime]:
        return self._ask(lambda: self._memory.put_out(since))


def _until_shaped(
    this_pass: _Pass, captured: Captured, trace: list[Note], sifted: Sifted | None, matched: Matched | None
) -> _Formed | Decision:
    if sifted is None:
        return _leaves(captured, Stage.GATHER, trace)
    if sifted.refused or matched is None:
        return _leaves(captured, Stage.SIFT, trace)
    trace = [*trace, *matched.notes]
    if matched.duplicate:
        duplicate = _leaves(captured, Stage.MATCH, trace, Verdict.DUPLICATE)
        return replace(duplicate, same_as=matched.same_as)
    return this_pass.shape(captured, trace)
