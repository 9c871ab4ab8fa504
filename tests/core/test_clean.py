"""Texts and data that can be stored and published."""

import json
import math
from typing import Any

from django.test import SimpleTestCase
from glyptarch_core.text import bounded_key, clean_json, clean_line, clean_text, name_key
from hypothesis import given
from hypothesis import strategies as st

ANY_TEXT = st.text(alphabet=st.characters(exclude_categories=()), max_size=60)
ANY_JSON = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | ANY_TEXT,
    lambda parts: st.lists(parts, max_size=4) | st.dictionaries(ANY_TEXT, parts, max_size=4),
    max_leaves=12,
)


class CleanTexts(SimpleTestCase):
    def test_what_xml_forbids_goes_and_all_else_stays(self) -> None:
        for given_text, wanted in (
            ("plain", "plain"),
            ("tab\tline\nreturn\r", "tab\tline\nreturn\r"),
            ("a\x00b\x07c\x1fd", "abcd"),
            ("\ufffe\uffff\ufffd", "\ufffd"),
            ("half \ud83d", "half "),
            ("whole \ud83c\udf20", "whole 🌠"),
            ("彗星 हिन्दी", "彗星 हिन्दी"),
        ):
            self.assertEqual(clean_text(given_text), wanted)

    def test_a_long_text_is_cleaned_like_a_short_one(self) -> None:
        # Long texts are searched by another method than short ones.
        for around in ("a word " * 20, "ein Wört " * 20, "彗星 " * 30):
            for code in (*range(0x20), 0x7F, 0x85, 0xD7FF, 0xD800, 0xDFFF, 0xE000, 0xFFFD, 0xFFFE, 0xFFFF, 0x10000):
                sign = chr(code)
                self.assertEqual(clean_text(around + sign + around), around + clean_text(sign) + around, hex(code))

    @given(ANY_TEXT)
    def test_any_text_comes_out_as_utf_8_can_hold_it_and_once_is_enough(self, text: str) -> None:
        clean = clean_text(text)
        clean.encode()
        self.assertNotIn("\x00", clean)
        self.assertEqual(clean_text(clean), clean)

    @given(ANY_TEXT)
    def test_a_line_is_one_line_and_no_longer_than_it_may_be(self, text: str) -> None:
        line = clean_line(text, 20)
        self.assertLessEqual(len(line), 20)
        self.assertEqual(line, " ".join(line.split()))

    @given(ANY_JSON)
    def test_any_data_comes_out_as_json_knows_it(self, value: Any) -> None:  # noqa: ANN401
        text = json.dumps(clean_json(value), allow_nan=False, ensure_ascii=False)
        text.encode()
        self.assertNotIn("\\u0000", text)

    def test_numbers_that_cannot_be_stored_become_null_or_text(self) -> None:
        self.assertEqual(clean_json([math.nan, math.inf, 1.5, True, 10**40]), [None, None, 1.5, True, hex(10**40)])

    def test_depth_has_an_end(self) -> None:
        deep: Any = "bottom"
        for _ in range(3):
            deep = {"in": [deep]}
        self.assertEqual(clean_json(deep, deepest=3), {"in": [{"in": None}]})


class Keys(SimpleTestCase):
    def test_long_ones_are_cut_and_still_told_apart(self) -> None:
        one, other = bounded_key("x" * 500 + "1", 100), bounded_key("x" * 500 + "2", 100)
        self.assertEqual((len(one), len(other), one == other), (100, 100, False))
        self.assertEqual(bounded_key("short", 100), "short")

    @given(ANY_TEXT)
    def test_the_key_of_a_name_fits_and_does_not_depend_on_case(self, name: str) -> None:
        self.assertLessEqual(len(name_key(name)), 300)
        self.assertEqual(name_key(name_key(name)), name_key(name))

    def test_signs_of_a_name_count(self) -> None:
        self.assertEqual(len({name_key(name) for name in ("C", "C++", "C#", "c")}), 3)
