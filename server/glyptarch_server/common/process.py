"""How a process of the server starts quickly, and how it is tuned once it has loaded everything."""

import gc
from collections.abc import Iterator
from contextlib import contextmanager

__all__ = ["importing", "tune_process"]

# Items and their words are many small objects that stay: looking through them again after every
# 700 new ones, as Python does unless told otherwise, takes a fifth of the time of a proof.
_NEW_OBJECTS = 50_000
_ROUNDS = 20


@contextmanager
def importing() -> Iterator[None]:
    """Import modules in this block without collecting garbage, and keep what they made out of later collections.

    Imports make half a million objects that stay. Going through them again and again takes a quarter of the start.
    """
    gc.disable()
    try:
        yield
    finally:
        gc.freeze()
        gc.enable()


def tune_process() -> None:
    """Keep what is loaded out of garbage collections, and collect less often."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(_NEW_OBJECTS, _ROUNDS, _ROUNDS)
