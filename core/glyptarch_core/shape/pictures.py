"""Pictures in the body: which stay, their size, and their alternative text."""

from collections.abc import Mapping
from typing import Literal

from pydantic import Field

from glyptarch_core.item import Captured
from glyptarch_core.ports import BlogContext
from glyptarch_core.shape.base import Draftable, ShapeStepBase, Step
from glyptarch_core.text import clean_text, pixels
from glyptarch_core.trace import Json

__all__ = ["Pictures", "compile_pictures"]


class Pictures(ShapeStepBase):
    """Remove pictures by size, fit the others into a box, and describe them.

    Sizes are in pixels, and only stated sizes are known. A picture keeps its ratio in the box. ``describe`` gives
    pictures without a text the title of the item.
    """

    kind: Literal["pictures"] = "pictures"
    remove_all: bool = False
    smallest_width: int = Field(default=0, ge=0, le=10_000)
    smallest_height: int = Field(default=0, ge=0, le=10_000)
    box_width: int = Field(default=0, ge=0, le=10_000)
    box_height: int = Field(default=0, ge=0, le=10_000)
    describe: bool = False


def _fitted(width: int, height: int, step: Pictures) -> tuple[int, int]:
    ratios = [box / side for box, side in ((step.box_width, width), (step.box_height, height)) if box and side]
    ratio = min([1.0, *ratios])
    return round(width * ratio), round(height * ratio)


def compile_pictures(step: Pictures, _context: BlogContext) -> Step:
    """Return the function over the pictures of a body."""

    def too_small(width: int, height: int) -> bool:
        return bool((width and width < step.smallest_width) or (height and height < step.smallest_height))

    def apply(parts: Draftable, captured: Captured) -> Mapping[str, Json]:
        removed = changed = 0
        for image in list(parts.root.iter("img")):
            width, height = (pixels(image.get("width")) or 0), (pixels(image.get("height")) or 0)
            if step.remove_all or too_small(width, height):
                image.drop_tree()
                removed += 1
                continue
            before = dict(image.attrib)
            if width and height and (step.box_width or step.box_height):
                fitted = _fitted(width, height, step)
                image.set("width", str(fitted[0]))
                image.set("height", str(fitted[1]))
            if step.describe and not image.get("alt"):
                image.set("alt", clean_text(captured.item.title))
            changed += dict(image.attrib) != before
        if not removed and not changed:
            return {}
        parts.changed(text=False)
        return {"removed": removed, "changed": changed}

    return apply
