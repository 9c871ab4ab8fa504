"""The demo's last month: the real code reads and decides the sources of each past moment."""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from datetime import datetime
from urllib.parse import quote

from glyptarch_server.wiring import Fetched, FetchError, FetchPortal, FetchRequest

__all__ = ["PastPortal"]


class PastPortal(FetchPortal):
    """Fetches what the stand-ins had at a past moment, without their requested pauses."""

    def __init__(self, *, allowed: frozenset[str]) -> None:
        super().__init__(allowed=allowed)
        self.at: datetime | None = None

    def fetch_in_batches(self, requests: Sequence[FetchRequest]) -> Iterator[list[tuple[int, Fetched | FetchError]]]:
        """Fetch each address as it was then.

        Validators of later answers are not sent.
        """
        if self.at is None:
            return super().fetch_in_batches([replace(request, pause_ms=0) for request in requests])
        at = quote(self.at.isoformat())
        past = [
            replace(
                request,
                url=f"{request.url}{'&' if '?' in request.url else '?'}at={at}",
                etag="",
                last_modified="",
                pause_ms=0,
            )
            for request in requests
        ]
        return super().fetch_in_batches(past)
