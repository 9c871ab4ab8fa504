"""The jobs of the throttle."""

from procrastinate.contrib.django import app

from glyptarch_server.throttle import actions, hosts

__all__ = ["remove_ended_windows"]


@app.periodic(cron="17 * * * *")  # type: ignore[untyped-decorator]
@app.task(name="remove_ended_windows", queue="care", queueing_lock="remove_ended_windows", pass_context=False)  # type: ignore[untyped-decorator]
def remove_ended_windows(timestamp: int) -> None:
    """Remove the counts of past periods, and the turns at hosts that are not asked any more."""
    del timestamp
    actions.remove_ended()
    hosts.remove_unused_turns()
