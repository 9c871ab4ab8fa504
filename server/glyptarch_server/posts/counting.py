"""Counting the reads of posts in a web process.

Nothing of a reader is kept: no address, no cookie. Numbers are added up in memory and written every few seconds, so a
page from the cache stays as cheap as it is. A killed process loses those of the last seconds.
"""

import atexit
import logging
import threading
from collections import Counter
from collections.abc import Callable, Mapping

from django.db import connection

from glyptarch_server import wiring
from glyptarch_server.posts.reads import add_reads

__all__ = ["ReadCounter", "reads"]

_log = logging.getLogger("glyptarch.reads")

_PAUSE = 10.0
_MOST_POSTS = 20_000
"""Posts that are counted between two writings. A flood of addresses takes no more memory than that."""


class ReadCounter:
    """Counts reads by post number.

    They are handed to ``write`` at the latest ``pause`` seconds later. Safe to use from any thread. What could not be
    written is tried again with the next ones.
    """

    def __init__(self, write: Callable[[Mapping[int, int]], None], *, pause: float = _PAUSE) -> None:
        self._write, self._pause = write, pause
        self._counts: Counter[int] = Counter()
        self._timer: threading.Timer | None = None
        self._lock = threading.Lock()

    def note(self, post: int) -> None:
        """Count one read of a post."""
        with self._lock:
            if post not in self._counts and len(self._counts) >= _MOST_POSTS:
                return
            self._counts[post] += 1
            if self._timer is None:
                self._timer = threading.Timer(self._pause, self.flush)
                self._timer.daemon = True
                self._timer.start()

    def flush(self) -> None:
        """Write what was counted."""
        with self._lock:
            counts, self._counts, self._timer = self._counts, Counter(), None
        if not counts:
            return
        try:
            self._write(counts)
        except Exception:  # noqa: BLE001 - readers are answered whether they are counted or not
            _log.warning("reads of posts could not be counted; they are tried again", exc_info=True)
            with self._lock:
                self._counts.update(counts)


def _write(counts: Mapping[int, int]) -> None:
    try:
        add_reads(counts, day=wiring.clock()().date())
    finally:
        # This thread is of no request, which would give its connection back.
        connection.close()


reads = ReadCounter(_write)
"""The counter of this process."""

# What was counted last is written when the process ends.
atexit.register(reads.flush)
