"""What one rule finds for the items of a pass: in memory, and among the items that the pass has seen before."""

from bisect import bisect_left
from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import chain, islice
from typing import TypeAlias

from glyptarch_core.item import Captured
from glyptarch_core.match.near import Compared, Comparer
from glyptarch_core.match.registry import COMPARERS, EXACT, MatchRule
from glyptarch_core.match.settings import MatchSettings, OnMatch
from glyptarch_core.ports import Candidate, Key, Memory, PostRef, Reach, Seen
from glyptarch_core.reuse import Reuse, remembered
from glyptarch_core.text import FEWEST_SHARED, CommonShingles
from glyptarch_core.trace import Json, Note, Stage

__all__ = ["ExactIndex", "ExactRule", "Hit", "NearIndex", "NearRule", "Nearest", "Numbered"]

_MOST_CANDIDATES = 24
# A candidate that is less alike than this is not named as the nearest.
_LEAST_LIKENESS = 0.2

Numbered: TypeAlias = tuple[int, Captured]
"""An item with its number in the batch."""


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
        return self.compared.unweighted / self.compared.limit

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
            rule_title=self.rule.title,
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


class ExactIndex:
    """One rule of equal keys: the keys of the items. It stays as it is from pass to pass."""

    def __init__(self, rule: MatchRule, batch: Sequence[Numbered]) -> None:
        key_of = EXACT[type(rule)](rule)
        self.rule = rule
        self.keys = {number: key for number, captured in batch if (key := key_of(captured)) is not None}

    def involved(self, known: Mapping[Key, Seen]) -> set[int]:
        """Give the numbers of the items that share their key with anything at all."""
        return self.doubled | {number for number, key in self.keys.items() if key in known}

    @cached_property
    def doubled(self) -> set[int]:
        """The numbers of the items that share their key with another of the batch."""
        times = Counter(self.keys.values())
        return {number for number, key in self.keys.items() if times[key] > 1}


class ExactRule:
    """One rule of equal keys in one pass: what memory knows of them, and which items of this pass had them."""

    def __init__(self, index: ExactIndex, known: Mapping[Key, Seen]) -> None:
        self._index = index
        self._known = known
        self._seen: dict[Key, Seen] = {}

    def find(self, number: int) -> Hit | None:
        """Give what has the same key: what memory knows, or else the first that this pass has seen."""
        key = self._index.keys.get(number)
        if key is None:
            return None
        if key in self._known:
            return Hit(self._index.rule, self._known[key], within_pass=False, data={"key": key.value})
        if key in self._seen:
            return Hit(self._index.rule, self._seen[key], within_pass=True, data={"key": key.value})
        return None

    def remember(self, number: int, same_as: Seen, *, new: bool) -> None:
        """Remember an item of this pass; a later one with its key is the same as ``same_as``.

        A ``new`` one replaces another with its key: that lies too far back to count.
        """
        key = self._index.keys.get(number)
        if key is not None and (new or key not in self._seen):
            self._seen[key] = same_as


class NearIndex:
    """One rule of likeness: for each item what could be like it, in memory and among the items taken before it.

    ``batch`` stands in the order in which the items are taken. All of this stays as it is from pass to pass. What
    is like an item that an exact rule most likely settles (``settled``) is looked for only where it is asked for:
    among a thousand copies of one story that takes time with the square of their number.
    """

    def __init__(
        self,
        rule: MatchRule,
        batch: Sequence[Numbered],
        memory: Memory,
        reach: Reach,
        *,
        settled: Collection[int],
        common: CommonShingles,
        reuse: Reuse,
    ) -> None:
        self.rule = rule
        self._comparer: Comparer = COMPARERS[type(rule)](rule, common)
        self._reuse = reuse
        self._reuse_key = f"near {rule.model_dump_json()} {common.digest}"
        self._features = {number: captured.features for number, captured in batch}
        keys = {number: found for number, captured in batch if (found := self._comparer.keys(captured))}
        answers = memory.resembling(self._comparer.near, list(keys.values()), reach) if keys else ()
        self.candidates = dict(zip(keys, answers, strict=True))
        self._settled = [number for number in keys if number in settled]
        self._order = list(keys)
        self._places = {number: place for place, number in enumerate(self._order)}
        # Most keys stand in one item alone, and can lead to no other.
        times = Counter(chain.from_iterable(keys.values()))
        self._shared = {number: [key for key in mine if times[key] > 1] for number, mine in keys.items()}
        self._fewest = {number: min(FEWEST_SHARED, len(mine)) for number, mine in keys.items()}
        self._holders: dict[int, list[int]] = {}
        for place, shared in enumerate(self._shared.values()):
            for key in shared:
                self._holders.setdefault(key, []).append(place)
        self._alike: dict[int, list[int]] = {}
        for number in keys:
            if number not in settled:
                self.alike(number)

    def involved(self) -> set[int]:
        """Give the numbers of the items that could be like another, in the batch or in memory."""
        known = {number for number, candidates in self.candidates.items() if candidates}
        alike = {number for number, others in self._alike.items() if others}
        # Of what could be like the others is known only by which keys it would be found.
        keys = {key for number in self._settled for key in self._shared[number]}
        by_key = {self._order[place] for key in keys for place in self._holders[key]}
        return known.union(alike, by_key, *self._alike.values())

    def alike(self, number: int) -> list[int]:
        """Give the items before one that share enough of its keys, most first."""
        found = self._alike.get(number)
        if found is None:
            found = self._alike[number] = self._look_for(number)
        return found

    def _look_for(self, number: int) -> list[int]:
        shared = self._shared.get(number, ())
        fewest = self._fewest.get(number, FEWEST_SHARED)
        if not shared or len(shared) < fewest:
            return []
        place, holders = self._places[number], self._holders
        together = Counter(chain.from_iterable(holders[key][: bisect_left(holders[key], place)] for key in shared))
        return [self._order[other] for other, common in together.most_common() if common >= fewest]

    def candidate(self, number: int, same_as: Seen) -> Candidate:
        """Give an item as one that a later item is compared with; it stands for ``same_as``."""
        features = self._features[number]
        return Candidate(
            seen=same_as,
            main_text=features.main_text,
            fingerprint=features.fingerprint,
            title_key=features.title_key,
        )

    def compare(self, captured: Captured, candidate: Candidate) -> Compared | None:
        """Compare with a candidate, once for all passes in which neither text, rule nor what is common changes."""
        key = f"{self._reuse_key} {hash(candidate.fingerprint.sketch)} {candidate.title_key}"
        return remembered(
            self._reuse.of(captured).results, key, lambda: (self._comparer.compare(captured, candidate),)
        )[0]


class NearRule:
    """One rule of likeness in one pass: the items that the pass has seen before."""

    def __init__(self, index: NearIndex) -> None:
        self._index = index
        self._seen: dict[int, Seen] = {}

    def find(self, number: int, captured: Captured) -> Hit | Nearest | None:
        """Give the first candidate that is the same, or else the one that comes nearest."""
        rule, nearest = self._index.rule, None
        known = [(candidate, False) for candidate in self._index.candidates.get(number, ())]
        for candidate, within_pass in [*known, *((one, True) for one in self._seen_alike(number))]:
            compared = self._index.compare(captured, candidate)
            if compared is None:
                continue
            if compared.same:
                return Hit(rule, candidate.seen, within_pass, compared.data)
            if compared.unweighted >= max(_LEAST_LIKENESS, nearest.compared.unweighted if nearest else 0):
                nearest = Nearest(rule, candidate.seen, within_pass, compared)
        return nearest

    def _seen_alike(self, number: int) -> list[Candidate]:
        alike = (other for other in self._index.alike(number) if other in self._seen)
        return [self._index.candidate(other, self._seen[other]) for other in islice(alike, _MOST_CANDIDATES)]

    def remember(self, number: int, same_as: Seen) -> None:
        """Remember an item of this pass; a later one like it is the same as ``same_as``."""
        self._seen[number] = same_as
