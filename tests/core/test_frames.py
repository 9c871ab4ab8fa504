"""Frames in the text of a source become links that a blog can show as players."""

import re

from django.test import SimpleTestCase
from glyptarch_core.campaign import load_document
from glyptarch_core.pipeline import decide
from glyptarch_core.shape.frames import with_links_for_frames
from glyptarch_core.testing import NOON, FakeMemory, captured
from glyptarch_core.text import sanitise

PAGE = "https://club.example/notes/1"


def linked(html: str) -> str:
    return sanitise(with_links_for_frames(html, PAGE).html)


class Frames(SimpleTestCase):
    def test_a_frame_becomes_a_link_in_its_place(self) -> None:
        html = '<p>Before.</p><iframe src="https://films.example/play/7?a=1&amp;b=2" width="640"></iframe><p>After.</p>'
        self.assertEqual(
            linked(html),
            '<p>Before.</p><figure class="film"><a href="https://films.example/play/7?a=1&amp;b=2">films.example</a>'
            "</figure><p>After.</p>",
        )

    def test_one_in_a_paragraph_follows_it_and_no_word_is_lost(self) -> None:
        html = '<p>See <b>this <iframe src="https://films.example/7"></iframe>film</b> today.</p><p>End.</p>'
        found = linked(html)
        self.assertIn("<p>See <b>this film</b> today.</p><figure", found)
        self.assertTrue(found.endswith("</figure><p>End.</p>"))

    def test_several_in_a_paragraph_keep_their_order(self) -> None:
        films = "".join(f'<iframe src="https://films.example/{number}"></iframe>' for number in range(3))
        for around in ("p", "h2"):
            with self.subTest(around):
                found = linked(f"<{around}>Three: {films}</{around}><p>End.</p>")
                self.assertEqual(re.findall(r"films\.example/(\d)", found), ["0", "1", "2"])
                self.assertTrue(found.startswith(f"<{around}>Three: </{around}><figure"))
                self.assertTrue(found.endswith("<p>End.</p>"))

    def test_addresses_are_whole_and_late_ones_are_found(self) -> None:
        for attribute, address in (
            ('src="//films.example/7"', "https://films.example/7"),
            ('src="/play/7"', "https://club.example/play/7"),
            ('data-src="https://films.example/7"', "https://films.example/7"),
        ):
            with self.subTest(attribute):
                self.assertIn(f'href="{address}"', linked(f"<iframe {attribute}></iframe>"))

    def test_what_leads_nowhere_is_left_out(self) -> None:
        for attribute in ("", 'src="about:blank"', 'src="javascript:alert(1)"', 'src="data:text/html,x"', 'srcdoc="<b>x</b>"',
                          'src="https://[bad"', "src='&quot;><script>alert(1)</script>'"):  # fmt: skip
            with self.subTest(attribute):
                found = linked(f"<p>Text.</p><iframe {attribute}></iframe>")
                self.assertNotIn("<script", found)
                self.assertNotIn("javascript", found)
                self.assertTrue(found.startswith("<p>Text.</p>"))

    def test_a_text_without_frames_is_not_touched(self) -> None:
        html = "<p>Only <b>words</b>"
        self.assertIs(with_links_for_frames(html, PAGE).html, html)

    def test_very_many_all_become_links_and_the_host_is_named_once(self) -> None:
        framed = with_links_for_frames('<iframe src="https://films.example/7"></iframe>' * 5000, PAGE)
        self.assertEqual((framed.hosts, framed.html.count("<a ")), (["films.example"], 5000))

    def test_the_trace_says_so_and_the_post_has_the_link(self) -> None:
        item = captured("one", body='<p>Text of the night.</p><iframe src="https://films.example/7"></iframe>')
        document = load_document({"gather": {"sources": ["club"]}, "release": {"mode": "publish"}})
        (decision,) = decide([item], document, memory=FakeMemory(), now=NOON)
        note = next(note for note in decision.trace if note.code == "shape.frames")
        self.assertEqual(note.data, {"hosts": ["films.example"]})
        assert decision.draft is not None
        self.assertIn('<figure class="film"><a href="https://films.example/7">', decision.draft.body)
