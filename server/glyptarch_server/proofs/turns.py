"""Which proof each bench waits for: one that a newer edit has made useless is given up on its way."""

import itertools
import threading
from collections.abc import Callable

__all__ = ["wanted_by"]

_MOST_BENCHES = 1_000

_numbers = itertools.count()
_latest: dict[str, int] = {}
_lock = threading.Lock()


def wanted_by(bench: str) -> Callable[[], bool]:
    """Note that a bench asks for a proof; give the function that says whether it still waits for this one.

    A bench without a name waits for every proof that it asks for.
    """
    if not bench:
        return lambda: True
    number = next(_numbers)
    with _lock:
        _latest.pop(bench, None)
        _latest[bench] = number
        while len(_latest) > _MOST_BENCHES:
            _latest.pop(next(iter(_latest)))
    return lambda: _latest.get(bench, number) == number
