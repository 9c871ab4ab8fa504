"""The audit has every action and cannot be changed."""

from datetime import timedelta

from django.db import DatabaseError, transaction
from glyptarch_server.audit.models import Entry
from glyptarch_server.runs.actions import begin_run

from tests.server.fixtures import NOW, make_blog
from tests.server.test_api import RULES, ApiCase


class Audit(ApiCase):
    def entries(self, query: str = "") -> list[dict[str, object]]:
        rows: list[dict[str, object]] = self.call(self.owner, "GET", f"/blogs/meadow/audit{query}").json()["rows"]
        return rows

    def test_a_change_names_who_what_from_and_to(self) -> None:
        self.call(self.editor, "PATCH", "/blogs/meadow/campaigns/sky", {"name": "Night sky"})
        entry = self.entries()[0]
        self.assertEqual(
            (entry["name"], entry["action"], entry["subject"], entry["before"], entry["after"]),
            ("Edda", "campaign.renamed", "Night sky", "Sky", "Night sky"),
        )

    def test_a_schedule_stands_in_it_and_makes_no_revision(self) -> None:
        schedule = {"when": {"kind": "every", "minutes": 60}}
        self.call(self.editor, "PUT", "/blogs/meadow/campaigns/sky/schedule", {"schedule": schedule})
        entry = self.entries("?kind=campaign")[0]
        self.assertEqual(entry["action"], "campaign.schedule")
        self.assertEqual(entry["after"]["schedule"]["when"]["minutes"], 60)  # type: ignore[index]
        self.assertEqual(self.call(self.owner, "GET", "/blogs/meadow/campaigns/sky").json()["revision"], 1)

    def test_every_change_of_a_blog_stands_in_it(self) -> None:
        done = [
            ("PATCH", "/blogs/meadow/campaigns/sky", {"name": "A"}),
            (
                "POST",
                "/blogs/meadow/campaigns/sky/revisions",
                {"document": {**RULES, "release": {"mode": "draft"}}, "base": 1},
            ),
            ("POST", "/blogs/meadow/campaigns", {"name": "New", "document": RULES}),
            ("POST", "/blogs/meadow/pause", {"paused": True}),
            ("PUT", "/blogs/meadow/campaigns/new-2/archived", {"archived": True}),
            ("PUT", "/blogs/meadow/time-zone", {"time_zone": "Asia/Tokyo"}),
            ("PUT", "/blogs/meadow/defaults", RULES),
            ("DELETE", "/blogs/meadow/defaults", None),
            ("POST", "/blogs/meadow/word-lists", {"name": "Other", "words": ["a"]}),
            ("DELETE", "/blogs/meadow/unused-word-lists/other", None),
            ("PATCH", "/blogs/meadow/sources/club", {"title": "C", "right": "excerpt", "right_words": 5}),
            ("DELETE", "/blogs/meadow/sources/club", None),
            ("POST", f"/blogs/meadow/posts/{self.post.pk}/state", {"state": "held"}),
            ("POST", f"/blogs/meadow/comments/{self.comment.pk}/state", {"state": "shown"}),
            ("DELETE", "/blogs/meadow/campaigns/sky/memory", None),
            ("POST", "/blogs/meadow/names/tag", {"name": "Dew"}),
        ]
        for method, path, body in done:
            with self.subTest(path):
                before = Entry.objects.count()
                self.assertLess(self.call(self.owner, method, path, body).status_code, 300)
                self.assertGreater(Entry.objects.count(), before)

    def test_the_database_refuses_to_change_or_remove_an_entry(self) -> None:
        self.call(self.owner, "PATCH", "/blogs/meadow/campaigns/sky", {"name": "Night sky"})
        for change in (lambda: Entry.objects.update(name="Sven"), lambda: Entry.objects.all().delete()):
            with self.assertRaisesMessage(DatabaseError, "never changed"), transaction.atomic():
                change()

    def test_it_is_searched_paged_and_kept_apart_by_blog(self) -> None:
        make_blog("other", self.owner)
        for name in ("Alpha", "Beta"):
            self.call(self.owner, "PATCH", "/blogs/meadow/campaigns/sky", {"name": name})
        self.assertEqual([entry["subject"] for entry in self.entries("?search=alpha")], ["Alpha"])
        self.assertEqual([entry["subject"] for entry in self.entries("?kind=campaign&limit=1")], ["Beta"])
        self.assertEqual(self.entries("?kind=camp"), [])
        self.assertEqual(self.call(self.owner, "GET", "/blogs/other/audit").json()["total"], 0)

    def test_what_a_schedule_begins_is_no_deed_of_a_person(self) -> None:
        before = Entry.objects.count()
        begin_run(self.campaign, by=None, now=NOW + timedelta(hours=1), scheduled=True)
        self.assertEqual(Entry.objects.count(), before)
