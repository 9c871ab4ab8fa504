"""Parsing untrusted bytes in separate processes, which are killed beyond their limits.

A few bytes can cost a parser minutes, and a thread cannot be killed. Limits are in CPU time, because an ordinary feed
takes many seconds by the clock on a busy machine. Any exception of a parser concerns only the document it was parsing.
"""

import atexit
import logging
import math
import multiprocessing
import resource
import signal
from collections.abc import Callable, Sequence
from concurrent.futures import TimeoutError as FutureTimeoutError
from dataclasses import dataclass
from functools import partial
from types import FrameType
from typing import Any, TypeVar

from glyptarch_core.errors import CostlyEntryError, ParseError
from glyptarch_core.item import Features, Item, Media, features_of
from glyptarch_core.readers import Feed, FeedLink, discover_feeds, page_picture, read_feed
from pebble import ProcessExpired, ProcessPool

__all__ = ["Apart", "ApartLimits", "RawFeed"]

_Given = TypeVar("_Given")

_log = logging.getLogger("glyptarch.apart")

_SMALL = 64 << 10
_AT_A_TIME = 8
_ALSO_LOADED = ("glyptarch_core.pages.desk", "glyptarch_core.pages.completing")
"""What readings of pages need: loaded once, and not by each process."""
# Wall-clock limit as a multiple of the CPU limit, so that no task waits forever.
_PATIENCE = 12


@dataclass(frozen=True, slots=True, kw_only=True)
class ApartLimits:
    """Limits for parsing one document, in CPU seconds and bytes of memory.

    One limit is for the whole, one for each entry.
    """

    seconds: float = 10.0
    seconds_of_entry: float = 2.0
    memory: int = 1 << 30
    processes: int = 2


@dataclass(frozen=True, slots=True, kw_only=True)
class RawFeed:
    """The bytes of a feed, the key of its items, and the address and type of the answer.

    ``known`` are content hashes of entries whose features are stored already. Entries with one of these ``marks`` are
    not read at all.
    """

    body: bytes
    source: str
    url: str
    content_type: str = ""
    known: frozenset[str] = frozenset()
    marks: frozenset[str] = frozenset()


@dataclass(frozen=True, slots=True, kw_only=True)
class _Fault:
    """Why a document could not be read, as plain values that can be sent between processes."""

    code: str
    message: str


_TOO_COSTLY = _Fault(
    code="too_costly", message="Reading this takes more time or memory than it is worth. It was broken off."
)
_UNREADABLE = _Fault(code="unreadable", message="Reading this failed. The server's log says why.")


class Apart:
    """Reads feeds and pages in other processes. Safe to share between threads."""

    def __init__(self, limits: ApartLimits | None = None) -> None:
        self._limits = limits or ApartLimits()
        context = multiprocessing.get_context("forkserver")
        context.set_forkserver_preload([__name__, *_ALSO_LOADED])
        self._pool = ProcessPool(
            max_workers=self._limits.processes,
            max_tasks=500,
            context=context,
            initializer=_begin,
            initargs=(self._limits.memory, self._limits.seconds_of_entry),
        )
        atexit.register(self.close)

    def read_feeds(self, feeds: Sequence[RawFeed]) -> list[Feed | ParseError]:
        """Read feeds in parallel.

        Return for each its items or the error. Small feeds are sent in batches, since sending one costs about as much
        as reading it. When a batch exceeds its limits, its feeds are read again one by one.
        """
        small = [place for place, feed in enumerate(feeds) if len(feed.body) <= _SMALL]
        lots = [small[first : first + _AT_A_TIME] for first in range(0, len(small), _AT_A_TIME)]
        outcomes: dict[int, Feed | _Fault] = {}
        for lot, read in zip(lots, self._run(_read_all, [([feeds[at] for at in lot],) for lot in lots]), strict=True):
            if not isinstance(read, _Fault):
                outcomes.update(zip(lot, read, strict=True))
        left = [place for place in range(len(feeds)) if place not in outcomes]
        outcomes.update(zip(left, self._run(_read, [(feeds[place],) for place in left]), strict=True))
        ordered = (outcomes[place] for place in range(len(feeds)))
        return [
            ParseError(outcome.code, outcome.message) if isinstance(outcome, _Fault) else outcome for outcome in ordered
        ]

    def read_feed(self, feed: RawFeed) -> Feed:
        """Read one feed. Raises ParseError."""
        (read,) = self.read_feeds([feed])
        if isinstance(read, ParseError):
            raise read
        return read

    def feeds_named_by(self, page: bytes, url: str) -> tuple[FeedLink, ...]:
        """Return the feeds that a page names.

        None where parsing exceeds the limits.
        """
        return self.call(discover_feeds, [(page, url)])[0] or ()

    def pictures_of(self, pages: Sequence[tuple[bytes, str]]) -> list[Media | None]:
        """Return the picture that each page, given as bytes and address, names."""
        return self.call(page_picture, pages)

    def call(self, function: Callable[..., _Given], calls: Sequence[tuple[Any, ...]]) -> list[_Given | None]:
        """Call a function for each set of arguments in parallel.

        None where a call failed or cost too much.
        """
        return [None if isinstance(read, _Fault) else read for read in self._run(function, calls)]

    def ask(self, function: Callable[..., _Given], *values: Any) -> _Given:  # noqa: ANN401 - whatever it takes
        """Call one function. Raises ParseError where it fails or exceeds the limits."""
        (read,) = self._run(function, [values])
        if isinstance(read, _Fault):
            raise ParseError(read.code, read.message)
        return read

    def _run(self, function: Callable[..., _Given], calls: Sequence[tuple[Any, ...]]) -> list[_Given | _Fault]:
        """Call a function for each set of arguments in parallel.

        Return each result or its fault.
        """
        seconds = self._limits.seconds
        under_way = [
            self._pool.schedule(_limited, args=(seconds, function, args), timeout=seconds * _PATIENCE) for args in calls
        ]
        return [_result(future) for future in under_way]

    def close(self) -> None:
        """End the processes."""
        atexit.unregister(self.close)
        self._pool.stop()  # type: ignore[no-untyped-call]
        self._pool.join()


def _limited(seconds: float, function: Callable[..., _Given], values: tuple[Any, ...]) -> _Given | _Fault:
    """Call a function within CPU seconds.

    Beyond them the kernel ends this process (getrlimit(2)).
    """
    used = resource.getrusage(resource.RUSAGE_SELF)
    resource.setrlimit(
        resource.RLIMIT_CPU, (math.ceil(used.ru_utime + used.ru_stime + seconds), resource.RLIM_INFINITY)
    )
    try:
        return function(*values)
    except ParseError as error:
        return _Fault(code=error.code, message=str(error))


def _result(future: Any) -> Any:  # noqa: ANN401 - pebble has no types
    try:
        return future.result()
    except (FutureTimeoutError, ProcessExpired, MemoryError):
        return _TOO_COSTLY
    except Exception:  # noqa: BLE001 - whatever one thing from outside makes a reader raise, the others are read
        _log.warning("a document from outside cannot be parsed; its reader says so", exc_info=True)
        return _UNREADABLE


_seconds_of_entry = 0.0


def _begin(memory: int, seconds_of_entry: float) -> None:
    """Limit the memory of this process and set the alarm for slow entries."""
    global _seconds_of_entry  # noqa: PLW0603 - set once in each process
    _seconds_of_entry = seconds_of_entry
    with open("/proc/self/statm") as file:  # noqa: PTH123 - one line of the kernel
        held = int(file.read().split()[0]) * resource.getpagesize()
    resource.setrlimit(resource.RLIMIT_AS, (held + memory, held + memory))
    signal.signal(signal.SIGPROF, _ring)
    signal.signal(signal.SIGINT, signal.SIG_IGN)


def _ring(_signal: int, _frame: FrameType | None) -> None:
    raise CostlyEntryError


def _features(item: Item, known_hashes: frozenset[str]) -> Features | None:
    """Return the features of an item.

    None where its content is stored already.
    """
    if known_hashes and item.content_hash() in known_hashes:
        return None
    signal.setitimer(signal.ITIMER_PROF, _seconds_of_entry)
    try:
        return features_of(item)
    finally:
        signal.setitimer(signal.ITIMER_PROF, 0)


def _read_all(feeds: Sequence[RawFeed]) -> list[Feed | _Fault]:
    return [_read_in_lot(feed) for feed in feeds]


def _read_in_lot(feed: RawFeed) -> Feed | _Fault:
    try:
        return _read(feed)
    except ParseError as error:
        return _Fault(code=error.code, message=str(error))


def _read(feed: RawFeed) -> Feed:
    features = partial(_features, known_hashes=feed.known)
    return read_feed(
        feed.body,
        source=feed.source,
        url=feed.url,
        content_type=feed.content_type,
        features=features,
        known_marks=feed.marks,
    )
