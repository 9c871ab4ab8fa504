"""Worker and database are killed while services are asked: nothing is paid twice or lost."""

import os
import signal
import subprocess
import sys
from collections import Counter
from unittest.mock import patch

from glyptarch_launcher import processes
from glyptarch_launcher.paths import REPOSITORY
from glyptarch_standins.app import World, make_app

from tests.processes import MANAGE, until
from tests.served import served
from tests.server.own_world import OwnWorld

LANGUAGES = 3
_WAITING = "SELECT count(*) FROM services_textrow WHERE answered_at IS NULL"
_ANSWERED = "SELECT count(*) FROM services_textrow WHERE answered_at IS NOT NULL"


class TextsKilled(OwnWorld):
    world_made_by = "tests.server.texts_world"
    items = 30
    posts_of_an_item = LANGUAGES
    patience = 180
    kills = ((12, "worker"), (40, "database"), (70, "worker"))

    def begin(self) -> None:
        self.world = World()
        serving = served(make_app(self.world))
        host = serving.__enter__()
        self.addCleanup(serving.__exit__, None, None, None)
        self.env["GLYPTARCH_FETCH_ALLOW"] = host
        self.env["GLYPTARCH_RUN_BATCH"] = "10"
        command = [sys.executable, "-m", self.world_made_by, str(self.items), host]
        subprocess.run(command, cwd=REPOSITORY, env=self.env, check=True)

    def setUp(self) -> None:
        super().setUp()
        settled = patch.multiple(processes, _SETTLED=0.1, _FIRST_PAUSE=0.2)
        settled.start()
        self.addCleanup(settled.stop)

    def kill_worker(self) -> None:
        self.group.members[0].process.send_signal(signal.SIGKILL)

    def test_no_text_is_paid_twice_and_none_is_lost(self) -> None:
        log = self.group.start("texts-worker", [*MANAGE, "worker"])[1]

        def reached(number: int) -> bool:
            self.group.restart_ended()
            return int(self.ask(_ANSWERED)) >= number

        for number, what in self.kills:
            self.assertTrue(
                until(lambda number=number: reached(number), seconds=self.patience),  # type: ignore[misc]
                f"{self.ask(_ANSWERED)} of {number}: {log.read_text()[-3000:]}",
            )
            if what == "worker":
                self.kill_worker()
            else:
                self.kill_database()
        posts = "SELECT count(*) FROM posts_post WHERE state = 'published'"

        def all_out() -> bool:
            self.group.restart_ended()
            return int(self.ask(posts)) == self.items * self.posts_of_an_item

        self.assertTrue(until(all_out, seconds=self.patience), f"{self.ask(posts)} posts: {log.read_text()[-3000:]}")
        self.assertEqual(self.ask(_WAITING), 0)
        # Each text is charged once for each language.
        charged = Counter(self.world.lingua.texts)
        self.assertEqual(set(charged.values()), {LANGUAGES})
        self.assertEqual(self.ask("SELECT count(*) FROM services_textrequest"), 0)


class EditionsKilled(TextsKilled):
    """The same while posts of one campaign get editions.

    With ``GLYPTARCH_EDITIONS`` of so many posts.
    """

    world_made_by = "tests.server.editions_world"
    items = int(os.environ.get("GLYPTARCH_EDITIONS", "12"))
    posts_of_an_item = 1 + LANGUAGES
    kills = ((items // 2, "worker"), (items * 2, "database"), (items * 4, "worker"))
    patience = max(180, items)
