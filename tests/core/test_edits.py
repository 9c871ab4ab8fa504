"""Successive proofs over the same items reuse earlier results without changing the outcome."""

from collections.abc import Collection, Mapping, Sequence
from datetime import timedelta
from typing import Any

from django.test import SimpleTestCase
from glyptarch_core.campaign import CampaignDocument, load_document
from glyptarch_core.pipeline import decide
from glyptarch_core.ports import Key, Near, Reach, Seen
from glyptarch_core.reuse import Reuse
from glyptarch_core.testing import NOON, FakeMemory, captured
from glyptarch_core.trace import Decision
from hypothesis import given, settings
from hypothesis import strategies as st

TEXT = " ".join(f"word{number}" for number in range(60))
TELLS_OF = ("comet", "dome", "moon", "ridge", "meteor")
BATCH = [
    captured(
        f"i{number}",
        title=f"The {word} over the reservoir {number // 2}",
        # Three texts, two of them equal, all nearly the same; no exact rule distinguishes them.
        body=f"<p>{word} {TEXT if number % 2 else TEXT.replace('word', 'line')} end{number}</p>",
        published=NOON - timedelta(hours=10 * number),
    )
    for number, word in enumerate((*TELLS_OF, *TELLS_OF))
]
WORDS = st.lists(st.sampled_from(TELLS_OF), min_size=1, max_size=2)
RULE = st.one_of(
    st.builds(lambda words, failing: {"kind": "terms", "mode": "none", "terms": words, "failing": failing},
              WORDS, st.sampled_from(["refuse", "hold"])),
    st.builds(lambda hours: {"kind": "age", "within_hours": hours}, st.integers(1, 120)),
)  # fmt: skip


def rules(*sift: Mapping[str, Any]) -> CampaignDocument:
    return load_document(
        {
            "gather": {"sources": ["club"]},
            "sift": {"rules": [{"id": f"r{place}", **rule} for place, rule in enumerate(sift)]},
            "match": {"rules": [{"id": "text", "kind": "near_text"}, {"id": "title", "kind": "title"}]},
            "release": {"mode": "publish"},
        }
    )


def without(word: str) -> CampaignDocument:
    return rules({"kind": "terms", "mode": "none", "terms": [word]})


class Counting(FakeMemory):
    """A memory that does not change, and counts how often it is asked."""

    stamp = 1

    def __init__(self) -> None:
        super().__init__()
        self.times = 0

    def recall(self, keys: Collection[Key], reach: Reach) -> Mapping[Key, Seen]:
        self.times += 1
        return super().recall(keys, reach)

    def resembling(self, near: Near, keys: Sequence[Sequence[int]], reach: Reach) -> Any:  # noqa: ANN401
        self.times += 1
        return super().resembling(near, keys, reach)


class Edits(SimpleTestCase):
    def setUp(self) -> None:
        self.memory, self.reuse = Counting(), Reuse()

    def decided(self, document: CampaignDocument, *, hours: int = 0) -> tuple[Decision, ...]:
        """Decide with reuse, and compare with a pass without it."""
        now = NOON + timedelta(hours=hours)
        again = decide(BATCH, document, memory=self.memory, now=now, reuse=self.reuse)
        self.assertEqual(again, decide(BATCH, document, memory=FakeMemory(), now=now))
        return again

    @settings(max_examples=200, deadline=None)
    @given(st.lists(RULE, max_size=6), st.lists(st.tuples(st.integers(0, 5), RULE, st.integers(0, 48)), max_size=6))
    def test_of_one_rule_at_a_time_decide_as_if_nothing_were_known(
        self, first: list[dict[str, Any]], edits: list[tuple[int, dict[str, Any], int]]
    ) -> None:
        sift = list(first)
        self.decided(rules(*sift))
        for place, rule, hours in edits:
            # A place beyond the end adds a rule.
            sift[place : place + 1] = [rule]
            self.decided(rules(*sift), hours=hours)

    @settings(max_examples=50, deadline=None)
    @given(st.lists(RULE, min_size=1, max_size=9), st.randoms(use_true_random=False))
    def test_of_the_order_and_the_number_of_rules_too(self, sift: list[dict[str, Any]], random: Any) -> None:  # noqa: ANN401
        self.decided(rules(*sift))
        mixed = random.sample(sift, random.randint(0, len(sift)))
        self.decided(rules(*mixed))

    def test_that_refuse_more_ask_memory_nothing_new(self) -> None:
        whole = self.decided(rules())
        asked = self.memory.times
        self.assertTrue(asked)
        duplicates = [one.captured.item.identity for one in whole if one.verdict == "duplicate"]
        self.assertTrue(duplicates)
        for word in TELLS_OF:
            self.decided(without(word))
        self.assertEqual(self.memory.times, asked)

    def test_that_let_more_in_ask_of_all_once(self) -> None:
        self.decided(without("comet"))
        asked = self.memory.times
        self.decided(without("moon"))
        self.assertEqual(self.memory.times, 2 * asked)
        # Now every item that any rule admits is cached.
        self.decided(without("dome"))
        self.decided(rules())
        self.decided(without("comet"))
        self.assertEqual(self.memory.times, 2 * asked)

    def test_a_duplicate_is_one_no_more_where_the_first_is_refused(self) -> None:
        def verdicts(document: CampaignDocument) -> dict[str, str]:
            return {one.captured.item.identity: one.verdict.value for one in self.decided(document)}

        before, after = verdicts(rules()), verdicts(without("meteor"))
        stays = [identity for identity in before if before[identity] == "duplicate" and after[identity] == "publish"]
        self.assertTrue(stays)
        self.assertEqual(verdicts(rules()), before)

    def test_a_rule_that_looks_at_the_clock_is_asked_each_time(self) -> None:
        def refused(hours: int, word: str) -> int:
            sift = ({"kind": "age", "within_hours": 100}, {"kind": "terms", "mode": "none", "terms": [word]})
            return sum(one.left_at == "sift" for one in self.decided(rules(*sift), hours=hours))

        self.assertEqual([refused(0, "bear"), refused(60, "bear"), refused(60, "lion")], [0, 5, 5])
