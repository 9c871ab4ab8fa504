"""Why nothing arrives, with the database: the facts that the core judges."""

from typing import Any

from glyptarch_core.schedule import Schedule
from glyptarch_server.campaigns.actions import set_schedule
from glyptarch_server.posts.models import Post
from glyptarch_server.runs.models import Run
from glyptarch_server.sources.models import SourceState

from tests.server.fixtures import NOW, fill, make_campaign, make_source, run
from tests.server.test_api import ApiCase


class Checkups(ApiCase):
    def found(self, slug: str = "sky") -> dict[str, Any]:
        rows = self.call(self.owner, "GET", f"/blogs/meadow/campaigns/{slug}/checkup").json()
        return {row["code"]: row for row in rows}

    def stops(self, slug: str = "sky") -> list[str]:
        return [code for code, row in self.found(slug).items() if row["state"] == "stop"]

    def test_a_campaign_that_does_well(self) -> None:
        found = self.found()
        self.assertEqual(self.stops(), [])
        self.assertEqual(found["items.there"]["data"]["items"], 3)
        self.assertEqual(found["rules.kept"]["data"]["kept"], 3)
        self.assertEqual(found["posts.published"]["data"]["published"], 3)

    def test_a_new_campaign_has_never_run_and_its_items_wait(self) -> None:
        make_campaign(self.blog, "Moon")
        self.assertEqual(self.stops("moon"), ["run.none"])
        self.assertEqual(self.found("moon")["run.none"]["data"]["waiting"], 3)

    def test_the_rule_that_refuses_all_is_named(self) -> None:
        rule = {"id": "long", "title": "Long reads only", "kind": "number", "at_least": 5000}
        run(make_campaign(self.blog, "Moon", sift={"rules": [rule]}))
        refused = self.found("moon")["rules.refused"]
        self.assertEqual(refused["state"], "stop")
        reason = refused["data"]["reasons"][0]
        self.assertEqual((reason["rule"], reason["count"], reason["stage"]), ("Long reads only", 3, "sift"))

    def test_what_is_known_already_is_a_duplicate(self) -> None:
        run(make_campaign(self.blog, "Moon", match={"against": "blog"}))
        self.assertEqual(self.stops("moon"), ["rules.duplicates"])

    def test_posts_that_wait_for_a_person_are_not_on_the_blog(self) -> None:
        Post.objects.update(state="held")
        self.assertEqual(self.stops(), ["posts.held"])
        Post.objects.update(state="published", visibility="private")
        self.assertEqual(self.stops(), ["posts.private"])

    def test_sources_that_fail_and_runs_that_failed(self) -> None:
        SourceState.objects.update(health="failing")
        Run.objects.update(state="failed", failure="The rules do not hold any more.")
        self.assertEqual(self.stops(), ["sources.all_fail", "run.failed"])
        self.assertEqual(self.found()["sources.all_fail"]["data"]["sources"][0]["key"], "club")

    def test_a_paused_schedule_and_items_that_wait_for_the_next_run(self) -> None:
        hourly = Schedule.model_validate({"when": {"kind": "every", "minutes": 60}})
        set_schedule(self.campaign, hourly, paused=True, now=NOW)
        self.assertEqual(self.stops(), ["schedule.paused"])
        set_schedule(self.campaign, hourly, paused=False, now=NOW)
        fill(self.source, [8, 9])
        self.assertEqual(self.found()["rules.waiting"]["data"]["waiting"], 2)

    def test_it_takes_few_queries_however_many_sources(self) -> None:
        names = [f"s{number}" for number in range(12)]
        for name in names:
            make_source(self.blog, name, stories=1)
        make_campaign(self.blog, "Many", sources=tuple(names))
        client = self.as_(self.owner)
        with self.assertNumQueries(11):
            client.get("/api/blogs/meadow/campaigns/many/checkup")
