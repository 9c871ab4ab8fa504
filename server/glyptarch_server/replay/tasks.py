"""The jobs of replays."""

from django.db import InterfaceError, OperationalError
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from glyptarch_server import wiring
from glyptarch_server.replay import actions, applying

__all__ = ["apply_replay", "carry_on_replay"]

_WHILE_AWAY = RetryStrategy(max_attempts=100, wait=2, retry_exceptions={OperationalError, InterfaceError})


@app.task(name="carry_on_replay", queue="runs", retry=_WHILE_AWAY, pass_context=False)  # type: ignore[untyped-decorator]
def carry_on_replay(replay_id: int) -> None:
    """Compare posts with the rules of a revision."""
    actions.carry_on(replay_id, clock=wiring.clock())


@app.task(name="apply_replay", queue="runs", retry=_WHILE_AWAY, pass_context=False)  # type: ignore[untyped-decorator]
def apply_replay(replay_id: int) -> None:
    """Apply the results of a replay."""
    applying.apply(replay_id, clock=wiring.clock())
