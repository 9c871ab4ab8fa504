"""Runs: what they write once, and what the database refuses."""

import itertools
from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.db import DataError, IntegrityError, InterfaceError, OperationalError, connection, transaction
from django.test import Client, TestCase
from django.test.utils import CaptureQueriesContext
from glyptarch_core import campaign_pass
from glyptarch_core.campaign import load_document
from glyptarch_core.item import Captured, Media, MediaKind, MediaOrigin
from glyptarch_core.trace import Verdict
from glyptarch_server.campaigns.actions import archive_campaign, save_revision
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.campaigns.queries import document_of, latest_revision
from glyptarch_server.common.problems import Conflict, NotFound
from glyptarch_server.items.actions import read_and_capture
from glyptarch_server.items.capturing import capture
from glyptarch_server.items.models import Item
from glyptarch_server.items.page_pictures import look_up_pages
from glyptarch_server.posts.actions import move_post
from glyptarch_server.posts.lifecycle import MOVES as POST_MOVES
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import Post
from glyptarch_server.proofs.prove import make_proof
from glyptarch_server.runs import actions, batches
from glyptarch_server.runs import carry_out as carrying
from glyptarch_server.runs.actions import begin_run
from glyptarch_server.runs.lifecycle import ACTIVE, MOVES, RunState
from glyptarch_server.runs.models import Decision, Run
from glyptarch_server.tasks.actions import take_up_abandoned
from glyptarch_server.tasks.models import Task
from glyptarch_server.tasks.queries import abandoned
from glyptarch_server.wiring import FetchCode, FetchError
from procrastinate.contrib.django.models import ProcrastinateJob

from tests.server.fixtures import (
    NOW,
    CannedPortal,
    carry,
    clock,
    fill,
    make_blog,
    make_campaign,
    make_source,
    run,
    stop,
    story,
)

FEED = b"""<rss version="2.0"><channel><title>C</title><item><guid isPermaLink="false">a</guid><title>First story of all</title>
<link>https://club.example/a</link><description>Some words.</description></item><item><guid isPermaLink="false">b</guid>
<title>Second story of all</title><link>https://club.example/b</link><description>More words.</description></item></channel></rss>"""


class ARun(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.source = make_source(self.blog)

    def test_gathers_decides_and_writes(self) -> None:
        campaign = make_campaign(self.blog, place={"category": "Sky", "tags": ["a", "b"], "byline": "Desk"})
        done = run(campaign, CannedPortal({self.source.url: FEED}))
        self.assertEqual((done.state, done.fresh, done.to_decide), ("done", 2, 2))
        post = Post.objects.get(slug="first-story-of-all")
        self.assertEqual((post.state, post.category.name, post.byline.name), ("published", "Sky", "Desk"))  # type: ignore[union-attr]
        self.assertEqual(sorted(tag.name for tag in post.tags.all()), ["a", "b"])
        self.assertEqual(post.revision.number, 1)
        self.assertEqual(Decision.objects.get(post=post).trace[-1]["code"], "published")

    def test_running_twice_makes_no_second_post(self) -> None:
        campaign = make_campaign(self.blog)
        for _ in range(2):
            run(campaign, CannedPortal({self.source.url: FEED}))
        self.assertEqual((Post.objects.count(), Decision.objects.count()), (2, 2))

    def test_a_second_campaign_of_the_blog_finds_the_posts_of_the_first(self) -> None:
        fill(self.source, range(3))
        run(make_campaign(self.blog, "One"))
        run(make_campaign(self.blog, "Two"))
        self.assertEqual(Decision.objects.filter(campaign__name="Two", verdict="duplicate").count(), 3)

    def test_the_scope_of_match_is_kept(self) -> None:
        fill(self.source, range(2))
        run(make_campaign(self.blog, "One"))
        run(make_campaign(self.blog, "Own", match={"against": "campaign"}))
        self.assertEqual(Decision.objects.filter(campaign__name="Own", verdict="publish").count(), 2)

    def test_what_is_like_a_duplicate_only_is_found_in_a_later_run(self) -> None:
        campaign = make_campaign(self.blog)
        fill(self.source, [1], title="One long title", link="https://x.example/1")
        run(campaign)
        fill(self.source, [2], title="Another long title", link="https://x.example/1")
        run(campaign)
        fill(self.source, [3], title="Another long title", link="https://x.example/3")
        run(campaign)
        self.assertEqual(
            list(Decision.objects.order_by("pk").values_list("verdict", flat=True)),
            ["publish", "duplicate", "duplicate"],
        )
        self.assertEqual(Decision.objects.last().reason["data"]["ref"], f"post:{Post.objects.get().pk}")  # type: ignore[union-attr]

    def test_a_refused_post_does_not_come_back(self) -> None:
        campaign = make_campaign(self.blog)
        fill(self.source, [1])
        run(campaign)
        move_post(Post.objects.get(), PostState.REFUSED, now=NOW)
        fill(self.source, [2], title="Story number 1 of the night")
        run(campaign)
        self.assertEqual(Post.objects.count(), 1)

    def test_one_run_decides_at_most_so_many_and_the_rest_wait(self) -> None:
        campaign = make_campaign(self.blog, gather={"sources": ["club"], "at_most": 4})
        fill(self.source, range(6))
        run(campaign, batch=3)
        self.assertEqual(Decision.objects.count(), 4)
        run(campaign, batch=3)
        self.assertEqual(Decision.objects.count(), 6)

    def test_a_source_that_fails_does_not_stop_the_others(self) -> None:
        broken = make_source(self.blog, "wire")
        portal = CannedPortal({self.source.url: FEED, broken.url: FetchError(FetchCode.NOT_FOUND, "gone")})
        done = run(make_campaign(self.blog, sources=("club", "wire")), portal)
        self.assertEqual((done.state, Post.objects.count()), ("done", 2))
        self.assertEqual(sorted(reading.error for reading in done.readings.all()), ["", "not_found"])

    def test_only_what_has_changed_is_asked_for(self) -> None:
        portal = CannedPortal({self.source.url: FEED})
        campaign = make_campaign(self.blog)
        run(campaign, portal)
        run(campaign, portal)
        self.assertEqual([request.etag for request in portal.asked], ["", '"1"'])

    def test_two_posts_of_one_title_get_two_addresses(self) -> None:
        fill(self.source, range(3), title="Cloudy again")
        run(make_campaign(self.blog))
        self.assertEqual(
            sorted(Post.objects.values_list("slug", flat=True)), ["cloudy-again", "cloudy-again-2", "cloudy-again-3"]
        )

    def test_a_crash_between_batches_loses_and_doubles_nothing(self) -> None:
        fill(self.source, range(10))
        first_run = actions.begin_run(make_campaign(self.blog), by=None, now=NOW, queue=False)
        real, calls = carrying.decide_batch, []

        def dies_at_the_third(*args: object, **kwargs: object) -> bool:
            calls.append(1)
            if len(calls) == 3:
                raise SystemExit
            return real(*args, **kwargs)  # type: ignore[arg-type]

        with patch.object(carrying, "decide_batch", dies_at_the_third), self.assertRaises(SystemExit):
            carry(first_run, batch=3)
        self.assertEqual(Decision.objects.count(), 6)
        carry(first_run, batch=3)
        first_run.refresh_from_db()
        self.assertEqual((first_run.state, Decision.objects.count(), Post.objects.count()), ("done", 10, 10))

    def test_a_run_can_be_stopped(self) -> None:
        fill(self.source, range(10))
        first_run = actions.begin_run(make_campaign(self.blog), by=None, now=NOW, queue=False)
        real = carrying.decide_batch

        def asked_meanwhile(*args: object, **kwargs: object) -> bool:
            room = real(*args, **kwargs)  # type: ignore[arg-type]
            stop(first_run)
            return room

        with patch.object(carrying, "decide_batch", asked_meanwhile):
            carry(first_run, batch=3)
        first_run.refresh_from_db()
        self.assertEqual((first_run.state, Decision.objects.count()), ("stopped", 3))

    def test_a_run_that_no_worker_took_stops_at_once(self) -> None:
        first_run = actions.begin_run(make_campaign(self.blog), by=None, now=NOW)
        stop(first_run)
        first_run.refresh_from_db()
        self.assertEqual(first_run.state, "stopped")

    def test_a_fault_of_ours_fails_the_run_and_says_so(self) -> None:
        first_run = actions.begin_run(make_campaign(self.blog), by=None, now=NOW, queue=False)
        with (
            patch.object(carrying, "ask_for", side_effect=RuntimeError("disk full")),
            self.assertLogs("glyptarch.tasks") as log,
        ):
            carry(first_run, batch=3)
        first_run.refresh_from_db()
        self.assertEqual(first_run.state, "failed")
        self.assertIn(f"task {first_run.task_id}", first_run.failure)
        self.assertIn("disk full", str(log.output))
        self.assertNotIn("disk full", first_run.failure, "the text of an error of ours is shown to nobody")

    def test_while_the_database_is_away_the_run_stays_as_it_is_and_is_tried_again(self) -> None:
        fill(self.source, range(4))
        first_run = actions.begin_run(make_campaign(self.blog), by=None, now=NOW, queue=False)
        for error in (OperationalError("the server has ended the connection"), InterfaceError("closed")):
            with patch.object(carrying, "decide_batch", side_effect=error), self.assertRaises(type(error)):
                carry(first_run, batch=3)
            first_run.refresh_from_db()
            self.assertEqual(first_run.state, "deciding")
        carry(first_run, batch=3)
        first_run.refresh_from_db()
        self.assertEqual((first_run.state, Decision.objects.count(), Task.objects.get().tries), ("done", 4, 1))

    def test_what_fails_every_time_ends_at_last(self) -> None:
        first_run = actions.begin_run(make_campaign(self.blog), by=None, now=NOW, queue=False)
        with patch.object(carrying, "ask_for", side_effect=OperationalError):
            for _ in range(12):
                with self.assertRaises(OperationalError):
                    carry(first_run, batch=3)
            carry(first_run, batch=3)
        first_run.refresh_from_db()
        self.assertEqual(first_run.state, "failed")
        self.assertIn("got no further", first_run.failure)

    def test_one_item_that_cannot_be_decided_holds_up_no_other(self) -> None:
        fill(self.source, range(7))
        bad = Item.objects.order_by("dated")[3].pk
        real = batches.decide

        def fails_on_one(captured: list[Captured], *args: Any, **kwargs: Any) -> Any:  # noqa: ANN401
            if any(one.item.identity == "n3" for one in captured):
                raise DataError("value too long for type character varying(80)")
            return real(captured, *args, **kwargs)

        with patch.object(batches, "decide", fails_on_one), self.assertLogs("glyptarch.runs"):
            done = run(make_campaign(self.blog), batch=7)
        self.assertEqual((done.state, Post.objects.count()), ("done", 6))
        put_aside = Decision.objects.get(item=bad)
        self.assertEqual(
            (put_aside.verdict, put_aside.left_at, put_aside.reason["code"]), ("refused", "release", "release.failed")
        )
        self.assertNotIn("varying", str(put_aside.trace))

    def test_a_removed_campaign_stops_deciding(self) -> None:
        fill(self.source, range(9))
        campaign = make_campaign(self.blog)
        real = carrying.decide_batch

        def removed_meanwhile(*args: Any, **kwargs: Any) -> bool:  # noqa: ANN401
            archive_campaign(campaign, now=NOW)
            return real(*args, **kwargs)

        with patch.object(carrying, "decide_batch", removed_meanwhile):
            done = run(campaign, batch=3)
        self.assertEqual((done.state, Decision.objects.count()), ("stopped", 3))
        with self.assertRaises(NotFound):
            actions.begin_run(campaign, by=None, now=NOW)

    def test_a_scheduled_run_of_a_paused_campaign_stops_and_one_by_hand_goes_on(self) -> None:
        fill(self.source, range(6))
        for scheduled, state in ((True, "stopped"), (False, "done")):
            campaign = make_campaign(self.blog, f"Sky {state}", match={"rules": []})
            under_way = actions.begin_run(campaign, by=None, now=NOW, queue=False, scheduled=scheduled)
            Campaign.objects.filter(pk=campaign.pk).update(paused=True)
            carry(under_way, batch=3)
            under_way.refresh_from_db()
            self.assertEqual(under_way.state, state)

    def test_what_only_the_item_itself_tells_is_worked_out_before_the_lock_is_taken(self) -> None:
        fill(self.source, range(3))
        seen: list[bool] = []
        real = batches.decide

        def watched(*args: Any, **kwargs: Any) -> Any:  # noqa: ANN401
            locked = "SELECT count(*) FROM pg_locks WHERE locktype = 'advisory' AND pid = pg_backend_pid()"
            with connection.cursor() as cursor:
                cursor.execute(locked)
                seen.append(cursor.fetchone()[0] > 0)
            return real(*args, **kwargs)

        shaping = 0
        shape = campaign_pass.compile_shape

        def counted(*args: Any) -> Any:  # noqa: ANN401
            made = shape(*args)

            def once(*item: Any) -> Any:  # noqa: ANN401
                nonlocal shaping
                shaping += 1
                return made(*item)

            return once

        with patch.object(batches, "decide", watched), patch.object(campaign_pass, "compile_shape", counted):
            run(make_campaign(self.blog))
        self.assertEqual((seen, shaping), ([False, True], 3))


class Abandoned(TestCase):
    """Runs under way that no job carries on."""

    def setUp(self) -> None:
        blog = make_blog()
        fill(make_source(blog), range(3))
        self.campaign = make_campaign(blog)
        self.made = actions.begin_run(self.campaign, by=None, now=NOW, queue=False)
        Run.objects.filter(pk=self.made.pk).update(state="deciding")
        self.later = NOW + timedelta(minutes=1)

    def test_get_a_job_again_and_only_one(self) -> None:
        self.assertEqual(take_up_abandoned(now=NOW), 0, "a run has just been put on record")
        self.assertEqual(take_up_abandoned(now=self.later), 1)
        self.assertEqual(take_up_abandoned(now=self.later), 0)
        self.assertTrue(ProcrastinateJob.objects.filter(args={"task_id": self.made.task_id}, status="todo").exists())

    def test_are_found_with_one_query_however_many_are_under_way(self) -> None:
        take_up_abandoned(now=self.later)
        for number in range(5):
            campaign = make_campaign(self.campaign.blog, f"Other {number}")
            actions.begin_run(campaign, by=None, now=NOW)
        with self.assertNumQueries(1):
            self.assertEqual(abandoned(before=self.later), [])

    def test_end_where_they_have_got_nowhere_many_times(self) -> None:
        Task.objects.update(tries=12)
        self.assertEqual(take_up_abandoned(now=self.later), 0)
        self.made.refresh_from_db()
        self.assertEqual(self.made.state, "failed")

    def test_are_stopped_at_once_so_that_a_new_run_can_begin(self) -> None:
        with self.assertRaises(Conflict):
            actions.begin_run(self.campaign, by=None, now=NOW)
        stop(self.made)
        self.made.refresh_from_db()
        self.assertEqual(self.made.state, "stopped")
        actions.begin_run(self.campaign, by=None, now=NOW)

    def test_what_was_stopped_meanwhile_writes_nothing_more(self) -> None:
        stop(self.made)
        carry(self.made)
        self.assertEqual(Decision.objects.count(), 0)
        self.assertFalse(actions.move(self.made, RunState.DONE, NOW))
        self.assertEqual(self.made.state, "stopped")

    def test_a_job_that_is_being_done_is_only_asked_to_stop(self) -> None:
        take_up_abandoned(now=self.later)
        with connection.cursor() as cursor:
            cursor.execute("INSERT INTO procrastinate_workers DEFAULT VALUES RETURNING id")
            worker = cursor.fetchone()[0]
            cursor.execute("UPDATE procrastinate_jobs SET status = 'doing', worker_id = %s", [worker])
        stop(self.made)
        self.made.refresh_from_db()
        self.assertEqual((self.made.state, Task.objects.get().stop_asked), ("deciding", True))
        with connection.cursor() as cursor:
            cursor.execute("UPDATE procrastinate_workers SET last_heartbeat = now() - interval '1 minute'")
        stop(self.made)
        self.made.refresh_from_db()
        self.assertEqual(self.made.state, "stopped", "its worker is dead")


class TheProof(TestCase):
    def test_gives_the_same_decisions_as_the_run(self) -> None:
        blog = make_blog()
        fill(make_source(blog), range(12))
        fill(make_source(blog, "wire"), range(8, 20), link="", body="<p>short</p>")
        run(make_campaign(blog, "Before", ("wire",), sift={"rules": [{"id": "t", "kind": "terms", "terms": ["13"]}]}))
        campaign = make_campaign(
            blog, "Sky", ("club", "wire"),
            sift={"rules": [{"id": "w", "kind": "number", "at_least": 4}, {"id": "t", "kind": "terms", "mode": "none", "terms": ["3"]}]},
        )  # fmt: skip
        document = document_of(latest_revision(campaign))
        proved = {item.item: item.decision for item in make_proof(campaign, document, now=NOW).items}
        run(campaign)
        written = {decision.item_id: decision for decision in Decision.objects.filter(campaign=campaign)}
        self.assertEqual(set(proved), set(written))
        for item, decision in proved.items():
            row = written[item]
            with self.subTest(row.item.title):
                self.assertEqual((row.verdict, row.left_at), (decision.verdict.value, (decision.left_at or "")))
                self.assertEqual([note["code"] for note in row.trace], [note.code for note in decision.trace])

    def test_gives_the_same_again_after_the_run(self) -> None:
        blog = make_blog()
        fill(make_source(blog), range(5), title="Always the same title")
        campaign = make_campaign(blog)
        document = document_of(latest_revision(campaign))
        before = [(item.item, item.decision.verdict) for item in make_proof(campaign, document, now=NOW).items]
        run(campaign)
        after = make_proof(campaign, document, now=NOW + timedelta(seconds=1))
        self.assertEqual([(item.item, item.decision.verdict) for item in after.items], before)
        self.assertEqual(after.undecided, 0)

    def test_writes_nothing_and_needs_few_queries(self) -> None:
        blog = make_blog()
        fill(make_source(blog), range(40))
        campaign = make_campaign(blog)
        document = document_of(latest_revision(campaign))
        with self.assertNumQueries(11):
            proof = make_proof(campaign, document, now=NOW)
        self.assertEqual((len(proof.items), Post.objects.count(), Decision.objects.count()), (40, 0, 0))

    def test_says_what_an_edit_changes(self) -> None:
        blog = make_blog()
        fill(make_source(blog), range(3))
        campaign = make_campaign(blog)
        rules = {"gather": {"sources": ["club"]}, "release": {"mode": "publish"}}
        edited = document_of(latest_revision(campaign)).model_validate(
            {**rules, "sift": {"rules": [{"id": "t", "kind": "terms", "mode": "none", "terms": ["2"]}]}}
        )
        proof = make_proof(campaign, edited, now=NOW)
        changed = [item for item in proof.items if item.changed]
        self.assertEqual(
            [(one.decision.verdict, one.saved.verdict) for one in changed], [(Verdict.REFUSED, Verdict.PUBLISH)]
        )
        self.assertEqual(
            (proof.rules["sift.t"].against, proof.rules["sift.t"].alone, proof.rules["sift.t"].was_against), (1, 1, 0)
        )


STORY = (
    "<p>A bright fireball crossed the sky in the north, and all the cameras of the valley network were awake. From the "
    "tracks the club has worked out a path that ends far beyond the mill, and anyone who saw it is asked to write.</p>"
)


class NearMatches(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.source, self.wire = make_source(self.blog), make_source(self.blog, "wire")
        fill(self.source, [1], title="A fireball for everyone", body=STORY)

    def later(self, **match: object) -> Decision:
        run(make_campaign(self.blog))
        body = f"{STORY}<p>Read on.</p>"
        fill(self.wire, [2], link="https://wire.example/2", title="What we all saw that night", body=body)
        run(make_campaign(self.blog, "Wire", ("wire",), match=match))
        return Decision.objects.get(campaign__name="Wire")

    def test_a_text_already_on_the_blog_is_found_by_its_words(self) -> None:
        decision = self.later()
        self.assertEqual((decision.verdict, decision.reason["code"]), ("duplicate", "match.near_text"))  # type: ignore[index]
        self.assertEqual(decision.reason["data"]["ref"], f"post:{Post.objects.get().pk}")  # type: ignore[index]

    def test_likes_can_join_and_the_post_then_names_the_other_source(self) -> None:
        self.later(on_match="join")
        self.assertEqual(Post.objects.get().also_at.get().item.source.key, "wire")
        page = Client().get(f"/blog/{self.blog.slug}/{Post.objects.get().slug}/").content.decode()
        self.assertIn('Also at <a href="https://wire.example/2"', page)

    def test_scope_limits_the_look(self) -> None:
        self.assertEqual(self.later(against="campaign").verdict, "publish")

    def test_a_refused_story_stays_away_unless_let_back(self) -> None:
        run(make_campaign(self.blog))
        move_post(Post.objects.get(), PostState.REFUSED, now=NOW)
        for name, back, verdict in (("No", False, "duplicate"), ("Yes", True, "publish")):
            run(make_campaign(self.blog, name, match={"let_refused_back": back}))
            self.assertEqual(Decision.objects.get(campaign__name=name).verdict, verdict)

    def test_forgetting_lets_the_next_run_decide_anew_what_is_no_post(self) -> None:
        rules = {"rules": [{"id": "r", "kind": "terms", "mode": "none", "terms": ["fireball"]}]}
        campaign = make_campaign(self.blog, sift=rules)
        fill(self.source, [5])
        run(campaign)
        self.assertEqual((Post.objects.count(), actions.forget(campaign)), (1, 1))
        open_to_all = load_document({"gather": {"sources": ["club"]}})
        save_revision(campaign, open_to_all, base=1, by=None, note="", now=NOW)
        run(campaign)
        self.assertEqual((Post.objects.count(), Decision.objects.filter(campaign=campaign).count()), (2, 2))

    def test_nothing_is_forgotten_while_a_run_is_under_way(self) -> None:
        campaign = make_campaign(self.blog)
        actions.begin_run(campaign, by=None, now=NOW)
        with self.assertRaises(Conflict):
            actions.forget(campaign)


class TheDatabase(TestCase):
    def test_refuses_a_second_post_of_an_item(self) -> None:
        blog = make_blog()
        fill(make_source(blog), [1])
        run(make_campaign(blog))
        post = Post.objects.get()
        post.pk, post.slug = None, "another"
        with self.assertRaises(IntegrityError), transaction.atomic():
            post.save()

    def test_refuses_a_second_run_under_way(self) -> None:
        campaign = make_campaign(make_blog(), sources=())
        actions.begin_run(campaign, by=None, now=NOW)
        with self.assertRaises(Conflict):
            actions.begin_run(campaign, by=None, now=NOW)

    def test_refuses_a_kept_decision_that_left(self) -> None:
        blog = make_blog()
        fill(make_source(blog), [1])
        run(make_campaign(blog))
        with self.assertRaises(IntegrityError), transaction.atomic():
            Decision.objects.update(left_at="sift")


class LifeCycles(TestCase):
    def test_every_state_has_its_moves_and_no_end_is_left(self) -> None:
        self.assertEqual(set(MOVES), set(RunState))
        self.assertEqual({state for state in RunState if not MOVES[state]}, set(RunState) - ACTIVE)
        self.assertEqual(set(POST_MOVES), set(PostState))

    def test_a_post_moves_only_as_the_table_says(self) -> None:
        blog = make_blog()
        fill(make_source(blog), [1])
        run(make_campaign(blog))
        post = Post.objects.get()
        move_post(post, PostState.HELD, now=NOW)
        self.assertEqual(Post.objects.get().state, "held")
        Post.objects.update(state="gone")
        with self.assertRaises(Conflict):
            move_post(post, PostState.DRAFT, now=NOW)

    def test_a_run_keeps_to_its_table(self) -> None:
        first_run = actions.begin_run(make_campaign(make_blog(), sources=()), by=None, now=NOW, queue=False)
        Run.objects.filter(pk=first_run.pk).update(state="done", ended_at=NOW)
        carry(first_run, batch=3)
        self.assertEqual(Run.objects.get(pk=first_run.pk).state, "done")


PAGE = b'<meta property="og:image" content="/pictures/a.png">'


class LinkedPages(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.source = make_source(self.blog)
        self.portal = CannedPortal({self.source.url: FEED, "https://club.example/a": PAGE})

    def leads(self) -> dict[str, str]:
        return dict(Post.objects.values_list("link", "lead_url"))

    def test_are_asked_for_a_picture_only_where_the_source_is_to_be_read_so(self) -> None:
        campaign = make_campaign(self.blog, shape={"lead": {"order": ["page"]}})
        run(campaign, self.portal)
        self.assertEqual(len(self.portal.asked), 1)
        self.assertEqual(set(self.leads().values()), {""})

    def test_give_the_picture_of_an_item_once_and_a_missing_page_does_no_harm(self) -> None:
        self.source.reads_pages = True
        self.source.save()
        campaign = make_campaign(self.blog, shape={"lead": {"order": ["feed", "page"]}})
        run(campaign, self.portal)
        self.assertEqual(
            self.leads(),
            {"https://club.example/a": "https://club.example/pictures/a.png", "https://club.example/b": ""},
        )
        asked = len(self.portal.asked)
        run(campaign, self.portal)
        self.assertEqual(len(self.portal.asked), asked + 1)
        self.assertEqual(Post.objects.count(), 2)

    def test_are_asked_for_the_items_there_are_once_the_source_is_set_so(self) -> None:
        campaign = make_campaign(self.blog, shape={"lead": {"order": ["page"]}})
        read_and_capture(self.source, fetcher=self.portal, clock=clock)
        document = document_of(latest_revision(campaign))
        before = make_proof(campaign, document, now=NOW)
        self.assertEqual([item.decision.draft.lead for item in before.items if item.decision.draft], [None, None])
        self.source.reads_pages = True
        self.source.save()
        self.portal.bodies[self.source.url] = b""
        read_and_capture(self.source, fetcher=self.portal, clock=lambda: NOW + timedelta(minutes=5))
        after = make_proof(campaign, document, now=NOW + timedelta(minutes=5))
        leads = {
            item.decision.draft.lead.url for item in after.items if item.decision.draft and item.decision.draft.lead
        }
        self.assertEqual(leads, {"https://club.example/pictures/a.png"})

    def test_are_asked_twenty_at_a_time_and_never_for_an_item_with_a_picture(self) -> None:
        self.source.reads_pages = True
        self.source.save()
        own = {"url": "https://club.example/o.png", "kind": MediaKind.PICTURE, "origin": MediaOrigin.FEED}
        fill(self.source, range(25))
        fill(self.source, [90], media=(Media(**own),))
        portal = CannedPortal()
        for expected in (20, 25, 25):
            look_up_pages(self.source, fetcher=portal, now=NOW)
            pages = [request.url for request in portal.asked if not request.url.endswith("/robots.txt")]
            self.assertEqual(len(pages), expected)
        self.assertNotIn("https://club.example/90", [request.url for request in portal.asked])

    def test_keep_their_picture_when_the_entry_is_edited(self) -> None:
        self.source.reads_pages = True
        self.source.save()
        read_and_capture(self.source, fetcher=self.portal, clock=clock)
        item = Item.objects.get(link="https://club.example/a")
        capture(self.source, [story(1, identity=item.identity, link=item.link, title="Said anew")], now=NOW)
        item.refresh_from_db()
        self.assertEqual((item.title, [one["origin"] for one in item.media]), ("Said anew", ["page"]))


class OverTime(TestCase):
    def test_a_run_that_takes_too_long_ends_and_the_next_one_goes_on(self) -> None:
        source = make_source(make_blog())
        fill(source, range(6))
        campaign = make_campaign(source.blog, match={"rules": []})
        ticks = itertools.count()
        first_run = begin_run(campaign, by=None, now=NOW, queue=False)
        slow = lambda: NOW + timedelta(minutes=20 * next(ticks))  # noqa: E731 - a clock that runs on with every look
        carry(first_run, batch=1, at=slow)
        first_run.refresh_from_db()
        self.assertEqual(first_run.state, "failed")
        self.assertIn("longer than 120 minutes", first_run.failure)
        decided = first_run.decisions.count()
        self.assertIn(decided, range(1, 6))
        again = run(campaign)
        self.assertEqual((again.state, again.decisions.count()), ("done", 6 - decided))


class Addresses(TestCase):
    def setUp(self) -> None:
        self.source = make_source(make_blog())
        self.campaign = make_campaign(self.source.blog, match={"rules": []})

    def slugs(self) -> list[str]:
        return list(Post.objects.order_by("pk").values_list("slug", flat=True))

    def test_posts_of_one_title_get_numbers_over_many_runs(self) -> None:
        for number in range(0, 90, 30):
            fill(self.source, range(number, number + 30), title="Sky note")
            run(self.campaign)
        slugs = self.slugs()
        self.assertEqual(slugs[0], "sky-note")
        self.assertEqual(set(slugs), {"sky-note", *(f"sky-note-{number}" for number in range(2, 91))})

    def test_a_number_that_has_become_free_is_used_again(self) -> None:
        fill(self.source, range(3), title="Sky note")
        run(self.campaign)
        Post.objects.filter(slug="sky-note-2").update(slug="another")
        fill(self.source, range(3, 5), title="Sky note")
        run(self.campaign)
        self.assertEqual(self.slugs()[3:], ["sky-note-2", "sky-note-4"])

    def test_they_are_found_by_the_index(self) -> None:
        with CaptureQueriesContext(connection) as asked:
            fill(self.source, range(20))
            run(self.campaign)
        looked_up = [query["sql"] for query in asked if '"posts_post"."slug" = ANY' in query["sql"]]
        self.assertEqual(len(looked_up), 1)
        self.assertFalse([query for query in asked if "~ " in query["sql"] and "slug" in query["sql"]])
