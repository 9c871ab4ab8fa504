"""Thinning keeps outcomes, and everything that a post needs."""

from datetime import UTC, datetime, timedelta
from typing import Any
from unittest.mock import patch

from django.contrib.sessions.models import Session
from django.db import DatabaseError, connection, transaction
from django.db.models import QuerySet
from django.test import TestCase, override_settings
from glyptarch_server.audit.models import Entry
from glyptarch_server.blogs.actions import save_keeping
from glyptarch_server.blogs.keeping import Keeping, Record
from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.problems import Conflict, NotFound
from glyptarch_server.common.queue import defer
from glyptarch_server.items.models import Item
from glyptarch_server.posts.changes import Action, change_now, take_back
from glyptarch_server.posts.editing import history_of, values_at
from glyptarch_server.posts.emptying import empty_old
from glyptarch_server.posts.models import Post, PostChange
from glyptarch_server.runs.models import Decision, Run
from glyptarch_server.runs.thinning import (
    Freed,
    freed_by,
    thin_changes,
    thin_entries,
    thin_jobs,
    thin_payloads,
    thin_readings,
    thin_sessions,
    thin_traces,
)
from glyptarch_server.sources.models import Reading
from procrastinate.contrib.django.models import ProcrastinateJob
from pydantic import ValidationError

from tests.server.fixtures import NOW, fill, make_blog, make_campaign, make_source, run
from tests.server.test_api import ApiCase

REFUSES = {"rules": [{"id": "t", "kind": "terms", "mode": "none", "terms": ["1"]}]}


class Thinning(TestCase):
    def setUp(self) -> None:
        self.source = make_source(make_blog())
        fill(self.source, range(3))
        Item.objects.update(raw={"title": "as it came"})
        self.campaign = make_campaign(self.source.blog, sift=REFUSES, match={"rules": []})
        self.run = run(self.campaign)
        self.refused = Decision.objects.get(verdict="refused")

    def test_traces_of_what_became_no_post_go_after_ninety_days(self) -> None:
        self.assertEqual(thin_traces(now=NOW + timedelta(days=89)), 0)
        self.assertEqual(thin_traces(now=NOW + timedelta(days=91)), 1)
        self.assertEqual(thin_traces(now=NOW + timedelta(days=91)), 0)
        self.refused.refresh_from_db()
        self.assertEqual((self.refused.trace, self.refused.verdict), ([], "refused"))
        self.assertIsNotNone(self.refused.reason)
        self.assertFalse(Decision.objects.filter(post__isnull=False, trace=[]).exists())

    def test_what_was_decided_is_not_decided_again(self) -> None:
        thin_traces(now=NOW + timedelta(days=91))
        self.assertEqual(run(self.campaign).to_decide, 0)

    def test_readings_go_and_the_counts_of_runs_stay(self) -> None:
        self.assertEqual(thin_readings(now=NOW + timedelta(days=91)), 1)
        self.assertFalse(Reading.objects.exists())
        self.run.refresh_from_db()
        self.assertEqual((self.run.sources_read, self.run.verdicts), (1, {"publish": 2, "refused": 1}))

    def test_payloads_that_a_post_rests_on_stay(self) -> None:
        self.assertEqual(thin_payloads(now=NOW + timedelta(days=366)), 1)
        self.assertEqual(Item.objects.get(raw={}).pk, self.refused.item_id)
        self.assertEqual(Item.objects.exclude(raw={}).count(), Post.objects.count())
        self.assertTrue(Item.objects.get(raw={}).text)


class WhatGrows(TestCase):
    def test_values_of_old_changes_are_forgotten_and_then_not_given_back(self) -> None:
        run(make_campaign(make_source(make_blog(), stories=2).blog))
        kept, binned = Post.objects.order_by("pk")
        edit = change_now(kept.blog, Action.EDIT, kept.pk, {"title": "Mended"}, subject="", what={}, now=NOW)
        change_now(binned.blog, Action.BIN, binned.pk, {"state": "binned"}, subject="", what={}, now=NOW)
        self.assertEqual([thin_changes(now=NOW + timedelta(days=days)) for days in (364, 366, 366)], [0, 1, 0])
        forgotten, other = PostChange.objects.order_by("post")
        self.assertEqual((forgotten.is_forgotten, other.is_forgotten), (True, False))
        with self.assertRaisesMessage(Conflict, "more than 365 days ago"):
            take_back(forgotten.change, now=NOW)
        self.assertEqual(values_at(edit, edit.version)["title"], "Mended")
        with self.assertRaisesMessage(NotFound, "is gone"):
            values_at(edit, 1)
        self.assertEqual([entry.kept for entry in history_of(edit)], [False])

    def test_ended_sessions_and_old_failures_go(self) -> None:
        Session.objects.create(session_key="old", session_data="", expire_date=NOW - timedelta(hours=1))
        Session.objects.create(session_key="new", session_data="", expire_date=NOW + timedelta(hours=1))
        defer("carry_task", task_id=1)
        defer("carry_task", task_id=2)
        with connection.cursor() as cursor:
            cursor.execute("UPDATE procrastinate_jobs SET status = 'failed' WHERE args->>'task_id' = '1'")
        self.assertEqual(thin_sessions(now=NOW), 1)
        self.assertEqual(Session.objects.get().session_key, "new")
        today = datetime.now(UTC)
        self.assertEqual([thin_jobs(now=today + timedelta(days=days)) for days in (29, 31, 31)], [0, 1, 0])
        self.assertEqual(ProcrastinateJob.objects.get().args, {"task_id": 2})

    def test_the_audit_list_is_kept_for_three_years_and_never_less_than_one(self) -> None:
        today = datetime.now(UTC)
        for days in (0, 400, 1100):
            Entry.objects.create(action="blog.renamed", at=today - timedelta(days=days))
        self.assertEqual([thin_entries(now=today), thin_entries(now=today)], [1, 0])
        with override_settings(GLYPTARCH_KEEP_AUDIT_DAYS=10):
            self.assertEqual(thin_entries(now=today), 1)
            with self.assertRaises(DatabaseError), transaction.atomic():
                thin_entries(now=today + timedelta(days=400))
        with self.assertRaises(DatabaseError), transaction.atomic():
            Entry.objects.all().delete()
        self.assertEqual(Entry.objects.count(), 1)


class EachBlog(TestCase):
    """A blog keeps its records for as long as its owner says."""

    def setUp(self) -> None:
        for slug in ("short", "usual"):
            source = make_source(make_blog(slug))
            fill(source, range(3))
            run(make_campaign(source.blog, sift=REFUSES, match={"rules": []}))
        Item.objects.update(raw={"title": "as it came"})
        self.short, self.usual = Blog.objects.get(slug="short"), Blog.objects.get(slug="usual")
        for post in Post.objects.all():
            change_now(post.blog, Action.EDIT, post.pk, {"title": "Mended"}, subject="", what={}, now=NOW)
        days = dict.fromkeys(["traces", "payloads", "changes", "bin"], 5) | {"readings": 20, "audit": 400}
        save_keeping(self.short, Keeping.model_validate(days), begun=None)

    def of(self, rows: QuerySet[Any], blog: str) -> int:
        return rows.filter(**{blog: self.short}).count()

    def test_what_is_older_goes_and_that_of_other_blogs_stays(self) -> None:
        for thin, days in (
            (thin_traces, 5),
            (thin_payloads, 5),
            (thin_changes, 5),
            (thin_readings, 20),
        ):
            with self.subTest(thin.__name__):
                self.assertEqual(thin(now=NOW + timedelta(days=days)), 0)
                self.assertGreater(thin(now=NOW + timedelta(days=days, minutes=1)), 0)
                self.assertEqual(thin(now=NOW + timedelta(days=days, minutes=1)), 0)
        self.assertEqual(self.of(Decision.objects.filter(trace=[]), "campaign__blog"), 1)
        self.assertEqual(Decision.objects.filter(trace=[]).count(), 1)
        self.assertEqual(set(Reading.objects.values_list("source__blog__slug", flat=True)), {"usual"})
        self.assertEqual(set(Item.objects.filter(raw={}).values_list("source__blog__slug", flat=True)), {"short"})
        forgotten = PostChange.objects.filter(before={}, after={})
        self.assertEqual(set(forgotten.values_list("post__blog__slug", flat=True)), {"short"})
        post = Post.objects.filter(blog=self.short).first()
        assert post is not None
        with self.assertRaisesMessage(NotFound, "kept for 5 days"):
            values_at(post, 1)

    def test_what_a_blog_keeps_longer_than_usual_stays(self) -> None:
        save_keeping(self.usual, Keeping(traces=200), begun=None)
        self.assertEqual(thin_traces(now=NOW + timedelta(days=100)), 1)
        self.assertEqual(self.of(Decision.objects.filter(trace=[]), "campaign__blog"), 1)
        self.assertEqual(thin_traces(now=NOW + timedelta(days=201)), 1)

    def test_the_bin_and_the_audit_too(self) -> None:
        Post.objects.update(state="binned", binned_at=NOW, marker=False)
        self.assertEqual(empty_old(now=NOW + timedelta(days=4)), 0)
        self.assertEqual(empty_old(now=NOW + timedelta(days=6)), 2)
        self.assertEqual(set(Post.objects.values_list("blog__slug", flat=True)), {"usual"})
        self.assertEqual(empty_old(now=NOW + timedelta(days=31)), 2)
        today = datetime.now(UTC)
        for number in (self.short.pk, self.usual.pk, None):
            Entry.objects.create(action="blog.renamed", blog=number, at=today - timedelta(days=500))
        self.assertEqual(thin_entries(now=today), 1)
        self.assertEqual(
            list(
                Entry.objects.filter(at__lt=today - timedelta(days=400)).order_by("pk").values_list("blog", flat=True)
            ),
            [self.usual.pk, None],
        )

    def test_what_it_frees_is_said_before_and_is_what_goes(self) -> None:
        later = NOW + timedelta(days=10)
        self.assertEqual(freed_by(self.short, Record.TRACES, 11, now=later), Freed(0, 0))
        freed = freed_by(self.short, Record.TRACES, 5, now=later)
        self.assertEqual((freed.number, freed.size > 0), (1, True))
        self.assertEqual(thin_traces(now=later), freed.number)
        self.assertEqual(freed_by(self.short, Record.TRACES, 5, now=later).number, 0)
        for record in Record:
            with self.subTest(record):
                self.assertGreaterEqual(freed_by(self.usual, record, 1, now=later).number, 0)
        with patch("glyptarch_server.runs.thinning._COUNTED", 1):
            self.assertEqual(freed_by(self.usual, Record.PAYLOADS, 1, now=later).number, 1)

    def test_no_fewer_days_than_others_need(self) -> None:
        for record, days in (("readings", 14), ("audit", 365), ("traces", 0), ("bin", 366)):
            with self.subTest(record), self.assertRaises(ValidationError):
                Keeping.model_validate({record: days})


class Runs(ApiCase):
    def found(self, query: str) -> int:
        return int(self.call(self.viewer, "GET", f"/blogs/meadow/runs?{query}").json()["total"])

    def test_runs_are_found_by_state_campaign_starter_and_failure(self) -> None:
        failed = run(make_campaign(self.blog, "Comets"))
        type(failed).objects.filter(pk=failed.pk).update(
            state="failed", failure="The rules do not hold.", started_by=self.editor
        )
        found = {
            query: self.found(query) for query in ("state=failed", "state=done", "state=under_way", "search=comet")
        }
        self.assertEqual(found, {"state=failed": 1, "state=done": 1, "state=under_way": 0, "search=comet": 1})
        self.assertEqual([self.found(f"search={word}") for word in ("edda", "do+not+hold", "zzz")], [1, 1, 0])
        self.assertEqual(self.call(self.viewer, "GET", "/blogs/meadow/runs?state=odd").status_code, 422)


class Decisions(ApiCase):
    def found(self, query: str = "") -> list[str]:
        rows = self.call(self.viewer, "GET", f"/blogs/meadow/decisions?{query}").json()["rows"]
        return [row["verdict"] for row in rows]

    def test_decisions_of_all_runs_are_found_by_outcome_and_words(self) -> None:
        run(make_campaign(self.blog, "Strict", sift=REFUSES, match={"rules": []}, release={"mode": "hold"}))
        self.assertEqual(sorted(self.found()), ["hold", "hold", "publish", "publish", "publish", "refused"])
        self.assertEqual(self.found("outcome=kept"), ["publish"] * 3)
        self.assertEqual(self.found("outcome=held"), ["hold"] * 2)
        self.assertEqual(sorted(self.found("search=NUMBER+1")), ["publish", "refused"])
        self.assertEqual(self.found("search=nowhere"), [])

    def test_the_day_is_that_of_the_blog(self) -> None:
        Run.objects.update(asked_at=NOW.replace(hour=23))
        self.assertEqual((len(self.found("day=2026-11-24")), self.found("day=2026-11-25")), (3, []))
        self.blog.time_zone = "Asia/Tokyo"
        self.blog.save()
        self.assertEqual((self.found("day=2026-11-24"), len(self.found("day=2026-11-25"))), ([], 3))

    def test_a_long_list_ends_at_a_thousand(self) -> None:
        with patch("glyptarch_server.runs.router.SEARCHED", 2):
            answer = self.call(self.viewer, "GET", "/blogs/meadow/decisions").json()
        self.assertEqual((answer["total"], len(answer["rows"])), (2, 2))
