"""A database server, a campaign and a run of their own, for tests that stop and kill the processes around them."""

import os
import subprocess
import sys
import urllib.request
from typing import Any

import psycopg
from django.test import SimpleTestCase
from glyptarch_launcher.database import Database
from glyptarch_launcher.paths import REPOSITORY, VAR
from glyptarch_launcher.ports import free_port
from glyptarch_launcher.processes import Group

from tests.processes import MANAGE

__all__ = ["ITEMS", "UNDER_WAY", "OwnWorld"]

ITEMS = 300
UNDER_WAY = "SELECT count(*) FROM runs_decision"


class OwnWorld(SimpleTestCase):
    """A database server of its own with a run that waits, for tests that stop and kill it."""

    lane = "alone"
    port = 0

    def setUp(self) -> None:
        self.database = Database("restart-postgres", free_port(), fast=True)
        self.addCleanup(self.database.remove)
        self.database.remove()
        self.database.start()
        self.env = {
            **os.environ,
            **self.database.environment(),
            "DJANGO_SETTINGS_MODULE": "glyptarch_server.config.settings",
            "GLYPTARCH_VAR": str(VAR),
            "GLYPTARCH_RUN_BATCH": "2",
        }
        for command in ([*MANAGE, "migrate", "-v0"], [sys.executable, "-m", "tests.server.restart_world", str(ITEMS)]):
            subprocess.run([str(part) for part in command], cwd=REPOSITORY, env=self.env, check=True)
        self.group = Group(self.env)
        self.addCleanup(self.group.stop)

    def ask(self, query: str) -> Any:  # noqa: ANN401
        with psycopg.connect(
            host="127.0.0.1",
            port=self.database.port,
            dbname="glyptarch",
            user="glyptarch",
            password=self.database.password,
        ) as connection:
            return connection.execute(query).fetchone()[0]  # type: ignore[arg-type, index]

    def web_answers(self, seconds: float = 5) -> bool:
        try:
            with urllib.request.urlopen(f"http://127.0.0.1:{self.port}/blog/meadow/", timeout=seconds) as answer:
                return bool(answer.status == 200)
        except OSError:
            return False
