"""The point of a picture that should stay in sight when it is cropped."""

from dataclasses import dataclass

import numpy as np
from PIL import Image

__all__ = ["Focus", "focus_of"]

_SIDE = 64
_WINDOW = 0.4
_CLEAR = 1.15
"""How much more detail the best window must have than the middle, for the middle to be left."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Focus:
    """A point in fractions of width and height, from the upper left corner (0, 0)."""

    x: float = 0.5
    y: float = 0.5


def focus_of(picture: Image.Image) -> Focus:
    """Return the centre of the window with the strongest changes of brightness.

    The centre of the picture where no window stands out.
    """
    small = picture.convert("L").resize((_SIDE, _SIDE), Image.Resampling.BILINEAR)
    light = np.asarray(small, dtype=np.float64)
    down, across = np.gradient(light)
    detail = np.hypot(down, across)
    side = int(_SIDE * _WINDOW)
    # Window sums from a summed-area table.
    sums = np.zeros((_SIDE + 1, _SIDE + 1))
    sums[1:, 1:] = detail.cumsum(axis=0).cumsum(axis=1)
    windows = sums[side:, side:] - sums[:-side, side:] - sums[side:, :-side] + sums[:-side, :-side]
    middle = (_SIDE - side) // 2
    top, left = np.unravel_index(int(windows.argmax()), windows.shape)
    if windows[top, left] <= windows[middle, middle] * _CLEAR:
        return Focus()
    return Focus(x=round((int(left) + side / 2) / _SIDE, 3), y=round((int(top) + side / 2) / _SIDE, 3))
