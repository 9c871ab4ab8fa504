"""The comparisons of one rule: with posts in memory and with earlier items of the pass."""

from bisect import bisect_left
from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import chain, islice
from typing import TypeAlias

from glyptarch_core.item import Captured
from glyptarch_core.match.near import Compared, Comparer
from glyptarch_core.match.products import product_number
from glyptarch_core.match.registry import COMPARERS, EXACT, MatchRule
from glyptarch_core.match.settings import MatchSettings, OnMatch
from glyptarch_core.ports import Candidate, Key, Memory, PostRef, Reach, Seen
from glyptarch_core.reuse import Reuse, remembered
from glyptarch_core.text import FEWEST_SHARED, CommonShingles
from glyptarch_core.trace import Json, Note, Stage

__all__ = ["ExactIndex", "ExactRule", "Hit", "NearIndex", "NearRule", "Nearest", "Numbered"]

_MOST_CANDIDATES = 24
# Candidates below this likeness are not reported as the nearest.
_LEAST_LIKENESS = 0.2

Numbered: TypeAlias = tuple[int, Captured]
"""An item with its number in the batch."""


def _seen_data(seen: Seen) -> dict[str, Json]:
    """Return the trace data of a matched post or item.

    ``blog`` tells whose post it is.
    """
    data: dict[str, Json] = {"ref": str(seen.ref), "title": seen.title, "link": seen.link}
    return data | {"blog": seen.ref.blog} if isinstance(seen.ref, PostRef) else data


@dataclass(frozen=True, slots=True)
class Nearest:
    """The nearest candidate that is not the same as an item."""

    rule: MatchRule
    seen: Seen
    within_pass: bool
    compared: Compared

    @property
    def share(self) -> float:
        """Likeness as a share of the rule's limit, so that hits of two rules can be compared."""
        return self.compared.unweighted / self.compared.limit

    def data(self) -> dict[str, Json]:
        """Return the trace data."""
        rule = {"rule": self.rule.id, "kind": self.rule.kind}
        return {**rule, **_seen_data(self.seen), "within_pass": self.within_pass, **self.compared.data}


@dataclass(frozen=True, slots=True)
class Hit:
    """A post or earlier item that an item is the same as.

    With ``doubtful`` a person should look first.
    """

    rule: MatchRule
    seen: Seen
    within_pass: bool
    data: Mapping[str, Json] = field(default_factory=dict)
    doubtful: bool = False

    def note(self, settings: MatchSettings) -> Note:
        """Return the note for the trace."""
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
                **({"doubtful": True} if self.doubtful else {}),
                **self.data,
            },
        )


class ExactIndex:
    """The items of a batch by their keys under one exact rule.

    The same from pass to pass.
    """

    def __init__(self, rule: MatchRule, batch: Sequence[Numbered]) -> None:
        key_of = EXACT[type(rule)](rule)
        self.rule = rule
        self.keys = {number: key for number, captured in batch if (key := key_of(captured)) is not None}

    def involved(self, remembered: Mapping[Key, Seen]) -> set[int]:
        """Return the numbers of the items whose key occurs more than once."""
        return self.doubled | {number for number, key in self.keys.items() if key in remembered}

    @cached_property
    def doubled(self) -> set[int]:
        """The numbers of the items that share their key with another of the batch."""
        times = Counter(self.keys.values())
        return {number for number, key in self.keys.items() if times[key] > 1}


class ExactRule:
    """One exact rule in one pass: keys in memory, and keys of the items seen so far."""

    def __init__(self, index: ExactIndex, remembered: Mapping[Key, Seen]) -> None:
        self._index = index
        self._known = remembered
        self._seen: dict[Key, Seen] = {}

    def find(self, number: int) -> Hit | None:
        """Return the hit with the same key: from memory, else the first seen in this pass."""
        key = self._index.keys.get(number)
        if key is None:
            return None
        if key in self._known:
            return Hit(self._index.rule, self._known[key], within_pass=False, data={"key": key.value})
        if key in self._seen:
            return Hit(self._index.rule, self._seen[key], within_pass=True, data={"key": key.value})
        return None

    def remember(self, number: int, same_as: Seen, *, new: bool) -> None:
        """Remember an item of this pass.

        Later items with its key are the same as ``same_as``. A ``new`` item replaces an earlier one with its key, which
        lies too far back to count.
        """
        key = self._index.keys.get(number)
        if key is not None and (new or key not in self._seen):
            self._seen[key] = same_as


class NearIndex:
    """One rule of likeness: the candidates of each item in memory and among earlier items.

    ``batch`` is in the order of the pass; the index stays the same from pass to pass. Near matches of items that an
    exact rule most likely settles (``settled``) are computed lazily, because n copies of one story cost n².
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
        self._items = {number: captured.item for number, captured in batch}
        keys = {number: item_keys for number, captured in batch if (item_keys := self._comparer.keys(captured))}
        answers = memory.resembling(self._comparer.near, list(keys.values()), reach) if keys else ()
        self.candidates = dict(zip(keys, answers, strict=True))
        self._settled = [number for number in keys if number in settled]
        self._order = list(keys)
        self._places = {number: place for place, number in enumerate(self._order)}
        # Most keys belong to one item only and lead to no other.
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
        """Return the numbers of the items that have a candidate in the batch or in memory."""
        involved = {number for number, candidates in self.candidates.items() if candidates}
        alike = {number for number, others in self._alike.items() if others}
        # Only the keys of the settled items are known; their candidates are computed lazily.
        keys = {key for number in self._settled for key in self._shared[number]}
        by_key = {self._order[place] for key in keys for place in self._holders[key]}
        return involved.union(alike, by_key, *self._alike.values())

    def alike(self, number: int) -> list[int]:
        """Return the earlier items that share enough keys with one, most shared keys first."""
        similar = self._alike.get(number)
        if similar is None:
            similar = self._alike[number] = self._look_for(number)
        return similar

    def _look_for(self, number: int) -> list[int]:
        shared = self._shared.get(number, ())
        fewest = self._fewest.get(number, FEWEST_SHARED)
        if not shared or len(shared) < fewest:
            return []
        place, holders = self._places[number], self._holders
        together = Counter(chain.from_iterable(holders[key][: bisect_left(holders[key], place)] for key in shared))
        return [self._order[other] for other, common in together.most_common() if common >= fewest]

    def candidate(self, number: int, same_as: Seen) -> Candidate:
        """Return an item as a candidate for later items.

        A match with it is a match with ``same_as``.
        """
        features, item = self._features[number], self._items[number]
        return Candidate(
            seen=same_as,
            main_text=features.main_text,
            fingerprint=features.fingerprint,
            title_key=features.title_key,
            product=product_number(item.facts, item.link),
        )

    def compare(self, captured: Captured, candidate: Candidate) -> Compared | None:
        """Compare an item with a candidate.

        Cached until text, rule or common passages change.
        """
        key = f"{self._reuse_key} {hash(candidate.fingerprint.sketch)} {candidate.title_key} {candidate.product}"
        return remembered(
            self._reuse.of(captured).results, key, lambda: (self._comparer.compare(captured, candidate),)
        )[0]


class NearRule:
    """One rule of likeness in one pass: the items that the pass has seen before."""

    def __init__(self, index: NearIndex) -> None:
        self._index = index
        self._seen: dict[int, Seen] = {}

    def find(self, number: int, captured: Captured) -> Hit | Nearest | None:
        """Return the first candidate that is surely the same.

        Without one, the first doubtful one, else the nearest.
        """
        rule, nearest, doubtful = self._index.rule, None, None
        candidates = [(candidate, False) for candidate in self._index.candidates.get(number, ())]
        for candidate, within_pass in [*candidates, *((candidate, True) for candidate in self._seen_alike(number))]:
            compared = self._index.compare(captured, candidate)
            if compared is None:
                continue
            if compared.same:
                hit = Hit(rule, candidate.seen, within_pass, compared.data, compared.doubtful)
                if not hit.doubtful:
                    return hit
                doubtful = doubtful or hit
            elif compared.unweighted >= max(_LEAST_LIKENESS, nearest.compared.unweighted if nearest else 0):
                nearest = Nearest(rule, candidate.seen, within_pass, compared)
        return doubtful or nearest

    def _seen_alike(self, number: int) -> list[Candidate]:
        alike = (other for other in self._index.alike(number) if other in self._seen)
        return [self._index.candidate(other, self._seen[other]) for other in islice(alike, _MOST_CANDIDATES)]

    def remember(self, number: int, same_as: Seen) -> None:
        """Remember an item of this pass.

        Later items like it are the same as ``same_as``.
        """
        self._seen[number] = same_as
