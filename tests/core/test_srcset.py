"""``srcset``: several addresses of one picture."""

from django.test import SimpleTestCase
from glyptarch_core.campaign import load_document
from glyptarch_core.pipeline import decide
from glyptarch_core.testing import NOON, FakeMemory, captured
from glyptarch_core.text import absolute, sanitise
from glyptarch_core.text.srcset import largest, map_srcset


def same(address: str) -> str:
    return address


class SrcSets(SimpleTestCase):
    def test_are_read_as_a_browser_reads_them(self) -> None:
        for value, wanted in (
            ("a.jpg 1x, b.jpg 2x", "a.jpg 1x, b.jpg 2x"),
            ("a.jpg,b.jpg", "a.jpg,b.jpg"),
            ("a.jpg, b.jpg", "a.jpg, b.jpg"),
            ("https://h.example/w_300,h_200/a.jpg 300w,\n https://h.example/b.jpg 600w", "https://h.example/w_300,h_200/a.jpg 300w, https://h.example/b.jpg 600w"),
            ("  ,, a.jpg   100w  ,", "a.jpg 100w"),
            ("a.jpg (x,y) , b.jpg", "a.jpg (x,y), b.jpg"),
            ("", ""),
        ):  # fmt: skip
            with self.subTest(value):
                self.assertEqual(map_srcset(value, same), wanted)

    def test_name_their_largest_picture(self) -> None:
        for value, wanted in (
            ("a.jpg 300w, b.jpg 1200w, c.jpg 600w", "b.jpg"),
            ("a.jpg, b.jpg 1.5x", "b.jpg"),
            ("https://h.example/w_300,h_200/a.jpg 900w, b.jpg 300w", "https://h.example/w_300,h_200/a.jpg"),
            ("a.jpg 300h, b.jpg", "a.jpg"),
            ("a.jpg 1e400x", "a.jpg"),
            ("", ""),
        ):
            with self.subTest(value):
                self.assertEqual(largest(value), wanted)

    def test_let_no_script_through(self) -> None:
        for bad in (
            "javascript:alert(1)",
            "JaVaScRiPt:x",
            " \x01javascript:x",
            "data:text/html,x",
            "vbscript:x",
        ):
            with self.subTest(bad):
                clean = sanitise(f'<img src="https://h.example/a.jpg" srcset="{bad} 2x, https://h.example/b.jpg 3x">')
                self.assertNotIn("script", clean.lower())
                self.assertNotIn("data:", clean)
                self.assertIn('srcset="https://h.example/b.jpg 3x"', clean)

    def test_are_made_absolute(self) -> None:
        cleaned = absolute('<img srcset="a,b.jpg 1x, /c.jpg 2x">', "https://h.example/d/e")
        self.assertIn('srcset="https://h.example/d/a,b.jpg 1x, https://h.example/c.jpg 2x"', cleaned)


class OpenElements(SimpleTestCase):
    def test_what_a_source_leaves_open_takes_in_nothing_of_the_template(self) -> None:
        rules = {
            "gather": {"sources": ["club"]},
            "shape": {"body": "{{ body }}<p>Under every <b>post</b> of ours.</p>"},
        }
        for left_open in ("<plaintext>", "<xmp>", "<textarea>", "<title>", "<!--", "<b>", "<style>", "<table><tr><td>"):
            with self.subTest(left_open):
                item = captured(body=f"<p>Text of the source, as it came.</p>{left_open}rest")
                (decision,) = decide([item], load_document(rules), memory=FakeMemory(), now=NOON)
                assert decision.draft is not None
                self.assertIn("<p>Under every <b>post</b> of ours.</p>", decision.draft.body)
