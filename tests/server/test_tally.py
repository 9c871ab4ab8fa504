"""The counts of a proof follow from its decisions."""

from typing import Any

from django.test import SimpleTestCase
from glyptarch_core.campaign import load_document
from glyptarch_core.item import Captured
from glyptarch_core.pipeline import decide
from glyptarch_core.testing import NOON, FakeMemory, captured
from glyptarch_core.trace import Decision, Stage, Verdict
from glyptarch_server.proofs.tally import (
    Proved,
    active_rules,
    effects_of,
    holes_of,
    is_foreign,
    stages_of,
)


def decided(items: list[Captured], **parts: Any) -> list[Decision]:  # noqa: ANN401
    document = load_document({"gather": {"sources": ["club"]}, "release": {"mode": "publish"}, **parts})
    return list(decide(items, document, memory=FakeMemory(), now=NOON))


def sifting(*rules: dict[str, Any]) -> dict[str, Any]:
    return {"rules": [{"id": f"r{number}", "kind": "terms", **rule} for number, rule in enumerate(rules)]}


COMET, MOON, SHOP = (
    captured(name, title=f"A {name} over the mill", body=f"<p>What was seen of the {name}.</p>")
    for name in ("comet", "moon", "shop")
)


class OneItem(SimpleTestCase):
    def proved(self, now: dict[str, Any], was: dict[str, Any]) -> Proved:
        return Proved(item=1, decision=decided([COMET], **now)[0], saved=decided([COMET], **was)[0])

    def test_the_same_rules_change_nothing(self) -> None:
        same = self.proved({}, {})
        self.assertEqual((same.changed, same.moved, same.reworded), (False, False, False))

    def test_what_says_something_else_is_reworded(self) -> None:
        for now in (
            {"shape": {"title": "Seen: {{ title }}"}},
            {"shape": {"body": "<p>{{ excerpt }}!</p>"}},
            {"shape": {"description": "x"}},
            {"shape": {"fields": [{"id": "f", "name": "seen", "value": "yes"}]}},
        ):
            with self.subTest(now):
                one = self.proved(now, {})
                self.assertEqual((one.changed, one.moved, one.reworded), (True, False, True))

    def test_what_stands_elsewhere_is_moved(self) -> None:
        for place in ({"category": "Sky"}, {"tags": ["night"]}, {"byline": "Ada"}, {"pinned": True},
                      {"comments": True}, {"visibility": "private"}, {"kind": "guide"}, {"language": "fr"}):  # fmt: skip
            with self.subTest(place):
                one = self.proved({"place": place}, {})
                self.assertEqual((one.changed, one.moved, one.reworded), (True, True, False))

    def test_what_comes_in_or_leaves_is_changed_and_neither(self) -> None:
        refusing = {"sift": sifting({"mode": "none", "terms": ["comet"]})}
        for one in (self.proved(refusing, {}), self.proved({}, refusing)):
            self.assertEqual((one.changed, one.moved, one.reworded), (True, False, False))

    def test_another_release_alone_is_a_change(self) -> None:
        self.assertTrue(self.proved({"release": {"mode": "hold"}}, {}).changed)


class Stages(SimpleTestCase):
    def test_every_item_is_counted_at_each_stage_that_it_comes_to(self) -> None:
        decisions = decided([COMET, MOON, SHOP], sift=sifting({"mode": "none", "terms": ["shop"]}))
        counts = {count.stage: count for count in stages_of(decisions)}
        self.assertEqual([counts[stage].entered for stage in Stage], [3, 3, 2, 2, 2, 2])
        self.assertEqual(counts[Stage.SIFT].left, {("terms.forbidden", "r0"): 1})
        self.assertFalse(counts[Stage.RELEASE].left)

    def test_what_stays_and_does_not_go_out_is_counted_at_the_end(self) -> None:
        counts = stages_of(decided([COMET, MOON], release={"mode": "hold"}))
        self.assertEqual(counts[-1].left, {("hold", ""): 2})

    def test_items_of_other_sources_are_told_apart(self) -> None:
        foreign = decided([captured("x", source="other")])[0]
        self.assertTrue(is_foreign(foreign))
        self.assertFalse(is_foreign(decided([COMET])[0]))


class Effects(SimpleTestCase):
    def test_a_rule_is_counted_with_what_it_alone_refuses(self) -> None:
        rules = sifting({"mode": "none", "terms": ["comet", "shop"]}, {"mode": "none", "terms": ["shop"]})
        decisions = decided([COMET, MOON, SHOP], sift=rules)
        effects = effects_of(decisions, {})
        first, second = effects["sift.r0"], effects["sift.r1"]
        self.assertEqual((first.against, first.alone), (2, 1))
        self.assertEqual((second.against, second.alone), (1, 0))

    def test_what_it_did_before_stands_beside_it(self) -> None:
        before = decided([COMET, MOON, SHOP], sift=sifting({"mode": "none", "terms": ["moon", "shop"]}))
        now = decided([COMET, MOON, SHOP], sift=sifting({"mode": "none", "terms": ["shop"]}))
        effects = effects_of(now, active_rules(before))
        self.assertEqual((effects["sift.r0"].against, effects["sift.r0"].was_against), (1, 2))

    def test_a_rule_that_is_gone_shows_what_it_did(self) -> None:
        before = decided([SHOP], sift=sifting({"mode": "none", "terms": ["shop"]}))
        effects = effects_of(decided([SHOP]), active_rules(before))
        self.assertEqual((effects["sift.r0"].against, effects["sift.r0"].was_against), (0, 1))

    def test_steps_and_tags_count_where_they_did_something(self) -> None:
        decisions = decided(
            [COMET, MOON],
            shape={"steps": [{"id": "s", "kind": "replace", "what": "comet", "by": "visitor"}]},
            place={"tag_rules": [{"id": "t", "kind": "title"}]},
        )
        effects = effects_of(decisions, {})
        self.assertEqual((effects["shape.s"].against, effects["place.t"].against), (1, 2))


class Holes(SimpleTestCase):
    def test_a_hole_is_named_once_for_a_source_and_with_all_that_ask(self) -> None:
        document = load_document(
            {"shape": {"title": "{{ author }}: {{ title }}", "body": "{{ author }} {{ nowhere }}"}}
        )
        holes = {(hole.source, hole.variable): hole.parts for hole in holes_of(document, [COMET, MOON])}
        self.assertEqual(holes, {("", "nowhere"): ("body",), ("The club", "author"): ("title", "body")})

    def test_one_item_that_fills_it_is_enough(self) -> None:
        document = load_document({"shape": {"title": "{{ author }}: {{ title }}"}})
        self.assertEqual(holes_of(document, [COMET, captured("x", authors=("Ida Farrow",))]), [])


class Verdicts(SimpleTestCase):
    def test_each_way_to_go_out_has_its_verdict(self) -> None:
        for mode, verdict in (("publish", Verdict.PUBLISH), ("hold", Verdict.HOLD), ("draft", Verdict.DRAFT),
                              ("private", Verdict.PRIVATE), ("scheduled", Verdict.PUBLISH)):  # fmt: skip
            self.assertEqual(decided([COMET], release={"mode": mode})[0].verdict, verdict)
