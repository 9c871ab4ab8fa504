"""What is compared, against what, and what follows from it."""

from enum import StrEnum

from pydantic import Field

from glyptarch_core.match.near import NearText
from glyptarch_core.match.registry import MatchRule
from glyptarch_core.match.rules import SameIdentity, SameLink, SameTitle
from glyptarch_core.ports import Scope
from glyptarch_core.settings import Settings

__all__ = ["MatchSettings", "OnMatch", "Prefer"]


class OnMatch(StrEnum):
    """What becomes of an item that is already there. ``join``: the post that is there names its source as well."""

    REFUSE = "refuse"
    HOLD = "hold"
    JOIN = "join"


class Prefer(StrEnum):
    """Which of several like items in one pass stays."""

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
    """Which comparisons are made, against what, and what follows from a match.

    ``prefer`` orders the likes of one pass; what is equal in all of it goes by date.
    ``let_refused_back`` lets a story come back although a post of it was refused.
    """

    rules: tuple[MatchRule, ...] = _DEFAULT_RULES
    against: Scope = Scope.BLOG
    within_days: int | None = Field(default=None, ge=1, le=3650)
    on_match: OnMatch = OnMatch.REFUSE
    prefer: tuple[Prefer, ...] = Field(default=(Prefer.EARLIEST,), max_length=4)
    let_refused_back: bool = False
