"""How a process of the server is tuned once it has loaded everything."""

import gc

__all__ = ["tune_process"]

# Items and their words are many small objects that stay: looking through them again after every
# 700 new ones, as Python does unless told otherwise, takes a fifth of the time of a proof.
_NEW_OBJECTS = 50_000
_ROUNDS = 20


def tune_process() -> None:
    """Tell the collector that what is loaded stays, and to look less often."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(_NEW_OBJECTS, _ROUNDS, _ROUNDS)
