"""Reading sources apart from runs.

Tasks ask for them, readers claim them: fairly, and never twice at once.
"""

import threading
from collections.abc import Iterator, Sequence
from datetime import datetime, timedelta
from typing import Any
from unittest.mock import patch

from django.db import OperationalError, connection, transaction
from django.test import TestCase, TransactionTestCase
from glyptarch_server.items import reader
from glyptarch_server.items.reader import ReaderLoop, read_pending
from glyptarch_server.runs import carry_out as carrying
from glyptarch_server.runs.actions import begin_run
from glyptarch_server.runs.models import Run
from glyptarch_server.sources import asking
from glyptarch_server.sources.asking import (
    CLAIMED_FOR,
    answer,
    any_pending,
    ask_by_plan,
    ask_for,
    asked_of,
    claim,
    release,
    renew,
)
from glyptarch_server.sources.models import (
    FullText,
    PendingReading,
    PlatformAsk,
    Reading,
    ReadRequest,
    Source,
    SourceState,
)
from glyptarch_server.tasks import carrying as tasks
from glyptarch_server.tasks.lifecycle import LaterError
from glyptarch_server.tasks.models import Task
from glyptarch_server.wiring import FetcherEndedError
from procrastinate.contrib.django.models import ProcrastinateJob

from tests.server.fixtures import NOW, CannedPortal, clock, fill, make_blog, make_campaign, make_source, stop

FEED = b"""<rss version="2.0"><channel><title>Club</title>
<item><guid>1</guid><title>A halo around the moon</title><link>https://club.example/1</link>
<description>Seen from the meadow at ten in the evening.</description></item></channel></rss>"""


class ReaderCase(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.sources = [make_source(self.blog, f"s{number}") for number in range(6)]
        self.portal = CannedPortal({source.url: FEED for source in self.sources})
        self.run_row = begin_run(make_campaign(self.blog, sources=("s0", "s1")), by=None, now=NOW)

    def carry(self, run: Run | None = None, at: timedelta = timedelta(0)) -> Run:
        row = run or self.run_row
        tasks.carry(row.task_id or 0, fetcher=self.portal, clock=lambda: NOW + at, gives_way=False)  # type: ignore[arg-type]
        row.refresh_from_db()
        return row

    def task(self, name: str) -> int:
        return begin_run(make_campaign(self.blog, name, sources=("s0",)), by=None, now=NOW).task_id or 0

    def read(self) -> None:
        read_pending(fetcher=self.portal, clock=clock)  # type: ignore[arg-type]

    def keys(self, *, most: int = 10, by: str = "me", at: timedelta = timedelta(0)) -> list[str]:
        return [source.key for source in claim(by=by, slow=False, most=most, now=NOW + at)]


class ARun(ReaderCase):
    def test_holds_no_worker_while_its_sources_are_read(self) -> None:
        with self.assertRaises(LaterError):
            self.carry()
        self.run_row.refresh_from_db()
        task = Task.objects.get(pk=self.run_row.task_id)
        self.assertEqual((self.run_row.state, self.run_row.sources), ("gathering", 2))
        self.assertEqual((task.state, task.done, task.total, task.tries), ("waiting", 0, 2, 0))
        self.assertEqual(self.portal.asked, [], "a reader asks, not the run")

    def test_goes_on_when_the_last_of_them_has_been_read(self) -> None:
        with self.assertRaises(LaterError):
            self.carry()
        jobs = ProcrastinateJob.objects.filter(args={"task_id": self.run_row.task_id})
        with connection.cursor() as cursor:
            cursor.execute("UPDATE procrastinate_jobs SET scheduled_at = now() + interval '1 hour'")
        self.read()
        self.assertIsNone(jobs.get().scheduled_at, "it has been woken")
        done = self.carry()
        self.assertEqual((done.state, done.sources_read, done.fresh), ("done", 2, 2))
        self.assertEqual(done.readings.count(), 2)
        self.assertFalse(ReadRequest.objects.exists())

    def test_waits_a_bounded_time(self) -> None:
        with self.assertRaises(LaterError):
            self.carry()
        fill(self.sources[0], range(3))
        with self.assertRaises(LaterError):
            self.carry(at=timedelta(minutes=9))
        done = self.carry(at=timedelta(minutes=11))
        self.assertEqual((done.state, done.sources_read, done.to_decide), ("done", 0, 3))
        self.assertFalse(any_pending(), "nobody waits for them any more")

    def test_is_not_held_up_by_a_source_that_may_not_be_read_any_more(self) -> None:
        for number, change in enumerate(({"paused": True}, {"blocked_at": NOW}, {"removed_at": NOW})):
            with self.subTest(change):
                campaign = make_campaign(self.blog, f"Night {number}", sources=("s2", "s3"))
                row = begin_run(campaign, by=None, now=NOW)
                with self.assertRaises(LaterError):
                    self.carry(row)
                Source.objects.filter(key="s2").update(**change)
                self.read()
                done = self.carry(row)
                self.assertEqual((done.state, done.readings.count()), ("done", 1))
                Source.objects.filter(key="s2").update(paused=False, blocked_at=None, removed_at=None)

    def test_notes_what_was_read_before_it_was_stopped(self) -> None:
        with self.assertRaises(LaterError):
            self.carry()
        self.read()
        stop(self.run_row)
        self.run_row.refresh_from_db()
        self.assertEqual((self.run_row.state, self.run_row.readings.count()), ("stopped", 2))

    def test_is_carried_out_alone_by_a_command(self) -> None:
        carrying.carry_out_alone(self.run_row.task_id or 0, fetcher=self.portal, clock=clock)  # type: ignore[arg-type]
        self.run_row.refresh_from_db()
        self.assertEqual((self.run_row.state, len(self.portal.asked)), ("done", 2))


class Asked(ReaderCase):
    def test_a_source_that_two_ask_for_is_read_once_for_both(self) -> None:
        first, second = self.task("Moon"), self.task("Stars")
        ask_for(first, self.sources[:3])
        ask_for(second, self.sources[2:4])
        self.read()
        self.assertEqual(Reading.objects.count(), 4)
        for number, total in ((first, 3), (second, 2)):
            asked = asked_of(number)
            self.assertEqual((asked.answered, asked.total), (total, total))

    def test_the_first_of_a_new_task_comes_before_the_rest_of_another(self) -> None:
        ask_for(self.task("Many"), self.sources[:4])
        ask_for(self.task("Few"), self.sources[4:])
        self.assertEqual(self.keys(most=4), ["s0", "s4", "s1", "s5"])

    def test_it_comes_as_early_as_the_earliest_wish(self) -> None:
        ask_for(self.task("Many"), self.sources[:4])
        ask_for(self.task("Few"), [self.sources[3]])
        ask_for(self.task("Later"), [self.sources[5], self.sources[0]])
        self.assertEqual(self.keys(most=3), ["s0", "s3", "s5"])

    def test_slow_sources_are_read_apart(self) -> None:
        FullText.objects.create(source=Source.objects.get(key="s1"), words=50)
        ask_for(self.task("Moon"), list(Source.objects.order_by("key")[:3]))
        self.assertEqual(self.keys(), ["s0", "s2"])
        self.assertEqual([source.key for source in claim(by="me", slow=True, most=5, now=NOW)], ["s1"])

    def test_what_is_claimed_is_claimed_once_until_its_reader_dies(self) -> None:
        ask_for(self.task("Moon"), self.sources[:2])
        self.assertEqual(self.keys(), ["s0", "s1"])
        self.assertEqual(self.keys(by="other"), [])
        renew([source.pk for source in self.sources], by="me", now=NOW + timedelta(seconds=20))
        self.assertEqual(self.keys(by="other", at=CLAIMED_FOR + timedelta(seconds=1)), [])
        self.assertEqual(self.keys(by="other", at=2 * CLAIMED_FOR), ["s0", "s1"])

    def test_what_a_reader_gives_back_is_free_at_once(self) -> None:
        ask_for(self.task("Moon"), self.sources[:2])
        self.keys()
        release(by="me")
        self.assertEqual(self.keys(by="other"), ["s0", "s1"])

    def test_sources_of_a_removed_blog_are_not_read(self) -> None:
        task = self.task("Moon")
        ask_for(task, self.sources[:2])
        self.blog.removed_at = NOW
        self.blog.save()
        self.assertEqual(self.keys(), [])
        self.assertEqual((asked_of(task).answered, any_pending()), (2, False))

    def test_ten_thousand_are_asked_for_and_claimed_with_few_queries(self) -> None:
        task, sources = self.task("Moon"), list(Source.objects.order_by("pk"))
        with self.assertNumQueries(6):
            ask_for(task, sources)
        with self.assertNumQueries(5):
            self.keys()


class ByItsOwnPlan(ReaderCase):
    """Sources that nothing asks for are read all the same, an hour after they may be."""

    def planned(self, *, most: int = 10, **since: datetime | bool | None) -> list[str]:
        """Return what is asked for an hour after ``NOW``.

        The first source has fields of its own.
        """
        state = {name: since.pop(name) for name in ("next_read_at", "gone_at") if name in since}
        SourceState.objects.update(next_read_at=NOW)
        SourceState.objects.filter(source=self.sources[0]).update(**state)
        Source.objects.filter(pk=self.sources[0].pk).update(**since)
        ask_by_plan(now=NOW + timedelta(hours=1), most=most)
        return [row.source.key for row in PendingReading.objects.order_by("turn").select_related("source")]

    def test_a_source_is_asked_for_once_and_read(self) -> None:
        self.assertEqual(len(self.planned()), 6)
        self.assertEqual(ask_by_plan(now=NOW + timedelta(hours=2), most=10), 0, "they wait already")
        self.read()
        self.assertEqual(Reading.objects.count(), 6)
        self.assertFalse(any_pending())

    def test_not_within_an_hour(self) -> None:
        self.assertNotIn("s0", self.planned(next_read_at=NOW + timedelta(seconds=1)))

    def test_a_source_that_was_never_read(self) -> None:
        self.assertIn("s0", self.planned(next_read_at=None, added_at=NOW))

    def test_a_new_source_is_left_to_whoever_added_it(self) -> None:
        self.assertNotIn("s0", self.planned(next_read_at=None, added_at=NOW + timedelta(minutes=1)))

    def test_paused_gone_and_withdrawn_ones_are_left_out(self) -> None:
        for state in ({"paused": True}, {"gone_at": NOW}, {"blocked_at": NOW}, {"removed_at": NOW}):
            with self.subTest(state), transaction.atomic():
                self.assertEqual(len(self.planned(**state)), 5)
                transaction.set_rollback(True)

    def test_platforms_are_left_out(self) -> None:
        PlatformAsk.objects.create(source=self.sources[0], platform="shop")
        self.assertNotIn("s0", self.planned())

    def test_what_tasks_ask_for_comes_first(self) -> None:
        ask_for(self.task("Late"), [self.sources[5]])
        self.assertEqual(self.planned()[0], "s5")

    def test_so_many_at_once_the_longest_due_first(self) -> None:
        self.assertEqual(self.planned(most=1, next_read_at=NOW - timedelta(hours=1)), ["s0"])


class Failures(ReaderCase):
    def test_one_that_cannot_be_stored_stops_no_other_and_is_not_tried_for_ever(self) -> None:
        ask_for(self.task("Moon"), self.sources)
        keep = reader.keep_answers

        def fails_on_one(batch: Any, *, now: Any) -> Any:  # noqa: ANN401
            if any(source.key == "s2" for source, _ in batch):
                raise ValueError("it cannot be stored")
            return keep(batch, now=now)

        with patch.object(reader, "keep_answers", fails_on_one), self.assertLogs("glyptarch.reader", "ERROR"):
            self.read()
        self.assertEqual(Reading.objects.count(), 5)
        self.assertFalse(any_pending())

    def test_while_the_database_is_away_they_stay_asked_for(self) -> None:
        ask_for(self.task("Moon"), self.sources[:2])
        with patch.object(reader, "keep_answers", side_effect=OperationalError), self.assertRaises(OperationalError):
            self.read()
        self.assertEqual(PendingReading.objects.count(), 2)

    def test_when_its_process_ends_they_are_left_to_another(self) -> None:
        ask_for(self.task("Moon"), self.sources[:2])
        with patch.object(reader, "read_sources", side_effect=FetcherEndedError), self.assertRaises(FetcherEndedError):
            self.read()
        self.assertEqual(PendingReading.objects.count(), 2)


class _OneIsSlow(CannedPortal):
    """Answers at once, but for one address, which it keeps back until it is told."""

    def __init__(self, bodies: dict[str, bytes], slow: str) -> None:
        super().__init__(bodies)  # type: ignore[arg-type]
        self.slow = slow
        self.told = threading.Event()

    def fetch_in_batches(self, requests: Sequence[Any]) -> Iterator[list[Any]]:
        late = []
        for arrived in self.fetch_each(requests):
            if requests[arrived[0]].url == self.slow:
                late.append(arrived)
            else:
                yield [arrived]
        for _ in range(400 if late else 0):
            if self.told.wait(0.05):
                break
            yield []
        if late:
            yield late


class TheLoop(TransactionTestCase):
    """In threads of its own, with connections of their own."""

    def test_a_slow_feed_holds_up_its_own_run_alone(self) -> None:
        blog = make_blog()
        sources = [make_source(blog, f"s{number}") for number in range(4)]
        portal = _OneIsSlow({source.url: FEED for source in sources}, sources[0].url)
        slow = begin_run(make_campaign(blog, "Slow", sources=("s0", "s1")), by=None, now=NOW).task_id or 0
        ask_for(slow, sources[:2])
        loop = ReaderLoop(fetcher=portal, clock=clock)  # type: ignore[arg-type]
        over = threading.Event()
        thread = threading.Thread(target=loop.run, args=[over.is_set])
        thread.start()
        try:
            self.until(lambda: asked_of(slow).answered == 1)
            later = begin_run(make_campaign(blog, "Later", sources=("s2", "s3")), by=None, now=NOW).task_id or 0
            ask_for(later, sources[2:])
            self.until(lambda: asked_of(later).answered == 2)
            self.assertEqual(asked_of(slow).answered, 1)
            portal.told.set()
            self.until(lambda: asked_of(slow).answered == 2)
        finally:
            portal.told.set()
            over.set()
            thread.join()
        self.assertFalse(any_pending())

    def test_two_readers_that_answer_the_last_sources_wake_their_task(self) -> None:
        blog = make_blog()
        sources = [make_source(blog, f"s{number}") for number in range(2)]
        task = begin_run(make_campaign(blog, "Sky", sources=("s0", "s1")), by=None, now=NOW).task_id or 0
        ask_for(task, sources)
        woken: list[Task] = []
        both = threading.Barrier(2, timeout=10)

        def answer_one(source: Source) -> None:
            try:
                with transaction.atomic():
                    answer({source.pk: None}, by="", now=NOW)
                    # The other reader has begun before this one commits.
                    threading.Event().wait(0.2)
            finally:
                connection.close()

        def begin(source: Source) -> None:
            both.wait()
            answer_one(source)

        with patch.object(asking, "wake", lambda task, **_: woken.append(task)):
            threads = [threading.Thread(target=begin, args=[source]) for source in sources]
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join()
        self.assertEqual([row.pk for row in woken], [task])

    def test_claims_of_a_round_that_broke_off_are_not_renewed(self) -> None:
        source = make_source(make_blog(), "s0")
        task = begin_run(make_campaign(source.blog, "Sky", sources=("s0",)), by=None, now=NOW).task_id or 0
        ask_for(task, [source])
        loop, over = ReaderLoop(fetcher=CannedPortal(), clock=clock), threading.Event()  # type: ignore[arg-type]
        broken = threading.Event()

        def breaks_off(*_args: Any, **_kwargs: Any) -> Any:  # noqa: ANN401
            broken.set()
            raise OperationalError

        with patch.object(reader, "keep_answers", breaks_off), patch.object(reader, "_SECONDS_BETWEEN_RENEWALS", 0.0):
            thread = threading.Thread(target=loop.run, args=[over.is_set])
            thread.start()
            try:
                self.assertTrue(broken.wait(20))
                self.until(lambda: not loop._in_flight)
                with patch.object(loop, "_clock", lambda: NOW + CLAIMED_FOR):
                    loop._renew()
                later = NOW + CLAIMED_FOR + timedelta(seconds=1)
                self.assertEqual(len(claim(by="other", slow=False, most=5, now=later)), 1)
            finally:
                over.set()
                thread.join()

    def until(self, holds: Any) -> None:  # noqa: ANN401 - a function without arguments
        for _ in range(200):
            if holds():
                return
            threading.Event().wait(0.05)
        self.fail("it did not come to that within ten seconds")
