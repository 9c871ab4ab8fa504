"""The one place where adapters are built. They are handed on as arguments from here."""

from functools import cache

from django.conf import settings

from glyptarch_server.adapters.apart import NO_FEATURES, Apart, RawFeed
from glyptarch_server.adapters.clock import Clock, system_clock
from glyptarch_server.adapters.fetch import (
    USER_AGENT,
    FetchCode,
    Fetched,
    FetchError,
    FetchLimits,
    FetchPortal,
    FetchRequest,
    may_share_secrets,
)

__all__ = [
    "NO_FEATURES",
    "USER_AGENT",
    "Apart",
    "Clock",
    "FetchCode",
    "FetchError",
    "FetchLimits",
    "FetchPortal",
    "FetchRequest",
    "Fetched",
    "RawFeed",
    "Renderer",
    "Robots",
    "apart",
    "clock",
    "fetcher",
    "may_share_secrets",
    "renderer",
]
from glyptarch_server.adapters.rendering import Renderer, chromium_at
from glyptarch_server.adapters.robots import Robots


@cache
def fetcher() -> FetchPortal:
    """Return this process's fetcher."""
    return FetchPortal(allowed=settings.GLYPTARCH_FETCH_ALLOW)


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
