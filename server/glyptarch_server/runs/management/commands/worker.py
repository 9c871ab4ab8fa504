"""``manage.py worker``: carry out jobs until stopped.

``--without-clock`` beside a ``manage.py clock``.
"""

import asyncio
import logging
import signal
import threading
from collections.abc import Awaitable, Callable
from copy import copy
from typing import Any, TypeAlias

from django.core.management.base import BaseCommand, CommandParser
from procrastinate import App
from procrastinate.contrib.django import app
from procrastinate.periodic import PeriodicDeferrer, PeriodicRegistry

from glyptarch_server import wiring
from glyptarch_server.common.ending import end_soon, is_ending
from glyptarch_server.common.lanes import LANES
from glyptarch_server.common.process import tune_process
from glyptarch_server.common.start import check_database
from glyptarch_server.items.reader import ReaderLoop
from glyptarch_server.media.files import check_folder
from glyptarch_server.tasks.queries import WORKER_SILENT

__all__ = ["Command", "keep_time", "serve", "work"]

_log = logging.getLogger("glyptarch.worker")
_FIRST_PAUSE = 0.5
_LONGEST_PAUSE = 10.0


class Command(BaseCommand):
    """Carry out jobs. Any number of workers can share a database."""

    help = "Carry out jobs until told to stop."

    def add_arguments(self, parser: CommandParser) -> None:
        """Add ``--without-clock``."""
        parser.add_argument("--without-clock", action="store_true", help="another process keeps the clock")

    def handle(self, *_args: Any, without_clock: bool, **_options: Any) -> None:  # noqa: ANN401
        """Run one worker. A periodic job requeues the jobs of dead workers."""
        tune_process()
        check_database(must_answer=False)
        check_folder()
        reader = ReaderLoop(fetcher=wiring.fetcher(), clock=wiring.clock())
        reading = threading.Thread(target=reader.run, args=[is_ending], name="reader")
        reading.start()
        try:
            asyncio.run(serve(work_without_clock if without_clock else work))
        finally:
            end_soon()
            reading.join()


_Work: TypeAlias = Callable[[App], Awaitable[None]]


async def serve(part: _Work) -> None:
    """Work until SIGTERM or SIGINT.

    Start again whenever the database was away.
    """
    stop = asyncio.Event()
    for sent in (signal.SIGTERM, signal.SIGINT):
        asyncio.get_running_loop().add_signal_handler(sent, _end, stop)
    pause = _FIRST_PAUSE
    while not stop.is_set():
        begun = asyncio.get_running_loop().time()
        try:
            with app.replace_connector(app.connector.get_worker_connector()) as worker_app:
                await _until_stopped(part, worker_app, stop)
        except Exception as error:  # noqa: BLE001 - whatever ended the work, it is begun again
            _log.warning("the worker was interrupted by %s", type(error).__name__)
        if asyncio.get_running_loop().time() - begun > _LONGEST_PAUSE:
            pause = _FIRST_PAUSE
        if not stop.is_set():
            _log.warning("the worker starts again in %s seconds", pause)
            await _wait(stop, pause)
            pause = min(2 * pause, _LONGEST_PAUSE)


def _end(stop: asyncio.Event) -> None:
    """Let long work stop at its next batch, and start no job any more."""
    end_soon()
    wiring.fetcher().end_soon()
    stop.set()


async def work(worker_app: App) -> None:
    """Carry out jobs in all lanes, and queue periodic ones."""
    await asyncio.gather(*(_lane_again_and_again(worker_app, name) for name in LANES))


async def _lane_again_and_again(worker_app: App, name: str) -> None:
    """Work in a lane, and begin again whenever the database was away.

    Each lane does so by itself: one that ends its jobs in good order would hold up the others for a minute.
    """
    # A lane that is cancelled while the database is away ends with the database's error.
    while not is_ending():
        try:
            await _lane(worker_app, name)
        except Exception as error:  # noqa: BLE001 - whatever ended the lane, it is begun again
            _log.warning("the lane of %s was interrupted by %s", name, type(error).__name__)
        await asyncio.sleep(_FIRST_PAUSE)


async def _lane(worker_app: App, name: str) -> None:
    queues, at_once = LANES[name]
    lane = copy(worker_app)
    if name != "care":
        # One lane queues the periodic jobs for all.
        lane.periodic_registry = PeriodicRegistry()  # type: ignore[no-untyped-call]
    await lane.run_worker_async(
        queues=list(queues),
        name=name,
        concurrency=at_once,
        fetch_job_polling_interval=1.0,
        update_heartbeat_interval=2.0,
        stalled_worker_timeout=WORKER_SILENT,
        delete_jobs="successful",
        install_signal_handlers=False,
    )


async def work_without_clock(worker_app: App) -> None:
    """Carry out jobs alone."""
    worker_app.periodic_registry = PeriodicRegistry()  # type: ignore[no-untyped-call]
    await work(worker_app)


async def keep_time(worker_app: App) -> None:
    """Queue periodic jobs at their times. Several processes may do it: each job is queued once."""
    await PeriodicDeferrer(registry=worker_app.periodic_registry, **worker_app.periodic_defaults).worker()


async def _until_stopped(part: _Work, worker_app: App, stop: asyncio.Event) -> None:
    """Work until a connection breaks, or until stopped."""
    async with worker_app.open_async():
        worker_app.perform_import_paths()  # type: ignore[no-untyped-call]
        working = asyncio.ensure_future(part(worker_app))
        stopped = asyncio.create_task(stop.wait())
        await asyncio.wait({working, stopped}, return_when=asyncio.FIRST_COMPLETED)
        stopped.cancel()
        if not working.done():
            working.cancel()
        await asyncio.gather(working, return_exceptions=stop.is_set())


async def _wait(stop: asyncio.Event, seconds: float) -> None:
    try:
        await asyncio.wait_for(stop.wait(), seconds)
    except TimeoutError:
        return
