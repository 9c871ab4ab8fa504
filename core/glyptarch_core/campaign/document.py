"""The models behind the API, the JSON Schema, the TypeScript types and the export."""

from collections import Counter
from collections.abc import Iterable
from datetime import date
from enum import StrEnum
from typing import Literal, Self

from pydantic import Field, model_validator

from glyptarch_core.match import MatchSettings
from glyptarch_core.place import PlaceSettings
from glyptarch_core.release import ReleaseSettings
from glyptarch_core.settings import LibraryKey, RuleSettings, Settings, SourceLabel
from glyptarch_core.shape import ShapeSettings
from glyptarch_core.sift import SiftRule

__all__ = ["MOST_SOURCES", "BodyFrom", "CampaignDocument", "GatherSettings", "SiftSettings"]


class BodyFrom(StrEnum):
    """The text of an entry that a post starts from.

    Each falls back to the other when it is empty.
    """

    FULL = "full"
    SUMMARY = "summary"


MOST_SOURCES = 10_000
"""How many sources a campaign may name."""


class GatherSettings(Settings):
    """The sources, the age limit, the number of items, and their text.

    Items come from the named ``sources``, and from all that have one of the ``labels`` at the time of a run.
    ``not_before`` is a day in UTC. ``at_most`` is the number of items that one run decides. The rest wait for the next
    run.
    """

    sources: tuple[LibraryKey, ...] = Field(default=(), max_length=MOST_SOURCES)
    labels: tuple[SourceLabel, ...] = Field(default=(), max_length=50)
    look_back_days: int | None = Field(default=None, ge=1, le=3650)
    not_before: date | None = None
    at_most: int | None = Field(default=None, ge=1, le=10_000)
    body: BodyFrom = BodyFrom.FULL


class SiftSettings(Settings):
    """The filter rules. An item must pass every rule that is on."""

    rules: tuple[SiftRule, ...] = Field(default=(), max_length=200)


class CampaignDocument(Settings):
    """All rules of a campaign. Everything has a default.

    A default campaign holds its posts for review.
    """

    format: Literal[1] = 1
    gather: GatherSettings = GatherSettings()
    sift: SiftSettings = SiftSettings()
    match: MatchSettings = MatchSettings()
    shape: ShapeSettings = ShapeSettings()
    place: PlaceSettings = PlaceSettings()
    release: ReleaseSettings = ReleaseSettings()

    @property
    def uses_lists(self) -> frozenset[str]:
        """The keys of the blog's word lists that rules and steps take terms from."""
        parts = [*self.sift.rules, *self.shape.steps, self.place]
        return frozenset(key for part in parts for key in part.uses_lists)

    @property
    def uses_tables(self) -> frozenset[str]:
        """The keys of the blog's tables of terms that steps go by."""
        return frozenset(key for step in self.shape.steps for key in step.uses_tables)

    @property
    def uses_services(self) -> frozenset[str]:
        """The keys of the language services that steps ask."""
        return frozenset(key for step in self.shape.steps if step.on for key in step.uses_services)

    @property
    def uses_pools(self) -> frozenset[str]:
        """The labels of the library's pictures that lead images are taken from."""
        return frozenset({self.shape.lead.pool} - {""})

    def without_limits(self) -> "CampaignDocument":
        """Return the same rules without limits per run and day, and without an age limit."""
        gather = self.gather.model_copy(update={"look_back_days": None, "not_before": None, "at_most": None})
        release = self.release.model_copy(update={"at_most": None, "pace": None})
        return self.model_copy(update={"gather": gather, "release": release})

    def letting_through(self) -> "CampaignDocument":
        """Return the same rules without those that stop an item.

        They show the post that a stopped item would have been.
        """
        match = self.match.model_copy(update={"rules": ()})
        return self.without_limits().model_copy(update={"sift": SiftSettings(), "match": match})

    def for_a_correction(self) -> "CampaignDocument":
        """Return the same rules without limits and without Match.

        Its own post is no duplicate of a corrected item.
        """
        return self.without_limits().model_copy(update={"match": self.match.model_copy(update={"rules": ()})})

    @model_validator(mode="after")
    def _ids_are_unique(self) -> Self:
        lists: tuple[tuple[str, Iterable[RuleSettings]], ...] = (
            ("sift.rules", self.sift.rules),
            ("match.rules", self.match.rules),
            ("shape.steps", self.shape.steps),
            ("shape.fields", self.shape.fields),
            ("place.category_rules", self.place.category_rules),
            ("place.tag_rules", self.place.tag_rules),
            ("release.hold_when", self.release.hold_when),
        )
        for name, rules in lists:
            twice = [key for key, times in Counter(rule.id for rule in rules).items() if times > 1]
            if twice:
                raise ValueError(f"{name}: the id “{twice[0]}” is used twice")
        return self
