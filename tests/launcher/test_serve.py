"""Production: required settings, the parts, and the release archive."""

import os
import tarfile
import tempfile
from argparse import Namespace
from pathlib import Path
from unittest.mock import patch

from django.test import SimpleTestCase
from glyptarch_launcher import front_end, release
from glyptarch_launcher import serve as serving
from glyptarch_launcher.database import Database
from glyptarch_launcher.demo import _environment
from glyptarch_launcher.say import GiveUpError


class Serving(SimpleTestCase):
    def test_missing_settings_are_all_named_at_once(self) -> None:
        given = {"GLYPTARCH_SECRET_KEY": "x" * 40}
        with patch.dict(os.environ, given, clear=True), self.assertRaises(GiveUpError) as raised:
            serving.serve(Namespace(part=None, host="127.0.0.1", port=1))
        for name in ("GLYPTARCH_ENCRYPTION_KEYS", "GLYPTARCH_DB_PASSWORD", "GLYPTARCH_HOSTS"):
            self.assertIn(name, str(raised.exception))
        self.assertNotIn("GLYPTARCH_SECRET_KEY", str(raised.exception))

    def test_each_part_is_a_process_of_its_own(self) -> None:
        arguments = Namespace(host="0.0.0.0", port=9000)  # noqa: S104 - what a person may ask for
        worker, clock, web = (serving._command(part, arguments) for part in ("worker", "clock", "web"))
        self.assertEqual(worker[-2:], ["worker", "--without-clock"])
        self.assertEqual(clock[-1], "clock")
        self.assertIn("0.0.0.0", web)  # noqa: S104


class Managing(SimpleTestCase):
    def test_a_command_makes_no_keys_of_its_own(self) -> None:
        given = {"GLYPTARCH_DB_PASSWORD": "x", "GLYPTARCH_HOSTS": "desk.example"}
        with (
            patch.dict(os.environ, given, clear=True),
            patch.object(serving, "ensure_venv"),
            patch.object(serving.subprocess, "run", side_effect=AssertionError("it was run")),
            self.assertRaisesRegex(GiveUpError, "GLYPTARCH_SECRET_KEY"),
        ):
            serving.manage(["backup", "there.tar"])

    def test_a_command_runs_as_the_server_does(self) -> None:
        given = dict.fromkeys(
            ("GLYPTARCH_SECRET_KEY", "GLYPTARCH_ENCRYPTION_KEYS", "GLYPTARCH_DB_PASSWORD", "GLYPTARCH_HOSTS"), "x"
        )
        with (
            patch.dict(os.environ, given, clear=True),
            patch.object(serving, "ensure_venv"),
            patch.object(serving.subprocess, "run") as ran,
        ):
            serving.manage(["migrate"])
        self.assertEqual(ran.call_args.kwargs["env"]["GLYPTARCH_PRODUCTION"], "1")


class Demo(SimpleTestCase):
    def test_addresses_that_may_be_fetched_are_added_to_those_of_the_environment(self) -> None:
        options = Namespace(port=1, standins_port=8790, mail_port=2)
        for before, expected in (("", "127.0.0.1:8790"), ("10.0.0.5:80", "10.0.0.5:80,127.0.0.1:8790")):
            with patch.dict(os.environ, {"GLYPTARCH_FETCH_ALLOW": before}):
                env = _environment(options, Database("none", 5432))
            self.assertEqual(env["GLYPTARCH_FETCH_ALLOW"], expected)


class Releases(SimpleTestCase):
    def test_an_archive_holds_the_built_front_end_and_no_tests(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "release.tar.gz"
            with patch.object(release, "ensure_venv"), patch.object(release, "ensure_web"):
                release.release(Namespace(file=str(path)))
            with tarfile.open(path) as archive:
                names = {name.partition("/")[2] for name in archive.getnames()}
        for name in ("glyptarch", "server/manage.py", "web/dist/index.html", "web/built-from", "requirements/run.txt"):
            self.assertIn(name, names)
        self.assertFalse([name for name in names if name.startswith(("tests/", "benchmarks/"))])

    def test_a_front_end_that_came_with_the_release_needs_no_node(self) -> None:
        with (
            patch.object(front_end, "_is_built", return_value=True),
            patch.object(front_end, "ensure_npm", side_effect=AssertionError("Node.js was asked for")),
        ):
            front_end.ensure_web()
