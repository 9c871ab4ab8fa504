"""The job of messages."""

from procrastinate.contrib.django import app

from glyptarch_server import wiring
from glyptarch_server.notices import actions

__all__ = ["tell_people"]


@app.periodic(cron="* * * * *")  # type: ignore[untyped-decorator]
@app.task(name="tell_people", queue="care", queueing_lock="tell_people", pass_context=False)  # type: ignore[untyped-decorator]
def tell_people(timestamp: int) -> None:
    """Send the due notices."""
    del timestamp
    actions.tell_all(now=wiring.clock()())
