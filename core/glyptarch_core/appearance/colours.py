"""Colours that can be read, by WCAG 2.2 (1.4.3): text needs a contrast of 4.5 to 1."""

__all__ = ["ENOUGH", "contrast", "mixed", "readable"]

ENOUGH = 4.5
"""The least contrast of text with its ground."""

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


def mixed(colour: str, other: str, share: float) -> str:
    """Return a colour on the way to another, ``share`` of the way from 0 to 1."""
    parts = (one + (two - one) * share for one, two in zip(_parts(colour), _parts(other), strict=True))
    return "#" + "".join(f"{round(part * 255):02x}" for part in parts)


def readable(colour: str, paper: str, towards: str) -> str:
    """Return a colour that can be read on a paper, the nearest on the way to another."""
    mixes = (mixed(colour, towards, step / _STEPS) for step in range(_STEPS + 1))
    return next((mixed for mixed in mixes if contrast(mixed, paper) >= ENOUGH), towards)
