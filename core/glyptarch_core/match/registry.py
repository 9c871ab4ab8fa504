"""Every kind of Match rule: its settings class and the function that compiles it."""

from collections.abc import Callable, Mapping
from typing import Annotated, Any, TypeAlias

from pydantic import Field

from glyptarch_core.match.base import MatchRuleBase, Trait
from glyptarch_core.match.near import COMPARERS, NearText, NearTitle
from glyptarch_core.match.rules import (
    SameIdentity,
    SameLink,
    SameTitle,
    identity_trait,
    link_trait,
    title_trait,
)

__all__ = ["COMPARERS", "TRAITS", "MatchRule"]

MatchRule: TypeAlias = Annotated[
    SameIdentity | SameLink | SameTitle | NearTitle | NearText, Field(discriminator="kind")
]

TRAITS: Mapping[type[MatchRuleBase], Callable[[Any], Trait]] = {
    SameIdentity: identity_trait,
    SameLink: link_trait,
    SameTitle: title_trait,
}
