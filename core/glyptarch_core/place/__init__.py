"""Place: category, tags, byline and date of a post."""

from glyptarch_core.place.stage import DateFrom, Placed, PlaceSettings, place

__all__ = ["DateFrom", "PlaceSettings", "Placed", "place"]
