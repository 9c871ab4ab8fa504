"""The stage itself. Nothing leaves here: every shaped item gets a place."""

from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Annotated

from pydantic import Field, StringConstraints

from glyptarch_core.item import Captured
from glyptarch_core.settings import Settings
from glyptarch_core.trace import Note, Stage

__all__ = ["DateFrom", "PlaceSettings", "Placed", "place"]

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]


class DateFrom(StrEnum):
    """Which date a post carries."""

    ORIGINAL = "original"
    IMPORT = "import"


class PlaceSettings(Settings):
    """Where a post stands on the blog. An empty category or byline means none."""

    category: str = Field(default="", max_length=80)
    tags: tuple[Name, ...] = Field(default=(), max_length=50)
    byline: str = Field(default="", max_length=80)
    date: DateFrom = DateFrom.ORIGINAL


@dataclass(frozen=True, slots=True, kw_only=True)
class Placed:
    """Category, tags, byline and date of one post."""

    category: str
    tags: tuple[str, ...]
    byline: str
    date: datetime
    note: Note


def place(captured: Captured, settings: PlaceSettings, now: datetime) -> Placed:
    """Give a post its place. An original date in the future becomes the time of the pass."""
    original = captured.dated
    use_original = settings.date is DateFrom.ORIGINAL and original <= now
    date = original if use_original else now
    category, byline, tags = settings.category.strip(), settings.byline.strip(), tuple(dict.fromkeys(settings.tags))
    note = Note(
        stage=Stage.PLACE,
        code="placed",
        data={
            "category": category,
            "tags": list(tags),
            "byline": byline,
            "date": date.isoformat(),
            "date_from": "original" if use_original else "import",
            "in_future": settings.date is DateFrom.ORIGINAL and original > now,
        },
    )
    return Placed(category=category, tags=tags, byline=byline, date=date, note=note)
