"""The proof that each bench waits for.

A newer request cancels the one under way.
"""

import itertools
import threading
from collections.abc import Callable

__all__ = ["wanted_by"]

_MOST_BENCHES = 1_000

_numbers = itertools.count()
_latest: dict[str, int] = {}
_lock = threading.Lock()


def wanted_by(bench: str) -> Callable[[], bool]:
    """Register a bench's request.

    Return a function that says whether the bench still waits for it. Without a name every request stays wanted.
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
