"""Publication: conditions that hold posts, pace, order, limits."""

from datetime import datetime, timedelta
from typing import Any

from django.test import SimpleTestCase
from glyptarch_core.draft import Visibility
from glyptarch_core.item import Captured, Media, MediaKind, MediaOrigin
from glyptarch_core.pipeline import decide
from glyptarch_core.testing import NOON, FakeMemory, captured
from glyptarch_core.trace import Decision, Stage, Verdict
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_stages import document, one

PICTURE = Media(url="https://club.example/a.png", kind=MediaKind.PICTURE, origin=MediaOrigin.FEED)


def many(number: int) -> list[Captured]:
    return [captured(f"i{index}", published=NOON - timedelta(hours=number - index)) for index in range(number)]


def released(number: int, memory: FakeMemory | None = None, made: int = 0, **release: Any) -> tuple[Decision, ...]:  # noqa: ANN401
    rules = document(release={"mode": "publish", **release}, match={"rules": []})
    return decide(many(number), rules, memory=memory or FakeMemory(), now=NOON, posts_made=made)


def verdicts(decisions: tuple[Decision, ...]) -> list[str]:
    return [decision.verdict.value for decision in decisions]


class Modes(SimpleTestCase):
    def test_private_posts_are_for_the_people_of_the_blog(self) -> None:
        decision = one(captured(), release={"mode": "private"}, place={"visibility": "phrase", "pass_phrase": "x"})
        assert decision.draft is not None
        self.assertEqual((decision.verdict, decision.draft.visibility), (Verdict.PRIVATE, Visibility.PRIVATE))
        self.assertEqual(decision.draft.pass_phrase, "")

    def test_a_scheduled_post_whose_date_has_passed_goes_out(self) -> None:
        self.assertEqual(one(captured(), release={"mode": "scheduled"}).verdict, Verdict.PUBLISH)

    def test_a_rule_that_holds_wins_over_all_but_drafts(self) -> None:
        sift = {"rules": [{"id": "s", "kind": "number", "at_least": 999, "failing": "hold"}]}
        for mode, expected in [("publish", "hold"), ("private", "hold"), ("scheduled", "hold"), ("draft", "draft")]:
            self.assertEqual(one(captured(), sift=sift, release={"mode": mode}).verdict.value, expected)


class Holds(SimpleTestCase):
    def held(self, item: Captured, rule: dict[str, Any], **parts: Any) -> bool:  # noqa: ANN401
        release = {"mode": "publish", "hold_when": [{"id": "h", **rule}]}
        decision = one(item, release=release, **parts)
        note = next(note for note in decision.trace if note.rule == "h")
        self.assertEqual(note.against, decision.verdict is Verdict.HOLD)
        return note.against

    def test_a_post_without_a_picture(self) -> None:
        self.assertTrue(self.held(captured(), {"kind": "no_picture"}))
        self.assertFalse(self.held(captured(media=(PICTURE,)), {"kind": "no_picture"}))

    def test_a_short_one_counted_as_it_has_become(self) -> None:
        item = captured(body="<p>one two three four</p>")
        self.assertFalse(self.held(item, {"kind": "few_words", "fewer_than": 4}))
        step = {"id": "s", "kind": "shorten", "unit": "words", "count": 2}
        self.assertTrue(self.held(item, {"kind": "few_words", "fewer_than": 4}, shape={"steps": [step]}))

    def test_one_that_no_rule_found_a_category_for(self) -> None:
        place = {
            "category": "News",
            "category_rules": [{"id": "c", "kind": "terms", "name": "Comets", "terms": ["comet"]}],
        }
        self.assertTrue(self.held(captured(), {"kind": "no_category"}, place=place))
        self.assertFalse(self.held(captured(title="A comet now"), {"kind": "no_category"}, place=place))
        self.assertFalse(self.held(captured(), {"kind": "no_category"}, place={"category": "News"}))

    def test_one_with_certain_words_left(self) -> None:
        self.assertTrue(self.held(captured(title="Sponsored night"), {"kind": "words", "terms": ["sponsored"]}))
        self.assertFalse(self.held(captured(), {"kind": "words", "terms": ["sponsored"]}))

    def test_one_with_a_field_that_could_not_be_read(self) -> None:
        shape = {"fields": [{"id": "f", "name": "price", "type": "number", "value": "{{ facts.price }}"}]}
        self.assertTrue(self.held(captured(facts={"price": "ask us"}), {"kind": "unread_field"}, shape=shape))
        self.assertFalse(self.held(captured(facts={"price": 12.5}), {"kind": "unread_field"}, shape=shape))


class Pace(SimpleTestCase):
    def test_at_most_so_many_are_made_in_a_run_and_the_rest_waits(self) -> None:
        decisions = released(3, at_most=2)
        self.assertEqual(verdicts(decisions), ["publish", "publish", "waiting"])
        self.assertEqual(
            (decisions[2].left_at, decisions[2].reason and decisions[2].reason.data["per"]), (Stage.RELEASE, "run")
        )
        self.assertEqual(verdicts(released(2, made=2, at_most=2)), ["waiting", "waiting"])

    def test_newest_or_oldest_are_taken_first(self) -> None:
        self.assertEqual(verdicts(released(3, at_most=1, order="newest")), ["waiting", "waiting", "publish"])
        self.assertEqual(verdicts(released(3, at_most=1, order="oldest")), ["publish", "waiting", "waiting"])

    def test_what_went_out_before_counts(self) -> None:
        memory = FakeMemory()
        memory.out = [NOON - timedelta(minutes=10), NOON - timedelta(hours=3)]
        self.assertEqual(verdicts(released(2, memory, pace={"posts": 2, "per": "hour"})), ["publish", "waiting"])
        self.assertEqual(verdicts(released(2, memory, pace={"posts": 3, "per": "day"})), ["publish", "waiting"])

    def test_beyond_the_pace_a_post_can_get_the_next_free_time(self) -> None:
        decisions = released(4, pace={"posts": 2, "per": "hour", "when_full": "schedule"})
        self.assertEqual(verdicts(decisions), ["publish", "publish", "scheduled", "scheduled"])
        ahead = [decision.draft.date for decision in decisions[2:] if decision.draft]
        self.assertEqual(ahead, [NOON + timedelta(minutes=60), NOON + timedelta(minutes=90)])

    def test_held_posts_do_not_use_up_the_pace(self) -> None:
        self.assertEqual(verdicts(released(2, mode="hold", pace={"posts": 1})), ["hold", "hold"])

    @given(
        st.integers(0, 9),
        st.integers(1, 4),
        st.sampled_from(["oldest", "newest", "random"]),
        st.randoms(use_true_random=False),
    )
    def test_who_is_taken_does_not_depend_on_the_order_of_items(
        self,
        number: int,
        most: int,
        order: str,
        random: Any,  # noqa: ANN401
    ) -> None:
        rules = document(release={"mode": "publish", "at_most": most, "order": order}, match={"rules": []})
        batch = many(number)
        straight = {d.captured.item.identity: d.verdict for d in decide(batch, rules, memory=FakeMemory(), now=NOON)}
        random.shuffle(batch)
        mixed = {d.captured.item.identity: d.verdict for d in decide(batch, rules, memory=FakeMemory(), now=NOON)}
        self.assertEqual(straight, mixed)
        self.assertEqual(sum(verdict is Verdict.PUBLISH for verdict in straight.values()), min(number, most))


class OverDays(SimpleTestCase):
    """A campaign with a pace, run again and again on a clock that goes on."""

    def live(
        self, runs: list[tuple[int, list[int]]], posts: int, when_full: str, mode: str
    ) -> tuple[list[datetime], list[Decision]]:
        """Run at each of the given minutes with new items.

        Return the publication times and decisions.
        """
        memory, rest, out, waiting = FakeMemory(), [], [], []
        rules = document(
            release={"mode": mode, "pace": {"posts": posts, "per": "hour", "when_full": when_full}}, match={"rules": []}
        )
        made: list[Decision] = []
        for number, (minute, ahead) in enumerate(runs):
            now = NOON + timedelta(minutes=minute)
            new = [
                captured(f"{number}-{place}", at=now, published=now + timedelta(minutes=one))
                for place, one in enumerate(ahead)
            ]
            memory.out = [moment for moment in out if moment <= now]
            memory.calendar = list(out)
            decisions = decide([*waiting, *new], rules, memory=memory, now=now)
            waiting = [decision.captured for decision in decisions if decision.verdict is Verdict.WAITING]
            rest = [decision for decision in decisions if decision.verdict is not Verdict.WAITING]
            made += rest
            out += [one.draft.date if one.verdict is Verdict.SCHEDULED and one.draft else now for one in rest]
        return sorted(out), made

    RUNS = st.lists(
        st.tuples(st.integers(0, 25), st.lists(st.sampled_from([-5, 0, 10, 45, 90, 100_000]), max_size=6)),
        min_size=1,
        max_size=8,
    )

    @given(RUNS, st.integers(1, 4), st.sampled_from(["wait", "schedule"]), st.sampled_from(["publish", "scheduled"]))
    def test_in_no_hour_do_more_go_out_than_the_pace_allows_and_none_before_its_date(
        self, gaps: list[tuple[int, list[int]]], posts: int, when_full: str, mode: str
    ) -> None:
        minute, runs = 0, []
        for gap, ahead in gaps:
            minute += gap
            runs.append((minute, ahead))
        out, made = self.live(runs, posts, when_full, mode)
        for first, later in zip(out, out[posts:], strict=False):
            self.assertGreaterEqual(later - first, timedelta(hours=1))
        if mode == "scheduled":
            for decision in made:
                assert decision.draft is not None
                self.assertGreaterEqual(decision.draft.date, min(decision.captured.dated, decision.draft.date))
                if decision.verdict is Verdict.SCHEDULED:
                    self.assertGreaterEqual(decision.draft.date, decision.captured.dated)

    def test_one_post_dated_far_ahead_keeps_no_other_back(self) -> None:
        out, _ = self.live([(0, [100_000, 0, 0, 0])], 2, "schedule", "scheduled")
        self.assertEqual(out[:3], [NOON, NOON, NOON + timedelta(hours=1)])

    def test_what_waits_goes_out_as_soon_as_there_is_room(self) -> None:
        out, _ = self.live(
            [(minute, [0] * 5 if not minute else []) for minute in range(0, 181, 10)], 2, "wait", "publish"
        )
        self.assertEqual([round((moment - NOON).total_seconds() / 60) for moment in out], [0, 0, 60, 60, 120])
