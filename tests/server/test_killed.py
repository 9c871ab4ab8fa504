"""Worker, web server and database are killed ten times during a run and restarted."""

import signal
import sys
import threading
from unittest.mock import patch

from glyptarch_launcher import processes
from glyptarch_launcher.ports import free_port

from tests.processes import MANAGE, until
from tests.server.own_world import ITEMS, UNDER_WAY, OwnWorld

TIMES = 10


class Killed(OwnWorld):
    def setUp(self) -> None:
        super().setUp()
        # The supervisor waits longer after each early end, and here every end is on purpose.
        settled = patch.multiple(processes, _SETTLED=0.1, _FIRST_PAUSE=0.2)
        settled.start()
        self.addCleanup(settled.stop)
        self.ended = threading.Event()

    def supervise(self) -> None:
        while not self.ended.wait(0.1):
            self.group.restart_ended()

    def kill(self, what: str) -> None:
        if what == "database":
            self.kill_database()
            return
        member = next(member for member in self.group.members if member.name == f"killed-{what}")
        member.process.send_signal(signal.SIGKILL)

    def decided(self) -> int:
        return int(self.ask(UNDER_WAY))

    def test_nothing_is_lost_and_nothing_is_doubled(self) -> None:
        self.port = free_port()
        web = [sys.executable, "-m", "glyptarch_server.config.web_server", "--port", str(self.port)]
        self.group.start("killed-web", web)
        log = self.group.start("killed-worker", [*MANAGE, "worker"])[1]
        supervisor = threading.Thread(target=self.supervise, daemon=True)
        supervisor.start()
        self.addCleanup(supervisor.join, 10)
        self.addCleanup(self.ended.set)
        in_the_middle = 0
        for number in range(TIMES):
            before = self.decided()
            self.assertTrue(
                until(lambda before=before: self.decided() > before or self.decided() == ITEMS, seconds=60),  # type: ignore[misc]
                f"after {number} kills: {log.read_text()[-3000:]}",
            )
            in_the_middle += self.decided() < ITEMS
            self.kill(("worker", "web", "database")[number % 3])
        self.assertGreaterEqual(in_the_middle, 6, "the run had ended before it was killed often")
        ended = until(lambda: self.ask("SELECT state FROM runs_run") == "done", seconds=120)
        self.assertTrue(ended, log.read_text()[-3000:])
        for count in (
            "SELECT count(*) FROM runs_decision",
            "SELECT count(DISTINCT item_id) FROM runs_decision",
            "SELECT count(*) FROM posts_post",
            "SELECT count(DISTINCT item_id) FROM posts_post",
        ):
            self.assertEqual(self.ask(count), ITEMS, count)
        self.assertTrue(until(self.web_answers, seconds=30), "the web server did not come back")
        heard = "SELECT count(*) FROM procrastinate_workers WHERE last_heartbeat > now() - interval '4 seconds'"
        self.assertTrue(until(lambda: self.ask(heard) >= 1, seconds=30), "the worker did not come back")
