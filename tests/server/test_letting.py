"""Letting items through that the rules stopped, and deciding chosen ones again."""

import json
from typing import Any

from django.test import Client, TestCase
from glyptarch_server.blogs.actions import add_member
from glyptarch_server.blogs.roles import Role
from glyptarch_server.common.acting import acting_as
from glyptarch_server.common.problems import Conflict
from glyptarch_server.items.models import Item
from glyptarch_server.posts.actions import move_post
from glyptarch_server.posts.changes import take_back
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import Change, Post
from glyptarch_server.runs import actions, queries
from glyptarch_server.runs.letting import let_through
from glyptarch_server.runs.models import Decision, Run
from glyptarch_server.sources.models import Source

from tests.server.fixtures import NOW, fill, make_blog, make_campaign, make_source, make_user, run

NOTHING_PASSES = {"rules": [{"id": "long", "kind": "number", "title": "Long ones", "at_least": 5000}]}


class LettingCase(TestCase):
    def setUp(self) -> None:
        self.owner = make_user("ida")
        self.blog = make_blog(owner=self.owner)
        add_member(self.blog, self.owner, Role.OWNER)
        self.source = make_source(self.blog)
        fill(self.source, range(4), published=NOW)
        self.campaign = make_campaign(self.blog, sift=NOTHING_PASSES)
        self.items = list(Item.objects.order_by("pk"))

    def let(self, *items: Item) -> Any:  # noqa: ANN401
        with acting_as(self.owner, NOW):
            return let_through(self.campaign, [item.pk for item in items], by=self.owner, now=NOW)

    def decision(self, item: Item) -> Decision:
        return Decision.objects.get(item=item)


class Letting(LettingCase):
    def test_a_refused_item_becomes_its_post_and_the_trace_names_the_person(self) -> None:
        run(self.campaign)
        told = self.let(self.items[0])
        post = Post.objects.get()
        self.assertEqual(([row.pk for row in told.posts], told.left), ([post.pk], {}))
        self.assertEqual((post.state, post.item, post.source), ("published", self.items[0], self.source))
        decision = self.decision(self.items[0])
        self.assertEqual((decision.post, decision.verdict, decision.left_at), (post, "publish", ""))
        notes = {note["code"]: note for note in decision.trace}
        self.assertEqual(notes["release.let_through"]["data"], {"by": "Ida", "stage": "sift", "code": "number.low"})
        self.assertIn("number.low", notes, "what the rules had against it is still told")
        self.assertIsNone(decision.reason)

    def test_the_counts_of_the_run_follow(self) -> None:
        done = run(self.campaign)
        self.assertEqual(done.verdicts, {"refused": 4})
        self.let(*self.items[:3])
        done.refresh_from_db()
        self.assertEqual(done.verdicts, {"refused": 1, "publish": 3})
        self.assertEqual(queries.made_in(done), 3)

    def test_a_duplicate_becomes_a_post_beside_the_other(self) -> None:
        other = make_source(self.blog, "wire")
        fill(other, range(1), published=NOW)
        campaign = make_campaign(self.blog, "All", sources=("club", "wire"))
        run(campaign)
        copy = Decision.objects.get(campaign=campaign, verdict="duplicate")
        with acting_as(self.owner, NOW):
            told = let_through(campaign, [copy.item_id], by=self.owner, now=NOW)
        self.assertEqual(len(told.posts), 1)
        self.assertEqual(Post.objects.filter(title=copy.item.title).count(), 2)

    def test_an_item_that_no_run_has_decided_gets_a_run_of_its_own(self) -> None:
        self.let(*self.items[:2])
        alone = Run.objects.get()
        self.assertEqual((alone.state, alone.started_by, alone.verdicts), ("done", self.owner, {"publish": 2}))
        done = run(self.campaign)
        self.assertEqual(done.verdicts, {"refused": 2}, "they are decided")

    def test_it_is_held_where_the_campaign_holds_every_post(self) -> None:
        campaign = make_campaign(self.blog, "Held", sift=NOTHING_PASSES, release={"mode": "hold"})
        run(campaign)
        with acting_as(self.owner, NOW):
            let_through(campaign, [self.items[0].pk], by=self.owner, now=NOW)
        self.assertEqual(Post.objects.get().state, "held")

    def test_the_source_s_rights_count_as_ever(self) -> None:
        Source.objects.update(right="link")
        self.let(self.items[0])
        self.assertEqual(Post.objects.get().body, "")

    def test_it_can_be_taken_back_and_the_next_run_decides_anew(self) -> None:
        run(self.campaign)
        told = self.let(*self.items[:2])
        self.assertEqual((told.change.action, told.change.changed), ("let_through", 2))
        with acting_as(self.owner, NOW):
            take_back(told.change, now=NOW)
        self.assertEqual(set(Post.objects.values_list("state", "marker")), {("binned", False)})
        run(self.campaign)
        self.assertEqual(set(Decision.objects.values_list("verdict", flat=True)), {"refused"})
        self.assertEqual(Change.objects.count(), 2)

    def test_once_only(self) -> None:
        self.let(self.items[0])
        again = self.let(self.items[0])
        self.assertEqual((again.posts, again.change, again.left), ([], None, {"has_post": [self.items[0].title]}))
        self.assertEqual(Post.objects.count(), 1)

    def test_after_taking_it_back_it_can_be_let_through_again(self) -> None:
        told = self.let(self.items[0])
        with acting_as(self.owner, NOW):
            take_back(told.change, now=NOW)
        self.assertEqual(len(self.let(self.items[0]).posts), 1)
        self.assertEqual(Post.objects.filter(state="published").count(), 1)

    def test_what_a_person_refused_stays_refused(self) -> None:
        self.let(self.items[0])
        move_post(Post.objects.get(), PostState.HELD, now=NOW)
        move_post(Post.objects.get(), PostState.REFUSED, now=NOW)
        self.assertEqual(self.let(self.items[0]).left, {"refused": [self.items[0].title]})

    def test_nothing_of_a_withdrawn_source_comes_out(self) -> None:
        Source.objects.update(blocked_at=NOW)
        self.assertEqual(self.let(self.items[0]).left, {"withdrawn": [self.items[0].title]})
        self.assertFalse(Post.objects.exists())

    def test_an_item_of_which_nothing_is_left_becomes_no_post(self) -> None:
        drop = {"id": "all", "kind": "drop_paragraphs", "terms": ["story"]}
        campaign = make_campaign(self.blog, "Empty", shape={"steps": [drop], "excerpt": {"taken_from": "text"}})
        with acting_as(self.owner, NOW):
            told = let_through(campaign, [self.items[0].pk], by=self.owner, now=NOW)
        self.assertEqual(told.left, {"empty": [self.items[0].title]})

    def test_one_of_a_source_outside_the_campaign_is_told_as_such(self) -> None:
        fill(make_source(self.blog, "wire"), range(1), published=NOW)
        item = Item.objects.latest("pk")
        self.assertEqual(self.let(item).left, {"other_source": [item.title]})

    def test_one_whose_template_fails_is_told_as_such(self) -> None:
        campaign = make_campaign(self.blog, "Faulty", shape={"body": "{% for a in (1..9000) %}x{% endfor %}"})
        with acting_as(self.owner, NOW):
            told = let_through(campaign, [self.items[0].pk], by=self.owner, now=NOW)
        self.assertEqual(told.left, {"failed": [self.items[0].title]})

    def test_items_of_another_blog_are_not_touched(self) -> None:
        fill(make_source(make_blog("other"), "far"), range(1), published=NOW)
        told = self.let(Item.objects.latest("pk"))
        self.assertEqual((told.posts, told.left), ([], {}))


class DecidingAgain(LettingCase):
    def test_chosen_items_alone_are_decided_again(self) -> None:
        run(self.campaign)
        self.assertEqual(actions.forget(self.campaign, [item.pk for item in self.items[:2]]), 2)
        self.assertEqual(set(Decision.objects.values_list("item", flat=True)), {item.pk for item in self.items[2:]})

    def test_what_a_person_refused_is_among_them_only_where_it_is_chosen(self) -> None:
        self.let(self.items[0])
        move_post(Post.objects.get(), PostState.HELD, now=NOW)
        move_post(Post.objects.get(), PostState.REFUSED, now=NOW)
        self.assertEqual(actions.forget(self.campaign), 0)
        self.assertEqual(Post.objects.count(), 1)
        self.assertEqual(actions.forget(self.campaign, [self.items[0].pk]), 1)
        self.assertFalse(Post.objects.exists())

    def test_not_while_a_run_is_under_way(self) -> None:
        actions.begin_run(self.campaign, by=None, now=NOW)
        with self.assertRaises(Conflict):
            actions.forget(self.campaign, [1])


class TheApi(LettingCase):
    def send(self, path: str, *items: int) -> Any:  # noqa: ANN401
        client = Client()
        client.force_login(self.owner)
        body = json.dumps({"items": list(items)})
        return client.post(f"/api/blogs/meadow/campaigns/sky/{path}", body, content_type="application/json")

    def test_it_says_what_became_of_each(self) -> None:
        self.let(self.items[0])
        told = self.send("let-through", *(item.pk for item in self.items)).json()
        self.assertEqual((len(told["posts"]), told["states"]), (3, {"published": 3}))
        self.assertEqual(told["left"], {"has_post": [self.items[0].title]})
        self.assertEqual(Change.objects.get(pk=told["change"]).changed, 3)

    def test_a_hundred_at_once_and_at_least_one(self) -> None:
        self.assertEqual(self.send("let-through").status_code, 422)
        self.assertEqual(self.send("let-through", *range(1, 102)).status_code, 422)

    def test_chosen_ones_are_forgotten(self) -> None:
        run(self.campaign)
        self.assertEqual(self.send("memory/forget", self.items[0].pk).json(), {"items": 1})
