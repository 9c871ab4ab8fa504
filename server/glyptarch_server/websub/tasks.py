"""The job of subscriptions."""

from procrastinate.contrib.django import app

from glyptarch_server import wiring
from glyptarch_server.websub import actions

__all__ = ["care_for_subscriptions"]


@app.periodic(cron="* * * * * 20")  # type: ignore[untyped-decorator]
@app.task(name="care_for_subscriptions", queue="care", queueing_lock="care_for_subscriptions", pass_context=False)  # type: ignore[untyped-decorator]
def care_for_subscriptions(timestamp: int) -> None:
    """Subscribe feeds that name a hub, and renew what ends."""
    del timestamp
    actions.care(fetcher=wiring.fetcher(), now=wiring.clock()())
