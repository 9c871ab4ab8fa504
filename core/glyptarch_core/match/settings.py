"""Settings of Match: the comparisons, their reach, and the outcome."""

from enum import StrEnum

from pydantic import Field

from glyptarch_core.match.near import NearText
from glyptarch_core.match.registry import MatchRule
from glyptarch_core.match.rules import SameIdentity, SameLink, SameTitle
from glyptarch_core.ports import Scope
from glyptarch_core.settings import Settings

__all__ = ["MatchSettings", "OnMatch", "Prefer"]


class OnMatch(StrEnum):
    """The outcome for a matched item. ``join``: the earlier post names this source as well."""

    REFUSE = "refuse"
    HOLD = "hold"
    JOIN = "join"


class Prefer(StrEnum):
    """The item that stays among similar items of one pass."""

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
    """The comparisons to make, their reach, and the outcome of a match.

    ``prefer`` orders similar items of one pass; ties go by date. ``let_refused_back`` admits a story again after a post
    of it was refused.
    """

    rules: tuple[MatchRule, ...] = _DEFAULT_RULES
    against: Scope = Scope.BLOG
    within_days: int | None = Field(default=None, ge=1, le=3650)
    on_match: OnMatch = OnMatch.REFUSE
    prefer: tuple[Prefer, ...] = Field(default=(Prefer.EARLIEST,), max_length=4)
    let_refused_back: bool = False
