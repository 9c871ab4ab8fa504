"""``manage.py worker``: carry out jobs until told to stop."""

import asyncio
import logging
import signal
from typing import Any

from django.core.management.base import BaseCommand
from procrastinate import App
from procrastinate.contrib.django import app

from glyptarch_server.common.process import tune_process
from glyptarch_server.runs.queries import WORKER_SILENT

__all__ = ["Command", "serve"]

_log = logging.getLogger("glyptarch.worker")
_FIRST_PAUSE = 0.5
_LONGEST_PAUSE = 10.0


class Command(BaseCommand):
    """Carry out jobs. Any number of workers can share a database."""

    help = "Carry out jobs until told to stop."

    def handle(self, *_args: Any, **_options: Any) -> None:  # noqa: ANN401
        """Run one worker; jobs that a dead one left are taken up by a job of every few seconds."""
        tune_process()
        asyncio.run(serve())


async def serve() -> None:
    """Carry out jobs until SIGTERM or SIGINT; begin again whenever the database has gone away and come back."""
    stop = asyncio.Event()
    for sent in (signal.SIGTERM, signal.SIGINT):
        asyncio.get_running_loop().add_signal_handler(sent, stop.set)
    pause = _FIRST_PAUSE
    while not stop.is_set():
        begun = asyncio.get_running_loop().time()
        try:
            with app.replace_connector(app.connector.get_worker_connector()) as worker_app:
                await _work(worker_app, stop)
        except Exception as error:  # noqa: BLE001 - whatever ended the work, it is begun again
            _log.warning("the worker broke off: %s", type(error).__name__)
        if asyncio.get_running_loop().time() - begun > _LONGEST_PAUSE:
            pause = _FIRST_PAUSE
        if not stop.is_set():
            _log.warning("the worker begins again in %s seconds", pause)
            await _wait(stop, pause)
            pause = min(2 * pause, _LONGEST_PAUSE)


async def _work(worker_app: App, stop: asyncio.Event) -> None:
    """Carry out jobs until one of the worker's own connections breaks, or until told to stop."""
    async with worker_app.open_async():
        work = asyncio.create_task(
            worker_app.run_worker_async(
                concurrency=4,
                fetch_job_polling_interval=1.0,
                update_heartbeat_interval=2.0,
                stalled_worker_timeout=WORKER_SILENT,
                delete_jobs="successful",
                install_signal_handlers=False,
            )
        )
        stopped = asyncio.create_task(stop.wait())
        await asyncio.wait({work, stopped}, return_when=asyncio.FIRST_COMPLETED)
        stopped.cancel()
        if not work.done():
            work.cancel()
        await asyncio.gather(work, return_exceptions=stop.is_set())


async def _wait(stop: asyncio.Event, seconds: float) -> None:
    try:
        await asyncio.wait_for(stop.wait(), seconds)
    except TimeoutError:
        return
