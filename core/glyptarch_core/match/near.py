"""Nearly the same: by the words of the title, or by the text."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Any, Literal

from pydantic import Field

from glyptarch_core.item import Captured
from glyptarch_core.match.base import MatchRuleBase
from glyptarch_core.match.products import are_other_products, product_number
from glyptarch_core.ports import Candidate, Near
from glyptarch_core.text import (
    CommonShingles,
    Differences,
    about_words,
    differences,
    likeness,
    shared_passages,
    title_keys,
    title_likeness,
)
from glyptarch_core.trace import Json

__all__ = ["COMPARERS", "Compared", "Comparer", "NearText", "NearTitle", "Told", "near_keys", "told_by"]

# The weight of what was replaced for each shared word (Differences.share). Up to the first number two texts are one
# story, beyond the second they are one form with other facts; in between a person decides. Set on pairs of ten kinds in
# seven languages (tests/core/likeness_pairs.py); the same in all of them.
_ONE_STORY = 0.04
_ONE_FORM = 0.055
# A rule that asks for less likeness also lets more be replaced.
_USUAL_LIKENESS = 0.65
_MORE_REPLACED = 0.8
# A long form with so many other facts, most of all that it has, is another notice.
_FEWEST_OTHER_FACTS = 3
_MOST_SHARED_FACTS = 0.7
# Where so many facts agree, and next to none differs, only the wording was edited, and that weighs less.
_ENOUGH_FACTS = 5
_FEW_OTHER_FACTS = 0.2
_WORDING = 2.5
_MOST_SHOWN = 4
_LONGEST_SHOWN = 120
# A trace mentions common passages when they lower the likeness by this much.
_TELLING = 0.05


class Told(StrEnum):
    """What two texts tell that share most of their words.

    Where it is doubtful, a person decides.
    """

    SAME = "same"
    DOUBTFUL = "doubtful"
    OTHER = "other"


class NearTitle(MatchRuleBase):
    """Most words of the title are the same, and all its numbers.

    ``likeness`` is the share of words in common (Dice), from 0 to 1.
    """

    kind: Literal["near_title"] = "near_title"
    likeness: float = Field(default=0.8, ge=0.5, le=1)
    at_least_words: int = Field(default=5, ge=3, le=50)


class NearText(MatchRuleBase):
    """Most of the shorter text is in the longer one, and tells no other facts.

    ``likeness`` is the share of its runs of three words, from 0 to 1; runs that are common in the blog weigh little.
    Where words are replaced by another date, name or figure, it is another story. Shorter texts than ``at_least_words``
    are not compared.
    """

    kind: Literal["near_text"] = "near_text"
    likeness: float = Field(default=0.65, ge=0.2, le=1)
    at_least_words: int = Field(default=25, ge=10, le=1000)


@dataclass(frozen=True, slots=True, kw_only=True)
class Compared:
    """The likeness of an item and a candidate, from 0 to 1, with the evidence.

    ``same`` says whether the rule takes them for one story, ``doubtful`` whether a person should look first; ``limit``
    is the likeness needed. ``unweighted`` counts common passages in full.
    """

    likeness: float
    unweighted: float
    limit: float
    same: bool
    doubtful: bool = False
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


def told_by(between: Differences, likeness_asked: float = _USUAL_LIKENESS) -> Told:
    """Return what two texts tell by their differences.

    A rule that asks for less likeness lets more be replaced.
    """
    slack = _MORE_REPLACED * max(0.0, _USUAL_LIKENESS - likeness_asked)
    agreed = between.shared_facts >= _ENOUGH_FACTS and between.replaced_facts <= _FEW_OTHER_FACTS * between.shared_facts
    share = between.share / _WORDING if agreed else between.share
    other_facts = between.replaced_facts >= _FEWEST_OTHER_FACTS
    if share > _ONE_FORM + slack or (
        other_facts and between.shared_facts <= _MOST_SHARED_FACTS * between.replaced_facts
    ):
        return Told.OTHER
    # One text may have a single figure, which is its news.
    no_fact_stayed = between.replaced_facts > 0 and not between.shared_facts
    return Told.DOUBTFUL if no_fact_stayed or share > _ONE_STORY + slack else Told.SAME


def _near_text(rule: NearText, common: CommonShingles) -> Comparer:
    def keys(captured: Captured) -> Sequence[int]:
        mine = captured.features.fingerprint
        return mine.keys if mine.words >= rule.at_least_words else []

    def compare(captured: Captured, candidate: Candidate) -> Compared | None:
        mine, theirs = captured.features.fingerprint, candidate.fingerprint
        if theirs.words < rule.at_least_words or _is_other_product(captured, candidate):
            return None
        similarity = likeness(mine, theirs, common)
        enough = similarity.text >= rule.likeness
        shown: dict[str, Json] = {}
        same = doubtful = False
        if enough:
            found = differences(captured.features.main_text, candidate.main_text)
            told = told_by(found, rule.likeness)
            same, doubtful = told is not Told.OTHER, told is Told.DOUBTFUL
            if found.replaced:
                shown["replaced"] = _shown(found)
            if same:
                shown["passages"] = list(shared_passages(captured.features.main_text, candidate.main_text))
            else:
                shown["other_facts"] = True
        return Compared(
            likeness=similarity.text,
            unweighted=similarity.unweighted,
            limit=rule.likeness,
            same=same,
            doubtful=doubtful,
            shown=shown,
        )

    return Comparer(near=Near.TEXT, keys=keys, compare=compare)


def _is_other_product(captured: Captured, candidate: Candidate) -> bool:
    """Whether an item and a candidate are about products with different numbers.

    Shops describe many goods in the same words.
    """
    number = product_number(captured.item.facts, captured.item.link)
    return are_other_products(number, candidate.product)


def _shown(found: Differences) -> list[Json]:
    """Return the weightiest replaced places, each with both texts."""
    weightiest = sorted(found.replaced, key=lambda place: -place.weight)[:_MOST_SHOWN]
    return [[_clipped(place.mine), _clipped(place.theirs)] for place in found.replaced if place in weightiest]


def _clipped(text: str) -> str:
    return text if len(text) <= _LONGEST_SHOWN else f"{text[:_LONGEST_SHOWN]}…"


def _near_title(rule: NearTitle, _common: CommonShingles) -> Comparer:
    def long_enough(title_key: str) -> bool:
        return about_words(title_key.split()) >= rule.at_least_words

    def keys(captured: Captured) -> Sequence[int]:
        key = captured.features.title_key
        return title_keys(key) if long_enough(key) else []

    def compare(captured: Captured, candidate: Candidate) -> Compared | None:
        if not long_enough(candidate.title_key) or _is_other_product(captured, candidate):
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
