"""The one way through: captured items in, decisions out.

The proof on the bench, the run, the replay, the command line and the tests all call
:func:`decide`. It is a function of its arguments alone.
"""

from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import datetime
from functools import partial

from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.campaign_pass import CampaignPass, ShapedItem, leaves
from glyptarch_core.errors import UnwantedError
from glyptarch_core.item import Captured
from glyptarch_core.match import Matched, Numbered, Recalled, recall
from glyptarch_core.outside import OutsideError, OutsideMemory
from glyptarch_core.ports import BlogContext, Memory
from glyptarch_core.release import order_of
from glyptarch_core.reuse import Reuse
from glyptarch_core.sift import Sifted
from glyptarch_core.text import clean_line
from glyptarch_core.trace import Decision, Json, Note, Stage, Verdict

__all__ = ["decide"]

# Characters of an error message in a trace.
_LONGEST_MESSAGE = 200


def decide(
    batch: Sequence[Captured],
    document: CampaignDocument,
    *,
    memory: Memory,
    now: datetime,
    reuse: Reuse | None = None,
    context: BlogContext | None = None,
    posts_made: int = 0,
    is_wanted: Callable[[], bool] = lambda: True,
) -> tuple[Decision, ...]:
    """Decide captured items by all stages, one decision for each, in their order.

    ``memory`` is asked a few times for the whole batch; ``now`` is the time of the pass. ``reuse`` keeps results of
    earlier passes over the same items. ``context`` is what the blog shares among its campaigns. ``posts_made`` is the
    number of posts that the run has made before. ``is_wanted`` is called before each item is sifted, shaped and
    released.

    An error about one item becomes that item's decision. Raises UnwantedError where the caller no longer wants the
    decisions, otherwise only what ``memory`` raises.
    """
    reuse = reuse or Reuse()
    guarded = OutsideMemory(memory)
    try:
        context = context or BlogContext()
        this_pass = CampaignPass(document, guarded, now, reuse=reuse, context=context, posts_made=posts_made)
        return _Batch(batch, document, this_pass, guarded, now, reuse, context, is_wanted).decide()
    except OutsideError as failed:
        raise failed.error from failed.error.__cause__


class _Batch:
    """The items of one pass on their way, each by its number in the batch."""

    def __init__(
        self,
        batch: Sequence[Captured],
        document: CampaignDocument,
        this_pass: CampaignPass,
        memory: Memory,
        now: datetime,
        reuse: Reuse,
        context: BlogContext,
        is_wanted: Callable[[], bool],
    ) -> None:
        self._batch = batch
        self._document = document
        self._pass = this_pass
        self._memory = memory
        self._now = now
        self._reuse = reuse
        self._common = context.common
        self._is_wanted = is_wanted
        self._decisions: dict[int, Decision] = {}

    def decide(self) -> tuple[Decision, ...]:
        sifted = self._sift()
        matched = self._match(
            [number for number, (_, sifted_item) in sifted.items() if sifted_item and not sifted_item.refused]
        )
        shaped = self._shape(sifted, matched)
        order = order_of(self._document.release.order)
        for place, number in enumerate(sorted(shaped, key=lambda number: order(self._batch[number]))):
            self._check(place)
            try:
                self._decisions[number] = self._pass.end(shaped[number])
            except Exception as error:  # noqa: BLE001 - the fault of one item
                self._fail(number, error, shaped[number].trace)
        return tuple(self._decisions[number] for number in range(len(self._batch)))

    def _check(self, place: int) -> None:
        """End the pass where its outcome is no longer wanted.

        Asked at every sixteenth item.
        """
        if not place % 16 and not self._is_wanted():
            raise OutsideError(UnwantedError("these decisions are not wanted any more"))

    def _fail(self, number: int, error: Exception, trace: Sequence[Note] = ()) -> None:
        """Refuse an item at Shape for an error.

        The others go on.
        """
        data: dict[str, Json] = {"error": type(error).__name__, "message": clean_line(str(error), _LONGEST_MESSAGE)}
        note = Note(stage=Stage.SHAPE, code="shape.failed", against=True, data=data)
        self._decisions[number] = leaves(self._batch[number], Stage.SHAPE, [*trace, note])

    def _sift(self) -> dict[int, tuple[list[Note], Sifted | None]]:
        sifted: dict[int, tuple[list[Note], Sifted | None]] = {}
        for number, captured in enumerate(self._batch):
            self._check(number)
            try:
                sifted[number] = self._pass.before_match(captured)
            except Exception as error:  # noqa: BLE001 - the fault of one item
                self._fail(number, error)
        return sifted

    def _match(self, passed: Sequence[int]) -> dict[int, Matched]:
        """Match the items with memory and each other, one by one where one of them fails."""
        settings, sources, memory = self._document.match, self._document.gather.sources, self._memory
        look_up = partial(
            recall,
            settings=settings,
            memory=memory,
            now=self._now,
            sources=sources,
            common=self._common,
            reuse=self._reuse,
        )
        try:
            return self._recalled(passed, look_up).answer(passed)
        except Exception:  # noqa: BLE001 - the fault of one item, found by comparing each alone
            matched: dict[int, Matched] = {}
            for number in passed:
                try:
                    matched |= look_up([(number, self._batch[number])]).answer([number])
                except Exception as error:  # noqa: BLE001 - this is the one
                    self._fail(number, error)
            return matched

    def _recalled(self, passed: Sequence[int], look_up: Callable[[Sequence[Numbered]], Recalled]) -> Recalled:
        """Return the memory of the passed items, reusing an earlier pass that covers them."""
        settings, stamp = self._document.match, self._memory.stamp
        if stamp is None:
            return look_up([(number, self._batch[number]) for number in passed])
        since = self._now if settings.within_days else None
        key = (*self._batch, settings, self._document.gather.sources, self._common.digest, stamp, since)
        kept = self._reuse.recalled(key)
        last: Recalled | None = kept[-1] if kept else None
        if last is not None and last.numbers.issuperset(passed):
            return last
        wanted = sorted({*passed, *(last.numbers if last else ())})
        recalled = look_up([(number, self._batch[number]) for number in wanted])
        kept[:] = [recalled]
        return recalled

    def _shape(
        self, sifted: dict[int, tuple[list[Note], Sifted | None]], matched: dict[int, Matched]
    ) -> dict[int, ShapedItem]:
        """Shape the items that Match lets through.

        Items that leave get their decision.
        """
        shaped: dict[int, ShapedItem] = {}
        waiting: dict[int, list[Note]] = {}
        for number, (trace, sifted_item) in sifted.items():
            if number in self._decisions:
                continue
            self._check(number)
            try:
                outcome = self._until_shaped(self._batch[number], trace, sifted_item, matched.get(number))
            except Exception as error:  # noqa: BLE001 - the fault of one item
                self._fail(number, error, trace)
                continue
            if isinstance(outcome, Decision):
                self._decisions[number] = outcome
                if outcome.asks:
                    waiting[number] = [*trace, *matched[number].notes]
            else:
                shaped[number] = outcome
        self._shape_waiting(waiting, shaped)
        return shaped

    def _shape_waiting(self, waiting: dict[int, list[Note]], shaped: dict[int, ShapedItem]) -> None:
        """Look up what items ask of language services, all at once, until no answer is new.

        A step may ask about what an earlier one has got.
        """
        while waiting and self._pass.texts.look_up(
            list({ask.key: ask for number in waiting for ask in self._decisions[number].asks}.values())
        ):
            for number, trace in list(waiting.items()):
                self._check(number)
                try:
                    outcome = self._pass.shape(self._batch[number], trace, again=True)
                except Exception as error:  # noqa: BLE001 - the fault of one item
                    self._fail(number, error, trace)
                    del waiting[number]
                    continue
                if isinstance(outcome, Decision):
                    self._decisions[number] = outcome
                else:
                    del self._decisions[number]
                    shaped[number] = outcome
                if isinstance(outcome, ShapedItem) or not outcome.asks:
                    del waiting[number]

    def _until_shaped(
        self, captured: Captured, trace: list[Note], sifted: Sifted | None, matched: Matched | None
    ) -> ShapedItem | Decision:
        if sifted is None:
            return leaves(captured, Stage.GATHER, trace)
        if sifted.refused or matched is None:
            return leaves(captured, Stage.SIFT, trace)
        whole = [*trace, *matched.notes]
        if matched.duplicate:
            return replace(leaves(captured, Stage.MATCH, whole, Verdict.DUPLICATE), same_as=matched.same_as)
        return self._pass.shape(captured, whole)
