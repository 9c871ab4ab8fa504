"""A separate database server, campaign and run, for tests that kill processes."""

import os
import subprocess
import sys
import time
import urllib.error
import urllib.request
from http import HTTPStatus
from typing import Any

import psycopg
from django.db import connection
from django.test import SimpleTestCase
from glyptarch_launcher.database import Database, _as_postgres, _binaries
from glyptarch_launcher.paths import REPOSITORY, VAR
from glyptarch_launcher.ports import free_port
from glyptarch_launcher.processes import Group

from tests.running.databases import ensure_template

__all__ = ["ITEMS", "UNDER_WAY", "OwnWorld"]

ITEMS = 300
UNDER_WAY = "SELECT count(*) FROM runs_decision"


class OwnWorld(SimpleTestCase):
    """A database server of its own with a run that waits, for tests that stop and kill it."""

    lane = "processes"
    databases = {"default"}
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
            # What was committed must outlive a killed database, as it does outside tests.
            "PGOPTIONS": "-c synchronous_commit=on",
        }
        self.copy_schema()
        self.begin()
        self.group = Group(self.env)
        self.addCleanup(self.group.stop)

    def begin(self) -> None:
        """Fill the database, and begin a run."""
        command = [sys.executable, "-m", "tests.server.restart_world", str(ITEMS)]
        subprocess.run(command, cwd=REPOSITORY, env=self.env, check=True)

    def kill_database(self) -> None:
        """Stop the database server without a word to anybody, and start it again."""
        command = [*_as_postgres(), str(_binaries() / "pg_ctl"), "-D", str(self.database.folder)]
        subprocess.run([*command, "-m", "immediate", "-w", "stop"], capture_output=True, check=True)
        self.database.start()

    def copy_schema(self) -> None:
        """Copy the migrated template from the tests' server to this one."""
        settings = connection.settings_dict
        theirs = ["-h", settings["HOST"], "-p", str(settings["PORT"]), "-U", settings["USER"]]
        ours = ["-h", "127.0.0.1", "-p", str(self.database.port), "-U", "glyptarch"]
        dump = subprocess.run(
            [_binaries() / "pg_dump", *theirs, ensure_template()],
            env={"PGPASSWORD": settings["PASSWORD"]}, capture_output=True, check=True,
        ).stdout  # fmt: skip
        subprocess.run(
            [_binaries() / "psql", *ours, "-q", "-v", "ON_ERROR_STOP=1", "glyptarch"],
            env={"PGPASSWORD": self.database.password}, input=dump, capture_output=True, check=True,
        )  # fmt: skip

    def ask(self, query: str) -> Any:  # noqa: ANN401
        with psycopg.connect(
            host="127.0.0.1",
            port=self.database.port,
            dbname="glyptarch",
            user="glyptarch",
            password=self.database.password,
        ) as database:
            return database.execute(query).fetchone()[0]  # type: ignore[arg-type, index]

    def web_answers(self, seconds: float = 5) -> bool:
        """Whether the blog's front page arrives in time.

        A busy server is asked again after its ``Retry-After``.
        """
        until = time.monotonic() + seconds
        while (left := until - time.monotonic()) > 0:
            try:
                with urllib.request.urlopen(f"http://127.0.0.1:{self.port}/blog/meadow/", timeout=left) as answer:
                    return bool(answer.status == 200)
            except urllib.error.HTTPError as error:
                if error.status != HTTPStatus.SERVICE_UNAVAILABLE or not error.headers["Retry-After"]:
                    return False
                time.sleep(float(error.headers["Retry-After"]))
            except OSError:
                return False
        return False
