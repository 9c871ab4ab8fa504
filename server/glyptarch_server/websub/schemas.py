"""What the API gives about subscriptions."""

from datetime import datetime

from ninja import Schema

from glyptarch_server.websub.queries import PushState

__all__ = ["PushOut"]


class PushOut(Schema):
    """How a source is pushed; no state where its feed names no hub."""

    hub: str
    state: PushState | None
    lease_ends_at: datetime | None
    pushed_at: datetime | None
    bad_pushes: int
    failure: str
    address_is_set: bool
