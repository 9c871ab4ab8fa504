"""HTML fragments: any text is parsed and serialised without loss."""

from django.test import SimpleTestCase
from glyptarch_core.campaign import load_document
from glyptarch_core.pipeline import decide
from glyptarch_core.testing import NOON, FakeMemory, captured
from glyptarch_core.text.markup import (
    absolute,
    append,
    fragment,
    paragraphs,
    plain_text,
    sanitise,
    serialise,
    text_of,
    text_to_html,
)
from glyptarch_core.text.trim import trim
from hypothesis import given
from hypothesis import strategies as st

TAGS = st.sampled_from("p div span a b em ul li h2 blockquote table tr td figure img br hr script style iframe".split())
PIECES = st.one_of(
    st.text(alphabet="ab <>&\"'=/é\u00a0\n", max_size=8),
    TAGS.map(lambda tag: f"<{tag}>"),
    TAGS.map(lambda tag: f"</{tag}>"),
    st.sampled_from(
        ["<!-- x -->", "<?pi?>", "<![CDATA[x]]>", "<p style='x' onclick=\"y\">", "&amp;", "&#0;", "&bogus;"]
    ),
)
MARKUP = st.lists(PIECES, max_size=20).map("".join)


class Reading(SimpleTestCase):
    @given(MARKUP)
    def test_anything_gives_one_tree_that_says_the_same_again(self, markup: str) -> None:
        root = fragment(markup)
        self.assertEqual(root.tag, "div")
        again = fragment(serialise(root))
        self.assertEqual(text_of(again), text_of(root))

    @given(MARKUP)
    def test_no_comment_or_instruction_is_left(self, markup: str) -> None:
        self.assertEqual([node for node in fragment(markup).iter() if not isinstance(node.tag, str)], [])

    def test_several_blocks_and_loose_text_stand_side_by_side(self) -> None:
        self.assertEqual(serialise(fragment("one<p>two</p>three")), "one<p>two</p>three")
        self.assertEqual(serialise(fragment("<div>only</div>")), "<div>only</div>")
        self.assertEqual(serialise(fragment("")), "")

    def test_characters_that_no_markup_may_hold_are_left_out(self) -> None:
        self.assertEqual(serialise(fragment("a\x00b\x0bc\x1fd\ud800e")), "abcde")

    def test_a_whole_page_gives_what_its_body_holds(self) -> None:
        page = "<!doctype html><html><head><title>T</title></head><body class='x'><p>Text</p></body></html>"
        self.assertIn("<p>Text</p>", serialise(fragment(page)))
        self.assertEqual(plain_text(page), "Text")


class Text(SimpleTestCase):
    def test_blocks_are_lines_and_inline_elements_are_not(self) -> None:
        self.assertEqual(
            plain_text("<p>A <b>bright</b> one</p><ul><li>x</li><li>y</li></ul>z"), "A bright one\nx\ny\nz"
        )

    def test_a_break_parts_lines_and_spaces_fall_together(self) -> None:
        self.assertEqual(plain_text("one<br>two \n\t  three&nbsp;four"), "one\ntwo three four")

    def test_where_the_source_breaks_its_lines_means_nothing(self) -> None:
        self.assertEqual(plain_text("<p>A comet was seen in\nthe west.</p>\n<p>Look\r\nlate.</p>"),
                         "A comet was seen in the west.\nLook late.")  # fmt: skip
        self.assertEqual(plain_text("<pre>1\n2</pre><p>3\n4</p>"), "1\n2\n3 4")

    def test_a_wrapped_paragraph_gives_whole_sentences(self) -> None:
        item = captured(body="<p>A comet was seen in\nthe west. Look late.</p>")
        decision = decide([item], load_document({"gather": {"sources": ["club"]},
            "shape": {"excerpt": {"unit": "sentences", "count": 1}}}), memory=FakeMemory(), now=NOON)[0]  # fmt: skip
        self.assertEqual(decision.draft and decision.draft.excerpt, "A comet was seen in the west.")

    @given(st.text(alphabet="ab \u00a0\u2003\t\x1c\u200b\u00e9", max_size=30))
    def test_spaces_of_any_kind_fall_together(self, text: str) -> None:
        self.assertEqual(plain_text(text), " ".join(text.split()))

    def test_what_nobody_sees_is_not_read(self) -> None:
        unseen = "<script>a()</script><style>b{}</style><template>c</template><iframe>d</iframe><noscript>e</noscript>"
        self.assertEqual(plain_text(f"x{unseen}y"), "xy")

    def test_plain_text_with_signs_of_markup_stays_as_it_is(self) -> None:
        self.assertEqual(plain_text("1 < 2 and 3 > 2"), "1 < 2 and 3 > 2")
        self.assertEqual(plain_text("Fish &amp; chips"), "Fish & chips")

    @given(st.text(alphabet="abc é\n<>&", max_size=40))
    def test_what_is_set_as_html_is_read_again(self, text: str) -> None:
        self.assertEqual(" ".join(plain_text(text_to_html(text)).split()), " ".join(text.split()))

    def test_paragraphs_are_given_without_empty_ones(self) -> None:
        self.assertEqual(paragraphs("<p>a</p><p> </p><p>b</p>"), ["a", "b"])


class PuttingTogether(SimpleTestCase):
    def joined(self, one: str, other: str) -> str:
        root = fragment(one)
        append(root, fragment(other))
        return serialise(root)

    def test_loose_text_comes_after_what_is_there(self) -> None:
        self.assertEqual(self.joined("<p>a</p>", "b<p>c</p>"), "<p>a</p>b<p>c</p>")
        self.assertEqual(self.joined("a", "b"), "ab")
        self.assertEqual(self.joined("", "<p>a</p>"), "<p>a</p>")
        self.assertEqual(self.joined("<p>a</p>b", "c"), "<p>a</p>bc")

    def test_addresses_are_resolved_wherever_they_stand(self) -> None:
        cleaned = absolute(
            '<a href="/x">x</a><img src="p.png" srcset="p.png 1x, /q.png 2x"><video poster="v.png"></video>',
            "https://club.example/notes/1",
        )
        for address in (
            'href="https://club.example/x"',
            'src="https://club.example/notes/p.png"',
            'srcset="https://club.example/notes/p.png 1x, https://club.example/q.png 2x"',
            'poster="https://club.example/notes/v.png"',
        ):
            self.assertIn(address, cleaned)

    def test_an_address_that_cannot_be_read_is_taken_off(self) -> None:
        self.assertIn('href=""', absolute('<a href="http://[x">x</a>', "https://club.example/"))

    def test_nothing_is_done_without_a_base_or_an_address(self) -> None:
        self.assertEqual(absolute('<a href="/x">x</a>', ""), '<a href="/x">x</a>')
        self.assertEqual(absolute("<p>x", "https://club.example/"), "<p>x")


class Visible(SimpleTestCase):
    """One rule says what a reader sees: for counting, cutting and cleaning."""

    def trimmed(self, markup: str, words: int) -> str:
        root = fragment(markup)
        trim(root, words, ellipsis="…")
        return plain_text(serialise(root))

    def test_what_nobody_sees_takes_no_words_of_a_cut(self) -> None:
        for markup in (
            "<style>a b c d</style><p>one two three four</p>",
            "<p>one <style>a b c d</style>two three four</p>",
        ):
            with self.subTest(markup):
                self.assertEqual(self.trimmed(markup, 3), "one two three…")

    def test_a_drop_cap_belongs_to_its_word(self) -> None:
        self.assertEqual(self.trimmed("<p><span>O</span>nce upon a time there was</p>", 4), "Once upon a time…")
        self.assertEqual(self.trimmed("<p>one</p><p>two three</p>", 2), "one\ntwo…")

    def test_the_full_stop_after_a_link_stays(self) -> None:
        self.assertEqual(self.trimmed('<p>Read <a href="/x">the page</a>. Then go</p>', 3), "Read the page.…")

    def test_what_a_source_hid_is_no_text(self) -> None:
        hidden = "<p>a <b hidden>b</b><i style='color: red; display: none'>c</i> d <u aria-hidden='true'>e</u></p>"
        self.assertEqual(plain_text(sanitise(hidden)), "a d e")


class Safe(SimpleTestCase):
    @given(MARKUP)
    def test_nothing_that_runs_is_left_of_anything(self, markup: str) -> None:
        cleaned = sanitise(markup)
        root = fragment(cleaned)
        for element in root.iter():
            self.assertNotIn(element.tag, {"script", "style", "iframe", "object", "template", "form", "input"})
            self.assertFalse([name for name in element.attrib if name.startswith("on") or name == "style"])
        self.assertEqual(sanitise(cleaned), cleaned)

    def test_markup_ends_where_it_would_cost_a_parser_too_much(self) -> None:
        for flood, most in (("<br>", 10_000), ("&amp;", 20_000)):
            kept = sanitise(flood * (most - 1) + "end")
            self.assertTrue(kept.endswith("end"))
            self.assertEqual(sanitise(flood * (most + 50) + "end"), flood * most)

    def test_no_link_stands_in_a_link(self) -> None:
        cleaned = sanitise("<a href='https://a.example/'><table><a href='https://b.example/'>x</a></table>y")
        self.assertEqual(sanitise(cleaned), cleaned)
        self.assertFalse(
            [link for link in fragment(cleaned).iter("a") if next(link.iterancestors("a"), None) is not None]
        )

    def test_only_known_schemes_lead_anywhere(self) -> None:
        for address in ("javascript:x()", " JaVaScRiPt:x()", "data:text/html,x", "vbscript:x", "file:///etc/passwd"):
            self.assertNotIn("href", sanitise(f'<a href="{address}">x</a>'))
        self.assertIn('href="mailto:desk@almanac.example"', sanitise('<a href="mailto:desk@almanac.example">x</a>'))

    def test_classes_of_a_source_go_and_those_of_our_layouts_stay(self) -> None:
        cleaned = sanitise(
            '<figure class="left wide"><p class="left">x</p></figure><blockquote class="card">y</blockquote>'
        )
        self.assertEqual(cleaned, '<figure class="left"><p>x</p></figure><blockquote class="card">y</blockquote>')

    def test_relations_of_links_are_of_the_standard(self) -> None:
        cleaned = sanitise('<a href="https://a.example/" rel="nofollow me sponsored evil" target="_blank">x</a>')
        self.assertIn('rel="nofollow sponsored"', cleaned)
        self.assertIn('target="_blank"', cleaned)
