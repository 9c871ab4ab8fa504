"""The jobs of offers: reading them again, posts that follow, and thinning."""

from procrastinate.contrib.django import app

from glyptarch_server import wiring
from glyptarch_server.offers import actions
from glyptarch_server.offers.reader import read_due

__all__ = ["let_posts_follow", "read_offers", "thin_offers"]


@app.periodic(cron="* * * * * */20")  # type: ignore[untyped-decorator]
@app.task(name="read_offers", queue="care", queueing_lock="read_offers", pass_context=False)  # type: ignore[untyped-decorator]
def read_offers(timestamp: int) -> None:
    """Read the offers that are due."""
    del timestamp
    read_due(wiring.fetcher(), now=wiring.clock()())


@app.task(name="let_posts_follow", queue="care", pass_context=False)  # type: ignore[untyped-decorator]
def let_posts_follow(blog: int, products: str) -> None:
    """Hold or bin the posts about products that cannot be bought any more."""
    actions.let_posts_follow(blog, [int(number) for number in products.split(",")], now=wiring.clock()())


@app.periodic(cron="50 3 * * *")  # type: ignore[untyped-decorator]
@app.task(name="thin_offers", queue="care", queueing_lock="thin_offers", pass_context=False)  # type: ignore[untyped-decorator]
def thin_offers(timestamp: int) -> None:
    """Remove prices and counts of links that are older than two years."""
    del timestamp
    actions.thin_offers(now=wiring.clock()())
