"""Nearly the same texts and titles: what counts as the same story, and what does not."""

from typing import Any, cast

from django.test import SimpleTestCase
from glyptarch_core.pipeline import decide
from glyptarch_core.ports import Candidate, PostRef, Seen
from glyptarch_core.testing import NOON, FakeMemory, captured
from glyptarch_core.text import Fingerprint, Passage, fingerprint_of, likeness, shared_passages, title_likeness
from glyptarch_core.trace import Decision
from hypothesis import given
from hypothesis import strategies as st

from benchmarks.pairs import labelled_pairs
from tests.core.test_stages import document, noted

STORY = (
    "A bright fireball crossed the sky in the north at 21:14, and all four cameras of the valley network were awake. "
    "From the tracks the club has worked out a path that ends some 30 kilometres beyond Millwater. Anyone with a camera "
    "facing the quarry is asked to look at the minute after a quarter past nine and to write to Ida Farrow."
)
OTHER = (
    "The mirror of the old telescope came back from the workshop after nine days and reflects ninety-four per cent of the "
    "light. Visitors are asked not to lean on the rail, which has been painted and is not as dry as it looks from the gate."
)


def seen(title: str = "First") -> Seen:
    return Seen(ref=PostRef(7, 1), title=title, link="https://a.example/", at=NOON)


def near(body: str, candidate: str, **rule: object) -> Decision:
    memory = FakeMemory(
        candidates=[
            Candidate(
                seen=seen(), main_text=Passage(candidate), fingerprint=fingerprint_of(Passage(candidate)), title_key=""
            )
        ]
    )
    rules = {"rules": [{"id": "near", "kind": "near_text", **rule}]}
    return decide([captured(body=f"<p>{body}</p>")], document(match=rules), memory=memory, now=NOON)[0]


def nearest_of(decision: Decision) -> dict[str, Any]:
    note = next(note for note in decision.trace if note.code == "match.new")
    return cast("dict[str, Any]", note.data.get("nearest", {}))


class NearText(SimpleTestCase):
    def test_an_excerpt_is_part_of_the_whole(self) -> None:
        half = " ".join(STORY.split()[:32])
        self.assertFalse(near(half, STORY).verdict.kept)
        self.assertFalse(near(STORY, half).verdict.kept)

    def test_the_same_form_with_other_facts_is_another_text(self) -> None:
        changed = STORY
        for old, new in {
            "21:14": "23:40",
            " 30 ": " 55 ",
            "Millwater": "Nettlecombe",
            "Ida": "Tobin",
            "Farrow": "Quill",
        }.items():
            changed = changed.replace(old, new)
        self.assertTrue(near(changed, STORY).verdict.kept)

    def test_another_text_is_kept_and_a_short_one_not_compared(self) -> None:
        self.assertTrue(near(OTHER, STORY).verdict.kept)
        self.assertTrue(near("A bright fireball crossed the sky in the north", STORY).verdict.kept)

    def test_the_trace_names_post_likeness_and_shared_passages(self) -> None:
        note = noted(near(f"{OTHER} {STORY}", STORY), "near")
        self.assertEqual((note.data["ref"], note.data["likeness"]), ("post:7", 1.0))
        self.assertIn("four cameras of the valley network", str(note.data["passages"]))

    def test_what_is_new_names_what_came_nearest(self) -> None:
        part = " ".join([*STORY.split()[:20], *OTHER.split()])
        nearest = nearest_of(near(part, STORY))
        self.assertEqual((nearest["ref"], nearest["rule"], nearest["limit"]), ("post:7", "near", 0.65))
        self.assertTrue(0.2 <= nearest["likeness"] < 0.65)
        self.assertEqual(nearest_of(near(OTHER, STORY)), {})

    def test_a_like_text_with_other_facts_says_so(self) -> None:
        changed = STORY.replace("21:14", "23:40").replace(" 30 ", " 55 ").replace("Millwater", "Nettlecombe")
        changed = changed.replace("Ida Farrow", "Tobin Quill")
        nearest = nearest_of(near(changed, STORY))
        self.assertTrue(nearest["other_facts"])
        self.assertGreaterEqual(nearest["likeness"], 0.65)

    def test_the_threshold_is_the_rules(self) -> None:
        edited = " ".join("other" if place % 9 == 4 else word for place, word in enumerate(STORY.split()))
        self.assertTrue(near(edited, STORY, likeness=0.95).verdict.kept)
        self.assertFalse(near(edited, STORY, likeness=0.5).verdict.kept)

    def test_likes_of_one_pass_are_found_and_the_preferred_one_stays(self) -> None:
        short = captured("a-short", body=f"<p>{' '.join(STORY.split()[:30])}</p>", title="One way of saying it")
        whole = captured("b-whole", body=f"<p>{STORY}</p>", title="Quite another way to say")
        for prefer, stays in ((["earliest"], "a-short"), (["longest"], "b-whole")):
            decisions = decide([whole, short], document(match={"prefer": prefer}), memory=FakeMemory(), now=NOON)
            self.assertEqual([one.captured.item.identity for one in decisions if one.verdict.kept], [stays])

    def test_the_first_of_the_sources_can_be_preferred(self) -> None:
        rules = {"gather": {"sources": ["wire", "club"]}, "match": {"prefer": ["source"]}}
        title = "The same long title"
        both = [captured("a", source=name, link=f"https://{name}.example/", title=title) for name in ("club", "wire")]
        decisions = decide(both, document(**rules), memory=FakeMemory(), now=NOON)
        self.assertEqual([one.captured.item.source for one in decisions if one.verdict.kept], ["wire"])

    def test_a_sample_of_the_labelled_set_is_told_apart(self) -> None:
        wrong = 0
        for pair in labelled_pairs(200, seed=3):
            like = likeness(fingerprint_of(Passage.of_text(pair.one)), fingerprint_of(Passage.of_text(pair.other)))
            wrong += (like.text >= 0.65 and like.facts >= 0.6) is not pair.same
        self.assertLessEqual(wrong, 4)

    @given(st.text(max_size=200))
    def test_a_text_is_wholly_like_itself(self, text: str) -> None:
        made = fingerprint_of(Passage.of_text(text))
        self.assertEqual(likeness(made, made).text, 1.0 if len(made.sketch) else 0.0)
        self.assertLessEqual(len(made.keys), 16)

    @given(st.text(max_size=400))
    def test_a_print_and_the_words_are_the_same_after_they_were_kept(self, text: str) -> None:
        passage = Passage.of_text(text)
        made = fingerprint_of(passage)
        back = Fingerprint.unpacked(made.packed())
        self.assertEqual(
            (back.keys, back.sketch, back.complete, back.facts, back.words),
            (made.keys, made.sketch, made.complete, made.facts, made.words),
        )
        self.assertEqual(Passage(text, folded=passage.folded).words, passage.words)

    def test_bytes_that_are_no_print_are_refused(self) -> None:
        with self.assertRaises(ValueError):
            Fingerprint.unpacked(b"no")

    @given(st.text(max_size=120), st.text(max_size=120))
    def test_likeness_is_the_same_both_ways(self, one: str, other: str) -> None:
        first, second = fingerprint_of(Passage.of_text(one)), fingerprint_of(Passage.of_text(other))
        self.assertEqual(likeness(first, second), likeness(second, first))

    def test_passages_are_given_as_they_stand(self) -> None:
        found = shared_passages(Passage.of_text(f"Before it. {STORY}"), Passage.of_text(STORY))
        self.assertEqual(found, [STORY.rstrip(".")])


class NearTitle(SimpleTestCase):
    def test_most_words_must_be_the_same_and_all_numbers(self) -> None:
        self.assertGreater(title_likeness("fireball over the orrin hills", "a fireball over the orrin hills"), 0.8)
        self.assertEqual(title_likeness("comet reaches magnitude 7", "comet reaches magnitude 9"), 0.0)
        self.assertLess(title_likeness("fireball over the orrin hills", "mirror at the orrin dome"), 0.5)

    def test_a_near_title_makes_a_duplicate(self) -> None:
        known = Candidate(
            seen=seen(),
            main_text=Passage(""),
            fingerprint=fingerprint_of(Passage("")),
            title_key="fireball over the orrin hills tonight",
        )
        rules = document(match={"rules": [{"id": "near", "kind": "near_title"}]})
        item = captured(title="Fireball over the Orrin hills, seen tonight")
        self.assertFalse(decide([item], rules, memory=FakeMemory(candidates=[known]), now=NOON)[0].verdict.kept)
