"""Fast start of a server process, and its tuning once everything is loaded."""

import gc
import sys
from collections.abc import Iterator
from contextlib import contextmanager

__all__ = ["importing", "tune_process"]

# Items and words are many small permanent objects. Python's default collects after 700 new ones, which takes a fifth of
# a proof's time.
_NEW_OBJECTS = 50_000
_ROUNDS = 20
# Seconds that a thread computes while others wait. After each query a request of the desk waits that long for its turn.
_SWITCH_INTERVAL = 0.001


@contextmanager
def importing() -> Iterator[None]:
    """Import modules without garbage collection, and freeze their objects.

    Imports make half a million permanent objects. Scanning them repeatedly takes a quarter of the start.
    """
    gc.disable()
    try:
        yield
    finally:
        gc.freeze()
        gc.enable()


def tune_process() -> None:
    """Exclude loaded objects from garbage collection, and collect less often."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(_NEW_OBJECTS, _ROUNDS, _ROUNDS)
    sys.setswitchinterval(_SWITCH_INTERVAL)
