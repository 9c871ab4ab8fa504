"""The jobs of posts."""

import logging

from procrastinate.contrib.django import app

from glyptarch_server import wiring
from glyptarch_server.posts import actions

__all__ = ["bring_out_due"]

_log = logging.getLogger("glyptarch.posts")


@app.periodic(cron="* * * * * */20")  # type: ignore[untyped-decorator]
@app.task(name="bring_out_due", queue="care", queueing_lock="bring_out_due", pass_context=False)  # type: ignore[untyped-decorator]
def bring_out_due(timestamp: int) -> None:
    """Publish what is due."""
    del timestamp
    number = actions.bring_out_due(now=wiring.clock()())
    if number:
        _log.info("%s scheduled posts have gone out", number)
