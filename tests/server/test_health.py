"""Automatic reading of sources, and their health."""

from datetime import timedelta

from django.test import TestCase
from glyptarch_server.items.actions import keep_answer, read_and_capture
from glyptarch_server.items.models import Item
from glyptarch_server.runs.actions import begin_run
from glyptarch_server.runs.models import Run
from glyptarch_server.sources.gathering import SourceAnswer
from glyptarch_server.sources.models import Source, SourceState
from glyptarch_server.sources.readings import due_for_schedule
from glyptarch_server.wiring import FetchCode, Fetched, FetchError

from tests.server.fixtures import NOW, CannedPortal, carry, clock, fill, make_blog, make_campaign, make_source
from tests.server.test_api import ApiCase
from tests.server.test_runs import FEED

URL = "https://club.example/feed"
DOWN = FetchError(FetchCode.SERVER_ERROR, "It has trouble.")


class Polled(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.source = make_source(self.blog)
        self.portal = CannedPortal({URL: FEED})

    def by_schedule(self, name: str = "Sky") -> Run:
        campaign = make_campaign(self.blog, name)
        run = begin_run(campaign, by=None, now=NOW, queue=False, scheduled=True)
        carry(run, self.portal)
        run.refresh_from_db()
        return run

    def failed(self, error: FetchError, times: int = 1) -> Source:
        for number in range(times):
            keep_answer(self.source, SourceAnswer(outcome=error), now=NOW + timedelta(hours=number))
        self.source.refresh_from_db()
        return self.source

    def test_two_campaigns_of_one_time_cost_a_source_one_request(self) -> None:
        first, second = self.by_schedule("Sky"), self.by_schedule("Moon")
        self.assertEqual(len(self.portal.asked), 1)
        self.assertEqual((first.sources_left, second.sources_left), (0, 1))
        # The second campaign decides the items captured by the first.
        self.assertEqual((first.state, second.state, second.to_decide), ("done", "done", first.to_decide))

    def test_a_person_who_runs_a_campaign_reads_what_is_there_now(self) -> None:
        self.by_schedule()
        run = begin_run(make_campaign(self.blog, "Moon"), by=None, now=NOW, queue=False)
        carry(run, self.portal)
        self.assertEqual(len(self.portal.asked), 2)

    def test_those_of_a_schedule_are_found_with_one_query(self) -> None:
        sources = [self.source, *(make_source(self.blog, f"s{number}") for number in range(20))]
        SourceState.objects.filter(source__key="s3").update(gone_at=NOW)
        with self.assertNumQueries(1):
            due = due_for_schedule(sources, now=NOW)
        self.assertEqual([one.key for one in due], [source.key for source in sources if source.key != "s3"])

    def test_a_schedule_of_a_minute_reads_each_minute(self) -> None:
        for minute in range(3):
            # The reading ends some seconds after the schedule's time, and its plan begins then.
            read_and_capture(
                self.source,
                fetcher=self.portal,  # type: ignore[arg-type]
                clock=lambda minute=minute: NOW + timedelta(minutes=minute, seconds=4),
            )
            self.assertEqual(due_for_schedule([self.source], now=NOW + timedelta(minutes=minute, seconds=30)), [])
            self.assertEqual(due_for_schedule([self.source], now=NOW + timedelta(minutes=minute + 1)), [self.source])

    def test_what_a_feed_wishes_is_the_least_wait(self) -> None:
        self.portal.bodies[URL] = FEED.replace(b"<channel>", b"<channel><ttl>120</ttl>")
        read_and_capture(self.source, fetcher=self.portal, clock=clock)  # type: ignore[arg-type]
        self.assertEqual(self.source.state.next_read_at, NOW + timedelta(hours=2))
        self.assertEqual(due_for_schedule([self.source], now=NOW + timedelta(hours=1)), [])

    def test_failures_back_off_and_a_success_ends_them(self) -> None:
        first = self.failed(DOWN).state.next_read_at
        source = self.failed(DOWN, 4)
        assert first and source.state.next_read_at
        self.assertEqual((source.state.failures, source.state.failing_since, source.state.health), (5, NOW, "failing"))
        self.assertTrue(timedelta(minutes=5) <= first - NOW <= timedelta(minutes=6))
        self.assertGreaterEqual(source.state.next_read_at - NOW, timedelta(hours=3, minutes=80))
        read_and_capture(source, fetcher=self.portal, clock=clock)  # type: ignore[arg-type]
        source.refresh_from_db()
        self.assertEqual(
            (source.state.failures, source.state.failing_since, source.state.health), (0, None, "unsteady")
        )
        for hour in range(10):
            later = NOW + timedelta(hours=4 + hour)
            read_and_capture(source, fetcher=self.portal, clock=lambda later=later: later)  # type: ignore[arg-type]
        self.assertEqual((source.state.lately, source.state.health), (0, "ok"))

    def test_one_failure_is_no_alarm(self) -> None:
        read_and_capture(self.source, fetcher=self.portal, clock=clock)  # type: ignore[arg-type]
        source = self.failed(DOWN)
        self.assertEqual((source.state.health, source.state.error), ("unsteady", "server_error"))

    def test_one_that_only_ever_says_that_nothing_has_changed_is_not_ok_and_is_asked_for_all(self) -> None:
        self.portal.bodies[URL] = b""
        SourceState.objects.update(etag='"1"', last_modified="then")
        self.source.refresh_from_db()
        read_and_capture(self.source, fetcher=self.portal, clock=clock)  # type: ignore[arg-type]
        self.source.refresh_from_db()
        state = self.source.state
        self.assertEqual((state.health, state.etag, state.last_modified), ("unread", "", ""))

    def test_retry_after_is_kept(self) -> None:
        error = FetchError(FetchCode.TOO_MANY_REQUESTS, "Not so often.", retry_after=7200)
        self.assertEqual(self.failed(error).state.next_read_at, NOW + timedelta(hours=2))

    def test_what_is_gone_is_not_read_by_itself_any_more_but_by_hand(self) -> None:
        source = self.failed(FetchError(FetchCode.GONE, "It is gone for good."))
        self.assertEqual(source.state.health, "gone")
        self.assertEqual(due_for_schedule([source], now=NOW + timedelta(days=400)), [])
        read_and_capture(source, fetcher=self.portal, clock=clock)  # type: ignore[arg-type]
        source.refresh_from_db()
        self.assertEqual((source.state.gone_at, source.state.health), (None, "ok"))

    def test_silence_and_change_are_seen_when_the_source_is_read(self) -> None:
        fill(self.source, range(20), published=None)
        SourceState.objects.update(given_at=NOW)
        self.source.refresh_from_db()
        for number, item in enumerate(Item.objects.order_by("pk")):
            Item.objects.filter(pk=item.pk).update(dated=NOW - timedelta(hours=100 + number), published=NOW)
        keep_answer(self.source, SourceAnswer(outcome=_unchanged()), now=NOW)
        self.assertEqual((self.source.state.health, self.source.state.health_data["hours"]), ("quiet", 100))
        newest = Item.objects.order_by("-dated").values("pk")[:6]
        Item.objects.filter(pk__in=list(newest.values_list("pk", flat=True))).update(published=None)
        keep_answer(self.source, SourceAnswer(outcome=_unchanged()), now=NOW)
        self.assertEqual((self.source.state.health, self.source.state.health_data["lost"]), ("changed", ["date"]))


def _unchanged() -> Fetched:
    return Fetched(
        url=URL, body=b"", not_modified=True, content_type="", etag="", last_modified="", milliseconds=1, max_age=0
    )


class Listed(ApiCase):
    def test_sources_are_filtered_and_sorted_by_health(self) -> None:
        for number, health in enumerate(("quiet", "failing", "ok")):
            source = make_source(self.blog, f"s{number}")
            SourceState.objects.filter(source=source).update(health=health)

        def keys(query: str) -> list[str]:
            rows = self.call(self.owner, "GET", f"/blogs/meadow/sources?{query}").json()["rows"]
            return [row["key"] for row in rows]

        self.assertEqual(keys("health=failing"), ["s1"])
        self.assertEqual(keys("sort=health")[:2], ["s1", "s0"])
        self.assertEqual(self.call(self.owner, "GET", "/blogs/meadow/sources?health=x").status_code, 422)

    def test_one_that_failed_says_its_cause_and_the_remedy(self) -> None:
        fine, failing = make_source(self.blog, "fine"), make_source(self.blog, "lost")
        SourceState.objects.filter(source=failing).update(health="failing", error="not_found")
        rows = {row["key"]: row for row in self.call(self.owner, "GET", "/blogs/meadow/sources").json()["rows"]}
        self.assertEqual(rows[failing.key]["cause"], "does not exist at its address")
        self.assertIn("correct it at the source", rows[failing.key]["remedy"])
        self.assertEqual((rows[fine.key]["cause"], rows[fine.key]["remedy"]), ("", ""))
