"""The job of walks."""

from django.db import InterfaceError, OperationalError
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from glyptarch_server import wiring
from glyptarch_server.archives import actions

__all__ = ["walk_back"]

_WHILE_AWAY = RetryStrategy(max_attempts=100, wait=2, retry_exceptions={OperationalError, InterfaceError})


@app.task(name="walk_back", queue="runs", retry=_WHILE_AWAY, pass_context=False)  # type: ignore[untyped-decorator]
def walk_back(walk_id: int) -> None:
    """Read older items of a source."""
    actions.carry_on(walk_id, fetcher=wiring.fetcher(), clock=wiring.clock())
