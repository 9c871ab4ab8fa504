"""The proof that each bench waits for.

A newer request cancels the one under way.
"""

import threading
from collections.abc import Callable

__all__ = ["wanted_by"]

_MOST_BENCHES = 1_000

_latest: dict[str, int] = {}
_lock = threading.Lock()


def wanted_by(bench: str, turn: int) -> Callable[[], bool]:
    """Register a bench's request with its number at the bench.

    Return a function that says whether the bench still waits for it. Without a name every request stays wanted. The
    number decides and not the time: of two requests, a busy server may begin the older one last.
    """
    if not bench:
        return lambda: True
    with _lock:
        latest = max(turn, _latest.pop(bench, turn))
        _latest[bench] = latest
        while len(_latest) > _MOST_BENCHES:
            _latest.pop(next(iter(_latest)))
    return lambda: _latest.get(bench, turn) <= turn
