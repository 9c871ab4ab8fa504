"""The look of a blog: what its owner chooses, checked so that everybody can read it."""

import re
from collections.abc import Mapping
from typing import Annotated, Literal, Self
from urllib.parse import urlsplit

from pydantic import AfterValidator, Field, StringConstraints, ValidationError, model_validator

from glyptarch_core.appearance.colours import ENOUGH, contrast, mixed, readable
from glyptarch_core.appearance.parts import Part
from glyptarch_core.settings import Settings
from glyptarch_core.text.style_sheets import safe_style_sheet

__all__ = ["LONGEST_CSS", "Look", "WayIn", "boxes_of", "colours_of", "look_of", "own_css"]

_HEX = re.compile(r"#[0-9a-f]{6}")
_DAY, _NIGHT = "#fbfaf6", "#0d1420"
# One of them can be read on every ground.
_LIGHT_INK, _DARK_INK = "#ffffff", "#000000"
_MOST_PARTS = 24
_MOST_WAYS = 20
LONGEST_CSS = 20_000
"""Characters of a blog's own style sheet."""


def _checked_colour(colour: str) -> str:
    colour = colour.strip().lower()
    if not _HEX.fullmatch(colour):
        raise ValueError(f"“{colour}” is no colour. Write it as #8a4b12.")
    return colour


def _checked_accent(colour: str) -> str:
    colour = _checked_colour(colour)
    found = contrast(colour, _DAY)
    if found < ENOUGH:
        better = readable(colour, _DAY, "#000000")
        raise ValueError(
            f"{colour} cannot be read on the paper: its contrast is {found:.1f}, and text needs {ENOUGH}. {better} can."
        )
    return colour


_PLACE_ON_THE_BLOG = re.compile(r"(?:[\w~%-][\w.~%-]*/)*(?:\?[\w=&+%.-]*)?")


def _checked_way(to: str) -> str:
    to = to.strip()
    if _PLACE_ON_THE_BLOG.fullmatch(to) or (urlsplit(to).scheme in {"http", "https"} and urlsplit(to).hostname):
        return to
    raise ValueError(
        f"“{to}” is no address. Give a place on the blog that ends with a slash, such as section/news/ or about/, "
        "or a whole address that begins with https://."
    )


class WayIn(Settings):
    """An entry of a menu: where it leads, on the blog or elsewhere."""

    label: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60)]
    to: Annotated[str, AfterValidator(_checked_way)] = Field(max_length=500)


class PictureBox(Settings):
    """The box of a lead picture: its ratio, and what becomes of pictures of another.

    Cropping keeps the point that a person has marked in the picture. ``usual`` is the ratio of the front, ``own`` that
    of each picture.
    """

    ratio: Literal["usual", "own", "16:9", "3:2", "4:3", "1:1", "3:4"] = "usual"
    fit: Literal["crop", "fit"] = "crop"

    def properties(self, name: str) -> dict[str, str]:
        """Return the box as custom properties of CSS, which begin with a name.

        None for the usual box.
        """
        properties = {}
        if self.ratio != "usual":
            properties[f"--{name}-ratio"] = "auto" if self.ratio == "own" else self.ratio.replace(":", " / ")
        if self.fit != "crop":
            properties[f"--{name}-fit"] = "contain"
        return properties


class Look(Settings):
    """The look of a blog. ``accent`` is the colour of links, ``ground`` that of the masthead.

    Without ``parts`` the front has those that are ready for its kind. Without a ``menu`` it has the sections.
    """

    front: Literal["magazine", "journal", "guide", "screening", "class"] = "magazine"
    parts: tuple[Part, ...] = Field(default=(), max_length=_MOST_PARTS)
    masthead: Literal["sky", "band", "plain"] = "sky"
    logo: Annotated[str, StringConstraints(strip_whitespace=True, pattern=r"^$|^/[^/\\]|^https?://")] = Field(
        default="", max_length=2000, description="Address of a picture in place of the name."
    )
    menu: tuple[WayIn, ...] = Field(default=(), max_length=_MOST_WAYS)
    foot_menu: tuple[WayIn, ...] = Field(default=(), max_length=_MOST_WAYS)
    letters: Literal["reading", "plain", "book"] = "reading"
    density: Literal["roomy", "tight"] = "roomy"
    corners: Literal["soft", "sharp"] = "soft"
    accent: Annotated[str, AfterValidator(_checked_accent)] = Field(default="#8a4b12", max_length=20)
    ground: Annotated[str, AfterValidator(_checked_colour)] = Field(default="#27406b", max_length=20)
    list_pictures: PictureBox = PictureBox()
    post_picture: PictureBox = PictureBox()
    marks: bool = Field(default=True, description="Whether sources have a mark of their own.")
    foot: Annotated[str, StringConstraints(strip_whitespace=True, max_length=500)] = ""
    css: Annotated[str, StringConstraints(max_length=LONGEST_CSS)] = Field(
        default="", description="Style sheet of the blog's own."
    )

    @model_validator(mode="after")
    def _parts_fit(self) -> Self:
        ids = [part.id for part in self.parts]
        twice = next((name for name in ids if ids.count(name) > 1), "")
        if twice:
            raise ValueError(f"Two parts have the id “{twice}”. Give one of them another.")
        if self.parts and sum(part.kind == "newest" for part in self.parts) != 1:
            raise ValueError("A front has the part “Newest” once: without it, older posts could not be reached.")
        return self

    @property
    def classes(self) -> str:
        """The names by which the style sheet knows the look."""
        names = (f"front-{self.front}", f"masthead-{self.masthead}", f"letters-{self.letters}")
        return " ".join((*names, f"density-{self.density}", f"corners-{self.corners}"))


def look_of(stored: Mapping[str, object]) -> Look:
    """Return a stored look.

    What the rules no longer allow gives way to the usual, so that the blog stays readable.
    """
    try:
        return Look.model_validate(stored)
    except ValidationError as error:
        wrong = {fault["loc"][0] if fault["loc"] else "parts" for fault in error.errors()}
        return Look.model_validate({name: value for name, value in stored.items() if name not in wrong})


def colours_of(look: Look) -> dict[str, str]:
    """Return the colours of a look by day and by night, as custom properties of CSS.

    The night is derived: an accent is made lighter until it can be read on the dark paper.
    """
    night = readable(look.accent, _NIGHT, "#ffffff")
    ink = max((_LIGHT_INK, _DARK_INK), key=lambda colour: contrast(colour, look.ground))
    return {
        "--lamp": f"light-dark({look.accent}, {night})",
        "--sky-top": mixed(look.ground, "#000000", 0.6),
        "--sky-low": look.ground,
        "--on-ground": ink,
    }


def boxes_of(look: Look) -> dict[str, str]:
    """Return the boxes of lead pictures in lists and on posts, as custom properties of CSS."""
    return look.list_pictures.properties("list") | look.post_picture.properties("post")


def own_css(look: Look) -> str:
    """Return the style sheet of a blog's own, without what loads from elsewhere."""

    def here(address: str) -> str:
        return address if address.startswith("/") and not address.startswith(("//", "/\\")) else ""

    return safe_style_sheet(look.css, here, lambda address: address)
