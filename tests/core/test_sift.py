"""Every kind of filter rule, by cases and by property."""

import time
from datetime import timedelta
from typing import Any

from django.test import SimpleTestCase
from glyptarch_core.errors import DocumentError
from glyptarch_core.item import Captured, Media, MediaKind, MediaOrigin
from glyptarch_core.pipeline import decide
from glyptarch_core.ports import BlogContext
from glyptarch_core.sift import parse_query
from glyptarch_core.testing import NOON, FakeMemory, captured
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_stages import document, noted, sift

NIGHT = captured(
    title="A bright fireball over the hills",
    body="<p>Seen by four cameras near the Plough. #meteors #night</p>",
    authors=("Ida Farrow", "Tobin Quill"),
    categories=("Sky", "#comets"),
    language="en-gb",
    link="https://www.club.example/notes/7",
    facts={"rating": 4.5, "price": 18.0, "length": 95.0, "licence": "CC BY", "mount": "equatorial"},
    media=(Media(url="https://club.example/p.jpg", kind=MediaKind.PICTURE, origin=MediaOrigin.TEXT),),
)


class Cases(SimpleTestCase):
    def passes(self, item: Captured = NIGHT, **rule: Any) -> bool:  # noqa: ANN401
        return sift(item, **rule).verdict.kept


class Queries(Cases):
    def test_words_side_by_side_must_all_be_there(self) -> None:
        self.assertTrue(self.passes(kind="query", query="fireball plough"))
        self.assertFalse(self.passes(kind="query", query="fireball comet"))

    def test_or_binds_looser_than_standing_side_by_side(self) -> None:
        self.assertTrue(self.passes(kind="query", query="comet tail OR bright fireball"))
        self.assertFalse(self.passes(kind="query", query="(comet OR bright) tail"))

    def test_minus_takes_out_words_phrases_and_brackets(self) -> None:
        self.assertFalse(self.passes(kind="query", query="fireball -cameras"))
        self.assertTrue(self.passes(kind="query", query='fireball -"two cameras"'))
        self.assertFalse(self.passes(kind="query", query="fireball -(comet OR hills)"))

    def test_hashtags_come_from_text_and_categories(self) -> None:
        self.assertTrue(self.passes(kind="query", query="#METEORS #comets"))
        self.assertFalse(self.passes(kind="query", query="#fireball"))

    def test_phrases_and_stars(self) -> None:
        self.assertTrue(self.passes(kind="query", query='"bright fireball" camer*'))

    def test_an_error_points_at_the_character(self) -> None:
        wrong = {
            'comet "two': 7,
            "comet )": 7,
            "(comet": 1,
            "comet OR": 9,
            "OR comet": 1,
            "comet - tail": 7,
            "a #": 3,
            "?!": 1,
            "()": 2,
            "a #meteor-shower": 10,
            "#c++": 3,
            "comet – tail": 7,
            "comet „two": 7,
        }
        for query, at in wrong.items():
            with self.subTest(query), self.assertRaisesRegex(ValueError, rf"^at character {at}: "):
                parse_query(query)

    def test_quotation_marks_and_dashes_count_in_every_form(self) -> None:
        for typed in ("“night sky” –comet", "„night sky“ −comet", "«night sky» ‑comet", '"night sky” -comet'):
            with self.subTest(typed):
                self.assertEqual(parse_query(typed), parse_query('"night sky" -comet'))
        self.assertEqual(parse_query("＃meteor"), parse_query("#meteor"))

    @given(st.text(alphabet='ab ()"-#OR*é“„–＃', max_size=24))
    def test_any_text_is_parsed_or_refused_with_its_place(self, text: str) -> None:
        try:
            parse_query(text)
        except ValueError as error:
            self.assertRegex(str(error), r"^at character \d+: ")

    def test_the_trace_shows_the_words_found(self) -> None:
        hits = noted(sift(NIGHT, kind="query", query="fireball OR comet")).data["hits"]
        self.assertEqual([hit["term"] for hit in hits], ["fireball"])


class Terms(Cases):
    def test_terms_can_come_from_a_list_of_the_blog(self) -> None:
        rules = document(sift={"rules": [{"id": "r", "kind": "terms", "lists": ["sky"]}]})
        for words, kept in ((("fireball",), True), (("comet",), False), ((), False)):
            decision = decide([NIGHT], rules, memory=FakeMemory(), now=NOON, context=BlogContext(lists={"sky": words}))[
                0
            ]
            self.assertEqual(decision.verdict.kept, kept)

    def test_with_stemming_every_form_of_a_word_counts(self) -> None:
        self.assertFalse(self.passes(kind="terms", terms=["camera"]))
        self.assertTrue(self.passes(kind="terms", terms=["camera"], stem="en"))
        german = captured(title="Die Sternwarten öffnen")
        self.assertTrue(self.passes(german, kind="terms", terms=["Sternwarte"], stem="de"))

    def test_a_stem_is_marked_where_the_whole_word_stands(self) -> None:
        hit = noted(sift(NIGHT, kind="terms", terms=["camera"], stem="en")).data["hits"][0]
        self.assertEqual(hit["match"], "cameras")

    def test_terms_are_looked_for_in_every_field(self) -> None:
        for field, term in [("author", "quill"), ("source", "club"), ("categories", "sky"), ("hashtags", "night"),
                            ("link", "notes"), ("licence", "CC"), ("host", "club.example")]:  # fmt: skip
            with self.subTest(field):
                self.assertTrue(self.passes(kind="terms", field=field, terms=[term]))

    def test_no_phrase_is_found_across_two_values(self) -> None:
        self.assertFalse(self.passes(kind="terms", field="author", terms=["farrow tobin"]))

    def test_a_fields_own_name_can_be_asked_for(self) -> None:
        self.assertTrue(self.passes(kind="terms", field="custom", name="mount", terms=["equatorial"]))

    def test_a_rule_without_anything_to_look_for_is_a_fault(self) -> None:
        with self.assertRaises(DocumentError):
            self.passes(kind="terms")
        with self.assertRaisesRegex(DocumentError, "no stemming"):
            self.passes(kind="terms", terms=["a"], stem="xx")


class Patterns(Cases):
    def test_a_pattern_is_found_or_must_not_be(self) -> None:
        self.assertTrue(self.passes(kind="pattern", pattern=r"fireball\s+over"))
        self.assertFalse(self.passes(kind="pattern", pattern=r"fireball\s+over", wanted=False))
        self.assertFalse(self.passes(kind="pattern", pattern="FIREBALL", case_matters=True))

    def test_a_broken_pattern_is_a_fault_of_the_document(self) -> None:
        with self.assertRaisesRegex(DocumentError, "cannot be read"):
            self.passes(kind="pattern", pattern="(a")

    def test_no_pattern_hangs(self) -> None:
        item = captured(title="a" * 900 + "!")
        begun = time.perf_counter()
        self.assertFalse(self.passes(item, kind="pattern", pattern=r"^(a+)+$"))
        self.assertLess(time.perf_counter() - begun, 2)

    def test_the_place_of_a_match_counts_characters_not_bytes(self) -> None:
        item = captured(title="ééé comet 7")
        hit = noted(sift(item, kind="pattern", pattern=r"comet \d")).data["hits"][0]
        self.assertEqual((hit["start"], hit["match"]), (4, "comet 7"))


class Values(Cases):
    def test_one_equal_value_is_enough(self) -> None:
        self.assertTrue(self.passes(kind="values", field="author", values=["ida farrow"]))
        self.assertFalse(self.passes(kind="values", field="author", values=["Ida"]))
        self.assertFalse(self.passes(kind="values", field="categories", values=["sky"], wanted=False))

    def test_a_language_counts_with_its_regions(self) -> None:
        self.assertTrue(self.passes(kind="values", field="language", values=["en"]))
        self.assertFalse(self.passes(kind="values", field="language", values=["en-us", "de"]))

    def test_what_is_not_stated_fails_or_passes_as_chosen(self) -> None:
        silent = captured(authors=())
        self.assertFalse(self.passes(silent, kind="values", field="author", values=["x"]))
        self.assertTrue(self.passes(silent, kind="values", field="author", values=["x"], unknown="passes"))


class Numbers(Cases):
    def test_every_amount_has_bounds(self) -> None:
        for field, least, most in [
            ("rating", 4, 5),
            ("price", 18, 18),
            ("length", 90, 100),
            ("pictures", 1, 1),
            ("title_words", 6, 6),
        ]:
            with self.subTest(field):
                self.assertTrue(self.passes(kind="number", field=field, at_least=least, at_most=most))
                self.assertFalse(self.passes(kind="number", field=field, at_least=most + 1))

    def test_an_amount_that_is_not_stated_fails_unless_told_otherwise(self) -> None:
        self.assertFalse(self.passes(kind="number", field="views", at_least=0))
        self.assertTrue(self.passes(kind="number", field="views", at_least=9, unknown="passes"))
        self.assertFalse(self.passes(kind="number", field="custom", name="mount", at_least=0))


class Presence(Cases):
    def test_parts_are_there_or_lacking(self) -> None:
        there = {
            "picture": True,
            "film": False,
            "author": True,
            "summary": False,
            "licence": True,
            "date": True,
            "text": True,
        }
        for trait, has in there.items():
            with self.subTest(trait):
                self.assertEqual(self.passes(kind="presence", trait=trait), has)
                self.assertEqual(self.passes(kind="presence", trait=trait, wanted=False), not has)


class Groups(Cases):
    yes = {"id": "yes", "kind": "terms", "terms": ["fireball"]}
    no = {"id": "no", "kind": "terms", "terms": ["comet"]}

    def test_all_any_and_none_of_rules(self) -> None:
        for mode, rules, kept in [("all", [self.yes, self.no], False), ("any", [self.yes, self.no], True),
                                  ("none", [self.no], True), ("none", [self.yes, self.no], False)]:  # fmt: skip
            with self.subTest(mode=mode, rules=len(rules)):
                self.assertEqual(self.passes(kind="group", mode=mode, rules=rules), kept)

    def test_groups_stand_in_groups(self) -> None:
        inner = {"id": "g", "kind": "group", "mode": "none", "rules": [self.yes]}
        self.assertTrue(self.passes(kind="group", mode="any", rules=[inner, self.yes]))
        self.assertFalse(self.passes(kind="group", mode="all", rules=[inner, self.yes]))

    def test_the_trace_tells_what_each_part_said(self) -> None:
        parts = noted(sift(NIGHT, kind="group", rules=[self.yes, self.no])).data["parts"]
        self.assertEqual([(part["rule"], part["passed"]) for part in parts], [("yes", True), ("no", False)])

    def test_a_group_with_a_rule_of_age_looks_at_the_clock(self) -> None:
        rules = [{"id": "a", "kind": "age", "within_hours": 2}]
        old = captured(published=NOON - timedelta(hours=3))
        self.assertFalse(self.passes(old, kind="group", rules=rules))
        made = document(sift={"rules": [{"id": "g", "kind": "group", "rules": rules}]}).sift.rules[0]
        self.assertTrue(made.looks_at_clock)

    def test_groups_too_deep_are_a_fault(self) -> None:
        rule: dict[str, Any] = self.yes
        for number in range(6):
            rule = {"id": f"g{number}", "kind": "group", "rules": [rule]}
        with self.assertRaisesRegex(DocumentError, "deep"):
            document(sift={"rules": [rule]})


WORDS = st.sampled_from(["comet", "comets", "come", "neb", "nebula", "Éclair", "eclairs", "dark", "sky", "星", "雨"])
TERMS = st.tuples(st.lists(WORDS, min_size=1, max_size=3), st.booleans()).map(
    lambda drawn: " ".join(drawn[0]) + ("*" if drawn[1] else "")
)


class ManyRules(SimpleTestCase):
    """Of many rules only those are asked that could find anything: nobody may notice."""

    @given(
        st.lists(
            st.tuples(st.lists(TERMS, min_size=1, max_size=3), st.sampled_from(["any", "all", "none"])), min_size=5
        ),
        st.lists(WORDS),
    )
    def test_say_together_what_each_says_alone(self, drawn: list[tuple[list[str], str]], text: list[str]) -> None:
        rules = [
            {"id": f"r{place}", "kind": "terms", "mode": mode, "terms": terms}
            for place, (terms, mode) in enumerate(drawn)
        ]
        item = captured(title=" ".join(text[:2]) or "dark", body=f"<p>{' '.join(text)}</p>")

        def notes(asked: list[dict[str, object]]) -> list[object]:
            trace = decide([item], document(sift={"rules": asked}), memory=FakeMemory(), now=NOON)[0].trace
            return [note for note in trace if note.rule.startswith("r")]

        self.assertEqual(notes(rules), [note for rule in rules for note in notes([rule])])
