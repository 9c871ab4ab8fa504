"""Replays: shown first, applied as one change, taken back.

Edits of people stay.
"""

from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.test import TestCase
from glyptarch_core.campaign import load_document
from glyptarch_server.campaigns.actions import save_revision
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.items.models import Item
from glyptarch_server.posts import changes, editing
from glyptarch_server.posts.actions import move_post
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import Post
from glyptarch_server.replay import actions, applying, queries
from glyptarch_server.replay.models import Replay, ReplayResult
from glyptarch_server.runs.deletion import ask_to_delete
from glyptarch_server.runs.models import Decision
from glyptarch_server.tasks.lifecycle import LaterError

from tests.server.fixtures import (
    NOW,
    carry,
    carry_kind,
    fill,
    make_blog,
    make_campaign,
    make_source,
    make_user,
    run,
    stop,
)

RULES: dict[str, Any] = {"gather": {"sources": ["club"]}, "release": {"mode": "publish"}}
NO_TWO = {"rules": [{"id": "s", "kind": "terms", "mode": "none", "terms": ["number 2"], "field": "title"}]}


class ReplayCase(TestCase):
    first: dict[str, Any] = {}

    def setUp(self) -> None:
        self.mira = make_user()
        self.blog = make_blog(owner=self.mira)
        self.source = make_source(self.blog, stories=4)
        self.campaign = make_campaign(self.blog, **self.first)
        run(self.campaign)
        self.posts = {post.item_id: post for post in Post.objects.all()}

    def rules(self, **parts: Any) -> None:  # noqa: ANN401
        number = self.campaign.revisions.count()
        save_revision(self.campaign, load_document({**RULES, **parts}), base=number, by=None, note="", now=NOW)

    def replay(self) -> Replay:
        revision = self.campaign.revisions.latest("number")
        made = actions.begin_replay(self.campaign, revision, by=None, now=NOW)
        carry(made)
        made.refresh_from_db()
        return made

    def apply(self, replay: Replay, *outcomes: str, results: tuple[int, ...] = ()) -> None:
        applying.begin_applying(replay, outcomes=outcomes, results=results, by=None, now=NOW)
        carry(replay)
        replay.refresh_from_db()

    def titled(self, number: int) -> Post:
        return Post.objects.get(title__startswith=f"Story number {number} ")


class Showing(ReplayCase):
    def test_the_same_rules_change_nothing(self) -> None:
        replay = self.replay()
        self.assertEqual((replay.state, replay.counts, replay.done), ("ready", {"same": 4}, 4))
        self.assertEqual(ReplayResult.objects.exclude(values={}).count(), 0)

    def test_each_outcome_is_told_apart(self) -> None:
        fill(self.source, [9], title="Story number 2 told again")
        self.rules(sift=NO_TWO)
        run(self.campaign)
        self.rules(
            sift={"rules": [{"id": "s", "kind": "terms", "mode": "none", "terms": ["number 1"], "field": "title"}]},
            place={"category": "Sky"},
        )
        replay = self.replay()
        self.assertEqual(replay.counts, {"changed": 3, "refused": 1, "new": 1})
        changed = ReplayResult.objects.filter(outcome="changed").first()
        assert changed is not None
        self.assertEqual(changed.values, {"categories": ["Sky"]})
        refused = ReplayResult.objects.get(outcome="refused")
        self.assertEqual(
            (refused.post, refused.reason["code"] if refused.reason else ""), (self.titled(1), "terms.forbidden")
        )
        self.assertEqual(Post.objects.filter(version=1).count(), 4)

    def test_what_a_person_edited_is_left_out_field_by_field(self) -> None:
        post = self.titled(1)
        editing.edit_post(post, {"title": "Story number 1 by hand", "categories": ["Mine"]}, version=1, now=NOW)
        self.rules(place={"category": "Sky", "tags": ["new"]}, shape={"title": "{{ title }}!"})
        self.replay()
        row = ReplayResult.objects.get(post=post)
        self.assertEqual((row.kept, row.values), (["categories", "title"], {"tags": ["new"]}))

    def test_two_like_stories_do_not_send_each_other_away(self) -> None:
        # Both exist, because the rules of their time did not compare titles.
        fill(self.source, [7, 8], title="The very same title")
        self.rules(match={"rules": []})
        run(self.campaign)
        self.rules(match={"rules": [{"id": "t", "kind": "title"}]})
        replay = self.replay()
        self.assertEqual(replay.counts, {"same": 5, "duplicate": 1})

    def test_a_story_that_a_refused_one_kept_out_stands_alone_then(self) -> None:
        fill(self.source, [7], title="The very same title", body="<p>Two words</p>")
        run(self.campaign)
        fill(self.source, [8], title="The very same title")
        run(self.campaign)
        self.rules(sift={"rules": [{"id": "n", "kind": "number", "at_least": 5}]})
        replay = self.replay()
        self.assertEqual(replay.counts, {"same": 4, "refused": 1, "new": 1})

    def twins(self) -> list[int]:
        """Capture stories that the rules refused, in two batches.

        The second is nearly the same.
        """
        self.rules(sift={"rules": [{"id": "s", "kind": "terms", "mode": "none", "terms": ["harbour"]}]})
        words = " ".join(f"word{number} and" for number in range(80))
        numbers = []
        for number, end in ((20, "so it ended."), (21, "so it went on."), (22, "then it rained.")):
            text = f"<p>The harbour lights {words} {end}</p>"
            fill(self.source, [number], title=f"Told by {number}", link=f"https://club.example/{number}", body=text)
            run(self.campaign)
            numbers.append(Decision.objects.latest("pk").pk)
        Decision.objects.filter(pk=numbers[2]).update(at=NOW + timedelta(days=2))
        self.assertEqual(Post.objects.count(), 4)
        return numbers

    def test_nearly_the_same_texts_are_one_new_post(self) -> None:
        self.twins()
        self.rules(match={"rules": [{"id": "n", "kind": "near_text"}]})
        self.assertEqual(self.replay().counts, {"same": 4, "new": 1, "out": 2})

    def test_the_same_link_is_one_new_post(self) -> None:
        self.twins()
        Item.objects.filter(identity__in=["n20", "n21", "n22"]).update(link_key="https://club.example/one")
        self.rules(match={"rules": [{"id": "l", "kind": "link"}]})
        self.assertEqual(self.replay().counts, {"same": 4, "new": 1, "out": 2})

    def test_one_that_begins_again_after_a_crash_knows_what_it_found_new(self) -> None:
        numbers = self.twins()
        self.rules(match={"rules": [{"id": "n", "kind": "near_text"}]})
        made = actions.begin_replay(self.campaign, self.campaign.revisions.latest("number"), by=None, now=NOW)
        with (
            patch.object(actions.queries, "next_decisions", self.broken_off(numbers[1])),
            self.assertRaises(SystemExit),
        ):
            carry(made)
        made.refresh_from_db()
        self.assertEqual((made.state, made.counts.get("new")), ("deciding", 1))
        carry(made)
        made.refresh_from_db()
        self.assertEqual((made.state, made.counts), ("ready", {"same": 4, "new": 1, "out": 2}))

    def test_a_worker_that_was_taken_for_dead_leaves_it_to_the_one_that_goes_on(self) -> None:
        made = actions.begin_replay(self.campaign, self.campaign.revisions.get(), by=None, now=NOW)
        original = actions._results

        def another_goes_on(*args: Any) -> Any:  # noqa: ANN401
            Replay.objects.filter(pk=made.pk).update(last=Decision.objects.latest("pk").pk, done=4)
            return original(*args)

        with patch.object(actions, "_results", another_goes_on), self.assertRaises(LaterError):
            carry(made)
        self.assertFalse(ReplayResult.objects.filter(replay=made).exists())

    def broken_off(self, at: int) -> Any:  # noqa: ANN401
        original = queries.next_decisions

        def ask(replay: Replay) -> list[Decision]:
            rows = original(replay)
            if replay.last >= at:
                raise SystemExit
            return rows

        return ask

    def test_posts_of_other_campaigns_count_from_when_they_were_made(self) -> None:
        other = make_campaign(self.blog, "Other", match={"rules": []})
        run(other)
        self.assertEqual(self.replay().counts, {"same": 4})
        Post.objects.filter(campaign=other).update(created_at=NOW - timedelta(days=1))
        self.assertEqual(self.replay().counts, {"duplicate": 4})

    def test_rules_on_age_go_by_the_time_when_the_item_came(self) -> None:
        self.rules(sift={"rules": [{"id": "a", "kind": "age", "within_hours": 3}]})
        # Stories are dated 1, 2, 3 and 4 hours before the run.
        self.assertEqual(self.replay().counts, {"same": 3, "refused": 1})

    def test_what_people_refused_or_binned_is_no_part_of_it(self) -> None:
        move_post(self.titled(1), PostState.REFUSED, now=NOW)
        move_post(self.titled(2), PostState.BINNED, now=NOW)
        self.assertEqual(self.replay().counts, {"same": 2})

    def test_only_one_is_under_way_and_it_can_be_stopped(self) -> None:
        revision = self.campaign.revisions.get()
        made = actions.begin_replay(self.campaign, revision, by=None, now=NOW)
        with self.assertRaises(Conflict):
            actions.begin_replay(self.campaign, revision, by=None, now=NOW)
        stop(made)
        carry(made)
        made.refresh_from_db()
        self.assertEqual((made.state, made.done), ("stopped", 0))

    def test_it_goes_on_where_it_was_broken_off(self) -> None:
        revision = self.campaign.revisions.get()
        made = actions.begin_replay(self.campaign, revision, by=None, now=NOW)
        first = Decision.objects.order_by("pk").first()
        assert first is not None
        ReplayResult.objects.create(replay=made, item=first.item, post=first.post, outcome="same", title="x")
        Replay.objects.filter(pk=made.pk).update(state="deciding", last=first.pk, done=1, counts={"same": 1})
        carry(made)
        made.refresh_from_db()
        self.assertEqual((made.state, made.counts), ("ready", {"same": 4}))


class Applying(ReplayCase):
    def setUp(self) -> None:
        super().setUp()
        fill(self.source, [9], title="Story number 2 told again")
        self.rules(sift=NO_TWO)
        run(self.campaign)
        self.rules(
            sift={"rules": [{"id": "s", "kind": "terms", "mode": "none", "terms": ["number 1"], "field": "title"}]},
            place={"category": "Sky"},
        )
        self.made = self.replay()

    def test_all_of_it_is_applied_and_taken_back(self) -> None:
        self.apply(self.made, "changed", "refused", "new")
        self.assertEqual((self.made.state, ReplayResult.objects.filter(applied=False).count()), ("ready", 0))
        self.assertEqual(Post.objects.filter(category__name="Sky", state="published").count(), 4)
        self.assertEqual(Post.objects.get(state="binned").title[:14], "Story number 1")
        new = Post.objects.get(title="Story number 2 told again")
        self.assertEqual(Decision.objects.get(post=new).verdict, "publish")
        self.assertEqual(set(Post.objects.filter(state="published").values_list("revision__number", flat=True)), {3})
        assert self.made.change is not None
        back = changes.take_back(self.made.change, now=NOW)
        self.assertEqual(back.changed, 5)
        self.assertEqual(Post.objects.filter(state="published", category=None).count(), 4)
        new.refresh_from_db()
        self.assertEqual((new.state, new.marker), ("binned", True))
        run(self.campaign)
        self.assertEqual(Post.objects.filter(state="published").count(), 4)

    def test_what_was_applied_leaves_the_list_and_the_counts(self) -> None:
        before = queries.left_by_outcome(self.made)
        rows = list(ReplayResult.objects.filter(outcome="changed").values_list("pk", flat=True))
        self.apply(self.made, results=rows[:1])
        self.made.refresh_from_db()
        left = queries.left_by_outcome(self.made)
        self.assertEqual(left, {**before, "changed": before["changed"] - 1})
        listed = [row.pk for row in queries.results_of(self.made, outcome="changed")]
        self.assertEqual(listed, rows[1:])
        self.apply(self.made, "changed", "refused", "new")
        self.made.refresh_from_db()
        acts = ("changed", "refused", "new", "duplicate")
        self.assertEqual([queries.left_by_outcome(self.made)[outcome] for outcome in acts], [0, 0, 0, 0])

    def test_a_campaign_with_a_comparison_can_be_deleted(self) -> None:
        self.apply(self.made, "changed")
        ask_to_delete(self.campaign, by=None, now=NOW)
        carry_kind("deletion")
        self.assertFalse(Replay.objects.exists())
        self.assertFalse(Post.objects.exists())

    def test_some_are_applied(self) -> None:
        row = ReplayResult.objects.get(post=self.titled(3))
        self.apply(self.made, results=(row.pk,))
        self.assertEqual(Post.objects.filter(category__name="Sky").count(), 1)
        self.assertEqual(self.titled(1).state, "published")
        with self.assertRaises(Invalid):
            applying.begin_applying(self.made, outcomes=(), results=(row.pk,), by=None, now=NOW)

    def test_nothing_is_applied_while_another_comparison_is_under_way(self) -> None:
        actions.begin_replay(self.campaign, self.campaign.revisions.latest("number"), by=None, now=NOW)
        with self.assertRaises(Conflict):
            applying.begin_applying(self.made, outcomes=("changed",), results=(), by=None, now=NOW)

    def test_an_edit_made_meanwhile_stays(self) -> None:
        post = self.titled(3)
        editing.edit_post(post, {"categories": ["Mine"]}, version=1, now=NOW)
        editing.edit_post(self.titled(1), {"byline": "Mira"}, version=1, now=NOW)
        self.apply(self.made, "changed", "refused")
        self.assertEqual(Post.objects.get(pk=post.pk).category.name, "Mine")  # type: ignore[union-attr]
        self.assertEqual(self.titled(1).state, "published")

    def test_over_http(self) -> None:
        self.client.force_login(self.mira)
        base = "/api/blogs/meadow"
        asked = self.client.get(f"{base}/campaigns/sky/replays/last").json()
        self.assertEqual((asked["id"], asked["counts"]["changed"], asked["state"]), (self.made.pk, 3, "ready"))
        listed = self.client.get(f"{base}/replays/{self.made.pk}/results?outcome=changed&search=number 3").json()
        (row,) = listed["rows"]
        self.assertEqual((row["parts"], row["kept"]), (["categories"], []))
        values = self.client.get(f"{base}/replays/{self.made.pk}/results/{row['id']}").json()
        self.assertEqual(values, {"before": {"categories": []}, "after": {"categories": ["Sky"]}})
        begun = self.client.post(
            f"{base}/replays/{self.made.pk}/apply", {"results": [row["id"]]}, content_type="application/json"
        )
        self.assertEqual((begun.status_code, begun.json()["state"]), (200, "applying"))
        again = self.client.post(
            f"{base}/replays/{self.made.pk}/apply", {"outcomes": ["new"]}, content_type="application/json"
        )
        self.assertEqual(again.status_code, 409)
        carry(self.made)
        answer = self.client.post(f"{base}/campaigns/sky/replays", {"revision": 1}, content_type="application/json")
        self.assertEqual((answer.json()["revision"], answer.json()["state"]), (1, "waiting"))
        stopped = self.client.post(f"{base}/replays/{answer.json()['id']}/stop").json()
        self.assertTrue(stopped["stop_asked"])
