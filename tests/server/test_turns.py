"""Concurrency: runs of one blog take turns, and people cannot overwrite each other."""

import threading
from concurrent.futures import ThreadPoolExecutor
from datetime import datetime
from typing import Any
from unittest.mock import patch

from django.db import connection, transaction
from django.test import TransactionTestCase
from glyptarch_core.campaign import load_document
from glyptarch_core.health import Report
from glyptarch_core.readers import Feed
from glyptarch_server.campaigns.actions import save_revision
from glyptarch_server.campaigns.models import Campaign, Revision
from glyptarch_server.common.problems import Conflict
from glyptarch_server.items.actions import keep_answers
from glyptarch_server.items.queries import judge
from glyptarch_server.posts.models import Post
from glyptarch_server.runs import batches
from glyptarch_server.runs.actions import begin_run, forget
from glyptarch_server.runs.models import Decision, Run
from glyptarch_server.sources.gathering import SourceAnswer
from glyptarch_server.sources.models import Reading, Source

from tests.server.fixtures import NOW, fill, make_blog, make_campaign, make_source, run


def at_once(*calls: Any) -> list[Any]:  # noqa: ANN401
    """Call functions in threads of their own.

    Return their results or errors.
    """

    def each(call: Any) -> Any:  # noqa: ANN401
        try:
            return call()
        except Conflict as error:
            return error
        finally:
            connection.close()

    with ThreadPoolExecutor(len(calls)) as pool:
        return list(pool.map(each, calls))


class Turns(TransactionTestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        fill(make_source(self.blog), range(6))

    def test_what_one_run_has_written_and_not_yet_kept_the_other_waits_for(self) -> None:
        # Distinct addresses, or the database would refuse the second copy for its address alone.
        address = {"shape": {"address": "{{ title }} {{ source.title }}"}}
        campaigns = [make_campaign(self.blog, "One"), make_campaign(self.blog, "Two", **address)]
        written, real = threading.Event(), batches.remember_duplicates

        def slowly(campaign: Campaign, found: Any) -> None:  # noqa: ANN401
            real(campaign, found)
            if campaign == campaigns[0]:
                written.set()
                # Long enough for the other run to look for duplicates, if it did not wait.
                threading.Event().wait(1.0)

        def second() -> None:
            written.wait(10)
            run(campaigns[1])

        with patch.object(batches, "remember_duplicates", slowly), self.assertNoLogs("glyptarch.runs"):
            at_once(lambda: run(campaigns[0]), second)
        self.assertEqual(Post.objects.count(), 6)
        self.assertEqual(Decision.objects.filter(campaign=campaigns[1], verdict="duplicate").count(), 6)

    def test_of_two_that_begin_a_run_at_once_one_begins_it(self) -> None:
        campaign = make_campaign(self.blog)
        begun = at_once(*[lambda: begin_run(campaign, by=None, now=NOW)] * 4)
        self.assertEqual(sorted(type(one).__name__ for one in begun), ["Conflict"] * 3 + ["Run"])
        self.assertEqual(Run.objects.count(), 1)

    def test_of_two_that_save_at_once_one_saves(self) -> None:
        campaign = make_campaign(self.blog)
        modes = ("hold", "draft", "private")
        saved = at_once(
            *[
                lambda mode=mode: save_revision(  # type: ignore[misc]
                    campaign, load_document({"release": {"mode": mode}}), base=1, by=None, note="", now=NOW
                )
                for mode in modes
            ]
        )
        self.assertEqual(sorted(type(one).__name__ for one in saved), ["Conflict", "Conflict", "Revision"])
        self.assertEqual(Revision.objects.filter(campaign=campaign).count(), 2)

    def test_nothing_is_forgotten_while_a_run_begins(self) -> None:
        campaign = make_campaign(self.blog)
        run(campaign)
        for _ in range(5):
            Run.objects.filter(ended_at=None).delete()
            outcomes = at_once(lambda: begin_run(campaign, by=None, now=NOW), lambda: forget(campaign))
            self.assertIsInstance(outcomes[0], Run)
            self.assertIn(type(outcomes[1]), {int, Conflict})


class ReadAtOnce(TransactionTestCase):
    """Two runs with the same sources store answers in any order without deadlock."""

    def test_answers_of_the_same_sources_in_another_order(self) -> None:
        blog = make_blog()
        sources = [make_source(blog, key) for key in ("club", "observatory")]
        feed = Feed(title="C", link="", format="RSS 2.0", language="en", entries=(), warnings=())
        begun = threading.Barrier(2)

        def judged(source: Source, *, now: datetime) -> Report:
            # By then both would have written to their first source, if they did not wait.
            threading.Event().wait(0.4)
            return judge(source, now=now)

        def keep(order: list[Source]) -> int:
            pairs = [(Source.objects.get(pk=one.pk), SourceAnswer(outcome=feed)) for one in order]
            begun.wait(10)
            with transaction.atomic():
                return len(keep_answers(pairs, now=NOW))

        with patch("glyptarch_server.items.actions.judge", judged):
            kept = at_once(lambda: keep(sources), lambda: keep(sources[::-1]))
        self.assertEqual(kept, [2, 2])
        self.assertEqual(Reading.objects.count(), 4)
