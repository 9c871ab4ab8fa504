"""Processes of the product on the database of a measurement."""

import os
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path

__all__ = ["one_web_server", "one_worker"]

_SERVER = Path(__file__).parents[1] / "server"
_PATIENCE = 60.0


@contextmanager
def one_worker(*, allowed: frozenset[str]) -> Iterator[None]:
    """Let one worker work, which may fetch from these addresses."""
    command = [sys.executable, str(_SERVER / "manage.py"), "worker"]
    with _process(command, {"GLYPTARCH_FETCH_ALLOW": ",".join(allowed)}):
        yield


@contextmanager
def one_web_server(*, port: int) -> Iterator[None]:
    """Let one web server answer at a port of loopback, and wait until it does."""
    command = [sys.executable, "-m", "glyptarch_server.config.web_server", "--host", "127.0.0.1", "--port", str(port)]
    with _process(command, {"GLYPTARCH_DEBUG": ""}):
        until = time.monotonic() + _PATIENCE
        while time.monotonic() < until and not _answers(port):
            time.sleep(0.2)
        yield


def _answers(port: int) -> bool:
    try:
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/session", timeout=5):
            return True
    except OSError:
        return False


@contextmanager
def _process(command: list[str], settings: Mapping[str, str]) -> Iterator[None]:
    from django.db import connection  # noqa: PLC0415 - Django is set up only now

    database = {"GLYPTARCH_DB_NAME": str(connection.settings_dict["NAME"])}
    process = subprocess.Popen(
        command,
        cwd=_SERVER,
        env={**os.environ, **database, **settings},
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        start_new_session=True,
    )
    try:
        yield
    finally:
        process.terminate()
        process.wait(30)
