"""Every kind of Shape step by cases, and properties of all of them."""

from typing import Any

from django.test import SimpleTestCase
from glyptarch_core.errors import DocumentError
from glyptarch_core.item import Captured
from glyptarch_core.testing import captured
from glyptarch_core.text import plain_text, sanitise
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_stages import document, noted, one
from tests.core.test_text import HOSTILE


class Steps(SimpleTestCase):
    def body(self, html: str, *steps: dict[str, Any], item: Captured | None = None) -> str:
        numbered = [{"id": f"s{number}", **step} for number, step in enumerate(steps)]
        decision = one(item or captured(body=html), shape={"steps": numbered})
        assert decision.draft is not None, decision.reason
        return decision.draft.body

    def note(self, html: str, **step: Any) -> Any:  # noqa: ANN401
        return noted(one(captured(body=html), shape={"steps": [{"id": "s", **step}]}), "s").data


class Select(Steps):
    html = '<div class="ad">Buy</div><p>One</p><aside><p>Two</p></aside><p>Three</p>'

    def test_elements_are_removed_by_css_or_xpath(self) -> None:
        self.assertEqual(self.body(self.html, {"kind": "select", "selector": ".ad, aside"}), "<p>One</p><p>Three</p>")
        self.assertNotIn("Two", self.body(self.html, {"kind": "select", "selector": "//aside//p"}))

    def test_only_elements_that_are_found_stay(self) -> None:
        step = {"kind": "select", "mode": "keep", "selector": "p"}
        self.assertEqual(self.body(self.html, step), "<p>One</p><p>Two</p><p>Three</p>")

    def test_nothing_found_changes_nothing_and_says_so(self) -> None:
        decision = one(captured(body=self.html), shape={"steps": [{"id": "s", "kind": "select", "selector": ".none"}]})
        self.assertEqual(noted(decision, "s").code, "step.nothing")

    def test_a_broken_selector_is_a_fault_of_the_document(self) -> None:
        for selector in ("p[", "//p["):
            with self.assertRaisesRegex(DocumentError, "cannot be read"):
                document(shape={"steps": [{"id": "s", "kind": "select", "selector": selector}]})


class Cut(Steps):
    html = "<p>Intro</p><p>The story</p><p>Read more at</p><p>Footer</p>"

    def test_everything_after_or_before_a_phrase_goes(self) -> None:
        self.assertEqual(self.body(self.html, {"kind": "cut", "phrase": "read more"}), "<p>Intro</p><p>The story</p>")
        before = {"kind": "cut", "side": "before", "phrase": "the story", "with_it": False}
        self.assertEqual(self.body(self.html, before), "<p>The story</p><p>Read more at</p><p>Footer</p>")

    def test_without_the_phrase_all_stays(self) -> None:
        self.assertEqual(self.body(self.html, {"kind": "cut", "phrase": "nowhere"}), self.html)


class Links(Steps):
    html = '<p><a href="https://club.example/a">in</a> <a href="https://shop.example/x?y=1">out</a></p>'

    def test_links_are_taken_out_and_their_words_stay(self) -> None:
        cases = {"all": "<p>in out</p>", "inside": '<p>in <a href="https://shop.example/x?y=1">out</a></p>',
                 "outside": '<p><a href="https://club.example/a">in</a> out</p>'}  # fmt: skip
        for gone, wanted in cases.items():
            with self.subTest(gone):
                self.assertEqual(self.body(self.html, {"kind": "links", "gone": gone}), wanted)

    def test_listed_hosts_stay(self) -> None:
        step = {"kind": "links", "gone": "all", "kept_hosts": ["shop.example"]}
        self.assertIn("shop.example", self.body(self.html, step))

    def test_partner_tags_are_added_by_host(self) -> None:
        step = {"kind": "links", "parameters": [{"host": "shop.example", "name": "tag", "value": "meadow 1"}]}
        body = self.body(self.html, step)
        self.assertIn('href="https://shop.example/x?y=1&amp;tag=meadow+1"', body)
        self.assertIn('href="https://club.example/a"', body)

    def test_what_leads_to_no_site_stays_as_it_is(self) -> None:
        html = '<p><a href="mailto:desk@almanac.example">write</a> <a href="https://a.example/">read</a></p>'
        for step in ({"gone": "all"}, {"rel": ["sponsored"], "new_tab": True}, {"replaced_by": "https://b.example/"}):
            with self.subTest(step):
                body = self.body(html, {"kind": "links", **step})
                self.assertIn('<a href="mailto:desk@almanac.example">write</a>', body)
                self.assertNotIn('<a href="https://a.example/">read</a>', body)

    def test_links_tell_what_they_are_and_open_apart(self) -> None:
        body = self.body(self.html, {"kind": "links", "rel": ["sponsored", "nofollow"], "new_tab": True})
        self.assertIn('rel="sponsored nofollow"', body)
        self.assertIn('target="_blank"', body)

    def test_links_to_the_items_own_site_are_not_marked(self) -> None:
        body = self.body(self.html, {"kind": "links", "rel": ["nofollow"], "new_tab": True})
        self.assertIn('<a href="https://club.example/a">in</a>', body)
        self.assertIn('rel="nofollow"', body)

    def test_all_links_can_lead_to_one_address(self) -> None:
        body = self.body(self.html, {"kind": "links", "replaced_by": "https://a.example/"})
        self.assertEqual(body.count('href="https://a.example/"'), 2)


class Pictures(Steps):
    html = '<p>t</p><img src="https://a.example/1.png" width="800" height="400"><img src="https://a.example/2.png" width="40" height="40">'

    def test_pictures_are_removed_all_or_the_small_ones(self) -> None:
        self.assertEqual(self.body(self.html, {"kind": "pictures", "remove_all": True}), "<p>t</p>")
        self.assertNotIn("2.png", self.body(self.html, {"kind": "pictures", "smallest_width": 100}))

    def test_a_picture_fits_its_box_and_keeps_its_ratio(self) -> None:
        self.assertIn('width="400" height="200"', self.body(self.html, {"kind": "pictures", "box_width": 400}))

    def test_a_picture_without_a_text_is_described_by_the_title(self) -> None:
        item = captured(title="The <comet>", body=self.html)
        body = self.body("", {"kind": "pictures", "describe": True}, item=item)
        self.assertEqual(body.count('alt="The &lt;comet&gt;"'), 2)


class Shorten(Steps):
    html = "<p>One two <b>three four</b> five.</p><p>Six seven. Eight nine.</p>"

    def test_a_body_is_cut_between_words_and_its_tags_are_closed(self) -> None:
        body = self.body(self.html, {"kind": "shorten", "unit": "words", "count": 3})
        self.assertEqual(body, "<p>One two <b>three…</b></p>")

    def test_sentences_and_paragraphs_are_kept_whole(self) -> None:
        self.assertEqual(
            plain_text(self.body(self.html, {"kind": "shorten", "unit": "sentences", "count": 2})),
            "One two three four five.\nSix seven.",
        )
        self.assertEqual(
            plain_text(self.body(self.html, {"kind": "shorten", "unit": "paragraphs", "count": 1})),
            "One two three four five.",
        )

    def test_a_title_is_cut_at_characters_without_breaking_a_word(self) -> None:
        step = {"id": "s", "kind": "shorten", "part": "title", "unit": "characters", "count": 20}
        assert (
            draft := one(captured(title="A bright fireball over the hills"), shape={"steps": [step]}).draft
        ) is not None
        self.assertEqual(draft.title, "A bright fireball…")

    @given(st.integers(1, 40), st.sampled_from(["words", "sentences", "paragraphs", "characters"]))
    def test_what_is_cut_is_never_longer_and_never_broken(self, count: int, unit: str) -> None:
        body = self.body(self.html, {"kind": "shorten", "unit": unit, "count": count})
        self.assertLessEqual(len(plain_text(body).split()), len(plain_text(self.html).split()))
        self.assertEqual(body.count("<p>"), body.count("</p>"))
        self.assertEqual(body.count("<b>"), body.count("</b>"))


class Replace(Steps):
    html = '<h2>The vid</h2><p>A vid and a Vid, <a href="https://a.example/">vid</a> <code>vid</code>.</p>'

    def test_words_are_replaced_but_not_in_links_headings_and_code(self) -> None:
        body = self.body(self.html, {"kind": "replace", "what": "vid", "by": "video"})
        self.assertIn("A video and a video,", body)
        self.assertEqual(body.count("vid<"), 3)

    def test_only_the_first_ones_and_as_a_link(self) -> None:
        step = {"kind": "replace", "what": "vid", "by": "film", "link": "https://b.example/", "first": 1}
        self.assertIn('A <a href="https://b.example/">film</a> and a Vid,', self.body(self.html, step))

    def test_what_a_pattern_puts_there_is_checked_before_it_is_used(self) -> None:
        for by, said in (
            (r"x\2", "at character 2 of what is put there: the pattern has no group 2"),
            (r"\g<unit>", "the pattern has no group unit"),
            ("x\\", "at character 2 of what is put there: a backslash stands before the number of a group"),
            (r"\q", "at character 1"),
        ):
            with self.subTest(by), self.assertRaisesRegex(DocumentError, said):
                document(shape={"steps": [{"id": "s", "kind": "replace", "find": "pattern", "what": "(a)", "by": by}]})

    def test_groups_have_numbers_and_names_and_may_be_empty(self) -> None:
        step = {"kind": "replace", "find": "pattern", "what": r"(?P<n>\d+)(cm|mm)?", "by": r"[\g<n>|\2|\0|\\]"}
        self.assertEqual(self.body("<p>4mm and 5</p>", step), "<p>[4|mm|4mm|\\] and [5||5|\\]</p>")

    def test_a_pattern_can_use_its_groups(self) -> None:
        step = {"kind": "replace", "find": "pattern", "what": r"(\d+)mm", "by": r"\1 mm"}
        self.assertEqual(self.body("<p>114mm and 80mm</p>", step), "<p>114 mm and 80 mm</p>")

    def test_what_is_put_in_is_text_never_markup(self) -> None:
        body = self.body("<p>a vid</p>", {"kind": "replace", "what": "vid", "by": "<script>x</script>"})
        self.assertEqual(body, "<p>a &lt;script&gt;x&lt;/script&gt;</p>")

    def test_titles_can_be_replaced_in_as_well(self) -> None:
        step = {"id": "s", "kind": "replace", "what": "breaking", "by": "", "where": "title"}
        assert (draft := one(captured(title="BREAKING A comet"), shape={"steps": [step]}).draft) is not None
        self.assertEqual(draft.title, "A comet")


class Standing(Steps):
    def test_text_of_the_house_stands_before_or_after_with_variables(self) -> None:
        step = {"kind": "standing", "side": "before", "variants": ["From {{ source.title }}:"]}
        self.assertEqual(self.body("<p>x</p>", step), "<p>From The club:</p><p>x</p>")

    def test_an_item_always_gets_the_same_variant(self) -> None:
        step = {"kind": "standing", "variants": ["one", "two", "three"]}
        body = {self.body("<p>x</p>", step) for _ in range(3)}
        self.assertEqual(len(body), 1)
        others = {self.body("", step, item=captured(str(number), body="<p>x</p>")) for number in range(12)}
        self.assertGreater(len(others), 1)


class Tidy(Steps):
    def test_leftovers_of_other_houses_go(self) -> None:
        html = '<p style="color:red" class="x">A  b</p><p>&nbsp;</p><div><span></span></div><img src="https://a.example/p.gif" width="1" height="1">'
        self.assertEqual(self.body(html, {"kind": "tidy"}), "<p>A b</p>")

    def test_a_picture_does_not_count_as_empty(self) -> None:
        html = '<p><img src="https://a.example/1.png"></p>'
        self.assertEqual(self.body(html + "<p>t</p>", {"kind": "tidy"}), html + "<p>t</p>")

    def test_what_an_empty_element_parted_stays_apart(self) -> None:
        for html, made in {
            "<p><b>One</b><em> </em><b>Two</b> <span> </span>Three<em> </em>four</p>": "<p><b>One</b> <b>Two</b> Three four</p>",
            "<div>One<p>&nbsp;</p>Two</div>": "<div>One<br>Two</div>",
            "<p>One<span></span>Two</p>": "<p>OneTwo</p>",
        }.items():
            with self.subTest(html):
                self.assertEqual(self.body(html, {"kind": "tidy"}), made)

    def test_quotes_follow_the_language(self) -> None:
        html = '<p>"It\'s <b>bright</b>"</p><pre>"x"</pre>'
        step = {"kind": "tidy", "quotes": True}
        self.assertEqual(self.body(html, step), '<p>“It’s <b>bright</b>”</p><pre>"x"</pre>')
        german = captured(body='<p>Sie sagte "ja".</p>', language="de")
        self.assertEqual(self.body("", step, item=german), "<p>Sie sagte „ja“.</p>")


ALL: tuple[dict[str, Any], ...] = (
    {"kind": "select", "selector": "aside"},
    {"kind": "cut", "phrase": "end"},
    {"kind": "links", "gone": "outside", "rel": ["nofollow"], "new_tab": True},
    {"kind": "pictures", "box_width": 100, "describe": True},
    {"kind": "replace", "what": "a", "by": "b", "link": "https://c.example/"},
    {"kind": "tidy", "quotes": True},
    {"kind": "shorten", "unit": "words", "count": 6},
)


class EveryStep(Steps):
    def test_steps_are_taken_in_their_order_and_can_be_switched_off(self) -> None:
        first, second = {"kind": "replace", "what": "a", "by": "b"}, {"kind": "replace", "what": "b", "by": "c"}
        self.assertEqual(self.body("<p>a</p>", first, second), "<p>c</p>")
        self.assertEqual(self.body("<p>a</p>", second, first), "<p>b</p>")
        self.assertEqual(self.body("<p>a</p>", first, {**second, "on": False}), "<p>b</p>")

    def test_hostile_snippets_stay_harmless_through_all_steps(self) -> None:
        for snippet in HOSTILE:
            with self.subTest(snippet):
                body = self.body(f"<p>a word before</p>{snippet}<p>end</p>", *ALL)
                self.assertEqual(body, sanitise(body))
                self.assertNotRegex(body.lower(), r"<script|javascript:|<[^>]*\son\w+=")

    @given(st.text(alphabet="<>/=\"' pabidvsng&;#x", max_size=80))
    def test_any_markup_goes_through_all_steps_and_comes_out_sound(self, html: str) -> None:
        body = self.body(f"<p>a word</p>{html}", *ALL)
        self.assertEqual(body, sanitise(body))
