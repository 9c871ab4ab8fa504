"""The fetcher for code that is not async: one event loop in a thread, one session for all."""

import asyncio
import atexit
from collections.abc import Iterator, Sequence
from concurrent.futures import FIRST_COMPLETED, Future, wait
from contextlib import ExitStack
from itertools import islice

from anyio.from_thread import start_blocking_portal

from glyptarch_server.adapters.fetch.client import Fetched, Fetcher, FetchLimits, FetchRequest
from glyptarch_server.adapters.fetch.errors import FetchError

__all__ = ["FetchPortal"]

# Answers that have come and are not taken yet lie in memory: no more than these are under way.
_UNDER_WAY = 40


async def _running_loop() -> asyncio.AbstractEventLoop:
    return asyncio.get_running_loop()


class FetchPortal:
    """Fetches many addresses at once. Safe to share between threads."""

    def __init__(self, *, allowed: frozenset[str] = frozenset(), limits: FetchLimits | None = None) -> None:
        with ExitStack() as stack:
            self._portal = stack.enter_context(start_blocking_portal("asyncio", name="fetch"))
            self._fetcher = stack.enter_context(
                self._portal.wrap_async_context_manager(Fetcher(allowed=allowed, limits=limits))
            )
            self._loop = self._portal.call(_running_loop)
            self._stack = stack.pop_all()
        # Once the interpreter has begun to end, the thread answers no more and closing would wait for ever.
        atexit.register(self.close)

    def fetch_each(self, requests: Sequence[FetchRequest]) -> Iterator[tuple[int, Fetched | FetchError]]:
        """Fetch all addresses; each answer or error is given as soon as it has come, with its place in the list."""
        for come in self.fetch_in_batches(requests):
            yield from come

    def fetch_in_batches(self, requests: Sequence[FetchRequest]) -> Iterator[list[tuple[int, Fetched | FetchError]]]:
        """Fetch all addresses; gives the answers that have come since the last batch, with their places."""
        waiting = iter(enumerate(requests))
        under_way: dict[Future[Fetched | FetchError], int] = {}

        def begin(number: int) -> None:
            for place, request in islice(waiting, number):
                # Handed over without waiting for the loop, which is busy with the others.
                under_way[asyncio.run_coroutine_threadsafe(self._one(request), self._loop)] = place

        begin(_UNDER_WAY)
        try:
            while under_way:
                done = wait(under_way, return_when=FIRST_COMPLETED).done
                come = [(under_way.pop(one), one.result()) for one in done]
                begin(len(come))
                yield come
        finally:
            for left in under_way:
                left.cancel()

    def fetch_all(self, requests: Sequence[FetchRequest]) -> list[Fetched | FetchError]:
        """Fetch all addresses; each gives its answer or its error, in the same order."""
        answers = dict(self.fetch_each(requests))
        return [answers[place] for place in range(len(requests))]

    async def _one(self, request: FetchRequest) -> Fetched | FetchError:
        try:
            return await self._fetcher.fetch(request)
        except FetchError as error:
            return error

    def close(self) -> None:
        """Close the session and end the thread."""
        atexit.unregister(self.close)
        self._stack.close()
