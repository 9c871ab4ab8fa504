"""API schemas of subscriptions."""

from datetime import datetime

from glyptarch_server.common.out import Out
from glyptarch_server.websub.queries import PushState

__all__ = ["PushOut"]


class PushOut(Out):
    """The subscription of a source.

    No state where its feed names no hub.
    """

    hub: str
    state: PushState | None
    lease_ends_at: datetime | None
    pushed_at: datetime | None
    bad_pushes: int
    failure: str
    address_is_set: bool
