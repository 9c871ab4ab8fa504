"""Every kind of Match rule: its settings class and the function that compiles it."""

from typing import Annotated, TypeAlias

from pydantic import Field

from glyptarch_core.match.near import COMPARERS, NearText, NearTitle
from glyptarch_core.match.rules import EXACT, SameIdentity, SameKeyword, SameLink, SameMedia, SameProduct, SameTitle

__all__ = ["COMPARERS", "EXACT", "MatchRule"]

MatchRule: TypeAlias = Annotated[
    SameIdentity | SameLink | SameTitle | SameProduct | SameMedia | SameKeyword | NearTitle | NearText,
    Field(discriminator="kind"),
]
