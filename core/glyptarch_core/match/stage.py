"""The Match stage: a few memory lookups for the batch, then the batch against itself."""

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from glyptarch_core.item import Captured, Item, MediaKind
from glyptarch_core.match.compare import ExactIndex, ExactRule, Hit, Nearest, NearIndex, NearRule, Numbered
from glyptarch_core.match.registry import COMPARERS, EXACT
from glyptarch_core.match.settings import MatchSettings, OnMatch, Prefer
from glyptarch_core.ports import ItemRef, Key, Memory, PostRef, Reach, Ref, Seen
from glyptarch_core.reuse import Reuse
from glyptarch_core.text import NOTHING_COMMON, CommonShingles
from glyptarch_core.trace import Json, Note, Stage

__all__ = ["Matched", "Recalled", "item_ref", "match_batch", "recall"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Matched:
    """The result of Match for one item. A duplicate is the same as ``same_as``."""

    duplicate: bool
    held: bool
    same_as: Ref | None
    notes: tuple[Note, ...]


def _has_picture(captured: Captured) -> bool:
    return any(medium.kind is MediaKind.PICTURE for medium in captured.item.media)


def _precedence(settings: MatchSettings, sources: Sequence[str]) -> Callable[[Captured], tuple[object, ...]]:
    """Return the sort key of a pass.

    Of similar items the first in this order stays.
    """
    ranks = {key: rank for rank, key in enumerate(sources)}
    ways: Mapping[Prefer, Callable[[Captured], object]] = {
        Prefer.SOURCE: lambda captured: ranks.get(captured.item.source, len(ranks)),
        Prefer.LONGEST: lambda captured: -captured.features.words,
        Prefer.PICTURE: lambda captured: not _has_picture(captured),
        Prefer.EARLIEST: lambda captured: captured.dated,
    }
    chosen = [ways[prefer] for prefer in settings.prefer]

    def order(captured: Captured) -> tuple[object, ...]:
        tie = (captured.dated, captured.item.source, captured.item.identity)
        return (*(way(captured) for way in chosen), *tie)

    return order


def _seen(captured: Captured) -> Seen:
    item = captured.item
    return Seen(ref=item_ref(item), title=item.title, link=item.link, at=captured.dated)


def item_ref(item: Item) -> ItemRef:
    """Name an item of the same pass, where no post exists yet to be named."""
    return ItemRef(item.source, item.identity)


def _nothing_alike(settings: MatchSettings, nearest: Sequence[Nearest] = ()) -> Note:
    data: dict[str, Json] = {"against": settings.against.value}
    if nearest:
        data["nearest"] = max(nearest, key=lambda candidate: candidate.share).data()
    return Note(stage=Stage.MATCH, code="match.new", data=data)


def _near_enough(seen: Seen, captured: Captured, within: timedelta | None) -> bool:
    """Whether two items of one pass are near enough in time.

    Memory applies the reach itself.
    """
    if within is None or isinstance(seen.ref, PostRef):
        return True
    return abs(captured.dated - seen.at) <= within


@dataclass(frozen=True, slots=True)
class Recalled:
    """Memory lookups for a batch, independent of which items pass Sift.

    A pass over the same items with other Sift rules asks nothing again. ``order`` has the items that share anything
    with another or with memory, in processing order; all other items are new.
    """

    numbers: frozenset[int]
    settings: MatchSettings
    exact: Sequence[ExactIndex]
    near: Sequence[NearIndex]
    known: Mapping[Key, Seen]
    order: Sequence[Numbered]

    def answer(self, numbers: Collection[int]) -> dict[int, Matched]:
        """Return for each of these items whether it is a duplicate.

        All must be among ``numbers``.
        """
        alone = Matched(duplicate=False, held=False, same_as=None, notes=(_nothing_alike(self.settings),))
        answers = dict.fromkeys(numbers, alone)
        this_pass = _Pass(self)
        for number, captured in self.order:
            if number in answers:
                hits, nearest = this_pass.compare(number, captured)
                this_pass.remember(number, captured, hits)
                if hits or nearest:
                    answers[number] = self._matched(hits, nearest)
        return answers

    def _matched(self, hits: Sequence[Hit], nearest: Sequence[Nearest]) -> Matched:
        sure = self.surely_same(hits)
        return Matched(
            duplicate=sure is not None,
            held=bool(hits) and sure is None,
            same_as=sure.seen.ref if sure else None,
            notes=tuple(hit.note(self.settings) for hit in hits) or (_nothing_alike(self.settings, nearest),),
        )

    def surely_same(self, hits: Sequence[Hit]) -> Hit | None:
        """Return the hit that makes an item a duplicate.

        Without one, hits ask for review.
        """
        if self.settings.on_match is OnMatch.HOLD:
            return None
        return next((hit for hit in hits if not hit.doubtful), None)


class _Pass:
    """One pass over some of the items in order, with what it has seen so far."""

    def __init__(self, recalled: Recalled) -> None:
        self._recalled = recalled
        self._exact = [ExactRule(index, recalled.known) for index in recalled.exact]
        self._near = [NearRule(index) for index in recalled.near]
        self._within = _within(recalled.settings)

    def compare(self, number: int, captured: Captured) -> tuple[list[Hit], list[Nearest]]:
        """Return the hits of one item by each rule.

        For a new item also the nearest candidates.
        """
        exact = [hit for rule in self._exact if (hit := rule.find(number))]
        hits = [hit for hit in exact if _near_enough(hit.seen, captured, self._within)]
        if hits:
            return hits, []
        nearest = [rule.find(number, captured) for rule in self._near]
        hits = [hit for hit in nearest if isinstance(hit, Hit) and _near_enough(hit.seen, captured, self._within)]
        return hits, [hit for hit in nearest if isinstance(hit, Nearest)]

    def remember(self, number: int, captured: Captured, hits: Sequence[Hit]) -> None:
        """Remember an item for the comparison with later ones."""
        sure = self._recalled.surely_same(hits)
        same_as = sure.seen if sure else _seen(captured)
        for exact in self._exact:
            exact.remember(number, same_as, new=not hits)
        for near in self._near:
            near.remember(number, same_as)


def match_batch(
    batch: Sequence[Numbered],
    settings: MatchSettings,
    *,
    memory: Memory,
    now: datetime,
    sources: Sequence[str] = (),
    common: CommonShingles = NOTHING_COMMON,
    reuse: Reuse | None = None,
) -> dict[int, Matched]:
    """Match each numbered item of a batch.

    Items are taken by preference, then date, source and identity, so the result does not depend on their order in the
    batch. The first of several similar items stays. Keys of a duplicate then point to its match, so that a chain of
    similar items ends in one post. Near rules are asked only where no exact rule has a hit. ``common`` are the passages
    that many stories of the blog share. Raises what ``memory`` raises.
    """
    recalled = recall(batch, settings, memory=memory, now=now, sources=sources, common=common, reuse=reuse)
    return recalled.answer([number for number, _ in batch])


def recall(
    batch: Sequence[Numbered],
    settings: MatchSettings,
    *,
    memory: Memory,
    now: datetime,
    sources: Sequence[str] = (),
    common: CommonShingles = NOTHING_COMMON,
    reuse: Reuse | None = None,
) -> Recalled:
    """Look a batch up in memory.

    Near keys only for items without an exact hit. See :func:`match_batch`.
    """
    within = _within(settings)
    reach = Reach(scope=settings.against, since=now - within if within else None, refused=not settings.let_refused_back)
    active = [rule for rule in settings.rules if rule.on]
    exact = [ExactIndex(rule, batch) for rule in active if type(rule) in EXACT]
    wanted = {key for rule in exact for key in rule.keys.values()}
    remembered = memory.recall(wanted, reach) if wanted else {}
    numbers = (
        {number for rule in exact for number, key in rule.keys.items() if key in remembered} if remembered else set()
    )
    order = _precedence(settings, sources)
    taken = sorted(batch, key=lambda numbered: order(numbered[1]))
    others = [numbered for numbered in taken if numbered[0] not in numbers]
    settled = set[int]().union(*(rule.doubled for rule in exact))
    near = [
        NearIndex(rule, others, memory, reach, settled=settled, common=common, reuse=reuse or Reuse())
        for rule in active
        if type(rule) in COMPARERS
    ]
    involved = frozenset[int]().union(
        *(rule.involved(remembered) for rule in exact), *(rule.involved() for rule in near)
    )
    return Recalled(
        numbers=frozenset(number for number, _ in batch),
        settings=settings,
        exact=exact,
        near=near,
        known=remembered,
        order=[numbered for numbered in taken if numbered[0] in involved],
    )


def _within(settings: MatchSettings) -> timedelta | None:
    return timedelta(days=settings.within_days) if settings.within_days else None
