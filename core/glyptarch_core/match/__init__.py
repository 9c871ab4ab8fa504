"""Match: what is already there. Same identity, link or title; nearly the same title or text."""

from glyptarch_core.match.base import MatchRuleBase
from glyptarch_core.match.near import NearText, NearTitle, near_keys
from glyptarch_core.match.prints import (
    FEWEST_SHARED,
    Likeness,
    TextPrint,
    likeness,
    print_of,
    shared_passages,
    title_likeness,
)
from glyptarch_core.match.registry import MatchRule
from glyptarch_core.match.rules import SameIdentity, SameLink, SameTitle
from glyptarch_core.match.stage import Matched, MatchSettings, OnMatch, Prefer, item_ref, keys_of, match_batch

__all__ = [
    "FEWEST_SHARED",
    "Likeness",
    "MatchRule",
    "MatchRuleBase",
    "MatchSettings",
    "Matched",
    "NearText",
    "NearTitle",
    "OnMatch",
    "Prefer",
    "SameIdentity",
    "SameLink",
    "SameTitle",
    "TextPrint",
    "item_ref",
    "keys_of",
    "likeness",
    "match_batch",
    "near_keys",
    "print_of",
    "shared_passages",
    "title_likeness",
]
