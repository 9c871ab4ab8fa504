"""Changes of posts by people store the former values, can be undone, and double nothing."""

import csv
import io
from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.test import TestCase
from glyptarch_core.campaign import load_document
from glyptarch_server.blogs.actions import add_member
from glyptarch_server.blogs.models import Role
from glyptarch_server.campaigns.actions import save_revision
from glyptarch_server.comments.actions import leave_comment
from glyptarch_server.common.acting import acting_as
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.items.capturing import capture
from glyptarch_server.posts import changes, editing, emptying, queries
from glyptarch_server.posts.actions import move_post
from glyptarch_server.posts.changes import Action
from glyptarch_server.posts.desk_list import numbers_of
from glyptarch_server.posts.filters import PostFilter
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import Change, FormerAddress, Post, PostKey
from glyptarch_server.runs import undoing
from glyptarch_server.runs.models import Decision, Run

from tests.server.fixtures import (
    NOW,
    carry,
    fill,
    make_blog,
    make_campaign,
    make_source,
    make_user,
    run,
    stop,
    story,
    text_of,
)


class ChangeCase(TestCase):
    def setUp(self) -> None:
        self.mira = make_user()
        self.blog = make_blog(owner=self.mira)
        self.source = make_source(self.blog, stories=4)
        self.campaign = make_campaign(self.blog, place={"category": "Sky", "tags": ["night"], "byline": "Desk"})
        self.run = run(self.campaign)
        self.posts = list(Post.objects.order_by("pk"))
        self.client.force_login(self.mira)

    def begin(self, action: Action, what: dict[str, Any], posts: list[Post] | None = None) -> Change:
        numbers = [post.pk for post in (self.posts if posts is None else posts)]
        return changes.begin_change(self.blog, action, what, numbers, now=NOW)

    def post(self, place: int = 0) -> Post:
        return Post.objects.get(pk=self.posts[place].pk)

    def edit(self, place: int = 0, version: int | None = None, **values: Any) -> Post:  # noqa: ANN401
        post = self.post(place)
        with acting_as(self.mira, NOW):
            return editing.edit_post(post, values, version=version or post.version, now=NOW)

    def call(self, method: str, path: str, body: Any = None) -> Any:  # noqa: ANN401
        return getattr(self.client, method)(f"/api/blogs/meadow{path}", body, content_type="application/json")


class Editing(ChangeCase):
    def test_what_a_person_changes_is_kept_with_what_was_there(self) -> None:
        made = self.edit(title=" A new  title ", tags=["b", "a", "A"], categories=["News", "Sky"], byline="Mira")
        post = self.post()
        self.assertEqual((post.title, post.version, made.version), ("A new title", 2, 2))
        self.assertEqual(sorted(post.edited), ["byline", "categories", "tags", "title"])
        self.assertEqual(post.category.name if post.category else "", "News")
        self.assertEqual(sorted(tag.name for tag in post.tags.all()), ["A", "b"])
        (entry,) = editing.history_of(post)
        self.assertEqual((entry.by, entry.action, entry.version), ("Mira", "edited", 2))
        self.assertEqual((entry.before["categories"], entry.after["categories"]), (["Sky"], ["News", "Sky"]))

    def test_the_second_of_two_is_told_who_did_what_and_nothing_is_lost(self) -> None:
        self.edit(title="Mine")
        with self.assertRaisesRegex(Conflict, r"Mira has changed “Mine” meanwhile \(title\)"):
            self.edit(version=1, title="Theirs")
        self.assertEqual(self.post().title, "Mine")

    def test_what_is_not_safe_is_taken_out_and_what_cannot_be_is_named(self) -> None:
        self.edit(body='<p onclick="x()">Text<script>alert(1)</script></p>', excerpt="Two\x00 words")
        post = self.post()
        self.assertEqual((post.body, post.excerpt, post.words), ("<p>Text</p>", "Two words", 1))
        with self.assertRaises(Invalid) as caught:
            self.edit(title=" ", slug="!!", lead_url="javascript:alert(1)", visibility="phrase", pass_phrase="")
        self.assertEqual(
            sorted(fault.path for fault in caught.exception.faults), ["lead_url", "pass_phrase", "slug", "title"]
        )

    def test_a_published_post_gets_no_date_ahead(self) -> None:
        with self.assertRaises(Invalid):
            self.edit(date=NOW + timedelta(days=1))

    def test_a_changed_address_keeps_the_old_one_as_a_way(self) -> None:
        old = self.post().slug
        self.edit(slug="The new address")
        self.assertEqual(self.post().slug, "the-new-address")
        answer = self.client.get(f"/blog/meadow/{old}/")
        self.assertEqual((answer.status_code, answer["Location"]), (301, "/blog/meadow/the-new-address/"))
        with self.assertRaises(Invalid):
            self.edit(1, slug=old)
        self.edit(slug=old)
        self.assertEqual(self.client.get(f"/blog/meadow/{old}/").status_code, 200)
        self.assertEqual(self.client.get("/blog/meadow/the-new-address/").status_code, 301)

    def test_a_version_comes_back_with_its_names(self) -> None:
        first = queries.post_of(self.blog, self.posts[0].pk)
        before = editing.values_at(first, 1)
        self.edit(title="Second", tags=["other"])
        self.edit(title="Third", categories=[])
        post = self.post()
        self.assertEqual(editing.values_at(post, 2)["title"], "Second")
        editing.restore_version(post, 1, seen=3, now=NOW)
        again = editing.values_at(self.post(), 4)
        self.assertEqual(
            {name: again[name] for name in ("title", "tags", "categories", "edited")},
            {name: before[name] for name in ("title", "tags", "categories", "edited")},
        )
        with self.assertRaises(Conflict):
            editing.restore_version(self.post(), 1, seen=3, now=NOW)

    def test_a_post_is_written_by_hand_and_stands_beside_the_others(self) -> None:
        made = self.call("post", "/posts", {"title": self.posts[0].title, "body": "<p>By hand</p>"}).json()
        self.assertEqual((made["state"], made["campaign"], made["revision"]), ("draft", "", None))
        self.assertEqual(made["slug"], f"{self.posts[0].slug}-2")
        self.call("post", f"/posts/{made['id']}/state", {"state": "published"})
        page = self.client.get(f"/blog/meadow/{made['slug']}/").content.decode()
        self.assertIn("By hand", page)
        self.assertNotIn("via ", page)
        for path in (f"/posts/{made['id']}/values", f"/posts/{made['id']}/history", f"/posts/{made['id']}/preview"):
            self.assertEqual(self.call("get", path).status_code, 200, path)

    def test_over_http_the_version_is_asked_for(self) -> None:
        number = self.posts[0].pk
        values = self.call("get", f"/posts/{number}/values").json()
        self.assertEqual((values["version"], values["categories"]), (1, ["Sky"]))
        good = self.call("put", f"/posts/{number}", {"version": 1, "title": "Over HTTP"})
        self.assertEqual((good.status_code, good.json()["edited"]), (200, ["title"]))
        self.assertEqual(self.call("put", f"/posts/{number}", {"version": 1, "title": "Again"}).status_code, 409)
        self.assertEqual(self.call("get", f"/posts/{number}/versions/1").json()["title"], self.posts[0].title)
        restored = self.call("post", f"/posts/{number}/versions/1/restore", {"seen": 2})
        self.assertEqual(restored.json()["title"], self.posts[0].title)


class Many(ChangeCase):
    def test_each_thing_that_can_be_done_to_many_can_be_taken_back(self) -> None:
        cases: list[tuple[Action, dict[str, Any]]] = [
            (Action.MOVE, {"to": "held"}),
            (Action.CATEGORY, {"category": "News"}),
            (Action.TAGS, {"add": ["comet"], "remove": ["Night"]}),
            (Action.BYLINE, {"byline": "Mira"}),
            (Action.BIN, {"marker": False}),
            (Action.BIN, {"marker": True}),
        ]
        for action, what in cases:
            with self.subTest(action=action, what=what):
                before = [editing.values_at(self.post(place), self.post(place).version) for place in range(4)]
                change = self.begin(action, what)
                self.assertEqual((change.state, change.changed), ("done", 4))
                self.assertTrue(all(row.version > 1 for row in Post.objects.all()))
                back = changes.take_back(change, now=NOW)
                self.assertEqual(back.changed, 4)
                after = [editing.values_at(self.post(place), self.post(place).version) for place in range(4)]
                self.assertEqual(after, before)
                with self.assertRaises(Conflict):
                    changes.take_back(change, now=NOW)

    def test_what_was_changed_again_is_left_as_it_is(self) -> None:
        change = self.begin(Action.CATEGORY, {"category": "News"})
        self.edit(0, categories=["Other"])
        self.edit(1, title="Another title")
        changes.take_back(change, now=NOW)
        names = [row.category.name for row in Post.objects.order_by("pk") if row.category]
        self.assertEqual(names, ["Other", "Sky", "Sky", "Sky"])
        self.assertEqual(self.post(1).title, "Another title")

    def test_a_person_sends_out_now_and_schedules_with_a_date(self) -> None:
        self.begin(Action.MOVE, {"to": "held"})
        later = NOW + timedelta(days=2)
        self.begin(Action.MOVE, {"to": "scheduled", "date": later.isoformat()}, self.posts[:1])
        self.begin(Action.MOVE, {"to": "published"}, self.posts[1:2])
        self.assertEqual((self.post(0).state, self.post(0).date), ("scheduled", later))
        self.assertEqual((self.post(1).state, self.post(1).out_at), ("published", NOW))

    def test_what_somebody_else_has_decided_meanwhile_is_not_moved_again(self) -> None:
        self.begin(Action.MOVE, {"to": "held"})
        move_post(self.posts[0], PostState.PUBLISHED, now=NOW)
        change = self.begin(Action.MOVE, {"to": "refused", "seen": "held"})
        self.assertEqual((change.changed, self.post(0).state, self.post(1).state), (3, "published", "refused"))

    def test_very_many_are_changed_by_a_job_that_can_be_stopped_and_begun_again(self) -> None:
        fill(self.source, range(10, 260))
        run(self.campaign)
        with patch.object(changes, "carry_on_once") as at_once:
            change = changes.begin_change(
                self.blog, Action.BYLINE, {"byline": "Mira"}, numbers_of(self.blog, PostFilter()), now=NOW
            )
        at_once.assert_not_called()
        self.assertTrue(changes.carry_on_once(change, now=NOW))
        self.assertEqual((change.done, change.changed, change.state), (100, 100, "running"))
        stop(change)
        carry(change)
        change.refresh_from_db()
        self.assertEqual((change.state, change.changed), ("stopped", 100))
        back = changes.take_back(change, now=NOW)
        self.assertEqual((back.changed, Post.objects.filter(byline__name="Mira").count()), (100, 0))

    def test_over_http_all_that_a_filter_finds(self) -> None:
        self.edit(0, categories=["News"])
        body = {"action": "tags", "add": ["seen"], "filter": {"category": "sky"}}
        made = self.call("post", "/post-changes", body).json()
        self.assertEqual((made["posts"], made["changed"], made["state"]), (3, 3, "done"))
        self.assertEqual(self.call("get", "/posts?tag=seen").json()["total"], 3)
        self.assertEqual(self.call("get", "/post-changes").json()[0]["id"], made["id"])
        moved_one = self.call("post", "/post-changes", {"action": "moved", "to": "held", "ids": [self.posts[1].pk]})
        self.assertEqual((made["to"], moved_one.json()["to"]), ("", "held"))
        self.call("post", f"/post-changes/{made['id']}/take-back")
        self.assertEqual(self.call("get", "/posts?tag=seen").json()["total"], 0)
        self.assertTrue(self.call("get", f"/post-changes/{made['id']}").json()["taken_back"])

    def test_what_is_missing_is_said(self) -> None:
        for body in (
            {"action": "moved", "ids": [1]},
            {"action": "category", "ids": [1]},
            {"action": "moved", "to": "scheduled", "ids": [1]},
            {"action": "binned"},
            {"action": "binned", "ids": [1], "filter": {}},
        ):
            self.assertEqual(self.call("post", "/post-changes", body).status_code, 422, body)

    def test_posts_of_another_blog_are_not_touched(self) -> None:
        other = make_blog("other")
        fill(make_source(other, "their"), [1])
        run(make_campaign(other, sources=("their",)))
        theirs = Post.objects.get(blog=other)
        made = self.call("post", "/post-changes", {"action": "binned", "ids": [theirs.pk]}).json()
        self.assertEqual((made["posts"], Post.objects.get(pk=theirs.pk).state), (0, "published"))

    def test_a_reviewer_decides_and_edits_nothing(self) -> None:
        rolf = make_user("rolf")
        add_member(self.blog, rolf, Role.REVIEWER)
        change = self.begin(Action.BYLINE, {"byline": "Mira"})
        self.client.force_login(rolf)
        number = self.posts[0].pk
        self.assertEqual(
            self.call("post", "/post-changes", {"action": "moved", "to": "held", "ids": [number]}).status_code, 200
        )
        for method, path, body in (
            ("post", "/post-changes", {"action": "binned", "ids": [number]}),
            ("post", f"/posts/{number}/state", {"state": "binned"}),
            ("put", f"/posts/{number}", {"version": 1, "title": "x"}),
            ("post", f"/post-changes/{change.pk}/take-back", None),
            ("delete", "/bin", None),
        ):
            self.assertEqual(self.call(method, path, body).status_code, 403, path)


class Bin(ChangeCase):
    def test_what_was_out_answers_410_and_comes_back(self) -> None:
        slug = self.post().slug
        change = self.begin(Action.BIN, {"marker": True}, self.posts[:1])
        self.assertEqual(self.client.get(f"/blog/meadow/{slug}/").status_code, 410)
        self.assertNotIn(slug, self.client.get("/blog/meadow/").content.decode())
        self.assertNotIn(slug, self.client.get("/blog/meadow/feed.xml").content.decode())
        changes.take_back(change, now=NOW)
        self.assertEqual(self.client.get(f"/blog/meadow/{slug}/").status_code, 200)

    def test_a_restored_post_has_the_state_that_it_had(self) -> None:
        move_post(self.posts[0], PostState.HELD, now=NOW)
        self.begin(Action.BIN, {"marker": True})
        self.assertEqual(self.call("get", "/posts").json()["total"], 0)
        self.assertEqual(self.call("get", "/posts?state=binned").json()["total"], 4)
        self.begin(Action.RESTORE, {})
        self.assertEqual([self.post(place).state for place in range(2)], ["held", "published"])

    def test_with_a_marker_an_item_does_not_come_back(self) -> None:
        self.begin(Action.BIN, {"marker": True})
        run(self.campaign)
        self.assertEqual(Post.objects.exclude(state="binned").count(), 0)
        other = make_campaign(self.blog, "Other", match={"rules": [{"id": "m", "kind": "link"}]})
        run(other)
        self.assertEqual(Post.objects.filter(campaign=other).count(), 0)

    def test_without_one_it_comes_back_at_its_old_address_and_the_old_post_cannot(self) -> None:
        slug = self.post().slug
        change = self.begin(Action.BIN, {"marker": False})
        run(self.campaign)
        standing = Post.objects.get(slug=slug, state="published")
        self.assertNotEqual(standing.pk, self.posts[0].pk)
        self.assertEqual(self.client.get(f"/blog/meadow/{slug}/").status_code, 200)
        back = changes.take_back(change, now=NOW)
        self.assertEqual((back.changed, self.post().state), (0, "binned"))
        with self.assertRaises(Conflict):
            move_post(self.post(), PostState.PUBLISHED, now=NOW)

    def test_one_that_comes_back_beside_another_story_of_its_address_gets_a_number(self) -> None:
        slug = self.post().slug
        change = self.begin(Action.BIN, {"marker": False}, self.posts[:1])
        editing.write_post(self.blog, {"title": "Other", "slug": slug}, now=NOW)
        changes.take_back(change, now=NOW)
        self.assertEqual((self.post().slug, self.post().state), (f"{slug}-2", "published"))

    def test_what_people_touched_is_spared_when_asked(self) -> None:
        self.edit(0, title="Mine")
        Post.objects.filter(pk=self.posts[1].pk).update(comments=True)
        leave_comment(self.post(1), name="Ann", text="Seen it too.", now=NOW)
        said = self.call("post", "/post-changes/count", {"filter": {"campaign": "sky"}}).json()
        self.assertEqual(said, {"posts": 4, "states": {"published": 4}, "edited": 1, "commented": 1})
        self.begin(Action.BIN, {"marker": False, "spare": True})
        self.assertEqual([self.post(place).state for place in range(4)], ["published"] * 2 + ["binned"] * 2)

    def test_emptied_it_leaves_markers_and_addresses_that_say_so(self) -> None:
        slugs = [post.slug for post in self.posts]
        self.begin(Action.BIN, {"marker": True}, self.posts[:1])
        self.begin(Action.BIN, {"marker": False}, self.posts[1:2])
        self.assertEqual(emptying.empty_old(now=NOW + timedelta(days=29)), 0)
        self.assertEqual(emptying.empty_old(now=NOW + timedelta(days=31)), 2)
        gone = self.post(0)
        self.assertEqual((gone.state, gone.body, gone.changes.count()), ("gone", "", 0))
        self.assertTrue(PostKey.objects.filter(post=gone).exists())
        self.assertFalse(Post.objects.filter(pk=self.posts[1].pk).exists())
        for slug in slugs[:2]:
            self.assertEqual(self.client.get(f"/blog/meadow/{slug}/").status_code, 410)
        run(self.campaign)
        self.assertEqual(Post.objects.filter(slug__in=slugs, state="published").count(), 3)
        self.assertEqual(self.client.get(f"/blog/meadow/{slugs[1]}/").status_code, 200)

    def test_it_is_emptied_by_hand(self) -> None:
        self.begin(Action.BIN, {"marker": False})
        self.assertEqual(self.call("delete", "/bin").status_code, 204)
        self.assertEqual(Post.objects.count(), 0)
        self.assertEqual(FormerAddress.objects.filter(post=None).count(), 4)


class Runs(ChangeCase):
    def test_a_run_goes_whole_and_its_items_are_undecided(self) -> None:
        fill(self.source, [10, 11])
        fill(self.source, [12], title="Dropped by a rule")
        rules = {"gather": {"sources": ["club"]}, "release": {"mode": "publish"}}
        sift = {"rules": [{"id": "s", "kind": "terms", "mode": "none", "terms": ["dropped"], "field": "title"}]}
        save_revision(self.campaign, load_document({**rules, "sift": sift}), base=1, by=None, note="", now=NOW)
        second = run(self.campaign)
        said = self.call("get", f"/runs/{second.pk}/take-back").json()
        self.assertEqual(said["posts"], 2)
        answer = self.call("post", f"/runs/{second.pk}/take-back", {"spare": True})
        self.assertIsNotNone(answer.json()["taken_back_at"])
        self.assertEqual(Post.objects.filter(state="published").count(), 4)
        self.assertEqual(Decision.objects.filter(run=second, post=None).count(), 0)
        rows = self.call("get", f"/runs/{second.pk}/decisions").json()["rows"]
        self.assertEqual({(row["verdict"], row["post_slug"]) for row in rows}, {("publish", "")})
        first = self.call("get", f"/runs/{self.run.pk}/decisions").json()["rows"]
        self.assertTrue(all(row["post_slug"] for row in first if row["verdict"] == "publish"))
        self.assertEqual(self.call("post", f"/runs/{second.pk}/take-back", {"spare": True}).status_code, 409)
        save_revision(self.campaign, load_document(rules), base=2, by=None, note="", now=NOW)
        third = run(self.campaign)
        self.assertEqual(third.verdicts, {"publish": 3})
        self.assertEqual(Post.objects.filter(state="published").count(), 7)

    def test_a_taken_back_run_is_given_back(self) -> None:
        change = undoing.take_back_run(self.run, spare=False, now=NOW)
        self.assertEqual(Post.objects.filter(state="published").count(), 0)
        changes.take_back(change, now=NOW)
        self.assertEqual(Post.objects.filter(state="published").count(), 4)
        run(self.campaign)
        self.assertEqual(Post.objects.count(), 4)

    def test_what_was_a_duplicate_is_forgotten_with_its_run(self) -> None:
        double = story(0, identity="double", link="https://other.example/0")
        capture(self.source, [double], now=NOW)
        match = {"rules": [{"id": "t", "kind": "title"}]}
        rules = {"gather": {"sources": ["club"]}, "release": {"mode": "publish"}}
        save_revision(self.campaign, load_document({**rules, "match": match}), base=1, by=None, note="", now=NOW)
        second = run(self.campaign)
        self.assertEqual(second.verdicts, {"duplicate": 1})
        undoing.take_back_run(second, spare=True, now=NOW)
        save_revision(
            self.campaign, load_document({**rules, "match": {"rules": []}}), base=2, by=None, note="", now=NOW
        )
        self.assertEqual(run(self.campaign).verdicts, {"publish": 1})

    def test_again_from_nothing_makes_every_post_anew_and_keeps_what_people_made(self) -> None:
        self.edit(0, title="Mine")
        move_post(self.posts[1], PostState.REFUSED, now=NOW)
        said = self.call("get", "/campaigns/sky/again").json()
        self.assertEqual((said["posts"], said["edited"]), (3, 1))
        made = self.call("post", "/campaigns/sky/again", {"spare": True}).json()
        begun = Run.objects.get(pk=made["run"])
        carry(begun)
        states = [self.post(place).state for place in range(4)]
        self.assertEqual(states, ["published", "refused", "binned", "binned"])
        standing = Post.objects.filter(state="published").order_by("pk")
        self.assertEqual(sorted(post.slug for post in standing), sorted(self.posts[place].slug for place in (0, 2, 3)))

    def test_nothing_is_taken_back_while_a_run_is_under_way(self) -> None:
        Run.objects.filter(pk=self.run.pk).update(state="deciding", ended_at=None)
        with self.assertRaises(Conflict):
            undoing.take_back_run(self.run, spare=True, now=NOW)


class Takedowns(ChangeCase):
    def test_a_source_is_withdrawn_whole_and_nothing_of_it_comes_again(self) -> None:
        takedown = self.call("post", "/sources/club/takedown", {"asked_by": "The club", "reason": "By letter"}).json()
        self.assertEqual((len(takedown["withdrawn"]), takedown["whole_source"]), (4, True))
        self.assertEqual(self.client.get(f"/blog/meadow/{self.posts[0].slug}/").status_code, 410)
        fill(self.source, [40])
        run(self.campaign)
        self.assertEqual(Post.objects.exclude(state="binned").count(), 0)
        self.assertTrue(self.call("get", "/sources").json()["rows"][0]["blocked"])
        self.assertEqual(self.call("post", "/sources/club/takedown", {"asked_by": "x"}).status_code, 409)
        (record,) = self.call("get", "/takedowns").json()["rows"]
        emptying.empty_bin(self.blog, now=NOW + timedelta(days=60))
        self.assertEqual(record["withdrawn"][0]["title"], self.posts[0].title)
        self.call("post", f"/takedowns/{record['id']}/lift")
        run(self.campaign)
        self.assertEqual(Post.objects.filter(state="published").count(), 1)

    def test_a_post_is_withdrawn_with_all_that_lead_to_its_original(self) -> None:
        other = make_source(self.blog, "other")
        capture(other, [story(0, identity="other")], now=NOW)
        run(make_campaign(self.blog, "Other", sources=("other",), match={"rules": []}))
        self.assertEqual(Post.objects.filter(link="https://club.example/0").count(), 2)
        first = Post.objects.filter(link="https://club.example/0").earliest("pk")
        takedown = self.call("post", f"/posts/{first.pk}/takedown", {"asked_by": "Its author"}).json()
        self.assertEqual((len(takedown["withdrawn"]), takedown["whole_source"]), (2, False))
        third = make_source(self.blog, "third")
        capture(third, [story(0, identity="third")], now=NOW)
        campaign = make_campaign(self.blog, "Third", sources=("third",), match={"rules": []})
        run(campaign)
        self.assertEqual(Post.objects.filter(campaign=campaign).count(), 0)
        again = self.call("post", f"/takedowns/{takedown['id']}/lift")
        self.assertIsNotNone(again.json()["lifted_at"])
        run(campaign)
        self.assertEqual(Post.objects.filter(campaign=campaign).count(), 1)
        self.assertEqual(self.call("post", f"/takedowns/{takedown['id']}/lift").status_code, 409)

    def test_a_post_by_hand_has_no_original(self) -> None:
        post = editing.write_post(self.blog, {"title": "By hand"}, now=NOW)
        answer = self.call("post", f"/posts/{post.pk}/takedown", {"asked_by": "x"})
        self.assertEqual(answer.status_code, 422)


class Lists(ChangeCase):
    def total(self, query: str) -> int:
        return int(self.call("get", f"/posts?{query}").json()["total"])

    def test_every_part_of_a_filter_narrows(self) -> None:
        self.edit(
            0, title="The meteor shower", tags=["comet"], categories=["News"], byline="Mira", visibility="private"
        )
        cases = {
            "category=news": 1, "category=sky": 3, "category=none": 0, "tag=COMET": 1, "byline=mira": 1, "byline=desk": 3,
            "visibility=private": 1, "edited=true": 1, "edited=false": 3, "longest=3": 0, "longest=100": 4,
            "since=2026-11-24": 4, "since=2026-11-25": 0, "until=2026-11-23": 0, "until=2026-11-24": 4,
            f"run={self.run.pk}": 4, f"run={self.run.pk + 1}": 0, "campaign=sky": 4, "source=club": 4, "kind=article": 4,
            "search=meteor": 1, "search=met sho": 1, "search=field dome": 4, "search=nowhere": 0, "search=!!": 0,
            "reason=held.by_campaign": 0,
        }  # fmt: skip
        for query, number in cases.items():
            self.assertEqual(self.total(query), number, query)

    def test_every_column_sorts_both_ways(self) -> None:
        Post.objects.filter(pk=self.posts[2].pk).update(comments=True)
        leave_comment(self.post(2), name="Ann", text="Seen it too.", now=NOW)
        for column in ("title", "words", "state", "comments"):
            self.assertEqual(self.ids(f"-{column}"), self.ids(column)[::-1], column)
        self.assertEqual(self.call("get", "/posts?sort=-comments").json()["rows"][0]["comments"], 1)

    def ids(self, sort: str, page: str = "") -> list[int]:
        return [row["id"] for row in self.call("get", f"/posts?sort={sort}{page}").json()["rows"]]

    def test_names_are_in_order_with_the_newest_post_of_each_first_and_those_of_none_last(self) -> None:
        other = make_source(self.blog, "beta")
        fill(other, [40, 41, 42])
        rules = {"gather": {"sources": ["beta"]}, "match": {"rules": []}, "release": {"mode": "publish"}}
        run(make_campaign(self.blog, "Aurora", sources=("beta",), **{key: rules[key] for key in ("match", "release")}))
        posts = list(Post.objects.order_by("-date", "-pk"))
        hand = editing.write_post(self.blog, {"title": "By hand"}, now=NOW).pk
        names = {"campaign": lambda post: post.campaign.name, "source": lambda post: post.source.title}
        for column, name in names.items():
            for down in (False, True):
                wanted = [post.pk for post in sorted(posts, key=name, reverse=down)]
                wanted = [hand, *wanted] if down else [*wanted, hand]
                sort = f"-{column}" if down else column
                self.assertEqual(self.ids(sort), wanted, sort)
                for first in range(0, len(wanted) + 3, 3):
                    page = self.ids(sort, f"&limit=3&offset={first}")
                    self.assertEqual(page, wanted[first : first + 3], (sort, first))
                lines = self.client.get(f"/api/blogs/meadow/posts.csv?sort={sort}")
                self.assertEqual([int(row["number"]) for row in csv.DictReader(io.StringIO(text_of(lines)))], wanted)

    def test_what_a_search_finds_is_listed_by_every_column(self) -> None:
        for column in ("newest", "title", "category", "-campaign", "comments"):
            found = self.call("get", f"/posts?search=dome&sort={column}").json()
            self.assertEqual((found["total"], len(found["rows"]), found["states"]["published"]), (4, 4, 4), column)
            with patch("glyptarch_server.posts.desk_list.SEARCHED", 2):
                found = self.call("get", f"/posts?search=dome&sort={column}").json()
            self.assertEqual((found["total"], len(found["rows"]), found["states"]), (2, 2, None), column)

    def test_what_a_post_is_like_is_told_with_the_shared_passages(self) -> None:
        long = " ".join(f"word{number}" for number in range(60))
        other = make_source(self.blog, "other")
        capture(other, [story(70, title="One", body=f"<p>{long} and so it ended.</p>")], now=NOW)
        capture(other, [story(71, title="Two", body=f"<p>{long} but this one went on.</p>")], now=NOW)
        run(make_campaign(self.blog, "Other", sources=("other",), match={"rules": []}))
        one = Post.objects.get(title="One")
        (found,) = self.call("get", f"/posts/{one.pk}/alike").json()
        self.assertEqual((found["title"], found["likeness"] > 0.7), ("Two", True))
        self.assertIn("word1 word2 word3", found["passages"][0])
        self.assertEqual(self.call("get", f"/posts/{self.posts[0].pk}/alike").json()[0:0], [])

    def test_what_may_tell_the_same_event_is_told_with_the_words_in_both(self) -> None:
        fire = "The old paper mill in Harlow Bridge burned on Monday. Elen Brandt, the mayor, wants the ruins gone by winter. It stood empty since 2011, and 84 people fought the flames."
        told = "Two halls of a disused mill are gone. Mayor Brandt said that what remains in Harlow Bridge would be pulled down before the winter. Nobody among 84 firefighters was hurt; nobody has worked there since 2011."
        other = make_source(self.blog, "other")
        stories = [
            story(70, title="Fire at the river", body=f"<p>{fire}</p>"),
            story(71, title="What is left", body=f"<p>{told}</p>"),
        ]
        capture(other, stories, now=NOW)
        run(make_campaign(self.blog, "Other", sources=("other",)))
        one = Post.objects.get(title="Fire at the river")
        with self.assertNumQueries(7):
            (found,) = self.call("get", f"/posts/{one.pk}/same-event").json()
        self.assertEqual((found["title"], found["state"]), ("What is left", "published"))
        self.assertIn("Brandt", found["words"])
        # A copy is Match's, and a post of another week another event.
        Post.objects.filter(title="What is left").update(date=one.date - timedelta(days=5))
        self.assertEqual(self.call("get", f"/posts/{one.pk}/same-event").json(), [])

    def test_why_posts_are_held_is_counted_and_narrows(self) -> None:
        fill(self.source, [30, 31])
        rules = {"gather": {"sources": ["club"]}, "release": {"mode": "hold"}}
        save_revision(self.campaign, load_document(rules), base=1, by=None, note="", now=NOW)
        run(self.campaign)
        self.assertEqual(self.call("get", "/held-reasons").json(), [{"code": "held.by_campaign", "posts": 2}])
        self.assertEqual(self.total("reason=held.by_campaign&state=held"), 2)

    def test_the_list_asks_few_questions_however_long_it_is(self) -> None:
        with self.assertNumQueries(11):
            self.call("get", "/posts?limit=2")
        with self.assertNumQueries(11):
            self.call("get", "/posts?limit=4")
        with self.assertNumQueries(12):
            self.call("get", "/posts?limit=4&sort=category")

    def test_it_is_had_as_csv_and_no_title_is_a_formula(self) -> None:
        self.edit(0, title="=1+1")

        answer = self.client.get("/api/blogs/meadow/posts.csv?edited=true")
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "text/csv; charset=utf-8"))
        rows = list(csv.DictReader(io.StringIO(text_of(answer))))
        self.assertEqual([row["title"] for row in rows], ["'=1+1"])
        self.assertEqual((rows[0]["category"], rows[0]["edited"]), ("Sky", "title"))

    def test_a_filter_is_kept_under_a_name(self) -> None:
        view = self.call("post", "/post-views", {"name": "Thin", "query": "longest=120"}).json()
        self.call("post", "/post-views", {"name": "Thin", "query": "longest=80"})
        self.assertEqual(self.call("get", "/post-views").json(), [{**view, "query": "longest=80"}])
        self.assertEqual(self.call("delete", f"/post-views/{view['id']}").status_code, 204)
        self.assertEqual(self.call("delete", f"/post-views/{view['id']}").status_code, 404)
