"""The processes of the launcher: restarted when they end, and only its own are ended."""

import subprocess
import sys
import tempfile
import threading
import time
from pathlib import Path
from unittest.mock import patch

from aiohttp import web
from django.test import SimpleTestCase
from glyptarch_launcher import processes
from glyptarch_launcher.ports import free_port
from glyptarch_launcher.processes import Group, wait_for
from glyptarch_launcher.say import GiveUpError

from tests.served import served


class Groups(SimpleTestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        logs = patch.object(processes, "LOGS", Path(folder.name))
        logs.start()
        self.addCleanup(logs.stop)

    def test_one_that_ends_by_itself_is_started_again_and_the_others_go_on(self) -> None:
        group = Group({})
        self.addCleanup(group.stop)
        short, log = group.start("short", [sys.executable, "-c", "print('here', flush=True)"])
        group.start("long", [sys.executable, "-c", "import time; time.sleep(60)"])
        short.wait(10)
        with patch.object(processes, "_FIRST_PAUSE", 0.1):
            self.assertEqual(group.restart_ended(), [], "not before a pause")
            time.sleep(0.3)
            for member in group.members:
                member.due = member.due and min(member.due, time.monotonic())
            self.assertEqual([name for name, _ in group.restart_ended()], ["short"])
        group.members[0].process.wait(10)
        self.assertEqual(log.read_text(), "here\nhere\n")
        self.assertIsNone(group.members[1].process.poll())

    def test_what_was_printed_before_the_last_start_is_kept(self) -> None:
        for word in ("one", "two", "three"):
            group = Group({})
            process, log = group.start("said", [sys.executable, "-c", f"print({word!r})"])
            process.wait(10)
            group.stop()
        self.assertEqual((log.read_text(), log.with_suffix(".before.log").read_text()), ("three\n", "two\n"))

    def test_one_that_ends_at_once_again_waits_longer_each_time(self) -> None:
        group = Group({})
        self.addCleanup(group.stop)
        group.start("broken", [sys.executable, "-c", "raise SystemExit(1)"])
        pauses = []
        for _ in range(8):
            group.members[0].process.wait(10)
            group.restart_ended()
            pauses.append(group.members[0].pause)
            group.members[0].due = time.monotonic() - 1
            group.restart_ended()
        self.assertEqual(pauses, [2, 4, 8, 16, 30, 30, 30, 30])

    def test_stopping_ends_the_group_and_nothing_else(self) -> None:
        stranger = subprocess.Popen([sys.executable, "-c", "import time; time.sleep(60)"])
        self.addCleanup(stranger.kill)
        group = Group({})
        stubborn = (
            "import signal, time; signal.signal(signal.SIGTERM, signal.SIG_IGN); print('x', flush=True); time.sleep(60)"
        )
        mine, _ = group.start("mine", [sys.executable, "-c", "import time; time.sleep(60)"])
        group.stop()
        self.assertIsNotNone(mine.poll())
        self.assertIsNone(stranger.poll())
        deaf, log = group.start("deaf", [sys.executable, "-c", stubborn])
        while not log.read_text():
            self.assertIsNone(deaf.poll())
        group.stop()
        self.assertEqual(deaf.poll(), -9)
        stranger.kill()
        stranger.wait()

    def test_a_process_that_ends_is_told_with_its_log(self) -> None:
        group = Group({})
        process, log = group.start("dying", [sys.executable, "-c", "raise SystemExit('cannot find it')"])
        with self.assertRaisesRegex(GiveUpError, r"The server has ended.*\n.*cannot find it"):
            wait_for(f"http://127.0.0.1:{free_port()}/", process, log, what="the server")

    def test_a_slow_process_is_waited_for_and_what_for_is_said(self) -> None:
        group = Group({})
        self.addCleanup(group.stop)
        process, log = group.start("slow", [sys.executable, "-c", "import time; time.sleep(60)"])
        said: list[str] = []
        answers = threading.Event()

        async def answer(_request: web.Request) -> web.Response:
            return web.Response(status=200 if answers.is_set() else 500)

        app = web.Application()
        app.router.add_get("/", answer)

        def note(text: str) -> None:
            said.append(text)
            answers.set()

        with (
            served(app) as host,
            patch.object(processes, "_SAID_AGAIN_AFTER", 0.2),
            patch.object(processes, "say", note),
        ):
            wait_for(f"http://{host}/", process, log, what="the server")
        self.assertIn(f"Still waiting for the server to answer at http://{host}/", said[0])
