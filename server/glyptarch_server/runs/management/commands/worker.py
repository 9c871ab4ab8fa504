"""``manage.py worker``: carry out jobs until told to stop."""

from typing import Any

from django.core.management.base import BaseCommand
from procrastinate.contrib.django import app

from glyptarch_server.common.process import settle

__all__ = ["Command"]


class Command(BaseCommand):
    """Carry out jobs. Any number of workers can share a database."""

    help = "Carry out jobs until told to stop."

    def handle(self, *_args: Any, **_options: Any) -> None:  # noqa: ANN401
        """Run one worker; jobs that a dead one left are taken up by a job of every few seconds."""
        settle()
        with app.replace_connector(app.connector.get_worker_connector()) as worker_app:
            worker_app.run_worker(
                concurrency=4,
                fetch_job_polling_interval=1.0,
                update_heartbeat_interval=2.0,
                stalled_worker_timeout=6.0,
                delete_jobs="successful",
                install_signal_handlers=True,
            )
