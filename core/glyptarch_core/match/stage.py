"""The stage itself: a few looks into memory for the whole batch, then the batch against itself."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from glyptarch_core.item import Captured, Item, MediaKind
from glyptarch_core.match.compare import ExactRule, Hit, Nearest, NearRule, Numbered
from glyptarch_core.match.registry import COMPARERS, EXACT
from glyptarch_core.match.settings import MatchSettings, OnMatch, Prefer
from glyptarch_core.ports import ItemRef, Key, Memory, PostRef, Reach, Ref, Seen
from glyptarch_core.reuse import Reuse
from glyptarch_core.text import NOTHING_COMMON, CommonShingles
from glyptarch_core.trace import Json, Note, Stage

__all__ = ["Matched", "item_ref", "match_batch"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Matched:
    """What the comparisons said of one item. A duplicate is the same as ``same_as``."""

    duplicate: bool
    held: bool
    same_as: Ref | None
    notes: tuple[Note, ...]


def _has_picture(captured: Captured) -> bool:
    return any(medium.kind is MediaKind.PICTURE for medium in captured.item.media)


def _precedence(settings: MatchSettings, sources: Sequence[str]) -> Callable[[Captured], tuple[object, ...]]:
    """Give the order in which the items of a pass are taken: the first of several likes stays."""
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
        data["nearest"] = max(nearest, key=lambda one: one.share).data()
    return Note(stage=Stage.MATCH, code="match.new", data=data)


def _near_enough(seen: Seen, captured: Captured, within: timedelta | None) -> bool:
    """Tell whether two of one pass are near enough in time; what memory knows was asked for no further back."""
    if within is None or isinstance(seen.ref, PostRef):
        return True
    return abs(captured.dated - seen.at) <= within


@dataclass(frozen=True, slots=True)
class _Recalled:
    """The rules of a pass with what memory knows, and the numbers of the items that share anything with another."""

    exact: Sequence[ExactRule]
    near: Sequence[NearRule]
    known: Mapping[Key, Seen]
    involved: frozenset[int]


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
    """Say for each numbered item whether it is already there.

    Items are taken by preference, then date, source and identity, so that the answer does not
    depend on the order in which they are handed over. The first of several stays; the keys of
    a duplicate from then on name what it matched, so that a chain of likenesses ends in one
    post. Rules of likeness are asked only where no exact one has found anything. ``common`` is
    what many stories of the blog have. Raises what ``memory`` raises.
    """
    within = timedelta(days=settings.within_days) if settings.within_days else None
    reach = Reach(scope=settings.against, since=now - within if within else None, refused=not settings.let_refused_back)
    recalled = _recall(batch, settings, memory, reach, common, reuse or Reuse())
    order = _precedence(settings, sources)
    alone = Matched(duplicate=False, held=False, same_as=None, notes=(_nothing_alike(settings),))
    answers = {number: alone for number, _ in batch if number not in recalled.involved}
    among = [numbered for numbered in batch if numbered[0] in recalled.involved]
    for number, captured in sorted(among, key=lambda numbered: order(numbered[1])):
        hits, nearest = _compare(number, captured, recalled, within)
        answers[number] = _answer(number, captured, hits, nearest, recalled, settings)
    return answers


def _recall(
    batch: Sequence[Numbered],
    settings: MatchSettings,
    memory: Memory,
    reach: Reach,
    common: CommonShingles,
    reuse: Reuse,
) -> _Recalled:
    """Ask memory for the whole batch; for likeness only of items whose keys it does not know."""
    active = [rule for rule in settings.rules if rule.on]
    exact = [ExactRule(rule, batch) for rule in active if type(rule) in EXACT]
    wanted = {key for rule in exact for key in rule.keys.values()}
    known = memory.recall(wanted, reach) if wanted else {}
    found = {number for rule in exact for number, key in rule.keys.items() if key in known} if known else set()
    others = [numbered for numbered in batch if numbered[0] not in found]
    near = [
        NearRule(rule, others, memory, reach, common=common, reuse=reuse) for rule in active if type(rule) in COMPARERS
    ]
    involved = frozenset[int]().union(*(rule.involved(known) for rule in exact), *(rule.involved() for rule in near))
    return _Recalled(exact, near, known, involved)


def _compare(
    number: int, captured: Captured, recalled: _Recalled, within: timedelta | None
) -> tuple[list[Hit], list[Nearest]]:
    """Give what one item is the same as, by each rule; where it is new, what came nearest."""
    exact = [hit for rule in recalled.exact if (hit := rule.find(number, recalled.known))]
    hits = [hit for hit in exact if _near_enough(hit.seen, captured, within)]
    if hits:
        return hits, []
    found = [rule.find(number, captured) for rule in recalled.near]
    hits = [one for one in found if isinstance(one, Hit) and _near_enough(one.seen, captured, within)]
    return hits, [one for one in found if isinstance(one, Nearest)]


def _answer(
    number: int,
    captured: Captured,
    hits: Sequence[Hit],
    nearest: Sequence[Nearest],
    recalled: _Recalled,
    settings: MatchSettings,
) -> Matched:
    """Put the answer for one item together, and remember the item for those that come after it."""
    duplicate = bool(hits) and settings.on_match is not OnMatch.HOLD
    same_as = hits[0].seen if duplicate else _seen(captured)
    for exact in recalled.exact:
        exact.remember(number, same_as, new=not hits)
    for near in recalled.near:
        near.remember(number, captured, same_as)
    return Matched(
        duplicate=duplicate,
        held=bool(hits) and not duplicate,
        same_as=same_as.ref if duplicate else None,
        notes=tuple(hit.note(settings) for hit in hits) or (_nothing_alike(settings, nearest),),
    )
