"""What one rule finds for the items of a pass: in memory, and among the items that the pass has seen before."""

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
from glyptarch_core.reuse import Reuse, remembered
from glyptarch_core.text import FEWEST_SHARED, NOTHING_COMMON, CommonShingles
from glyptarch_core.trace import Json, Note, Stage

__all__ = ["ExactRule", "Hit", "NearRule", "Nearest", "Numbered"]

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


class ExactRule:
    """One rule of equal keys: what memory knows of them, and which items of this pass had them."""

    def __init__(self, rule: MatchRule, batch: Sequence[Numbered]) -> None:
        key_of = EXACT[type(rule)](rule)
        self.rule = rule
        self.keys = {number: key for number, captured in batch if (key := key_of(captured)) is not None}
        self._times = Counter(self.keys.values())
        self._seen: dict[Key, Seen] = {}

    def involved(self, known: Mapping[Key, Seen]) -> set[int]:
        """Give the numbers of the items that share their key with anything at all."""
        return {number for number, key in self.keys.items() if self._times[key] > 1 or key in known}

    def find(self, number: int, known: Mapping[Key, Seen]) -> Hit | None:
        """Give what has the same key: what memory knows, or else the first that this pass has seen."""
        key = self.keys.get(number)
        if key is None:
            return None
        if key in known:
            return Hit(self.rule, known[key], within_pass=False, data={"key": key.value})
        if key in self._seen:
            return Hit(self.rule, self._seen[key], within_pass=True, data={"key": key.value})
        return None

    def remember(self, number: int, same_as: Seen, *, new: bool) -> None:
        """Remember an item of this pass; a later one with its key is the same as ``same_as``.

        A ``new`` one replaces another with its key: that lies too far back to count.
        """
        key = self.keys.get(number)
        if key is not None and (new or key not in self._seen):
            self._seen[key] = same_as


class NearRule:
    """One rule of likeness: candidates from memory and from this pass, by their index keys."""

    def __init__(
        self,
        rule: MatchRule,
        batch: Sequence[Numbered],
        memory: Memory,
        reach: Reach,
        *,
        common: CommonShingles = NOTHING_COMMON,
        reuse: Reuse | None = None,
    ) -> None:
        self.rule = rule
        self._comparer: Comparer = COMPARERS[type(rule)](rule, common)
        self._reuse = reuse or Reuse()
        self._reuse_key = f"near {rule.model_dump_json()} {common.digest}"
        keys = {number: self._comparer.keys(captured) for number, captured in batch}
        asked = [number for number in keys if keys[number]]
        answers = memory.resembling(self._comparer.near, [keys[number] for number in asked], reach) if asked else ()
        self._candidates = dict(zip(asked, answers, strict=True))
        # Most keys stand in one item of the pass alone, and can lead to no other.
        times = Counter(chain.from_iterable(keys.values()))
        self._shared = {number: [key for key in keys[number] if times[key] > 1] for number in asked}
        self._fewest = {number: min(FEWEST_SHARED, len(keys[number])) for number in asked}
        self._seen: list[Candidate] = []
        self._seen_by_key: dict[int, list[int]] = {}

    def involved(self) -> set[int]:
        """Give the numbers of the items that share anything at all with another, in this pass or before."""
        known = {number for number, candidates in self._candidates.items() if candidates}
        return known | {number for number, keys in self._shared.items() if keys}

    def find(self, number: int, captured: Captured) -> Hit | Nearest | None:
        """Give the first candidate that is the same, or else the one that comes nearest."""
        known = [(candidate, False) for candidate in self._candidates.get(number, ())]
        nearest: Nearest | None = None
        for candidate, within_pass in [*known, *((one, True) for one in self._seen_alike(number))]:
            compared = self._compare(captured, candidate)
            if compared is None:
                continue
            if compared.same:
                return Hit(self.rule, candidate.seen, within_pass, compared.data)
            if compared.unweighted >= max(_LEAST_LIKENESS, nearest.compared.unweighted if nearest else 0):
                nearest = Nearest(self.rule, candidate.seen, within_pass, compared)
        return nearest

    def _compare(self, captured: Captured, candidate: Candidate) -> Compared | None:
        """Compare with a candidate, once for all passes in which neither text, rule nor what is common changes."""
        key = f"{self._reuse_key} {hash(candidate.fingerprint.sketch)} {candidate.title_key}"
        return remembered(self._reuse.of(captured), key, lambda: (self._comparer.compare(captured, candidate),))[0]

    def _seen_alike(self, number: int) -> list[Candidate]:
        keys, seen = self._shared.get(number), self._seen_by_key
        if not keys or len(keys) < self._fewest[number]:
            return []
        shared = Counter(chain.from_iterable(seen[key] for key in keys if key in seen))
        fewest = self._fewest[number]
        return [self._seen[place] for place, times in shared.most_common(_MOST_CANDIDATES) if times >= fewest]

    def remember(self, number: int, captured: Captured, same_as: Seen) -> None:
        """Remember an item of this pass; a later one like it is the same as ``same_as``."""
        keys = self._shared.get(number)
        if not keys:
            return
        features = captured.features
        place = len(self._seen)
        self._seen.append(
            Candidate(
                seen=same_as,
                main_text=features.main_text,
                fingerprint=features.fingerprint,
                title_key=features.title_key,
            )
        )
        for key in keys:
            self._seen_by_key.setdefault(key, []).append(place)
