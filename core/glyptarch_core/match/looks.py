"""What one rule finds for the items of a pass: in memory, and among those that the pass has met before."""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from itertools import chain
from typing import TypeAlias

from glyptarch_core.item import Captured
from glyptarch_core.match.near import Compared, Comparer
from glyptarch_core.match.registry import COMPARERS, EXACT, MatchRule
from glyptarch_core.match.settings import MatchSettings, OnMatch
from glyptarch_core.ports import Candidate, Key, Memory, PostRef, Reach, Seen
from glyptarch_core.text import FEWEST_SHARED
from glyptarch_core.trace import Json, Note, Stage

__all__ = ["Exact", "Hit", "Nearest", "Nearly", "Numbered"]

_MOST_CANDIDATES = 24
# What is less alike than this is not like it at all, and not worth naming.
_WORTH_TELLING = 0.2


def _seen_data(seen: Seen) -> dict[str, Json]:
    """Give what is put on record of a post or item; ``blog`` tells later readers whose post it is."""
    data: dict[str, Json] = {"ref": str(seen.ref), "title": seen.title, "link": seen.link}
    return data | {"blog": seen.ref.blog} if isinstance(seen.ref, PostRef) else data


@dataclass(frozen=True, slots=True)
class Nearest:
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
        rule = {"rule": self.rule.id, "kind": self.rule.kind}
        return {**rule, **_seen_data(self.seen), "within_pass": self.within_pass, **self.compared.data}


@dataclass(frozen=True, slots=True)
class Hit:
    """What an item was found to be the same as."""

    rule: MatchRule
    seen: Seen
    within_pass: bool
    data: Mapping[str, Json] = field(default_factory=dict)

    def note(self, settings: MatchSettings) -> Note:
        """Give what is put on record of it."""
        return Note(
            stage=Stage.MATCH,
            rule=self.rule.id,
            code=f"match.{self.rule.kind}",
            against=True,
            data={
                **_seen_data(self.seen),
                "at": self.seen.at.isoformat(),
                "within_pass": self.within_pass,
                "against": settings.against.value,
                "join": settings.on_match is OnMatch.JOIN,
                **self.data,
            },
        )


Numbered: TypeAlias = tuple[int, Captured]


class Exact:
    """One rule of equal traits: what memory knows of them, and what this pass has met."""

    def __init__(self, rule: MatchRule, batch: Sequence[Numbered]) -> None:
        key_of = EXACT[type(rule)](rule)
        self.rule = rule
        self.keys = {place: key for place, captured in batch if (key := key_of(captured)) is not None}
        self._times = Counter(self.keys.values())
        self._first: dict[Key, Seen] = {}

    def involved(self, known: Mapping[Key, Seen]) -> set[int]:
        """Give the places of the items that share their key_of with anything at all."""
        return {place for place, key in self.keys.items() if self._times[key] > 1 or key in known}

    def look(self, place: int, known: Mapping[Key, Seen]) -> Hit | None:
        """Give what has the same key_of: what memory knows, or else the first that this pass has met."""
        key = self.keys.get(place)
        if key is None:
            return None
        if key in known:
            return Hit(self.rule, known[key], within_pass=False, data={"key": key.value})
        if key in self._first:
            return Hit(self.rule, self._first[key], within_pass=True, data={"key": key.value})
        return None

    def met(self, place: int, stands: Seen, *, new: bool) -> None:
        """Remember an item; ``stands`` is what a later one like it is told to be the same as.

        A ``new`` one takes the place of another with its key_of: that lies too far back to count.
        """
        key = self.keys.get(place)
        if key is not None and (new or key not in self._first):
            self._first[key] = stands


class Nearly:
    """One rule of likeness: candidates from memory, and those met in this pass, by their index keys."""

    def __init__(self, rule: MatchRule, batch: Sequence[Numbered], memory: Memory, reach: Reach) -> None:
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

    def look(self, place: int, captured: Captured) -> Hit | Nearest | None:
        """Give the first candidate that is the same, or else the one that comes nearest."""
        known = [(candidate, False) for candidate in self._candidates.get(place, ())]
        nearest: Nearest | None = None
        for candidate, within_pass in [*known, *((one, True) for one in self._met_alike(place))]:
            compared = self._comparer.compare(captured, candidate)
            if compared is None:
                continue
            if compared.same:
                return Hit(self.rule, candidate.seen, within_pass, compared.data)
            if compared.likeness >= max(_WORTH_TELLING, nearest.compared.likeness if nearest else 0):
                nearest = Nearest(self.rule, candidate.seen, within_pass, compared)
        return nearest

    def _met_alike(self, place: int) -> list[Candidate]:
        keys, met = self._shared.get(place), self._met_by_key
        if not keys or len(keys) < self._fewest[place]:
            return []
        shared = Counter(chain.from_iterable(met[key] for key in keys if key in met))
        fewest = self._fewest[place]
        return [self._met[number] for number, times in shared.most_common(_MOST_CANDIDATES) if times >= fewest]

    def met(self, place: int, captured: Captured, stands: Seen) -> None:
        """Remember an item; ``stands`` is what a later one like it is told to be the same as."""
        keys = self._shared.get(place)
        if not keys:
            return
        features = captured.features
        number = len(self._met)
        self._met.append(
            Candidate(
                seen=stands,
                main_text=features.main_text,
                fingerprint=features.fingerprint,
                title_key=features.title_key,
            )
        )
        for key in keys:
            self._met_by_key.setdefault(key, []).append(number)
