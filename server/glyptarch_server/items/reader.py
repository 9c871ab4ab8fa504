"""Reading sources, in a loop of its own in each worker.

It is apart from what decides about the items.
"""

import logging
import secrets
import threading
import time
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from typing import TYPE_CHECKING

from django.db import DatabaseError, InterfaceError, OperationalError, connection

from glyptarch_server.items.actions import keep_answers
from glyptarch_server.items.capturing import known_entries, known_links
from glyptarch_server.items.page_pictures import look_up_pages
from glyptarch_server.sources.asking import answer, claim, release, renew
from glyptarch_server.sources.gathering import SourceAnswer, read_sources
from glyptarch_server.wiring import Clock, FetcherEndedError, FetchPortal

if TYPE_CHECKING:
    from glyptarch_server.sources.models import Source

__all__ = ["ReaderLoop", "read_pending"]

_log = logging.getLogger("glyptarch.reader")
_IN_A_ROUND = 200
_FEEDS_AT_ONCE = 400
_ROUNDS = 8
_SLOW_AT_ONCE = 4
_SECONDS_BETWEEN_LOOKS = 0.5
_SECONDS_BETWEEN_RENEWALS = 10.0


def read_pending(*, fetcher: FetchPortal, clock: Clock) -> None:
    """Read all sources that are asked for, in this thread: for commands that work alone."""
    reader = _Reader(secrets.token_hex(8), fetcher, clock)
    for slow in (False, True):
        while sources := claim(by=reader.name, slow=slow, most=_IN_A_ROUND, now=clock()):
            reader.read(sources)


class _Reader:
    """Reads claimed sources and answers the requests for them."""

    def __init__(self, name: str, fetcher: FetchPortal, clock: Clock) -> None:
        self.name = name
        self._fetcher = fetcher
        self._clock = clock

    def read(self, sources: "Sequence[Source]") -> None:
        """Read sources, and store new items as each answers.

        A failing source stops no other: where a fault of ours ends the round, the others are read one by one. Raises
        FetcherEndedError, OperationalError or InterfaceError, which leave the rest to another reader.
        """
        left = {source.pk: source for source in sources}
        try:
            self._read(sources, left)
        except (FetcherEndedError, OperationalError, InterfaceError):
            raise
        except Exception:  # noqa: BLE001 - whatever is wrong with one of them
            _log.exception("a round of %s sources failed; the %s that are left are read alone", len(sources), len(left))
            for source in list(left.values()):
                self._read_alone(source, left)

    def _read_alone(self, source: "Source", left: "dict[int, Source]") -> None:
        try:
            self._read([source], left)
        except (FetcherEndedError, OperationalError, InterfaceError):
            raise
        except Exception:  # noqa: BLE001 - it must not be read again and again
            _log.exception("source %s cannot be read", source.pk)
            answer({source.pk: None}, by=self.name, now=self._clock())

    def _read(self, sources: "Sequence[Source]", left: "dict[int, Source]") -> None:
        for batch in read_sources(sources, self._fetcher, known_entries=known_entries, known_links=known_links):
            self._keep(batch)
            for source, _ in batch:
                left.pop(source.pk, None)

    def _keep(self, batch: "Sequence[tuple[Source, SourceAnswer]]") -> None:
        now = self._clock()
        readings = {reading.source_id: reading for reading in keep_answers(batch, now=now)}
        for source, _ in batch:
            look_up_pages(source, fetcher=self._fetcher, now=now)
        answer({source.pk: readings.get(source.pk) for source, _ in batch}, by=self.name, now=now)


class ReaderLoop:
    """Reads what is asked for until told to end.

    Many plain feeds are read at once, a few slow sources beside them. A round whose last feed is slow holds up no
    other, since new rounds begin while it waits.
    """

    def __init__(self, *, fetcher: FetchPortal, clock: Clock) -> None:
        self._clock = clock
        self._reader = _Reader(secrets.token_hex(8), fetcher, clock)
        self._feeds_free = threading.Semaphore(_ROUNDS)
        self._slow_free = threading.Semaphore(_SLOW_AT_ONCE)
        self._reading = 0
        self._in_flight: set[int] = set()
        self._lock = threading.Lock()
        self._changed = threading.Event()

    def run(self, is_over: Callable[[], bool]) -> None:
        """Read until it is over. While the database is away it waits."""
        renewed = 0.0
        with ThreadPoolExecutor(_ROUNDS + _SLOW_AT_ONCE, thread_name_prefix="reader") as pool:
            while not is_over():
                try:
                    if time.monotonic() - renewed > _SECONDS_BETWEEN_RENEWALS:
                        self._renew()
                        renewed = time.monotonic()
                    self._begin(pool)
                except (OperationalError, InterfaceError) as error:
                    _log.warning("the reader waits for the database: %s", type(error).__name__)
                    connection.close()
                except Exception:  # noqa: BLE001 - the loop goes on
                    _log.exception("the reader could not look for what is asked for")
                    connection.close()
                self._changed.wait(_SECONDS_BETWEEN_LOOKS)
                self._changed.clear()
        with suppress(DatabaseError):
            release(by=self._reader.name)
        connection.close()

    def _renew(self) -> None:
        """Hold the claims of what is being read.

        Those of a round that broke off end by themselves.
        """
        with self._lock:
            sources = list(self._in_flight)
        if sources:
            renew(sources, by=self._reader.name, now=self._clock())

    def _begin(self, pool: ThreadPoolExecutor) -> None:
        """Begin as many rounds as there is room and work for."""
        while self._reading < _FEEDS_AT_ONCE and self._feeds_free.acquire(blocking=False):
            room = min(_IN_A_ROUND, _FEEDS_AT_ONCE - self._reading)
            feeds = self._claimed(self._feeds_free, slow=False, most=room)
            if not feeds:
                break
            with self._lock:
                self._reading += len(feeds)
            pool.submit(self._round, feeds, self._feeds_free, len(feeds))
        while self._slow_free.acquire(blocking=False):
            slow = self._claimed(self._slow_free, slow=True, most=1)
            if not slow:
                break
            pool.submit(self._round, slow, self._slow_free, 0)

    def _claimed(self, free: threading.Semaphore, *, slow: bool, most: int) -> "list[Source]":
        """Return claimed sources, and give the place back where there are none."""
        sources: list[Source] = []
        try:
            sources = claim(by=self._reader.name, slow=slow, most=most, now=self._clock())
        finally:
            if not sources:
                free.release()
        return sources

    def _round(self, sources: "Sequence[Source]", free: threading.Semaphore, counted: int) -> None:
        numbers = {source.pk for source in sources}
        with self._lock:
            self._in_flight |= numbers
        try:
            self._reader.read(sources)
        except FetcherEndedError:
            _log.info("a round of readings is left to another worker")
        except (OperationalError, InterfaceError) as error:
            _log.warning("a round of readings was interrupted by %s", type(error).__name__)
        except Exception:  # noqa: BLE001 - the loop goes on
            _log.exception("a round of readings failed")
        finally:
            connection.close()
            with self._lock:
                self._reading -= counted
                self._in_flight -= numbers
            free.release()
            self._changed.set()
