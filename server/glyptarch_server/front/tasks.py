"""The job that tells hubs of new posts."""

from procrastinate.contrib.django import app

from glyptarch_server import wiring
from glyptarch_server.posts.queries import newest_out
from glyptarch_server.websub.announcing import announce, blogs_with_hub

__all__ = ["tell_hubs"]


@app.periodic(cron="* * * * * 40")  # type: ignore[untyped-decorator]
@app.task(name="tell_hubs", queue="care", queueing_lock="tell_hubs", pass_context=False)  # type: ignore[untyped-decorator]
def tell_hubs(timestamp: int) -> None:
    """Announce posts that have gone out, at most once a minute for each blog."""
    del timestamp
    blogs = blogs_with_hub()
    out = newest_out([blog.pk for blog in blogs]) if blogs else {}
    newest = {blog: out[blog.pk] for blog in blogs if blog.pk in out}
    if newest:
        announce(newest, fetcher=wiring.fetcher(), now=wiring.clock()())
