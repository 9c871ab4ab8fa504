"""Properties of every pass, for any items and rules."""

from datetime import timedelta
from typing import Any

from django.test import SimpleTestCase
from glyptarch_core.campaign import load_document
from glyptarch_core.errors import UnwantedError
from glyptarch_core.item import Captured
from glyptarch_core.pipeline import decide
from glyptarch_core.ports import BlogContext, Key, KeyKind, PostRef, Seen
from glyptarch_core.reuse import Reuse
from glyptarch_core.testing import NOON, FakeMemory, captured
from glyptarch_core.trace import Stage
from hypothesis import example, given, settings
from hypothesis import strategies as st

from tests.core.no_io import no_io

WORDS = st.sampled_from(["comet", "meteor", "ridge", "dome", "club", "cloud", "Mond", "étoile"])
TEXTS = st.lists(WORDS, max_size=12).map(" ".join)


@st.composite
def batches(draw: Any) -> list[Captured]:  # noqa: ANN401
    size = draw(st.integers(0, 8))
    return [
        captured(
            f"i{number}",
            source=draw(st.sampled_from(["club", "wire", "other"])),
            link=draw(
                st.sampled_from(
                    ["", "https://a.example/1", "https://www.a.example/1?utm_x=1", f"https://b.example/{number}"]
                )
            ),
            title=draw(TEXTS),
            body=f"<p>{draw(TEXTS)}</p>",
            summary=draw(TEXTS),
            published=draw(st.none() | st.integers(-2, 90).map(lambda days: NOON - timedelta(days=days))),
        )
        for number in range(size)
    ]


RULES = st.lists(
    st.one_of(
        st.builds(lambda mode, terms: {"kind": "terms", "mode": mode, "terms": terms},
                  st.sampled_from(["any", "all", "none"]), st.lists(WORDS, min_size=1, max_size=3)),
        st.builds(lambda n: {"kind": "number", "at_least": n}, st.integers(0, 12)),
        st.builds(lambda n: {"kind": "age", "within_hours": n}, st.integers(1, 2000)),
    ),
    max_size=4,
)  # fmt: skip


STEPS = st.sampled_from(
    [
        {"kind": "drop_paragraphs", "terms": ["cloud"]},
        {"kind": "replace", "what": "dome", "by": "roof"},
        {"kind": "shorten", "unit": "words", "count": 3},
        {"kind": "tidy"},
    ]
)
SHAPES = st.builds(
    lambda steps, title: {
        "steps": [{"id": f"s{number}", **step} for number, step in enumerate(steps)],
        "title": title,
        "fields": [{"id": "f", "name": "n", "type": "number", "value": "{{ words }}"}],
    },
    st.lists(STEPS, max_size=3),
    st.sampled_from(["{{ title }}", "{{ title }} {{ fields.n }}", "{{ author }}{{ title | upcase }}"]),
)
PLACES = st.builds(
    lambda rules, tags, only, date: {
        "category": "Usual",
        "category_rules": [{"id": f"c{number}", **rule} for number, rule in enumerate(rules)],
        "tag_rules": [{"id": f"t{number}", "kind": kind} for number, kind in enumerate(tags)],
        "only_existing_tags": only,
        "date": date,
        "dates": {"first": (NOON - timedelta(days=9)).isoformat(), "last": NOON.isoformat()},
    },
    st.lists(
        st.sampled_from(
            [{"kind": "terms", "name": "Sky", "terms": ["comet"]}, {"kind": "table", "unmapped": "create"}]
        ),
        max_size=2,
    ),
    st.lists(st.sampled_from(["source", "hashtags", "matched", "title"]), max_size=3, unique=True),
    st.booleans(),
    st.sampled_from(["original", "import", "a_day", "between", "random"]),
)
RELEASES = st.builds(
    lambda mode, order, most, pace: {
        "mode": mode,
        "order": order,
        "at_most": most,
        "pace": pace,
        "hold_when": [{"id": "h", "kind": "few_words", "fewer_than": 3}],
    },
    st.sampled_from(["publish", "hold", "draft", "private", "scheduled"]),
    st.sampled_from(["oldest", "newest", "random"]),
    st.none() | st.integers(1, 4),
    st.sampled_from([None, {"posts": 2, "when_full": "wait"}, {"posts": 1, "per": "day", "when_full": "schedule"}]),
)


@st.composite
def documents(draw: Any) -> Any:  # noqa: ANN401
    rules = [
        {**rule, "id": f"r{number}", "failing": draw(st.sampled_from(["refuse", "hold"]))}
        for number, rule in enumerate(draw(RULES))
    ]
    return load_document(
        {
            "gather": {"sources": ["club", "wire"], "look_back_days": draw(st.none() | st.integers(1, 60))},
            "sift": {"rules": rules},
            "match": {"on_match": draw(st.sampled_from(["refuse", "hold"]))},
            "shape": draw(SHAPES),
            "place": draw(PLACES),
            "release": draw(RELEASES),
        }
    )


ITEMS = [
    captured(word, title=f"The {word} of the night", body=f"<p>A {word} over the dome.</p>", published=published)
    for word, published in (
        ("comet", NOON - timedelta(hours=5)), ("meteor", NOON + timedelta(hours=2)), ("ridge", None),
    )
]  # fmt: skip
COMET = {"kind": "terms", "id": "t", "mode": "none", "terms": ["comet"]}
ANY_COMET = {**COMET, "mode": "any", "failing": "hold"}
ONLY_EXISTING = {"tag_rules": [{"kind": "matched", "id": "g"}], "only_existing_tags": True}
EDITS = st.sampled_from(
    [
        ("now", -1), ("now", 0), ("now", 3), ("context", BlogContext()), ("context", BlogContext(tags=("Dome",))),
        ("sift", {}), ("sift", {"rules": [ANY_COMET]}), ("sift", {"rules": [COMET]}), ("sift", {"rules": [{**COMET, "failing": "hold"}]}),
        ("shape", {}), ("shape", {"title": "New: {{ title }}"}),
        ("place", {}), ("place", {"tag_rules": [{"kind": "matched", "id": "g"}]}), ("place", {"date": "a_day"}),
        ("place", ONLY_EXISTING), ("place", {"date": "import"}),
        ("release", {"mode": "publish"}), ("release", {"mode": "scheduled"}),
        ("release", {"mode": "publish", "pace": {"posts": 1, "when_full": "schedule"}}),
    ]
)  # fmt: skip
SEEN = Seen(ref=PostRef(1, 1), title="Known", link="https://a.example/", at=NOON)


class SteadyMemory(FakeMemory):
    """A memory that says that its answers do not change."""

    def __init__(self, seen: Any = None, *, stamp: int = 1) -> None:  # noqa: ANN401
        super().__init__(seen)
        self._stamp = stamp

    @property
    def stamp(self) -> int:
        return self._stamp


class EveryPass(SimpleTestCase):
    @given(batches(), documents())
    def test_every_item_gets_one_decision_and_leaves_at_most_at_one_stage(self, batch: Any, rules: Any) -> None:  # noqa: ANN401
        decisions = decide(batch, rules, memory=FakeMemory(), now=NOON)
        self.assertEqual([decision.captured for decision in decisions], batch)
        for decision in decisions:
            if decision.left_at is None:
                continue
            self.assertIsNotNone(decision.reason)
            later = list(Stage)[list(Stage).index(decision.left_at) + 1 :]
            self.assertFalse([note for note in decision.trace if note.stage in later])

    @given(batches(), documents())
    def test_the_same_input_gives_the_same_output_without_any_io(self, batch: Any, rules: Any) -> None:  # noqa: ANN401
        with no_io():
            first = decide(batch, rules, memory=FakeMemory(), now=NOON)
            second = decide(batch, rules, memory=FakeMemory(), now=NOON)
        self.assertEqual(first, second)

    @given(batches(), documents(), st.randoms(use_true_random=False))
    def test_the_order_of_items_does_not_matter(self, batch: Any, rules: Any, random: Any) -> None:  # noqa: ANN401
        shuffled = list(batch)
        random.shuffle(shuffled)
        straight = decide(batch, rules, memory=FakeMemory(), now=NOON)
        mixed = decide(shuffled, rules, memory=FakeMemory(), now=NOON)
        by_item = {decision.captured.item.identity: decision for decision in mixed}
        self.assertEqual([by_item[decision.captured.item.identity] for decision in straight], list(straight))

    def test_of_many_edits_what_was_asked_for_last_is_kept(self) -> None:
        reuse, item, made = Reuse(), captured(), []

        def ask(key: str) -> None:
            reuse.of(item).shaped(key, lambda: made.append(key) or key)

        for key in ("saved", "1", "2", "saved", "3", "4", "saved", "5", "5", "1"):
            ask(key)
        self.assertEqual(made, ["saved", "1", "2", "3", "4", "5", "1"])

    @settings(max_examples=400)
    @example([("place", ONLY_EXISTING), ("sift", {"rules": [ANY_COMET]}), ("context", BlogContext(tags=("Comet",)))])
    @given(st.lists(EDITS, min_size=4, max_size=9))
    def test_what_is_reused_changes_nothing(self, edits: Any) -> None:  # noqa: ANN401
        reuse, data, context, now = (
            Reuse(),
            {"gather": {"sources": ["club"]}, "release": {"mode": "publish"}},
            BlogContext(),
            NOON,
        )
        for part, value in edits:
            if part == "now":
                now = NOON + timedelta(hours=value)
            elif part == "context":
                context = value
            else:
                data = {**data, part: value}
            rules = load_document(data)
            again = decide(ITEMS, rules, memory=SteadyMemory(), now=now, reuse=reuse, context=context)
            self.assertEqual(again, decide(ITEMS, rules, memory=FakeMemory(), now=now, context=context))

    def test_a_pass_that_nobody_waits_for_ends_at_the_next_item(self) -> None:
        answers = iter([True, True, False])
        with self.assertRaises(UnwantedError):
            decide(ITEMS, load_document({"gather": {"sources": ["club"]}}), memory=FakeMemory(), now=NOON,
                   is_wanted=lambda: next(answers))  # fmt: skip
        self.assertEqual(list(answers), [])

    def test_rules_that_let_all_through_make_a_post_of_what_was_stopped(self) -> None:
        rules = load_document(
            {
                "gather": {"sources": ["club"], "not_before": NOON.date().isoformat()},
                "sift": {"rules": [{**COMET, "terms": ["night"]}]},
                "shape": {"title": "New: {{ title }}"},
                "release": {"mode": "publish", "at_most": 1, "pace": {"posts": 1}},
            }
        )
        old = captured(published=NOON - timedelta(days=9))
        self.assertEqual(decide([old], rules, memory=FakeMemory(), now=NOON)[0].left_at, "gather")
        draft = decide([old], rules.letting_through(), memory=FakeMemory(), now=NOON)[0].draft
        self.assertEqual(draft and draft.title, f"New: {old.item.title}")

    def test_match_is_asked_again_where_memory_or_items_have_changed(self) -> None:
        reuse, rules, item = Reuse(), load_document({"gather": {"sources": ["club"]}}), captured()
        known = {Key(KeyKind.IDENTITY, item.features.identity_key): SEEN}
        for memory, verdict in (
            (SteadyMemory(), "hold"), (SteadyMemory(), "hold"), (SteadyMemory(known, stamp=2), "duplicate"),
        ):  # fmt: skip
            decision = decide([item], rules, memory=memory, now=NOON, reuse=reuse)[0]
            self.assertEqual(decision.verdict, verdict)
        memory = SteadyMemory()
        decide([item], rules, memory=memory, now=NOON, reuse=reuse)
        self.assertEqual(memory.calls, 0)
