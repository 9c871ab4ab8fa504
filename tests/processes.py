"""The real server processes, on the test database, for tests that need the whole."""

import os
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path

from django.db import connection
from glyptarch_launcher.paths import REPOSITORY, VAR
from glyptarch_launcher.processes import Group

__all__ = ["MANAGE", "alive", "server_group", "until"]

MANAGE: tuple[str | Path, ...] = (sys.executable, REPOSITORY / "server" / "manage.py")


def server_group(**env: str) -> Group:
    """Return a group whose processes use this test's database."""
    settings = connection.settings_dict
    return Group(
        {
            **os.environ,
            "GLYPTARCH_DB_NAME": str(settings["NAME"]),
            "DJANGO_SETTINGS_MODULE": "glyptarch_server.config.settings",
            "GLYPTARCH_VAR": str(VAR),
            **env,
        }
    )


def alive(group: Group) -> list[bool]:
    """Return for each process of a group whether it is running."""
    return [member.process.poll() is None for member in group.members]


def until(holds: Callable[[], bool], *, seconds: float, process: subprocess.Popen[bytes] | None = None) -> bool:
    """Wait until a condition holds.

    Return False at the end of the time or of the process.
    """
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if holds():
            return True
        if process is not None and process.poll() is not None:
            return holds()
        time.sleep(0.05)
    return False
