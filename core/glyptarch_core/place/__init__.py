"""Place: the categories, tags, byline, address and date of a post."""

from glyptarch_core.place.categories import CategoryRule
from glyptarch_core.place.dates import Calendar, DateFrom
from glyptarch_core.place.settings import BylineFrom, Canonical, PlaceSettings
from glyptarch_core.place.stage import Placed, Placing, compile_place
from glyptarch_core.place.tags import TagRule

__all__ = [
    "BylineFrom",
    "Calendar",
    "Canonical",
    "CategoryRule",
    "DateFrom",
    "PlaceSettings",
    "Placed",
    "Placing",
    "TagRule",
    "compile_place",
]
