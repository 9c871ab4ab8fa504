"""The stage itself: a few looks into memory for the whole batch, then the batch against itself."""

from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from enum import StrEnum
from itertools import chain
from typing import TypeAlias

from pydantic import Field

from glyptarch_core.item import Captured, Item, MediaKind
from glyptarch_core.match.near import Compared, Comparer, NearText
from glyptarch_core.match.registry import COMPARERS, EXACT, MatchRule
from glyptarch_core.match.rules import SameIdentity, SameLink, SameTitle
from glyptarch_core.ports import Candidate, Key, Memory, Reach, Scope, Seen
from glyptarch_core.settings import Settings
from glyptarch_core.text import FEWEST_SHARED
from glyptarch_core.trace import Json, Note, Stage

__all__ = ["MatchSettings", "Matched", "OnMatch", "Prefer", "item_ref", "match_batch"]

_MOST_CANDIDATES = 24
# What is less alike than this is not like it at all, and not worth naming.
_WORTH_TELLING = 0.2


class OnMatch(StrEnum):
    """What becomes of an item that is already there. ``join``: the post that is there names its source as well."""

    REFUSE = "refuse"
    HOLD = "hold"
    JOIN = "join"


class Prefer(StrEnum):
    """Which of several like items in one pass stays."""

    SOURCE = "source"
    LONGEST = "longest"
    PICTURE = "picture"
    EARLIEST = "earliest"


_DEFAULT_RULES: tuple[MatchRule, ...] = (
    SameIdentity(id="identity"),
    SameLink(id="link"),
    SameTitle(id="title"),
    NearText(id="near-text"),
)


class MatchSettings(Settings):
    """Which comparisons are made, against what, and what follows from a match.

    ``prefer`` orders the likes of one pass; what is equal in all of it goes by date.
    ``let_refused_back`` lets a story come back although a post of it was refused.
    """

    rules: tuple[MatchRule, ...] = _DEFAULT_RULES
    against: Scope = Scope.BLOG
    within_days: int | None = Field(default=None, ge=1, le=3650)
    on_match: OnMatch = OnMatch.REFUSE
    prefer: tuple[Prefer, ...] = Field(default=(Prefer.EARLIEST,), max_length=4)
    let_refused_back: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Matched:
    """What the comparisons said of one item."""

    duplicate: bool
    held: bool
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


def item_ref(item: Item) -> str:
    """Name an item of the same pass, where no post exists yet to be named."""
    return f"item:{item.source}:{item.identity}"


@dataclass(frozen=True, slots=True)
class _Nearest:
    """What came nearest to an item without being taken for the same."""

    rule: MatchRule
    seen: Seen
    within_pass: bool
    compared: Compared

    @property
    def share(self) -> float:
        """How much of the way to its limit it came; two rules are set beside each other by it."""
        return self.compared.likeness / self.compared.limit

    def data(self) -> dict[str, Json]:
        """Give what is put on record of it."""
        seen = self.seen
        told = {"rule": self.rule.id, "kind": self.rule.kind, "title": seen.title, "link": seen.link, "ref": seen.ref}
        return {**told, "within_pass": self.within_pass, **self.compared.data}


def _nothing_alike(settings: MatchSettings, nearest: Sequence[_Nearest] = ()) -> Note:
    data: dict[str, Json] = {"against": settings.against.value}
    if nearest:
        data["nearest"] = max(nearest, key=lambda one: one.share).data()
    return Note(stage=Stage.MATCH, code="match.new", data=data)


@dataclass(frozen=True, slots=True)
class _Hit:
    rule: MatchRule
    seen: Seen
    within_pass: bool
    data: Mapping[str, Json] = field(default_factory=dict)

    def note(self, settings: MatchSettings) -> Note:
        seen = self.seen
        return Note(
            stage=Stage.MATCH,
            rule=self.rule.id,
            code=f"match.{self.rule.kind}",
            against=True,
            data={
                "ref": seen.ref,
                "title": seen.title,
                "link": seen.link,
                "at": seen.at.isoformat(),
                "within_pass": self.within_pass,
                "against": settings.against.value,
                "join": settings.on_match is OnMatch.JOIN,
                **self.data,
            },
        )


_Numbered: TypeAlias = tuple[int, Captured]


class _Exact:
    """One rule of equal traits: what memory knows of them, and what this pass has met."""

    def __init__(self, rule: MatchRule, batch: Sequence[_Numbered]) -> None:
        trait = EXACT[type(rule)](rule)
        self.rule = rule
        self.keys = {place: key for place, captured in batch if (key := trait(captured)) is not None}
        self._times = Counter(self.keys.values())
        self._first: dict[Key, Seen] = {}

    def involved(self, known: Mapping[Key, Seen]) -> set[int]:
        """Give the places of the items that share their trait with anything at all."""
        return {place for place, key in self.keys.items() if self._times[key] > 1 or key in known}

    def look(self, place: int, known: Mapping[Key, Seen]) -> _Hit | None:
        key = self.keys.get(place)
        if key is None:
            return None
        if key in known:
            return _Hit(self.rule, known[key], within_pass=False, data={"key": key.value})
        if key in self._first:
            return _Hit(self.rule, self._first[key], within_pass=True, data={"key": key.value})
        return None

    def met(self, place: int, stands: Seen) -> None:
        key = self.keys.get(place)
        if key is not None:
            self._first.setdefault(key, stands)


class _Nearly:
    """One rule of likeness: candidates from memory, and those met in this pass, by their index keys."""

    def __init__(self, rule: MatchRule, batch: Sequence[_Numbered], memory: Memory, reach: Reach) -> None:
        self.rule = rule
        self._comparer: Comparer = COMPARERS[type(rule)](rule)
        keys = {place: self._comparer.keys(captured) for place, captured in batch}
        asked = [place for place in keys if keys[place]]
        answers = memory.resembling(self._comparer.near, [keys[place] for place in asked], reach) if asked else ()
        self._candidates = dict(zip(asked, answers, strict=True))
        # Most keys stand in one item of the pass alone, and can lead to no other.
        times = Counter(chain.from_iterable(keys.values()))
        self._shared = {place: [key for key in keys[place] if times[key] > 1] for place in asked}
        self._fewest = {place: min(FEWEST_SHARED, len(keys[place])) for place in asked}
        self._met: list[Candidate] = []
        self._met_by_key: dict[int, list[int]] = {}

    def involved(self) -> set[int]:
        """Give the places of the items that share anything at all with another, in this pass or before."""
        known = {place for place, candidates in self._candidates.items() if candidates}
        return known | {place for place, keys in self._shared.items() if keys}

    def look(self, place: int, captured: Captured) -> _Hit | _Nearest | None:
        """Give the first candidate that is the same, or else the one that comes nearest."""
        known = [(candidate, False) for candidate in self._candidates.get(place, ())]
        nearest: _Nearest | None = None
        for candidate, within_pass in [*known, *((one, True) for one in self._met_alike(place))]:
            compared = self._comparer.compare(captured, candidate)
            if compared is None:
                continue
            if compared.same:
                return _Hit(self.rule, candidate.seen, within_pass, compared.data)
            if compared.likeness >= max(_WORTH_TELLING, nearest.compared.likeness if nearest else 0):
                nearest = _Nearest(self.rule, candidate.seen, within_pass, compared)
        return nearest

    def _met_alike(self, place: int) -> list[Candidate]:
        keys, met = self._shared.get(place), self._met_by_key
        if not keys or len(keys) < self._fewest[place]:
            return []
        shared = Counter(chain.from_iterable(met[key] for key in keys if key in met))
        fewest = self._fewest[place]
        return [self._met[number] for number, times in shared.most_common(_MOST_CANDIDATES) if times >= fewest]

    def met(self, place: int, captured: Captured, stands: Seen) -> None:
        keys = self._shared.get(place)
        if not keys:
            return
        features = captured.features
        number = len(self._met)
        self._met.append(Candidate(seen=stands, told=features.told, print=features.print, title_key=features.title_key))
        for key in keys:
            self._met_by_key.setdefault(key, []).append(number)


def match_batch(
    batch: Sequence[_Numbered],
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
    since = now - timedelta(days=settings.within_days) if settings.within_days else None
    reach = Reach(scope=settings.against, since=since, refused=not settings.let_refused_back)
    active = [rule for rule in settings.rules if rule.on]
    exact = [_Exact(rule, batch) for rule in active if type(rule) in EXACT]
    wanted = {key for one in exact for key in one.keys.values()}
    known = memory.recall(wanted, reach) if wanted else {}
    spoken = {place for one in exact for place, key in one.keys.items() if key in known} if known else set()
    unknown = [numbered for numbered in batch if numbered[0] not in spoken]
    nearly = [_Nearly(rule, unknown, memory, reach) for rule in active if type(rule) in COMPARERS]
    involved = set[int]().union(*(one.involved(known) for one in exact), *(one.involved() for one in nearly))
    order = _precedence(settings, sources)
    alone = Matched(duplicate=False, held=False, notes=(_nothing_alike(settings),))
    answers = {place: alone for place, _ in batch if place not in involved}
    among = [numbered for numbered in batch if numbered[0] in involved]
    for place, captured in sorted(among, key=lambda numbered: order(numbered[1])):
        hits = [hit for one in exact if (hit := one.look(place, known))]
        nearest: list[_Nearest] = []
        if not hits:
            looked = [one.look(place, captured) for one in nearly]
            hits = [found for found in looked if isinstance(found, _Hit)]
            nearest = [found for found in looked if isinstance(found, _Nearest)]
        duplicate = bool(hits) and settings.on_match is not OnMatch.HOLD
        stands = hits[0].seen if duplicate else _seen(captured)
        for one in exact:
            one.met(place, stands)
        for one_near in nearly:
            one_near.met(place, captured, stands)
        answers[place] = Matched(
            duplicate=duplicate,
            held=bool(hits) and not duplicate,
            notes=tuple(hit.note(settings) for hit in hits) or (_nothing_alike(settings, nearest),),
        )
    return answers
