"""Match: find earlier items by identity, link, title or text."""

from glyptarch_core.match.base import MatchRuleBase
from glyptarch_core.match.compare import Numbered
from glyptarch_core.match.events import LOOKED_AT, SameEvent, same_events, similar_texts
from glyptarch_core.match.near import NearText, NearTitle, near_keys
from glyptarch_core.match.products import product_number
from glyptarch_core.match.registry import MatchRule
from glyptarch_core.match.rules import SameIdentity, SameKeyword, SameLink, SameMedia, SameProduct, SameTitle, keys_of
from glyptarch_core.match.settings import MatchSettings, OnMatch, Prefer
from glyptarch_core.match.stage import Matched, Recalled, item_ref, match_batch, recall

__all__ = [
    "LOOKED_AT",
    "MatchRule",
    "MatchRuleBase",
    "MatchSettings",
    "Matched",
    "NearText",
    "NearTitle",
    "Numbered",
    "OnMatch",
    "Prefer",
    "Recalled",
    "SameEvent",
    "SameIdentity",
    "SameKeyword",
    "SameLink",
    "SameMedia",
    "SameProduct",
    "SameTitle",
    "item_ref",
    "keys_of",
    "match_batch",
    "near_keys",
    "product_number",
    "recall",
    "same_events",
    "similar_texts",
]
