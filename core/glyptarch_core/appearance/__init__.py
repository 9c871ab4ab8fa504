"""The look of a blog as a document: what its owner chooses, and the parts of its front."""

from glyptarch_core.appearance.colours import contrast
from glyptarch_core.appearance.look import Look, WayIn, boxes_of, colours_of, look_of, own_css
from glyptarch_core.appearance.marks import mark_of
from glyptarch_core.appearance.parts import Part, Which
from glyptarch_core.appearance.ready import READY, parts_of

__all__ = [
    "READY",
    "Look",
    "Part",
    "WayIn",
    "Which",
    "boxes_of",
    "colours_of",
    "contrast",
    "look_of",
    "mark_of",
    "own_css",
    "parts_of",
]
