"""The fetcher for code that is not async: one event loop in a thread, one session for all."""

import asyncio
import atexit
import threading
import time
from collections import deque
from collections.abc import Iterator, Sequence
from contextlib import ExitStack

from anyio.from_thread import start_blocking_portal

from glyptarch_server.adapters.fetch.client import Fetched, Fetcher, FetchLimits, FetchRequest
from glyptarch_server.adapters.fetch.errors import FetcherEndedError, FetchError
from glyptarch_server.adapters.fetch.host_turns import HostStore

__all__ = ["FetchPortal"]

_MOST_WITH_BODY = 40
# While many answers are pending, those of so many seconds are yielded together.
_FEW = 40
_GATHERED_FOR = 0.2
_SECONDS_BETWEEN_LOOKS = 0.25


async def _running_loop() -> asyncio.AbstractEventLoop:
    return asyncio.get_running_loop()


class _Answers:
    """Answers that have arrived and wait to be taken.

    At most forty have a body, because bodies are in memory.
    """

    def __init__(self) -> None:
        self.come = threading.Event()
        self.room = asyncio.Semaphore(_MOST_WITH_BODY)
        self._answers: deque[tuple[int, Fetched | FetchError]] = deque()

    def put(self, position: int, answer: Fetched | FetchError) -> None:
        """Add an answer, in the event loop.

        Most are unchanged answers without a body and take no room.
        """
        self._answers.append((position, answer))
        self.come.set()
        if not answer.body:
            self.room.release()

    def take(self) -> list[tuple[int, Fetched | FetchError]]:
        """Return the answers that have arrived, in the calling thread."""
        return [self._answers.popleft() for _ in range(len(self._answers))]

    def worked_on(self, batch: Sequence[tuple[int, Fetched | FetchError]]) -> None:
        """Make room again for as many bodies as were taken, in the loop."""
        for _, answer in batch:
            if answer.body:
                self.room.release()


class FetchPortal:
    """Fetches many addresses at once. Safe to share between threads.

    ``hosts`` are the turns at hosts that it shares with other processes; without them it counts its own connections.
    """

    def __init__(
        self,
        *,
        allowed: frozenset[str] = frozenset(),
        limits: FetchLimits | None = None,
        hosts: HostStore | None = None,
        contact: str = "",
    ) -> None:
        with ExitStack() as stack:
            self._portal = stack.enter_context(start_blocking_portal("asyncio", name="fetch"))
            self._fetcher = stack.enter_context(
                self._portal.wrap_async_context_manager(
                    Fetcher(allowed=allowed, limits=limits, hosts=hosts, contact=contact)
                )
            )
            self._loop = self._portal.call(_running_loop)
            self._stack = stack.pop_all()
        self._ended = threading.Event()
        # At interpreter exit the thread no longer answers, and closing would wait forever.
        atexit.register(self.close)

    def fetch_each(self, requests: Sequence[FetchRequest]) -> Iterator[tuple[int, Fetched | FetchError]]:
        """Fetch all addresses.

        Each answer or error is given as soon as it has come, with its place in the list.
        """
        for batch in self.fetch_in_batches(requests):
            yield from batch

    def fetch_in_batches(self, requests: Sequence[FetchRequest]) -> Iterator[list[tuple[int, Fetched | FetchError]]]:
        """Fetch all addresses and yield the arrived answers in batches, with their positions.

        Fetching continues while a batch is processed, so slow processing makes the next batch larger. While nothing
        arrives, empty batches come four times a second. Raises FetcherEndedError once the process was told to end.
        """
        answers = _Answers()
        fetching = asyncio.run_coroutine_threadsafe(self._fetch_into(answers, requests), self._loop)
        fetching.add_done_callback(lambda _: answers.come.set())
        left = len(requests)
        try:
            while left:
                if not answers.come.wait(_SECONDS_BETWEEN_LOOKS):
                    yield []
                if self._ended.is_set():
                    raise FetcherEndedError("The process ends before all addresses have answered.")
                if not answers.come.is_set():
                    continue
                if left > _FEW:
                    # A batch costs about the same for one answer as for many.
                    time.sleep(_GATHERED_FOR)
                answers.come.clear()
                if fetching.done() and not fetching.cancelled():
                    fetching.result()
                batch = answers.take()
                if batch:
                    left -= len(batch)
                    yield batch
                    self._loop.call_soon_threadsafe(answers.worked_on, batch)
        finally:
            fetching.cancel()

    async def _fetch_into(self, answers: "_Answers", requests: Sequence[FetchRequest]) -> None:
        async with asyncio.TaskGroup() as group:
            for place, request in enumerate(requests):
                await answers.room.acquire()
                group.create_task(self._one_into(answers, place, request))

    async def _one_into(self, answers: "_Answers", place: int, request: FetchRequest) -> None:
        answers.put(place, await self._one(request))

    def fetch_all(self, requests: Sequence[FetchRequest]) -> list[Fetched | FetchError]:
        """Fetch all addresses.

        Each gives its answer or its error, in the same order.
        """
        answers = dict(self.fetch_each(requests))
        return [answers[place] for place in range(len(requests))]

    async def _one(self, request: FetchRequest) -> Fetched | FetchError:
        try:
            return await self._fetcher.fetch(request)
        except FetchError as error:
            return error

    def end_soon(self) -> None:
        """Let nobody wait for answers any longer: the process ends."""
        self._ended.set()

    def close(self) -> None:
        """Close the session and end the thread."""
        atexit.unregister(self.close)
        self._stack.close()
