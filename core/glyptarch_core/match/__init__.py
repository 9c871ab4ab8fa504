"""Match: what is already there. Same identity, same link or same title."""

from glyptarch_core.match.base import MatchRuleBase
from glyptarch_core.match.registry import MatchRule
from glyptarch_core.match.rules import SameIdentity, SameLink, SameTitle
from glyptarch_core.match.stage import Matched, MatchSettings, OnMatch, item_ref, keys_of, match_batch

__all__ = [
    "MatchRule",
    "MatchRuleBase",
    "MatchSettings",
    "Matched",
    "OnMatch",
    "SameIdentity",
    "SameLink",
    "SameTitle",
    "item_ref",
    "keys_of",
    "match_batch",
]
