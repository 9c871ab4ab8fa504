"""The job that reads offers again."""

from procrastinate.contrib.django import app

from glyptarch_server import wiring
from glyptarch_server.offers.reader import read_due

__all__ = ["read_offers"]


@app.periodic(cron="* * * * * */20")  # type: ignore[untyped-decorator]
@app.task(name="read_offers", queue="care", queueing_lock="read_offers", pass_context=False)  # type: ignore[untyped-decorator]
def read_offers(timestamp: int) -> None:
    """Read the offers that are due."""
    del timestamp
    read_due(wiring.fetcher(), now=wiring.clock()())
