"""Scheduled campaigns: their plan, their runs, and who may change them."""

from datetime import UTC, datetime, timedelta
from threading import Barrier, Thread
from typing import Any, ClassVar

from django.db import connection
from django.test import TestCase, TransactionTestCase
from glyptarch_core.schedule import Schedule
from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.actions import (
    archive_campaign,
    move_to_time_zone,
    set_paused,
    set_schedule,
)
from glyptarch_server.campaigns.models import Campaign, Revision
from glyptarch_server.runs.actions import begin_due
from glyptarch_server.runs.models import Run

from tests.server.fixtures import NOW, make_blog, make_campaign, make_source
from tests.server.test_api import ApiCase

HOURLY = Schedule.model_validate({"when": {"kind": "every", "minutes": 60}})
A_MINUTE = timedelta(minutes=1)


def scheduled(blog: Blog, name: str = "Sky", schedule: Schedule = HOURLY) -> Campaign:
    return set_schedule(make_campaign(blog, name), schedule, paused=False, now=NOW)


def planned(campaign: Campaign) -> datetime:
    at = Campaign.objects.get(pk=campaign.pk).next_run_at
    assert at is not None
    return at


class Planned(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        make_source(self.blog)

    def test_a_schedule_is_no_part_of_the_rules(self) -> None:
        campaign = scheduled(self.blog)
        self.assertEqual(Revision.objects.filter(campaign=campaign).count(), 1)
        self.assertTrue(NOW + timedelta(hours=1) <= planned(campaign) < NOW + timedelta(hours=1) + A_MINUTE)

    def test_campaigns_of_one_minute_do_not_begin_in_one_second(self) -> None:
        seconds = {planned(scheduled(self.blog, f"Sky {number}")).second for number in range(30)}
        self.assertGreater(len(seconds), 10)

    def test_pausing_rests_it_and_going_on_plans_it_anew(self) -> None:
        one, other = scheduled(self.blog), scheduled(self.blog, "Moon")
        self.assertEqual(set_paused(self.blog, ["sky"], paused=True, now=NOW), 1)
        self.assertIsNone(Campaign.objects.get(pk=one.pk).next_run_at)
        self.assertIsNotNone(Campaign.objects.get(pk=other.pk).next_run_at)
        self.assertEqual(set_paused(self.blog, [], paused=True, now=NOW), 1)
        later = NOW + timedelta(days=2)
        self.assertEqual(set_paused(self.blog, [], paused=False, now=later), 2)
        self.assertGreater(planned(one), later)

    def test_pausing_reaches_no_other_blog(self) -> None:
        theirs = make_blog("theirs")
        make_source(theirs)
        campaign = scheduled(theirs)
        set_paused(self.blog, [], paused=True, now=NOW)
        set_paused(self.blog, [campaign.slug], paused=True, now=NOW)
        self.assertFalse(Campaign.objects.get(pk=campaign.pk).paused)

    def test_another_time_zone_keeps_the_time_of_day(self) -> None:
        daily = Schedule.model_validate({"when": {"kind": "daily", "times": ["18:00"]}})
        campaign = scheduled(self.blog, schedule=daily)
        self.assertEqual(planned(campaign).astimezone(UTC).hour, 18)
        move_to_time_zone(self.blog, "Asia/Tokyo", now=NOW)
        self.assertEqual(planned(campaign).astimezone(UTC).hour, 9)


class Begun(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        make_source(self.blog)

    def test_a_run_begins_when_its_time_has_come_and_not_before(self) -> None:
        campaign = scheduled(self.blog)
        due = planned(campaign)
        self.assertEqual(begin_due(now=due - timedelta(seconds=1)), 0)
        self.assertEqual(begin_due(now=due), 1)
        run = Run.objects.get()
        self.assertEqual((run.campaign, run.scheduled, run.started_by), (campaign, True, None))
        self.assertEqual(planned(campaign) - due, timedelta(hours=1))
        self.assertEqual(begin_due(now=due), 0)

    def test_times_missed_while_the_server_was_down_are_made_up_once(self) -> None:
        campaign = scheduled(self.blog)
        back = NOW + timedelta(days=3)
        self.assertEqual(begin_due(now=back), 1)
        Run.objects.update(state="done", ended_at=back)
        self.assertEqual(begin_due(now=back + A_MINUTE), 0)
        self.assertGreater(planned(campaign), back)

    def test_a_run_under_way_is_not_doubled(self) -> None:
        campaign = scheduled(self.blog)
        begin_due(now=planned(campaign))
        self.assertEqual(begin_due(now=planned(campaign)), 0)
        self.assertEqual(Run.objects.count(), 1)
        self.assertGreater(planned(campaign), NOW + timedelta(hours=2))

    def test_paused_removed_and_ended_campaigns_rest(self) -> None:
        set_paused(self.blog, [scheduled(self.blog, "Paused").slug], paused=True, now=NOW)
        archive_campaign(scheduled(self.blog, "Removed"), now=NOW)
        today = HOURLY.model_copy(update={"last_day": NOW.date()})
        ended = scheduled(self.blog, "Ended", today)
        late = NOW + timedelta(days=9)
        self.assertEqual(begin_due(now=late), 1)
        Run.objects.update(state="done", ended_at=late)
        self.assertIsNone(Campaign.objects.get(pk=ended.pk).next_run_at)
        self.assertEqual(begin_due(now=late + timedelta(days=9)), 0)

    def test_beginning_many_takes_few_queries_each(self) -> None:
        def queries(number: int) -> int:
            for count in range(number):
                scheduled(self.blog, f"Sky {count}")
            with self.settings(DEBUG=True):
                before = len(connection.queries_log)
                begin_due(now=NOW + timedelta(hours=2))
                return len(connection.queries_log) - before

        self.assertLess(queries(5), 5 * 20)


class Raced(TransactionTestCase):
    def test_several_workers_at_one_moment_begin_each_run_once(self) -> None:
        blog = make_blog()
        make_source(blog)
        for number in range(8):
            scheduled(blog, f"Sky {number}")
        gate, begun = Barrier(4), [0] * 4

        def work(place: int) -> None:
            try:
                gate.wait()
                begun[place] = begin_due(now=NOW + timedelta(hours=2))
            finally:
                connection.close()

        threads = [Thread(target=work, args=(place,)) for place in range(4)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        # A worker skips rows locked by others.
        begun.append(begin_due(now=NOW + timedelta(hours=2)))
        self.assertEqual((sum(begun), Run.objects.count()), (8, 8))


class Api(ApiCase):
    path = "/blogs/meadow/campaigns/sky/schedule"
    daily: ClassVar[dict[str, Any]] = {"when": {"kind": "daily", "times": ["07:00", "18:00"], "days": [1, 2, 3, 4, 5]}}

    def test_a_schedule_is_set_and_shown(self) -> None:
        answer = self.call(self.owner, "PUT", self.path, {"schedule": self.daily}).json()
        self.assertEqual((answer["schedule"]["when"], answer["paused"]), (self.daily["when"], False))
        self.assertEqual(answer["revision"], 1)
        row = self.call(self.owner, "GET", "/blogs/meadow/campaign-overview?state=scheduled&sort=next").json()["rows"][
            0
        ]
        self.assertEqual((row["slug"], row["next_run_at"]), ("sky", answer["next_run_at"]))
        resting = self.call(self.owner, "PUT", self.path, {"schedule": self.daily, "paused": True}).json()
        self.assertEqual((resting["paused"], resting["next_run_at"]), (True, None))
        for state, number in (("scheduled", 0), ("paused", 1), ("hand", 0), ("", 1)):
            found = self.call(self.owner, "GET", f"/blogs/meadow/campaign-overview?state={state}").json()
            self.assertEqual(found["total"], number, state)

    def test_the_next_times_are_shown_before_it_is_saved(self) -> None:
        asked = {"schedule": self.daily, "time_zone": "Europe/Berlin"}
        answer = self.call(self.owner, "POST", "/blogs/meadow/schedule-times", asked).json()
        # It is Tuesday noon.
        self.assertEqual(answer["time_zone"], "Europe/Berlin")
        self.assertEqual(
            answer["times"],
            [
                "2026-11-24T17:00:00Z",
                "2026-11-25T06:00:00Z",
                "2026-11-25T17:00:00Z",
                "2026-11-26T06:00:00Z",
                "2026-11-26T17:00:00Z",
            ],
        )
        self.assertIsNone(Campaign.objects.get().next_run_at)

    def test_what_makes_no_sense_is_refused_with_its_place(self) -> None:
        bad = {"schedule": {"when": {"kind": "cron", "expression": "99 * * * *"}}}
        answer = self.call(self.owner, "PUT", self.path, bad)
        self.assertEqual(answer.status_code, 422)
        self.assertIn("cron expression cannot be read", answer.content.decode())
        asked = {"schedule": self.daily, "time_zone": "Europe/Nowhere"}
        answer = self.call(self.owner, "POST", "/blogs/meadow/schedule-times", asked)
        self.assertEqual(answer.status_code, 422)
        self.assertIn("Europe/Nowhere", answer.json()["detail"])

    def test_all_or_some_are_paused_and_the_time_zone_moves(self) -> None:
        self.call(self.owner, "PUT", self.path, {"schedule": self.daily})
        self.assertEqual(self.call(self.owner, "POST", "/blogs/meadow/pause", {"paused": True}).json(), {"changed": 1})
        self.assertEqual(self.call(self.owner, "POST", "/blogs/meadow/pause", {"paused": True}).json(), {"changed": 0})
        self.call(self.owner, "POST", "/blogs/meadow/pause", {"slugs": ["sky"], "paused": False})
        path = "/blogs/meadow/time-zone"
        self.assertEqual(self.call(self.owner, "PUT", path, {"time_zone": "Asia/Tokyo"}).status_code, 204)
        shown = self.call(self.owner, "GET", "/blogs/meadow/campaigns/sky").json()
        self.assertEqual((shown["time_zone"], shown["next_run_at"][:13]), ("Asia/Tokyo", "2026-11-24T22"))
        self.assertIn("Asia/Tokyo", self.call(self.owner, "GET", "/time-zones").json())
