"""The checkup finds each way in which nothing arrives."""

import unittest
from dataclasses import replace
from datetime import UTC, datetime

from glyptarch_core.checkup import Facts, ReasonCount, RunFacts, SourceFacts, State, checkup
from glyptarch_core.health import Health

NOW = datetime(2026, 11, 26, 12, tzinfo=UTC)
CLUB = SourceFacts(key="club", title="Club", health=Health.OK, detail="", items=20, newest=NOW)
WELL = Facts(
    by_hand=False,
    paused=False,
    next_run_at=NOW,
    sources=[CLUB],
    run=RunFacts(number=7, at=NOW, ended=True, failure=""),
    waiting=0,
    decided={"publish": 5, "refused": 2, "duplicate": 3},
    reasons=[],
    posts={"published": 5},
)


def first_stop(facts: Facts) -> str:
    return next((one.code for one in checkup(facts) if one.state is State.STOP), "")


class Checkups(unittest.TestCase):
    def test_nothing_stops_what_is_well_and_each_step_is_named_once(self) -> None:
        found = checkup(WELL)
        self.assertEqual(
            [one.code for one in found],
            ["schedule.next", "sources.read", "items.there", "run.done", "rules.kept", "posts.published"],
        )
        self.assertEqual({one.state for one in found}, {State.OK})

    def test_every_way_to_stop(self) -> None:
        failing = replace(CLUB, health=Health.FAILING, detail="No site is known.")
        run = RunFacts(number=7, at=NOW, ended=True, failure="")
        for code, facts in {
            "schedule.paused": replace(WELL, paused=True),
            "schedule.ended": replace(WELL, next_run_at=None),
            "sources.none": replace(WELL, sources=[]),
            "sources.all_fail": replace(WELL, sources=[failing, replace(failing, health=Health.GONE)]),
            "items.none": replace(WELL, sources=[replace(CLUB, items=0, newest=None)]),
            "run.none": replace(WELL, run=None),
            "run.failed": replace(WELL, run=replace(run, failure="The rules do not hold.")),
            "rules.nothing_new": replace(WELL, decided={}, posts={}),
            "rules.waiting": replace(WELL, decided={}, posts={}, waiting=4),
            "rules.refused": replace(WELL, decided={"refused": 4, "duplicate": 1}, posts={}),
            "rules.duplicates": replace(WELL, decided={"refused": 1, "duplicate": 4}, posts={}),
            "posts.held": replace(WELL, posts={"held": 4, "draft": 1}),
            "posts.draft": replace(WELL, posts={"draft": 4}),
            "posts.scheduled": replace(WELL, posts={"scheduled": 4}),
            "posts.private": replace(WELL, posts={"private": 4}),
            "posts.refused": replace(WELL, posts={"refused": 4}),
        }.items():
            self.assertEqual(first_stop(facts), code)

    def test_what_is_only_worth_knowing_stops_nothing(self) -> None:
        failing = replace(CLUB, health=Health.FAILING, detail="No site is known.")
        under_way = RunFacts(number=7, at=NOW, ended=False, failure="")
        for code, facts in {
            "schedule.hand": replace(WELL, by_hand=True, paused=True, next_run_at=None),
            "sources.some_fail": replace(WELL, sources=[CLUB, failing]),
            "sources.unread": replace(WELL, sources=[CLUB, replace(CLUB, health=Health.UNREAD)]),
            "items.quiet": replace(WELL, sources=[replace(CLUB, health=Health.QUIET)]),
            "run.under_way": replace(WELL, run=under_way),
            "rules.waiting": replace(WELL, waiting=4),
        }.items():
            found = checkup(facts)
            self.assertEqual([one.code for one in found if one.state is State.NOTE], [code])
            self.assertEqual(first_stop(facts), "", code)

    def test_the_rules_that_refuse_most_are_named_by_their_titles(self) -> None:
        reasons = [
            ReasonCount(stage="sift", code="terms.forbidden", rule="r", rule_title="No adverts", count=3),
            ReasonCount(stage="sift", code="number.too_low", rule="length", rule_title="", count=1),
        ]
        decision = checkup(replace(WELL, decided={"refused": 4}, posts={}, reasons=reasons))
        rules = next(one for one in decision if one.code == "rules.refused")
        self.assertEqual(
            [(reason["rule"], reason["count"]) for reason in rules.data["reasons"]], [("No adverts", 3), ("length", 1)]
        )
