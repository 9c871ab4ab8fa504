"""The jobs of copies."""

from procrastinate.contrib.django import app

from glyptarch_server import wiring
from glyptarch_server.media import actions
from glyptarch_server.tasks.kinds import Kind, register

__all__ = ["remove_unused_pictures", "retry_copies"]

register(Kind(name="pictures", carry=actions.carry_out_pictures, end=actions.end_pictures, queue="media"))
register(Kind(name="recording", carry=actions.carry_out_recording, end=actions.end_recording, queue="media"))


@app.periodic(cron="* * * * *")  # type: ignore[untyped-decorator]
@app.task(name="retry_copies", queue="care", queueing_lock="retry_copies", pass_context=False)  # type: ignore[untyped-decorator]
def retry_copies(timestamp: int) -> None:
    """Retry the copies that are due."""
    del timestamp
    actions.take_up_due(now=wiring.clock()())


@app.periodic(cron="20 3 * * *")  # type: ignore[untyped-decorator]
@app.task(name="remove_unused_pictures", queue="care", queueing_lock="remove_unused_pictures", pass_context=False)  # type: ignore[untyped-decorator]
def remove_unused_pictures(timestamp: int) -> None:
    """Remove copies that nothing shows any more."""
    del timestamp
    actions.remove_unused(now=wiring.clock()())
