"""The fetcher for code that is not async: one event loop in a thread, one session for all."""

import asyncio
import threading
from collections.abc import Sequence

from glyptarch_server.adapters.fetch.client import Fetched, Fetcher, FetchLimits, FetchRequest
from glyptarch_server.adapters.fetch.errors import FetchError

__all__ = ["FetchPortal"]


class FetchPortal:
    """Fetches many addresses at once and waits for all of them. Safe to share between threads."""

    def __init__(self, *, allowed: frozenset[str] = frozenset(), limits: FetchLimits | None = None) -> None:
        self._fetcher = Fetcher(allowed=allowed, limits=limits)
        self._loop = asyncio.new_event_loop()
        self._ready = threading.Event()
        self._thread = threading.Thread(target=self._serve, name="fetch", daemon=True)
        self._thread.start()
        self._ready.wait()

    def _serve(self) -> None:
        asyncio.set_event_loop(self._loop)
        self._loop.run_until_complete(self._fetcher.__aenter__())
        self._ready.set()
        self._loop.run_forever()

    def fetch_all(self, requests: Sequence[FetchRequest]) -> list[Fetched | FetchError]:
        """Fetch all addresses; each gives its answer or its error, in the same order."""

        async def all_of_them() -> list[Fetched | FetchError]:
            return list(await asyncio.gather(*(self._one(request) for request in requests)))

        return asyncio.run_coroutine_threadsafe(all_of_them(), self._loop).result()

    async def _one(self, request: FetchRequest) -> Fetched | FetchError:
        try:
            return await self._fetcher.fetch(request)
        except FetchError as error:
            return error

    def close(self) -> None:
        """Close the session and end the thread."""

        async def end() -> None:
            await self._fetcher.__aexit__(None, None, None)
            self._loop.stop()

        asyncio.run_coroutine_threadsafe(end(), self._loop)
        self._thread.join(5)
        self._loop.close()
