"""Summaries of the most telling sentences, word for word."""

from collections import Counter
from typing import Any

from django.test import SimpleTestCase
from glyptarch_core.editions import summary
from glyptarch_core.errors import DocumentError
from glyptarch_core.testing import captured
from glyptarch_core.text import Unit, count_words
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_shape_steps import Steps
from tests.core.test_stages import document, noted, one

STORY = [
    "The comet was found on Monday above the mill. It will be visible to the naked eye in December.",
    "Tea was served afterwards. The comet moves north each night, and the comet grows brighter in December.",
    "Members bring chairs. The next evening for the comet is on Friday at the mill.",
]


class Chosen(SimpleTestCase):
    def telling(self, **values: Any) -> list[str]:  # noqa: ANN401
        return summary(STORY, **{"unit": Unit.SENTENCES, "count": 2, "language": "en", **values})

    def test_sentences_that_others_are_like_stay_in_the_order_of_the_text(self) -> None:
        shown = " ".join(self.telling(count=3))
        self.assertNotIn("Tea was served", shown)
        self.assertNotIn("chairs", shown)
        self.assertTrue(shown.startswith("The comet was found on Monday"))

    def test_a_repeated_sentence_is_told_once(self) -> None:
        text = ["The comet is bright tonight above the mill."] * 5 + ["Clouds may come in from the west by morning."]
        self.assertEqual(len(summary(text, unit=Unit.SENTENCES, count=5)), 2)

    def test_headings_are_no_sentences(self) -> None:
        text = ["A comet above the mill in December", "The comet above the mill is seen in December by many people."]
        self.assertEqual(summary(text, unit=Unit.SENTENCES, count=1), text[1:])

    def test_where_no_sentence_fits_the_first_is_cut(self) -> None:
        self.assertEqual(self.telling(unit=Unit.WORDS, count=3), ["The comet was…"])
        self.assertEqual(summary([], unit=Unit.WORDS, count=3), [""])

    def test_a_text_without_an_end_costs_little(self) -> None:
        endless = " ".join(f"word{number}" for number in range(60_000))
        paragraphs = [f"{endless} {place}." for place in range(20)]
        self.assertEqual(len(summary(paragraphs, unit=Unit.SENTENCES, count=1)), 1)

    def test_other_units_are_refused(self) -> None:
        with self.assertRaisesRegex(ValueError, "words or sentences"):
            self.telling(unit=Unit.PARAGRAPHS)

    @given(st.lists(st.text(alphabet="abc .!?。的ก", max_size=80), max_size=12), st.integers(1, 60))
    def test_of_any_text_it_is_part_of_the_text_and_short_enough(self, paragraphs: list[str], count: int) -> None:
        shown = summary(paragraphs, unit=Unit.WORDS, count=count, ellipsis="")
        self.assertLessEqual(count_words("\n".join(shown)), count)
        told, text = (Counter("".join("".join(of).split())) for of in (shown, paragraphs))
        self.assertEqual(told - text, Counter())


class AsAStep(Steps):
    body_ = "".join(f"<p>{text}</p>" for text in STORY) + '<figure><img src="https://a.example/p.png"></figure>'

    def test_the_body_is_its_telling_sentences(self) -> None:
        body = self.body(self.body_, {"kind": "summarise", "words": 25})
        self.assertRegex(body, r"^<p>The comet was found.*</p>$")
        self.assertEqual(set(self.note(self.body_, kind="summarise", words=25)), {"words", "kept"})

    def test_what_is_short_enough_stays(self) -> None:
        self.assertEqual(self.body("<p>Short and <em>sweet</em>.</p>", {"kind": "summarise", "words": 25}), "<p>Short and <em>sweet</em>.</p>")  # fmt: skip

    def test_numbers_and_names_are_those_of_the_text(self) -> None:
        decision = one(captured(body=self.body_), shape={"steps": [{"id": "s", "kind": "summarise", "words": 20}]})
        self.assertLessEqual(noted(decision, "s").data["kept"], 20)

    def test_an_excerpt_of_the_most_telling_sentences(self) -> None:
        excerpt = {"choice": "telling", "unit": "sentences", "count": 1}
        text = ["Rain fell elsewhere during lunch.", *STORY]
        item = captured(body="".join(f"<p>{line}</p>" for line in text))
        draft = one(item, shape={"excerpt": excerpt}).draft
        assert draft is not None
        self.assertIn("comet", draft.excerpt)

    def test_it_is_counted_in_words_or_sentences(self) -> None:
        with self.assertRaisesRegex(DocumentError, "words or sentences"):
            document(shape={"excerpt": {"choice": "telling", "unit": "paragraphs"}})
