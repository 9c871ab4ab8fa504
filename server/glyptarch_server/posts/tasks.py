"""The jobs of posts."""

import logging
import time

from procrastinate.contrib.django import app

from glyptarch_server import wiring
from glyptarch_server.items.actions import refresh_features as refresh
from glyptarch_server.posts import actions, changes, emptying
from glyptarch_server.posts.queries import blogs_to_learn_from
from glyptarch_server.tasks.kinds import Kind, register

__all__ = ["bring_out_due", "empty_old_bins", "learn_common_text", "refresh_features"]

_AT_A_TIME = 200
_SECONDS_OF_REFRESHING = 40.0

_log = logging.getLogger("glyptarch.posts")


@app.periodic(cron="* * * * *")  # type: ignore[untyped-decorator]
@app.task(name="refresh_features", queue="care", queueing_lock="refresh_features", pass_context=False)  # type: ignore[untyped-decorator]
def refresh_features(timestamp: int) -> None:
    """Recompute features made by an earlier version, and the keys of their posts."""
    del timestamp
    end = time.monotonic() + _SECONDS_OF_REFRESHING
    while time.monotonic() < end and (rows := refresh(most=_AT_A_TIME)):
        actions.remember_anew(rows)


@app.periodic(cron="*/5 * * * *")  # type: ignore[untyped-decorator]
@app.task(name="learn_common_text", queue="care", queueing_lock="learn_common_text", pass_context=False)  # type: ignore[untyped-decorator]
def learn_common_text(timestamp: int) -> None:
    """Recompute the common passages of blogs that have changed."""
    del timestamp
    for blog in blogs_to_learn_from():
        actions.learn_common_text(blog, now=wiring.clock()())


@app.periodic(cron="* * * * * */20")  # type: ignore[untyped-decorator]
@app.task(name="bring_out_due", queue="care", queueing_lock="bring_out_due", pass_context=False)  # type: ignore[untyped-decorator]
def bring_out_due(timestamp: int) -> None:
    """Publish due posts."""
    del timestamp
    number = actions.bring_out_due(now=wiring.clock()())
    if number:
        _log.info("%s scheduled posts were published", number)


register(Kind(name="change", carry=changes.carry_out, end=changes.end_with_task))


@app.periodic(cron="40 2 * * *")  # type: ignore[untyped-decorator]
@app.task(name="empty_old_bins", queue="care", queueing_lock="empty_old_bins", pass_context=False)  # type: ignore[untyped-decorator]
def empty_old_bins(timestamp: int) -> None:
    """Remove posts that have been in a bin long enough."""
    del timestamp
    emptying.empty_old(now=wiring.clock()())
