"""Polling by several worker processes on as many cores.

Server and database share the cores.
"""

import multiprocessing
import os
import time
from contextlib import closing, suppress
from datetime import timedelta
from pathlib import Path
from typing import Any
from unittest.mock import patch

import django

from benchmarks.database import NOW
from benchmarks.polling_server import ALLOWED

__all__ = ["workers"]

_PATIENCE = 120


def workers(number: int, *, turn: int, server: int) -> float:
    """Let workers poll all sources on as many cores.

    Return the seconds.
    """
    from django.db import connection  # noqa: PLC0415 - Django is set up only now
    from glyptarch_server.sources.asking import ask_for  # noqa: PLC0415
    from glyptarch_server.sources.models import Source, SourceState  # noqa: PLC0415
    from glyptarch_server.tasks.models import Task  # noqa: PLC0415

    cores = set(sorted(os.sched_getaffinity(0))[:number])
    _pin(server, cores)
    SourceState.objects.update(etag=f'"{turn + 1}"')
    ask_for(Task.objects.earliest("pk").pk, list(Source.objects.order_by("pk")))
    os.environ["GLYPTARCH_DB_NAME"] = str(connection.settings_dict["NAME"])
    spawn = multiprocessing.get_context("spawn")
    begin, took = spawn.Barrier(number + 1), spawn.Queue()
    started = []
    for _ in range(number):
        started.append(spawn.Process(target=_work, args=(turn, cores, begin, took)))
        started[-1].start()
    begin.wait(_PATIENCE)
    seconds = max(float(took.get(timeout=_PATIENCE)) for _ in started)
    for one in started:
        one.join()
    return seconds


def _work(turn: int, cores: set[int], begin: Any, took: Any) -> None:  # noqa: ANN401 - of multiprocessing
    """Read what is asked for when all are ready, and say how many seconds it took."""
    os.sched_setaffinity(0, cores)
    django.setup()
    from django.db import connection  # noqa: PLC0415
    from glyptarch_server import wiring  # noqa: PLC0415
    from glyptarch_server.common.process import tune_process  # noqa: PLC0415
    from glyptarch_server.items.reader import ReaderLoop  # noqa: PLC0415
    from glyptarch_server.sources.asking import any_pending  # noqa: PLC0415
    from glyptarch_server.throttle.hosts import SharedHosts  # noqa: PLC0415
    from glyptarch_server.wiring import FetchPortal  # noqa: PLC0415

    tune_process()
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_backend_pid()")
        _pin(cursor.fetchone()[0], cores)
    with patch.object(wiring, "clock"), closing(FetchPortal(allowed=ALLOWED, hosts=SharedHosts())) as portal:
        # Start the parser processes, as in a worker that has run for a while.
        wiring.apart().read_feeds([])
        begin.wait(_PATIENCE)
        begun = time.perf_counter()
        ReaderLoop(fetcher=portal, clock=lambda: NOW + timedelta(minutes=turn)).run(lambda: not any_pending())
        took.put(time.perf_counter() - begun)
    wiring.apart().close()


def _pin(process: int, cores: set[int]) -> None:
    """Pin all threads of a process to cores, where that is allowed."""
    for thread in Path(f"/proc/{process}/task").iterdir():
        with suppress(PermissionError):
            os.sched_setaffinity(int(thread.name), cores)
