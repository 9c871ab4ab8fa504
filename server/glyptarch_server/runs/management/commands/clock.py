"""``manage.py clock``: queue periodic jobs at their times, until stopped."""

import asyncio
from typing import Any

from django.core.management.base import BaseCommand

from glyptarch_server.runs.management.commands.worker import keep_time, serve

__all__ = ["Command"]


class Command(BaseCommand):
    """Queue periodic jobs, for workers started with ``--without-clock``."""

    help = "Put jobs on the queue when their time has come, until told to stop."

    def handle(self, *_args: Any, **_options: Any) -> None:  # noqa: ANN401
        """Queue periodic jobs. A second clock does no harm."""
        asyncio.run(serve(keep_time))
