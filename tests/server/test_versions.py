"""Two people who edit one thing: the second is told, and overwrites nothing unseen."""

from collections.abc import Callable
from typing import Any

from glyptarch_core.pages.document import ReaderDocument
from glyptarch_core.schedule import Schedule
from glyptarch_server.pages.actions import make_reader
from glyptarch_server.platforms.actions import make_connection
from glyptarch_server.platforms.models import Connection
from glyptarch_server.sources.adding import add_platform_source

from tests.server.fixtures import NOW
from tests.server.test_api import API, API_CONNECTION, ApiCase

BY_HAND = Schedule().model_dump(mode="json")


class Versions(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        make_connection(self.blog, "json", now=NOW, **API_CONNECTION)
        asked = add_platform_source(
            self.blog,
            "json",
            "Asked",
            connection=Connection.objects.get().key,
            parameters=API,
            search_words=[],
            now=NOW,
        )
        document = ReaderDocument(url="https://ridge.example/")
        reader = make_reader(self.blog, "Ridge", document, now=NOW)
        base = "/blogs/meadow"
        rights = {"title": "C", "right": "excerpt", "right_words": 5}
        asks = {"connection": Connection.objects.get().key, "parameters": API}
        page = {"name": "R", "document": document.model_dump(mode="json")}
        self.edits: dict[str, tuple[str, str, dict[str, Any], Callable[[], int]]] = {
            "blog": ("PATCH", base, {"title": "B", "language": "en"}, self.version_at(base)),
            "word list": (
                "PUT", f"{base}/word-lists/unused", {"name": "U", "words": ["y"]},
                lambda: self.call(self.owner, "GET", base).json()["word_lists"][0]["version"],
            ),
            "table": (
                "PUT", f"{base}/term-tables/unused", {"name": "U", "text": "a,b"},
                lambda: self.call(self.owner, "GET", base).json()["term_tables"][0]["version"],
            ),
            "schedule": (
                "PUT", f"{base}/campaigns/sky/schedule", {"schedule": BY_HAND},
                self.version_at(f"{base}/campaigns/sky", "schedule_version"),
            ),
            "source": ("PATCH", f"{base}/sources/club", rights, self.version_at(f"{base}/sources/club", "source")),
            "asks": (
                "PUT", f"{base}/sources/{asked.key}/asks", asks,
                self.version_at(f"{base}/sources/{asked.key}", "source"),
            ),
            "reader": (
                "PUT", f"{base}/readers/{reader.key}", page, self.version_at(f"{base}/readers/{reader.key}")
            ),
            "connection": (
                "PUT", f"{base}/connections/{asks['connection']}", API_CONNECTION,
                lambda: self.call(self.owner, "GET", f"{base}/connections").json()[0]["version"],
            ),
        }  # fmt: skip

    def version_at(self, path: str, name: str = "version") -> Callable[[], int]:
        def version() -> int:
            found = self.call(self.owner, "GET", path).json()[name]
            return int(found["version"] if isinstance(found, dict) else found)

        return version

    def test_the_first_of_two_is_saved_and_the_second_is_told(self) -> None:
        for name, (method, path, body, version) in self.edits.items():
            with self.subTest(name):
                begun = version()
                first = self.call(self.owner, method, path, {**body, "version": begun})
                self.assertEqual(first.status_code, 200, first.content[:300])
                self.assertEqual(version(), begun + 1)
                second = self.call(self.owner, method, path, {**body, "version": begun})
                self.assertEqual(second.status_code, 409, second.content[:300])
                self.assertIn("Somebody else has changed", second.json()["detail"])
                self.assertEqual(version(), begun + 1)

    def test_a_program_that_names_no_version_is_not_asked_for_one(self) -> None:
        for name, (method, path, body, version) in self.edits.items():
            with self.subTest(name):
                begun = version()
                self.assertEqual(self.call(self.owner, method, path, body).status_code, 200)
                self.assertEqual(version(), begun + 1)

    def test_the_answer_names_the_new_version(self) -> None:
        for name, (method, path, body, version) in self.edits.items():
            with self.subTest(name):
                answer = self.call(self.owner, method, path, body).json()
                self.assertEqual(answer["schedule_version" if name == "schedule" else "version"], version())

    def test_pausing_a_campaign_is_a_change_of_its_schedule(self) -> None:
        version = self.version_at("/blogs/meadow/campaigns/sky", "schedule_version")
        before = version()
        self.call(self.owner, "POST", "/blogs/meadow/pause", {"slugs": ["sky"], "paused": True})
        self.assertEqual(version(), before + 1)

    def test_reading_a_source_is_no_change_of_it(self) -> None:
        version = self.version_at("/blogs/meadow/sources/club", "source")
        before = version()
        self.source.state.etag = '"new"'
        self.source.state.save()
        self.assertEqual(version(), before)
