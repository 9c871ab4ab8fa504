"""The jobs of copies."""

from django.db import InterfaceError, OperationalError
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from glyptarch_server import wiring
from glyptarch_server.media import actions

__all__ = ["copy_pictures", "copy_recording", "remove_unused_pictures", "retry_copies"]

_WHILE_AWAY = RetryStrategy(max_attempts=100, wait=2, retry_exceptions={OperationalError, InterfaceError})


@app.task(name="copy_pictures", queue="media", retry=_WHILE_AWAY, pass_context=False)  # type: ignore[untyped-decorator]
def copy_pictures(blog_id: int) -> None:
    """Copy pictures that posts of a blog show."""
    actions.copy_pictures(blog_id, fetcher=wiring.fetcher(), clock=wiring.clock())


@app.task(name="copy_recording", queue="media", retry=_WHILE_AWAY, pass_context=False)  # type: ignore[untyped-decorator]
def copy_recording(recording_id: int) -> None:
    """Copy a film or sound that posts play."""
    actions.copy_recording(recording_id, fetcher=wiring.fetcher(), clock=wiring.clock())


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
