"""Turns at hosts, shared by all processes.

There are at most two connections to a host, wherever they are opened.
"""

import asyncio
import logging
import time
from collections.abc import AsyncIterator, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from contextlib import asynccontextmanager, suppress
from dataclasses import dataclass
from typing import Protocol

__all__ = ["LEASE_SECONDS", "EndedTurn", "HostStore", "HostTurns"]

LEASE_SECONDS = 30.0
"""How long a turn outlasts a process that died with it."""
_RENEWED_EVERY = 10.0

_log = logging.getLogger("glyptarch.fetch")


@dataclass(frozen=True, slots=True)
class EndedTurn:
    """A turn given back.

    It stays taken for ``rest`` seconds more, which is the pause that the host wants.
    """

    key: str
    rest: float


class HostStore(Protocol):
    """The turns of all processes. One thread calls all methods, one after the other."""

    def exchange(self, ended: Sequence[EndedTurn], wanted: Mapping[str, float]) -> Mapping[str, str]:
        """Free the ended turns, then take one at each wanted host that has one free.

        ``wanted`` has the pause of each host in seconds. Return the keys of the turns taken, by host.
        """

    def renew(self, keys: Sequence[str]) -> None:
        """Hold turns for another ``LEASE_SECONDS``."""

    def rest(self) -> None:
        """Release the thread's connection while nothing is asked for. Must not raise."""


@dataclass(frozen=True, slots=True)
class _Reply:
    granted: bool
    # Empty where the store failed and the process counts for itself.
    key: str = ""


@dataclass(slots=True, eq=False)
class _Wish:
    host: str
    pause: float
    reply: asyncio.Future[_Reply]


class HostTurns:
    """Takes turns at hosts from a store, many with one call, for the running event loop."""

    def __init__(self, store: HostStore) -> None:
        self._store = store
        self._loop = asyncio.get_running_loop()
        # Django refuses queries in the thread of an event loop.
        self._thread = ThreadPoolExecutor(1, "host turns")
        self._wishes: list[_Wish] = []
        self._ended: list[EndedTurn] = []
        self._held: set[str] = set()
        self._exchanging: asyncio.Task[None] | None = None
        self._closed = False
        self._renewing = self._loop.create_task(self._renew())

    @asynccontextmanager
    async def turn(self, host: str, pause: float) -> AsyncIterator[bool]:
        """Take a turn at a host for the time of the block.

        Yield False where other processes have all turns. ``pause`` is the least time in seconds from the begin of this
        turn to the next one of any process.
        """
        wish = _Wish(host, pause, self._loop.create_future())
        self._wishes.append(wish)
        self._begin_exchange()
        try:
            reply = await wish.reply
        except asyncio.CancelledError:
            if wish.reply.done() and not wish.reply.cancelled():
                # The reply came in the same step as the cancellation, and its turn would be renewed for ever.
                self._free(wish.reply.result().key, 0.0)
            raise
        begun = time.monotonic()
        try:
            yield reply.granted
        finally:
            self._free(reply.key, max(0.0, begun + pause - time.monotonic()))

    async def close(self) -> None:
        """Free all turns and end the thread."""
        self._closed = True
        self._renewing.cancel()
        if self._exchanging is not None:
            await self._exchanging
        ended = [*self._ended, *(EndedTurn(key, 0.0) for key in self._held)]
        with suppress(Exception):
            # Turns that cannot be given back now end with their lease.
            await self._loop.run_in_executor(self._thread, self._store.exchange, ended, {})
            await self._loop.run_in_executor(self._thread, self._store.rest)
        self._thread.shutdown()

    def _free(self, key: str, rest: float) -> None:
        if key:
            self._held.discard(key)
            self._ended.append(EndedTurn(key, rest))
            self._begin_exchange()

    def _begin_exchange(self) -> None:
        if not self._closed and (self._exchanging is None or self._exchanging.done()):
            self._exchanging = self._loop.create_task(self._exchange())

    async def _exchange(self) -> None:
        """Exchange turns with the store until nothing is left.

        Wishes that come while the store rests are served too.
        """
        while self._wishes or self._ended:
            await self._exchange_once()
            # A fetch that was answered takes its next turn in the next call.
            await asyncio.sleep(0)
            if not self._wishes and not self._ended:
                await self._loop.run_in_executor(self._thread, self._store.rest)

    async def _exchange_once(self) -> None:
        """Exchange turns with one call.

        Wishes gather while a call is under way, so a busy process asks for many hosts at once.
        """
        # The oldest wish of each host: a call takes one turn at a host.
        wishes = {wish.host: wish for wish in reversed(self._wishes)}
        self._wishes = [wish for wish in self._wishes if wishes[wish.host] is not wish]
        ended, self._ended = self._ended, []
        wanted = {host: wish.pause for host, wish in wishes.items()}
        try:
            keys = await self._loop.run_in_executor(self._thread, self._store.exchange, ended, wanted)
        except Exception:  # noqa: BLE001 - whatever is wrong with the store
            _log.warning("turns at hosts cannot be shared: each process counts its own connections", exc_info=True)
            replies = dict.fromkeys(wishes, _Reply(granted=True))
        else:
            replies = {host: _Reply(host in keys, keys.get(host, "")) for host in wishes}
        for host, wish in wishes.items():
            self._answer(wish, replies[host])

    def _answer(self, wish: _Wish, reply: _Reply) -> None:
        if not wish.reply.done():
            self._held.update({reply.key} - {""})
            wish.reply.set_result(reply)
        elif reply.key:
            # The fetch was cancelled while the store was asked.
            self._ended.append(EndedTurn(reply.key, 0.0))

    async def _renew(self) -> None:
        while True:
            await asyncio.sleep(_RENEWED_EVERY)
            if self._held:
                try:
                    await self._loop.run_in_executor(self._thread, self._store.renew, sorted(self._held))
                except Exception:  # noqa: BLE001 - a second renewal comes before the lease ends
                    _log.warning("turns at hosts cannot be renewed; the next renewal is in ten seconds", exc_info=True)
