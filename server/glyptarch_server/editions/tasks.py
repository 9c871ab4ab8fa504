"""The jobs of editions."""

from procrastinate.contrib.django import app

from glyptarch_server import wiring
from glyptarch_server.editions import actions
from glyptarch_server.editions.making import carry_editions
from glyptarch_server.tasks.kinds import Kind, register

__all__ = ["begin_editions"]

register(Kind(name=actions.TASK, carry=carry_editions))


@app.periodic(cron="* * * * * */20")  # type: ignore[untyped-decorator]
@app.task(name="begin_editions", queue="care", queueing_lock="begin_editions", pass_context=False)  # type: ignore[untyped-decorator]
def begin_editions(timestamp: int) -> None:
    """Begin to make the editions of what has gone out, or has changed."""
    del timestamp
    actions.begin_due(now=wiring.clock()())
