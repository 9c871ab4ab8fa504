"""Old records are thinned: what was decided stays, and what a post rests on stays whole."""

from datetime import timedelta
from unittest.mock import patch

from django.test import TestCase
from glyptarch_server.items.models import Item
from glyptarch_server.posts.models import Post
from glyptarch_server.runs.models import Decision, Run
from glyptarch_server.runs.thinning import thin_payloads, thin_readings, thin_traces
from glyptarch_server.sources.models import Reading

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
