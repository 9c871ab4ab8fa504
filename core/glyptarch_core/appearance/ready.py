"""Fronts that are ready to use: a blog without parts of its own has those of its kind."""

from collections.abc import Mapping
from types import MappingProxyType

from glyptarch_core.appearance.look import Look
from glyptarch_core.appearance.parts import (
    BriefsPart,
    DayPart,
    FindPart,
    HighlightsPart,
    NewestPart,
    OpenerPart,
    Part,
    Place,
    SourcesPart,
    StillsPart,
    TablePart,
)

__all__ = ["READY", "parts_of"]

_NARROW, _WIDE = Place.NARROW, Place.WIDE

READY: Mapping[str, tuple[Part, ...]] = MappingProxyType(
    {
        "magazine": (
            DayPart(id="day"),
            OpenerPart(id="opener"),
            HighlightsPart(id="highlights"),
            NewestPart(id="newest", place=_WIDE),
            BriefsPart(id="briefs", place=_NARROW),
            SourcesPart(id="sources", place=_NARROW),
        ),
        "journal": (OpenerPart(id="opener"), NewestPart(id="newest")),
        "guide": (
            FindPart(id="find"),
            TablePart(id="table"),
            NewestPart(id="newest", place=_WIDE),
            SourcesPart(id="sources", place=_NARROW),
        ),
        "screening": (OpenerPart(id="opener"), StillsPart(id="stills"), NewestPart(id="newest")),
        "class": (
            DayPart(id="day"),
            NewestPart(id="newest", place=_WIDE),
            SourcesPart(id="sources", count=24, place=_NARROW),
        ),
    }
)
"""The parts of each kind of front."""


def parts_of(look: Look) -> tuple[Part, ...]:
    """Return the parts of a blog's front: its own, or those that are ready for its kind."""
    return look.parts or READY[look.front]
