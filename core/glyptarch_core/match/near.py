"""Nearly the same: by the words of the title, or by the text."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Literal

from pydantic import Field

from glyptarch_core.item import Captured
from glyptarch_core.match.base import MatchRuleBase
from glyptarch_core.ports import Candidate, Near
from glyptarch_core.text import CommonShingles, likeness, shared_passages, title_keys, title_likeness
from glyptarch_core.trace import Json

__all__ = ["COMPARERS", "Compared", "Comparer", "NearText", "NearTitle", "near_keys"]

_FEWEST_FACTS_SHARED = 0.6
# A trace mentions common passages when they lower the likeness by this much.
_TELLING = 0.05


class NearTitle(MatchRuleBase):
    """Most words of the title are the same, and all its numbers.

    ``likeness`` is the share of words in common (Dice), from 0 to 1.
    """

    kind: Literal["near_title"] = "near_title"
    likeness: float = Field(default=0.8, ge=0.5, le=1)
    at_least_words: int = Field(default=5, ge=3, le=50)


class NearText(MatchRuleBase):
    """Most of the shorter text is in the longer one, with its numbers and names.

    ``likeness`` is the share of its runs of three words, from 0 to 1; runs that are common in the
    blog weigh little. Shorter texts than ``at_least_words`` are not compared.
    """

    kind: Literal["near_text"] = "near_text"
    likeness: float = Field(default=0.65, ge=0.2, le=1)
    at_least_words: int = Field(default=25, ge=10, le=1000)


@dataclass(frozen=True, slots=True, kw_only=True)
class Compared:
    """The likeness of an item and a candidate, from 0 to 1, with the evidence.

    ``same`` says whether the rule takes them for one story; ``limit`` is the likeness needed for that. ``unweighted``
    counts common passages in full.
    """

    likeness: float
    unweighted: float
    limit: float
    same: bool
    shown: Mapping[str, Json] = field(default_factory=dict)

    @property
    def data(self) -> dict[str, Json]:
        """The trace data of the comparison."""
        data: dict[str, Json] = {"likeness": round(self.likeness, 2), "limit": self.limit, **self.shown}
        if self.unweighted - self.likeness >= _TELLING:
            data["unweighted"] = round(self.unweighted, 2)
        return data


@dataclass(frozen=True, slots=True, kw_only=True)
class Comparer:
    """A compiled rule: by which keys an item is looked up, and how alike a candidate is.

    ``keys`` is empty for an item that is not compared; ``compare`` gives None for a candidate that is not.
    """

    near: Near
    keys: Callable[[Captured], Sequence[int]]
    compare: Callable[[Captured, Candidate], Compared | None]


def near_keys(captured: Captured) -> dict[Near, list[int]]:
    """Return the index keys under which a post made from an item is found, for all rules."""
    return {
        Near.TEXT: captured.features.fingerprint.keys,
        Near.TITLE: title_keys(captured.features.title_key),
    }


def _near_text(rule: NearText, common: CommonShingles) -> Comparer:
    def keys(captured: Captured) -> Sequence[int]:
        mine = captured.features.fingerprint
        return mine.keys if mine.words >= rule.at_least_words else []

    def compare(captured: Captured, candidate: Candidate) -> Compared | None:
        mine, theirs = captured.features.fingerprint, candidate.fingerprint
        if theirs.words < rule.at_least_words:
            return None
        similarity = likeness(mine, theirs, common)
        enough = similarity.text >= rule.likeness
        same = enough and similarity.facts >= _FEWEST_FACTS_SHARED
        shown: dict[str, Json] = {}
        if same:
            shown["passages"] = list(shared_passages(captured.features.main_text, candidate.main_text))
        elif enough:
            shown["other_facts"] = True
        return Compared(
            likeness=similarity.text, unweighted=similarity.unweighted, limit=rule.likeness, same=same, shown=shown
        )

    return Comparer(near=Near.TEXT, keys=keys, compare=compare)


def _near_title(rule: NearTitle, _common: CommonShingles) -> Comparer:
    def long_enough(title_key: str) -> bool:
        return len(title_key.split()) >= rule.at_least_words

    def keys(captured: Captured) -> Sequence[int]:
        key = captured.features.title_key
        return title_keys(key) if long_enough(key) else []

    def compare(captured: Captured, candidate: Candidate) -> Compared | None:
        if not long_enough(candidate.title_key):
            return None
        title_share = title_likeness(captured.features.title_key, candidate.title_key)
        return Compared(
            likeness=title_share, unweighted=title_share, limit=rule.likeness, same=title_share >= rule.likeness
        )

    return Comparer(near=Near.TITLE, keys=keys, compare=compare)


COMPARERS: Mapping[type[MatchRuleBase], Callable[[Any, CommonShingles], Comparer]] = {
    NearText: _near_text,
    NearTitle: _near_title,
}
