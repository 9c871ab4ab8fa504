"""Release: whether a post goes out, waits for a person or its time, or stays a draft."""

from glyptarch_core.release.holds import Finished, HoldRule, compile_holds
from glyptarch_core.release.pace import Gate, Order, Pace, order_of
from glyptarch_core.release.rights import Allowed, PostTexts, allow
from glyptarch_core.release.stage import (
    HELD_FOR_EDITIONS,
    Corrections,
    EditionMode,
    EditionRule,
    Goods,
    Released,
    ReleaseMode,
    ReleaseSettings,
    release,
)

__all__ = [
    "HELD_FOR_EDITIONS",
    "Allowed",
    "Corrections",
    "EditionMode",
    "EditionRule",
    "Finished",
    "Gate",
    "Goods",
    "HoldRule",
    "Order",
    "Pace",
    "PostTexts",
    "ReleaseMode",
    "ReleaseSettings",
    "Released",
    "allow",
    "compile_holds",
    "order_of",
    "release",
]
