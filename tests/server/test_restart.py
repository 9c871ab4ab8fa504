"""Two real workers and a web server, while their database ends connections and is restarted."""

import os
import subprocess
import sys
import urllib.request
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import psycopg
from django.test import SimpleTestCase
from glyptarch_launcher.database import Database
from glyptarch_launcher.paths import REPOSITORY, VAR
from glyptarch_launcher.processes import Group, free_port

from tests.processes import MANAGE, alive, until

ITEMS = 300
UNDER_WAY = "SELECT count(*) FROM runs_decision"


class RestartedDatabase(SimpleTestCase):
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

    def test_the_run_ends_nothing_is_doubled_and_nobody_has_to_be_started_again(self) -> None:
        logs = [self.group.start(f"restart-worker-{number}", [*MANAGE, "worker"])[1] for number in (1, 2)]
        self.port = free_port()
        web = [sys.executable, "-m", "uvicorn", "--port", str(self.port), "--lifespan", "off"]
        self.group.start("restart-web", [*web, "glyptarch_server.config.asgi:application"])
        self.assertTrue(until(lambda: self.ask(UNDER_WAY) >= 10, seconds=60), logs[0].read_text()[-2000:])
        self.ask(
            "SELECT count(pg_terminate_backend(pid)) FROM pg_stat_activity WHERE pid <> pg_backend_pid() AND usename = 'glyptarch'"
        )
        self.assertTrue(until(lambda: self.ask(UNDER_WAY) >= 60, seconds=60), logs[0].read_text()[-2000:])
        self.assertTrue(until(self.web_answers, seconds=20))
        self.database.stop()
        self.database.start()
        self.assertLess(self.ask(UNDER_WAY), ITEMS, "the database was not restarted in the middle")
        ended = until(lambda: self.ask("SELECT state FROM runs_run") == "done", seconds=90)
        self.assertTrue(ended, "\n".join(log.read_text()[-3000:] for log in logs))
        for count in (
            "SELECT count(*) FROM runs_decision",
            "SELECT count(DISTINCT item_id) FROM runs_decision",
            "SELECT count(*) FROM posts_post",
            "SELECT count(DISTINCT item_id) FROM posts_post",
        ):
            self.assertEqual(self.ask(count), ITEMS, count)
        self.assertEqual(alive(self.group), [True, True, True])
        with ThreadPoolExecutor(200) as many:
            self.assertTrue(all(many.map(lambda _: self.web_answers(60), range(400))), "a request failed in the rush")
        both = "SELECT count(*) FROM procrastinate_workers WHERE last_heartbeat > now() - interval '4 seconds'"
        self.assertTrue(until(lambda: self.ask(both) == 2, seconds=20), "a worker has not come back")
        self.assertTrue(until(self.web_answers, seconds=20))
