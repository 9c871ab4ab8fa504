"""The stage itself: a few looks into memory for the whole batch, then the batch against itself."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from glyptarch_core.item import Captured, Item, MediaKind
from glyptarch_core.match.looks import Exact, Hit, Nearest, Nearly, Numbered
from glyptarch_core.match.registry import COMPARERS, EXACT
from glyptarch_core.match.settings import MatchSettings, OnMatch, Prefer
from glyptarch_core.ports import ItemRef, Memory, PostRef, Reach, Ref, Seen
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
    places = {key: place for place, key in enumerate(sources)}
    ways: Mapping[Prefer, Callable[[Captured], object]] = {
        Prefer.SOURCE: lambda captured: places.get(captured.item.source, len(places)),
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


def match_batch(
    batch: Sequence[Numbered],
    settings: MatchSettings,
    *,
    memory: Memory,
    now: datetime,
    sources: Sequence[str] = (),
) -> dict[int, Matched]:
    """Say for each numbered item whether it is already there.

    Items are taken by preference, then date, source and identity, so that the answer does not
    depend on the order in which they are handed over. The first of several stays; the traits of
    a duplicate from then on name what it matched, so that a chain of likenesses ends in one
    post. Rules of likeness are asked only where no exact one has spoken.
    """
    within = timedelta(days=settings.within_days) if settings.within_days else None
    since = now - within if within else None
    reach = Reach(scope=settings.against, since=since, refused=not settings.let_refused_back)
    active = [rule for rule in settings.rules if rule.on]
    exact = [Exact(rule, batch) for rule in active if type(rule) in EXACT]
    wanted = {key for one in exact for key in one.keys.values()}
    known = memory.recall(wanted, reach) if wanted else {}
    spoken = {place for one in exact for place, key in one.keys.items() if key in known} if known else set()
    unknown = [numbered for numbered in batch if numbered[0] not in spoken]
    nearly = [Nearly(rule, unknown, memory, reach) for rule in active if type(rule) in COMPARERS]
    involved = set[int]().union(*(one.involved(known) for one in exact), *(one.involved() for one in nearly))
    order = _precedence(settings, sources)
    alone = Matched(duplicate=False, held=False, same_as=None, notes=(_nothing_alike(settings),))
    answers = {place: alone for place, _ in batch if place not in involved}
    among = [numbered for numbered in batch if numbered[0] in involved]
    for place, captured in sorted(among, key=lambda numbered: order(numbered[1])):
        hits = [hit for one in exact if (hit := one.look(place, known)) and _near_enough(hit.seen, captured, within)]
        nearest: list[Nearest] = []
        if not hits:
            looked = [one.look(place, captured) for one in nearly]
            hits = [found for found in looked if isinstance(found, Hit) and _near_enough(found.seen, captured, within)]
            nearest = [found for found in looked if isinstance(found, Nearest)]
        duplicate = bool(hits) and settings.on_match is not OnMatch.HOLD
        stands = hits[0].seen if duplicate else _seen(captured)
        for one in exact:
            one.met(place, stands, new=not hits)
        for one_near in nearly:
            one_near.met(place, captured, stands)
        answers[place] = Matched(
            duplicate=duplicate,
            held=bool(hits) and not duplicate,
            same_as=stands.ref if duplicate else None,
            notes=tuple(hit.note(settings) for hit in hits) or (_nothing_alike(settings, nearest),),
        )
    return answers
