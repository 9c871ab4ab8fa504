"""The one place where adapters are built. They are handed on as arguments from here."""

from functools import cache

from django.conf import settings

from glyptarch_server.adapters.apart import Apart, RawFeed
from glyptarch_server.adapters.clock import Clock, system_clock
from glyptarch_server.adapters.fetch import (
    LEASE_SECONDS,
    USER_AGENT,
    EndedTurn,
    FetchCode,
    Fetched,
    FetcherEndedError,
    FetchError,
    FetchLimits,
    FetchPortal,
    FetchRequest,
    HostStore,
    may_share_secrets,
)

__all__ = [
    "LEASE_SECONDS",
    "USER_AGENT",
    "Apart",
    "Clock",
    "EndedTurn",
    "FetchCode",
    "FetchError",
    "FetchLimits",
    "FetchPortal",
    "FetchRequest",
    "Fetched",
    "FetcherEndedError",
    "HostStore",
    "RawFeed",
    "Renderer",
    "Robots",
    "apart",
    "clock",
    "fetcher",
    "may_share_secrets",
    "renderer",
    "share_hosts",
]
from glyptarch_server.adapters.rendering import Renderer, chromium_at
from glyptarch_server.adapters.robots import Robots

_shared_hosts: list[HostStore] = []


def share_hosts(store: HostStore) -> None:
    """Let this process's fetcher take its turns at hosts from a store.

    The app that has the store calls this at the start.
    """
    _shared_hosts[:] = [store]


@cache
def fetcher() -> FetchPortal:
    """Return this process's fetcher."""
    (hosts,) = _shared_hosts
    return FetchPortal(allowed=settings.GLYPTARCH_FETCH_ALLOW, hosts=hosts, contact=settings.GLYPTARCH_CONTACT)


@cache
def apart() -> Apart:
    """Return this process's isolated parser."""
    return Apart()


@cache
def renderer() -> Renderer:
    """Return this process's renderer of pages with scripts."""
    return Renderer(chromium_at(settings.GLYPTARCH_CHROMIUM))


def clock() -> Clock:
    """Return the server's clock."""
    return system_clock
