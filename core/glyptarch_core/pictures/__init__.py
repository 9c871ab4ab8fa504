"""Pictures: their true type, safe copies in the sizes a blog needs, and their focus."""

from glyptarch_core.pictures.focus import Focus, focus_of
from glyptarch_core.pictures.recordings import recording_kind
from glyptarch_core.pictures.showing import BODY_SIZES, Shown, ShownPicture, media_of, show_copies
from glyptarch_core.pictures.sizes import (
    MOST_BYTES,
    MOST_PIXELS,
    MadePicture,
    MadeSize,
    PictureFault,
    make_picture,
)

__all__ = [
    "BODY_SIZES",
    "MOST_BYTES",
    "MOST_PIXELS",
    "Focus",
    "MadePicture",
    "MadeSize",
    "PictureFault",
    "Shown",
    "ShownPicture",
    "focus_of",
    "make_picture",
    "media_of",
    "recording_kind",
    "show_copies",
]
