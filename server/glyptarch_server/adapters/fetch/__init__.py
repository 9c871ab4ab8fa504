"""Fetching over HTTP, with everything that comes back taken for hostile."""

from glyptarch_server.adapters.fetch.client import (
    USER_AGENT,
    Fetched,
    Fetcher,
    FetchLimits,
    FetchRequest,
    may_share_secrets,
)
from glyptarch_server.adapters.fetch.errors import FetchCode, FetcherEndedError, FetchError
from glyptarch_server.adapters.fetch.host_turns import LEASE_SECONDS, EndedTurn, HostStore
from glyptarch_server.adapters.fetch.portal import FetchPortal

__all__ = [
    "LEASE_SECONDS",
    "USER_AGENT",
    "EndedTurn",
    "FetchCode",
    "FetchError",
    "FetchLimits",
    "FetchPortal",
    "FetchRequest",
    "Fetched",
    "Fetcher",
    "FetcherEndedError",
    "HostStore",
    "may_share_secrets",
]
