"""The look of a blog: what its owner chooses, checked so that everybody can read it.

Contrast is that of WCAG 2.2 (1.4.3): at least 4.5 to 1 for text.
"""

import hashlib
import re
from collections.abc import Mapping
from typing import Annotated, Literal

from ninja import Schema
from pydantic import AfterValidator, Field, StringConstraints, ValidationError

__all__ = ["Appearance", "colours_of", "contrast", "look_of", "mark_of"]

_HEX = re.compile(r"#[0-9a-f]{6}")
_LEAST = 4.5
_DAY, _NIGHT = "#fbfaf6", "#0d1420"
# One of them can be read on every ground.
_LIGHT_INK, _DARK_INK = "#ffffff", "#000000"
_STEPS = 20
_LINEAR_BELOW = 0.04045


def _parts(colour: str) -> tuple[float, float, float]:
    red, green, blue = (int(colour[place : place + 2], 16) / 255 for place in (1, 3, 5))
    return red, green, blue


def _luminance(colour: str) -> float:
    """Return the relative luminance of a colour, from 0 to 1 (WCAG 2.2)."""
    linear = (part / 12.92 if part <= _LINEAR_BELOW else ((part + 0.055) / 1.055) ** 2.4 for part in _parts(colour))
    red, green, blue = linear
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def contrast(colour: str, other: str) -> float:
    """Return the contrast of two colours, from 1 to 21."""
    darker, lighter = sorted((_luminance(colour), _luminance(other)))
    return (lighter + 0.05) / (darker + 0.05)


def _mixed(colour: str, other: str, share: float) -> str:
    parts = (one + (two - one) * share for one, two in zip(_parts(colour), _parts(other), strict=True))
    return "#" + "".join(f"{round(part * 255):02x}" for part in parts)


def _readable(colour: str, paper: str, towards: str) -> str:
    """Return a colour that can be read on a paper, the nearest on the way to another."""
    mixes = (_mixed(colour, towards, step / _STEPS) for step in range(_STEPS + 1))
    return next((mixed for mixed in mixes if contrast(mixed, paper) >= _LEAST), towards)


def _checked_colour(colour: str) -> str:
    colour = colour.strip().lower()
    if not _HEX.fullmatch(colour):
        raise ValueError(f"“{colour}” is no colour. Write it as #8a4b12.")
    return colour


def _checked_accent(colour: str) -> str:
    colour = _checked_colour(colour)
    found = contrast(colour, _DAY)
    if found < _LEAST:
        better = _readable(colour, _DAY, "#000000")
        raise ValueError(
            f"{colour} cannot be read on the paper: its contrast is {found:.1f}, and text needs {_LEAST}. {better} can."
        )
    return colour


class Appearance(Schema):
    """The look of a blog. ``accent`` is the colour of links, ``ground`` that of the masthead."""

    front: Literal["magazine", "journal", "guide", "screening", "class"] = "magazine"
    masthead: Literal["sky", "band", "plain"] = "sky"
    letters: Literal["reading", "plain", "book"] = "reading"
    density: Literal["roomy", "tight"] = "roomy"
    corners: Literal["soft", "sharp"] = "soft"
    accent: Annotated[str, AfterValidator(_checked_accent)] = Field(default="#8a4b12", max_length=20)
    ground: Annotated[str, AfterValidator(_checked_colour)] = Field(default="#27406b", max_length=20)
    marks: bool = Field(default=True, description="Whether sources have a mark of their own.")
    foot: Annotated[str, StringConstraints(strip_whitespace=True, max_length=500)] = ""

    @property
    def classes(self) -> str:
        """The names by which the style sheet knows the look."""
        names = (f"front-{self.front}", f"masthead-{self.masthead}", f"letters-{self.letters}")
        return " ".join((*names, f"density-{self.density}", f"corners-{self.corners}"))


def look_of(stored: Mapping[str, object]) -> Appearance:
    """Return a stored look.

    What the rules no longer allow gives way to the usual, so that the blog stays readable.
    """
    try:
        return Appearance.model_validate(stored)
    except ValidationError as error:
        wrong = {fault["loc"][0] for fault in error.errors()}
        return Appearance.model_validate({name: value for name, value in stored.items() if name not in wrong})


def colours_of(look: Appearance) -> dict[str, str]:
    """Return the colours of a look by day and by night, as custom properties of CSS.

    The night is derived: an accent is made lighter until it can be read on the dark paper.
    """
    night = _readable(look.accent, _NIGHT, "#ffffff")
    ink = max((_LIGHT_INK, _DARK_INK), key=lambda colour: contrast(colour, look.ground))
    return {
        "--lamp": f"light-dark({look.accent}, {night})",
        "--sky-top": _mixed(look.ground, "#000000", 0.6),
        "--sky-low": look.ground,
        "--on-ground": ink,
    }


# Dark enough for white letters on them.
_MARKS = ("#5b4c9a", "#b0532c", "#1f6d8a", "#766a10", "#8a2c5e", "#2c6a4f", "#43536e", "#6d3b2a")
_WORDS = re.compile(r"[^\W_]+")


def mark_of(name: str, key: str) -> tuple[str, str]:
    """Return the letters and the colour by which a source is known.

    The letters are the first of its first two words.
    """
    words = _WORDS.findall(name)[:2]
    letters = "".join(word[0] for word in words).upper() or "•"
    number = int.from_bytes(hashlib.blake2b(key.encode(), digest_size=2).digest())
    return letters, _MARKS[number % len(_MARKS)]
