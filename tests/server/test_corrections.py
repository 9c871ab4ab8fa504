"""What happens to a post when its source corrects the item."""

import json
from datetime import timedelta
from typing import Any

from django.test import TestCase
from glyptarch_core.campaign import load_document
from glyptarch_server.campaigns.actions import save_revision
from glyptarch_server.items.capturing import capture
from glyptarch_server.posts.changes import Action, begin_change, take_back
from glyptarch_server.posts.models import Change, Correction, Post
from glyptarch_server.runs.actions import begin_run

from tests.server.fixtures import NOW, CannedPortal, carry, make_blog, make_campaign, make_source, make_user, story

OLD = "<p>The ring was seen over the dome at nine in the evening by three people.</p>"
NEW = "<p>The ring was seen over the dome at ten in the evening by three people.</p>"


class CorrectionCase(TestCase):
    def setUp(self) -> None:
        self.mira = make_user()
        self.blog = make_blog("meadow", self.mira)
        self.source = make_source(self.blog)
        self.at = NOW
        self.give(OLD)

    def give(self, body: str, **fields: Any) -> None:  # noqa: ANN401
        self.at += timedelta(minutes=1)
        capture(self.source, [story(1, body=body, **fields)], now=self.at)

    def campaign(self, mode: str = "publish", **parts: Any) -> None:  # noqa: ANN401
        shape = {"body": "{{ body }}"}
        release = {"mode": mode, **parts.pop("release", {})}
        self.made = make_campaign(self.blog, release=release, shape=shape, **parts)
        self.run_it()

    def run_it(self) -> None:
        self.at += timedelta(minutes=1)
        at = self.at
        row = begin_run(self.made, by=None, now=at, queue=False)
        carry(row, CannedPortal(), at=lambda: at)

    def post(self) -> Post:
        return Post.objects.get()


class NotOut(CorrectionCase):
    def test_a_held_post_follows_and_the_change_can_be_taken_back(self) -> None:
        self.campaign("hold")
        self.give(NEW, title="The ring at ten")
        self.run_it()
        post = self.post()
        self.assertEqual((post.title, "at ten" in post.body, post.state), ("The ring at ten", True, "held"))
        change = Change.objects.get()
        self.assertEqual((change.action, change.changed, change.state), ("corrected", 1, "done"))
        take_back(change, now=self.at)
        self.assertIn("at nine", self.post().body)

    def test_what_a_person_edited_stays(self) -> None:
        self.campaign("hold")
        begin_change(self.blog, Action.BYLINE, {"byline": "Ida"}, [self.post().pk], now=self.at)
        Post.objects.update(edited=["title"], title="Mine")
        self.give(NEW, title="The ring at ten")
        self.run_it()
        self.assertEqual((self.post().title, "at ten" in self.post().body), ("Mine", True))

    def test_a_scheduled_post_keeps_its_date_and_is_held_where_it_would_be_refused(self) -> None:
        sift = {"rules": [{"id": "w", "kind": "number", "field": "words", "at_least": 5}]}
        self.campaign("hold", sift=sift)
        Post.objects.update(state="scheduled", date=NOW + timedelta(days=9))
        self.give(NEW)
        self.run_it()
        post = self.post()
        self.assertEqual((post.state, post.date, "at ten" in post.body), ("scheduled", NOW + timedelta(days=9), True))
        self.give("<p>Gone.</p>")
        self.run_it()
        self.assertEqual((self.post().state, "at ten" in self.post().body), ("held", True))

    def test_what_the_source_did_not_change_is_not_touched(self) -> None:
        self.campaign("hold")
        before = self.post().version
        self.give(OLD)
        self.run_it()
        self.assertEqual((self.post().version, Change.objects.count()), (before, 0))

    def test_only_the_correction_changes_it_and_not_newer_rules(self) -> None:
        self.campaign("hold")
        rules = {"gather": {"sources": ["club"]}, "shape": {"body": "<p>Other rules</p>"}, "release": {"mode": "hold"}}
        save_revision(self.made, load_document(rules), base=1, by=None, note="", now=self.at)
        self.give(NEW)
        self.run_it()
        self.assertIn("at ten", self.post().body)


class Published(CorrectionCase):
    def call(self, method: str, **body: Any) -> Any:  # noqa: ANN401
        self.client.force_login(self.mira)
        path = f"/api/blogs/meadow/posts/{self.post().pk}/correction"
        return self.client.generic(method, path, json.dumps(body), content_type="application/json")

    def test_it_is_shown_with_the_differences_and_taken_over_at_one_click(self) -> None:
        self.campaign()
        self.assertIsNone(self.call("GET").json())
        self.give(NEW)
        self.run_it()
        self.assertIn("at nine", self.post().body)
        shown = self.call("GET").json()
        self.assertEqual(sorted(shown["after"]), ["body", "description", "excerpt"])
        self.assertEqual(("at nine" in shown["before"]["body"], "at ten" in shown["after"]["body"]), (True, True))
        self.assertEqual(self.call("POST", take=True).status_code, 204)
        self.assertIn("at ten", self.post().body)
        self.assertIsNone(self.call("GET").json())
        self.assertEqual(self.call("POST", take=True).status_code, 404)

    def test_it_can_be_left_until_the_next_correction(self) -> None:
        self.campaign()
        self.give(NEW)
        self.run_it()
        self.call("POST", take=False)
        self.run_it()
        self.assertEqual((self.call("GET").json(), "at nine" in self.post().body), (None, True))
        self.give(NEW.replace("ten", "eleven"))
        self.run_it()
        self.assertIn("at eleven", self.call("GET").json()["after"]["body"])

    def test_a_correction_that_is_taken_away_again_is_shown_no_more(self) -> None:
        self.campaign()
        self.give(NEW)
        self.run_it()
        self.give(OLD)
        self.run_it()
        self.assertFalse(Correction.objects.exists())

    def test_the_campaign_can_let_it_follow_or_leave_it(self) -> None:
        for way, words in (("follow", "at ten"), ("leave", "at nine")):
            with self.subTest(way):
                Post.objects.all().delete()
                self.give(OLD)
                self.campaign(name=way.title(), release={"corrections": way})
                self.give(NEW)
                self.run_it()
                self.assertIn(words, self.post().body)
                self.assertFalse(Correction.objects.exists())

    def test_one_that_the_rules_would_refuse_now_says_so(self) -> None:
        self.campaign(sift={"rules": [{"id": "w", "kind": "number", "field": "words", "at_least": 5}]})
        self.give("<p>Gone.</p>")
        self.run_it()
        self.assertEqual((self.call("GET").json()["refused"], self.post().state), (True, "published"))

    def test_the_list_of_posts_finds_them(self) -> None:
        self.campaign()
        self.give(NEW)
        self.run_it()
        self.client.force_login(self.mira)
        found = self.client.get("/api/blogs/meadow/posts?corrected=true").json()
        self.assertEqual(found["total"], 1)
        self.assertEqual(self.client.get("/api/blogs/meadow/posts?corrected=false").json()["total"], 0)


class Interrupted(CorrectionCase):
    def test_what_was_corrected_before_a_run_that_failed_is_followed_by_the_next(self) -> None:
        self.campaign("hold")
        self.give(NEW)
        failed = begin_run(self.made, by=None, now=self.at, queue=False)
        type(failed).objects.filter(pk=failed.pk).update(state="failed", ended_at=self.at)
        if failed.task_id:
            type(failed.task).objects.filter(pk=failed.task_id).update(state="failed", ended_at=self.at)
        self.run_it()
        self.assertIn("at ten", self.post().body)
