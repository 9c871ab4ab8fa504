"""The first screen: recent events, upcoming ones, and tasks."""

from datetime import timedelta
from typing import Any
from unittest.mock import patch

from glyptarch_core.schedule import Schedule
from glyptarch_server import wiring
from glyptarch_server.campaigns.actions import set_schedule
from glyptarch_server.comments.models import Comment
from glyptarch_server.posts.models import Post
from glyptarch_server.runs.models import Run
from glyptarch_server.sources.models import Source, SourceState

from tests.server.fixtures import NOW, make_blog, make_campaign, make_source, run
from tests.server.test_api import ApiCase

HOURLY = Schedule.model_validate({"when": {"kind": "every", "minutes": 60}})


class Today(ApiCase):
    def today(self) -> Any:  # noqa: ANN401
        return self.call(self.editor, "GET", "/blogs/meadow/today").json()

    def codes(self) -> list[str]:
        return [need["code"] for need in self.today()["needs"]]

    def test_runs_and_next_times_stand_on_the_line_of_their_campaign(self) -> None:
        set_schedule(self.campaign, HOURLY, paused=False, now=NOW)
        old = run(make_campaign(self.blog, "Old"))
        Run.objects.filter(pk=old.pk).update(asked_at=NOW - timedelta(days=3))
        lines = {line["slug"]: line for line in self.today()["lines"]}
        sky = lines["sky"]
        self.assertEqual(
            [(mark["run"], mark["posts"], mark["failed"]) for mark in sky["runs"]], [(self.first_run.pk, 3, False)]
        )
        self.assertEqual(len(sky["next"]), 6)
        self.assertEqual((sky["made"], lines["old"]["runs"], lines["old"]["next"]), (3, [], []))
        set_schedule(self.campaign, HOURLY, paused=True, now=NOW)
        self.assertEqual({line["slug"]: line["next"] for line in self.today()["lines"]}["sky"], [])

    def test_a_day_begins_at_midnight_of_the_blog(self) -> None:
        self.blog.time_zone = "Asia/Tokyo"
        self.blog.save()
        # It is nine in the evening there.
        Run.objects.update(asked_at=NOW - timedelta(hours=10))
        self.assertEqual(self.today()["lines"][0]["made"], 3)
        Run.objects.update(asked_at=NOW - timedelta(hours=22))
        self.assertEqual(self.today()["lines"][0]["made"], 0)
        # Ten in the evening UTC is the next morning there.
        Run.objects.update(asked_at=NOW - timedelta(hours=14))
        self.assertEqual(self.today()["days"][-1]["kept"], 3)
        Run.objects.update(asked_at=NOW - timedelta(hours=22))
        days = self.today()["days"]
        self.assertEqual((days[-1]["day"], days[-1]["kept"], days[-2]["kept"]), ("2026-11-24", 0, 3))

    def test_items_by_day_are_counted_by_what_became_of_them(self) -> None:
        Run.objects.filter(pk=self.first_run.pk).update(
            verdicts={"publish": 2, "scheduled": 1, "hold": 4, "draft": 1, "duplicate": 5, "refused": 6}
        )
        theirs = make_blog("theirs")
        make_source(theirs, stories=2)
        run(make_campaign(theirs))
        days = self.today()["days"]
        self.assertEqual(len(days), 14)
        self.assertEqual(days[-1], {"day": "2026-11-24", "kept": 3, "held": 5, "duplicate": 5, "refused": 6})
        self.assertEqual(sum(day["kept"] for day in days), 3)

    def test_what_needs_a_person_comes_with_the_most_urgent_first(self) -> None:
        self.assertEqual(self.codes(), ["comments"])
        Post.objects.filter(pk=self.post.pk).update(state="held")
        for name, health in (("quiet", "quiet"), ("gone", "gone"), ("down", "failing"), ("new", "changed")):
            make_source(self.blog, name)
            SourceState.objects.filter(source__key=name).update(health=health)
        Run.objects.filter(pk=self.first_run.pk).update(state="failed", failure="The rules do not hold.")
        ending = HOURLY.model_copy(update={"last_day": (NOW + timedelta(days=2)).date()})
        set_schedule(make_campaign(self.blog, "Ending"), ending, paused=False, now=NOW)
        self.assertEqual(
            self.codes(),
            [
                "source_gone",
                "source_failing",
                "run_failed",
                "posts_held",
                "comments",
                "source_changed",
                "source_quiet",
                "end_near",
            ],
        )

    def test_sources_that_fail_together_are_one_task_and_all_are_counted(self) -> None:
        Comment.objects.all().delete()
        for number in range(12):
            host = "club.example" if number < 3 else f"h{number}.example"
            source = make_source(self.blog, f"s{number:02}")
            Source.objects.filter(pk=source.pk).update(url=f"https://{host}/{number}")
        states = SourceState.objects.filter(source__key__startswith="s")
        states.update(health="failing", error="unreachable", failing_since=NOW)
        needs = self.today()["needs"]
        self.assertEqual([need["code"] for need in needs], ["sources_failing", *["source_failing"] * 7, "more_sources"])
        together = needs[0]["data"]
        self.assertEqual((together["number"], together["host"]), (3, "club.example"))
        self.assertEqual((together["says"], together["titles"]), ("do not answer", ["S00", "S01", "S02"]))
        self.assertIn("It is tried again", needs[1]["data"]["remedy"])
        self.assertEqual(needs[-1]["data"], {"number": 2})

    def test_it_takes_as_many_queries_for_many_campaigns_as_for_one(self) -> None:
        def queries() -> int:
            client = self.as_(self.editor)
            with self.assertNumQueries(20):
                answer = client.get("/api/blogs/meadow/today").json()
            return len(answer["lines"])

        self.assertEqual(queries(), 1)
        for number in range(6):
            set_schedule(make_campaign(self.blog, f"More {number}"), HOURLY, paused=False, now=NOW)
            make_source(self.blog, f"s{number}")
        self.assertEqual(queries(), 7)

    def test_a_new_blog_has_a_first_screen_as_well(self) -> None:
        make_blog("empty", self.editor)
        with patch.object(wiring, "clock", return_value=lambda: NOW):
            answer = self.call(self.editor, "GET", "/blogs/empty/today").json()
        self.assertEqual((answer["lines"], answer["needs"], answer["campaigns"]), ([], [], 0))
