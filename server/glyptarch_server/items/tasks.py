"""The job that asks the pages of a source for their texts."""

from django.db import InterfaceError, OperationalError
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from glyptarch_server import wiring
from glyptarch_server.items.page_pictures import look_up_all_pages

__all__ = ["ask_pages"]

_WHILE_AWAY = RetryStrategy(max_attempts=100, wait=2, retry_exceptions={OperationalError, InterfaceError})


@app.task(name="ask_pages", queue="runs", retry=_WHILE_AWAY, pass_context=False)  # type: ignore[untyped-decorator]
def ask_pages(source_id: int) -> None:
    """Ask the pages of a source that were not asked yet."""
    look_up_all_pages(source_id, fetcher=wiring.fetcher(), clock=wiring.clock())
