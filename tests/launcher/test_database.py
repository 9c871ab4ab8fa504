"""The database of our own: its folder, its password, and that it is found and stopped again."""

import stat
import tempfile
from collections.abc import Callable
from pathlib import Path
from unittest.mock import patch

from django.test import SimpleTestCase
from glyptarch_launcher import database
from glyptarch_launcher.database import Database
from glyptarch_launcher.ports import free_port
from glyptarch_launcher.say import GiveUpError


class OwnFolder(SimpleTestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.var = Path(folder.name) / "var"
        self.set(VAR=self.var, _reachable=lambda _folder: True)

    def set(self, **names: object) -> None:
        for name, value in names.items():
            patched = patch.object(database, name, value)
            patched.start()
            self.addCleanup(patched.stop)

    def test_the_password_is_made_once_and_only_its_owner_reads_it(self) -> None:
        made = Database("one", 5432)
        self.assertEqual(made.password, made.password)
        self.assertGreater(len(made.password), 20)
        self.assertNotEqual(made.password, Database("other", 5432).password)
        mode = stat.S_IMODE((self.var / "one-password").stat().st_mode)
        self.assertEqual(mode & 0o077, 0)

    def test_the_server_is_told_all_that_it_needs(self) -> None:
        environment = Database("one", 5999).environment()
        self.assertEqual((environment["GLYPTARCH_DB_HOST"], environment["GLYPTARCH_DB_PORT"]), ("127.0.0.1", "5999"))
        self.assertTrue(all(environment.values()))

    def test_a_folder_that_postgres_cannot_reach_has_another_place_for_each_checkout(self) -> None:
        self.set(_reachable=lambda _folder: False)
        here = Database("one", 5432).folder
        self.assertTrue(here.is_absolute())
        self.assertFalse(here.is_relative_to(self.var))
        self.set(REPOSITORY=Path("/elsewhere"))
        self.assertNotEqual(Database("one", 5432).folder, here)

    def test_nothing_runs_where_nothing_was_made_and_stopping_it_does_no_harm(self) -> None:
        none = Database("none", 5432)
        self.assertFalse(none.running())
        none.stop()
        none.remove()
        self.assertFalse(none.folder.exists())

    def test_a_machine_without_postgresql_is_told_what_to_install(self) -> None:
        with patch.object(Path, "glob", return_value=iter(())), self.assertRaisesRegex(GiveUpError, "apt-get install"):
            database._binaries()


class Started(SimpleTestCase):
    """One real server: created, queried, stopped, and started again with its data."""

    def test_what_was_written_is_there_after_it_was_stopped(self) -> None:
        server = Database("launcher-test-postgres", free_port(), fast=True)
        self.addCleanup(server.remove)
        server.remove()
        self.asked(server, "create table kept (word text); insert into kept values ('comet')")
        server.port = free_port()
        self.assertEqual(self.asked(server, "select word from kept").strip(), "comet")

    def asked(self, server: Database, sql: str) -> str:
        run: Callable[..., str] = database.run
        server.start()
        try:
            self.assertTrue(server.running())
            environment = server.environment()
            return run(
                [database._binaries() / "psql", "-h", environment["GLYPTARCH_DB_HOST"], "-p", environment["GLYPTARCH_DB_PORT"],
                 "-U", environment["GLYPTARCH_DB_USER"], "-d", environment["GLYPTARCH_DB_NAME"], "-Atc", sql],
                what="Asking", remedy="", env={"PGPASSWORD": environment["GLYPTARCH_DB_PASSWORD"]},
            )  # fmt: skip
        finally:
            server.stop()
            self.assertFalse(server.running())
