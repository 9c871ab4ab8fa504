"""Backups, and databases of an earlier version: nothing is lost on the way."""

import gzip
import json
import tarfile
import tempfile
from pathlib import Path
from unittest.mock import patch

from django.test import SimpleTestCase, override_settings
from glyptarch_server.config import backup

from tests.running.databases import on_database
from tests.server.databases import ask, manage, own_database
from tests.server.fixtures import NOW, fill, make_blog, make_campaign, make_picture, make_source, make_user, run

DUMPS = Path(__file__).parent / "dumps"
LATE = "INSERT INTO audit_entry (name, action, subject, at) VALUES ('', 'blog.renamed', '', now())"
run_program = backup._run
KEPT = {
    "posts": "SELECT id, title, body, state, date FROM posts_post ORDER BY id",
    "decisions": "SELECT id, verdict, trace::text FROM runs_decision ORDER BY id",
    "revisions": "SELECT id, number, document::text FROM campaigns_revision ORDER BY id",
    "items": "SELECT id, raw::text FROM items_item ORDER BY id",
}
PARTS_OF_A_SOURCE = {
    "SELECT pause_ms, any_certificate FROM sources_sourceaccess": [(250, False)],
    "SELECT words, selector FROM sources_fulltext": [(50, "")],
    "SELECT platform, search_words::text FROM sources_platformask": [("wire", "[]")],
}


class Backups(SimpleTestCase):
    """One backup, created once from a database whose rows are known."""

    databases = {"default"}

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.folder = Path(cls.enterClassContext(tempfile.TemporaryDirectory()))
        cls.here = cls.enterClassContext(own_database(migrated=True))
        with on_database(cls.here):
            blog = make_blog("meadow", make_user("mira"))
            fill(make_source(blog), range(5))
            run(make_campaign(blog))
        (cls.folder / "media").mkdir()
        (cls.folder / "media" / "ring.txt").write_text("a ring")
        cls.file = cls.folder / "backup.tar"
        done = manage(cls.here, "backup", cls.file, GLYPTARCH_MEDIA=str(cls.folder / "media"))
        assert done.returncode == 0, done.stderr
        cls.said = done.stdout

    def restore(self, database: str, file: Path) -> str:
        done = manage(database, "restore", file, GLYPTARCH_MEDIA=str(self.folder / f"of-{database}"))
        return done.stdout if done.returncode == 0 else done.stderr

    def test_an_empty_database_has_the_same_posts_decisions_and_revisions_afterwards(self) -> None:
        self.assertIn("5 posts", self.said)
        self.assertEqual(self.file.stat().st_mode & 0o777, 0o600)
        with own_database() as name:
            self.assertIn("5 posts", self.restore(name, self.file))
            for what, query in KEPT.items():
                self.assertEqual(ask(name, query), ask(self.here, query), what)
            self.assertEqual((self.folder / f"of-{name}" / "ring.txt").read_text(), "a ring")
            self.assertEqual(manage(name, "migrate", "--check").returncode, 0)

    def test_a_database_with_something_in_it_is_left_alone(self) -> None:
        with own_database() as name:
            ask(name, "CREATE TABLE precious (id int)")
            self.assertIn("not empty", self.restore(name, self.file))
            self.assertEqual(ask(name, "SELECT count(*) FROM pg_tables WHERE schemaname = 'public'"), [(1,)])

    def test_a_damaged_backup_is_refused_before_anything_is_written(self) -> None:
        with tarfile.open(self.file) as archive:
            archive.extractall(self.folder / "parts", filter="data")
        (self.folder / "parts" / "media" / "ring.txt").write_text("another ring")
        damaged = self.folder / "damaged.tar"
        with tarfile.open(damaged, "w") as archive:
            archive.add(self.folder / "parts", ".")
        (self.folder / "none.tar").write_text("no archive")
        with own_database() as name:
            self.assertIn("media/ring.txt is missing or has changed", self.restore(name, damaged))
            self.assertIn("cannot be read as a backup", self.restore(name, self.folder / "none.tar"))
            self.assertEqual(ask(name, "SELECT count(*) FROM pg_tables WHERE schemaname = 'public'"), [(0,)])

    def test_a_backup_overwrites_no_file_and_names_what_is_in_it(self) -> None:
        again = manage(self.here, "backup", self.file)
        self.assertIn("is there already", again.stderr)
        with tarfile.open(self.file) as archive:
            manifest = json.load(archive.extractfile("manifest.json"))  # type: ignore[arg-type]
        self.assertEqual((manifest["format"], manifest["rows"]["posts_post"]), (1, 5))
        self.assertEqual(set(manifest["sha256"]), {"database.dump", "media/ring.txt"})

    def test_a_backup_without_the_files_of_its_pictures_is_none(self) -> None:
        target = self.folder / "lacking.tar"
        with own_database(migrated=True) as name:
            with on_database(name):
                make_picture(make_blog("owls"), "ab" * 32)
            done = manage(name, "backup", target, GLYPTARCH_MEDIA=str(self.folder / "media"))
        self.assertNotEqual(done.returncode, 0)
        self.assertIn("2 of 2 files of pictures, films and sound are not in", done.stderr)
        self.assertFalse(target.exists())


class Meanwhile(SimpleTestCase):
    """Changes by people during a backup."""

    databases = {"default"}

    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def test_rows_are_counted_as_they_stand_in_the_dump(self) -> None:
        with own_database(migrated=True) as name:
            with on_database(name):

                def dump(*words: str) -> None:
                    if words[0] == "pg_dump":
                        # Another process writes between the snapshot and the count of rows.
                        ask(name, LATE)
                    run_program(*words)

                with patch.object(backup, "_run", dump):
                    counted = backup.back_up(self.folder / "one.tar", now=NOW)
            self.assertEqual(ask(name, "SELECT count(*) FROM audit_entry"), [(counted["audit_entry"] + 1,)])
        with own_database() as name:
            done = manage(name, "restore", self.folder / "one.tar", GLYPTARCH_MEDIA=str(self.folder / "media"))
            self.assertEqual(done.returncode, 0, done.stderr)

    def test_a_file_that_goes_meanwhile_ends_nothing(self) -> None:
        media = self.folder / "media"
        media.mkdir()
        (media / "ring.txt").write_text("a ring")
        gone = media / "gone.txt"
        with (
            override_settings(MEDIA_ROOT=media),
            patch.object(backup, "_files", return_value=[gone, media / "ring.txt"]),
        ):
            copies = backup._copied_media(self.folder / "copies")
        self.assertEqual([copy.name for copy in copies], ["ring.txt"])


class Upgrades(SimpleTestCase):
    """Databases of earlier releases, as their programs wrote them."""

    databases = {"default"}

    def load(self, name: str, dump: str) -> None:
        ask(name, gzip.decompress((DUMPS / dump).read_bytes()).decode())
        ask(name, "SELECT pg_catalog.set_config('search_path', 'public', false)")

    def upgrade(self, name: str, *, posts: int) -> None:
        """Bring a database up to date, and compare what it held."""
        before = {what: ask(name, query) for what, query in KEPT.items()}
        self.assertEqual(len(before["posts"]), posts)
        done = manage(name, "migrate", "-v0")
        self.assertEqual(done.returncode, 0, done.stderr)
        for what, query in KEPT.items():
            self.assertEqual(ask(name, query), before[what], what)

    def test_a_database_of_the_first_release_keeps_all_that_is_in_it_and_goes_on_with_its_run(self) -> None:
        with own_database() as name:
            self.load(name, "0.1.sql.gz")
            manage(name, "migrate", "-v0", "sources", "0018")
            ask(
                name,
                "UPDATE sources_source SET pause_ms = 250, full_text_words = 50, platform = 'wire' WHERE key = 'club'",
            )
            self.upgrade(name, posts=9)
            for query, rows in PARTS_OF_A_SOURCE.items():
                self.assertEqual(ask(name, query), rows, query)
            under_way = "SELECT r.state, t.kind, t.state FROM runs_run r JOIN tasks_task t ON t.id = r.task_id"
            self.assertEqual(ask(name, under_way), [("deciding", "run", "waiting")])
            self.assertEqual(ask(name, "SELECT count(*) FROM procrastinate_jobs"), [(0,)], "a task gets a new job")

    def test_a_backup_of_an_earlier_state_is_restored_and_brought_up_to_date(self) -> None:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        with own_database() as old:
            self.load(old, "0.1.sql.gz")
            # Backups came with the log of changes, long before the parts of sources.
            for app in ("audit", "media"):
                done = manage(old, "migrate", "-v0", app)
                self.assertEqual(done.returncode, 0, done.stderr)
            self.assertNotEqual(manage(old, "migrate", "--check").returncode, 0)
            with on_database(old), override_settings(MEDIA_ROOT=folder / "none"):
                backup.back_up(folder / "old.tar", now=NOW)
        with own_database() as name:
            done = manage(name, "restore", folder / "old.tar", GLYPTARCH_MEDIA=str(folder / "media"))
            self.assertEqual(done.returncode, 0, done.stderr)
            self.upgrade(name, posts=9)

    def test_a_database_of_version_0_3_is_brought_up_to_date_with_all_that_is_in_it(self) -> None:
        with own_database() as name:
            self.load(name, "0.3.sql.gz")
            self.upgrade(name, posts=12)
            roles = "SELECT username, role FROM blogs_membership JOIN accounts_user u ON u.id = user_id ORDER BY 1"
            # In that version editors decided about posts and comments, and wrote no rules.
            self.assertEqual(ask(name, roles), [("edda", "reviewer"), ("mira", "owner")])
