"""The job that asks for sources by their own plan."""

from procrastinate.contrib.django import app

from glyptarch_server import wiring
from glyptarch_server.sources import asking

__all__ = ["ask_for_sources_by_plan"]

_AT_ONCE = 1000


@app.periodic(cron="* * * * * 40")  # type: ignore[untyped-decorator]
@app.task(name="ask_for_sources_by_plan", queue="care", queueing_lock="ask_for_sources_by_plan", pass_context=False)  # type: ignore[untyped-decorator]
def ask_for_sources_by_plan(timestamp: int) -> None:
    """Ask for the sources that nothing else has asked for lately."""
    del timestamp
    asking.ask_by_plan(now=wiring.clock()(), most=_AT_ONCE)
