"""Links, sentences, excerpts, slugs and markup."""

import re

from django.test import SimpleTestCase
from glyptarch_core.text import (
    Unit,
    absolute,
    canonical_link,
    cut,
    first_words_of,
    paragraphs,
    plain_text,
    sanitise,
    sentences,
    slugify,
    text_to_html,
    unused,
    without_tracking,
)
from glyptarch_core.text.links import RULES, _read
from hypothesis import given
from hypothesis import strategies as st

HOSTILE = (
    "<script>alert(1)</script>",
    "<img src=x onerror=alert(1)>",
    '<a href="javascript:alert(1)">x</a>',
    '<a href="data:text/html,<script>alert(1)</script>">x</a>',
    "<svg><script>alert(1)</script></svg>",
    "<math><mtext><img src=x onerror=alert(1)></mtext></math>",
    '<iframe src="https://bad.example"></iframe>',
    '<p style="background:url(javascript:alert(1))">x</p>',
    "<noscript><p title='</noscript><img src=x onerror=alert(1)>'>",
    "<form><button formaction=javascript:alert(1)>x",
    "<template><script>alert(1)</script></template>",
    "<<script>script>alert(1)</script>",
)


class Links(SimpleTestCase):
    def test_an_address_without_what_tells_how_a_visitor_came(self) -> None:
        for link, plain in (
            ("https://club.example/7?utm_source=a&b=%20x&fbclid=1#part", "https://club.example/7?b=%20x#part"),
            ("https://WWW.club.example/7/?utm_medium=feed", "https://WWW.club.example/7/"),
            ("https://club.example/7?a=1&b", "https://club.example/7?a=1&b"),
            ("http://[", "http://["),
            ("", ""),
        ):
            with self.subTest(link):
                self.assertEqual(without_tracking(link), plain)

    def test_variants_of_an_address_are_one(self) -> None:
        plain = canonical_link("https://club.example/notes/7?b=2&a=1")
        for variant in (
            "http://club.example/notes/7?b=2&a=1",
            "https://www.club.example/notes/7?b=2&a=1",
            "https://m.club.example/notes/7/?a=1&b=2",
            "https://CLUB.example:443/notes/7?a=1&b=2#top",
            "https://club.example/notes/7?a=1&b=2&utm_source=feed&utm_medium=rss",
            "https://club.example/%6Eotes/7?a=1&b=2",
        ):
            with self.subTest(variant):
                self.assertEqual(canonical_link(variant), plain)

    def test_each_rule_does_its_own_part(self) -> None:
        cases = {
            "host form": ("https://CLUB.Example./a", "https://club.example/a"),
            "default port": ("https://club.example:443/a", "https://club.example/a"),
            "escapes": ("https://club.example/%6Eo%2fte s", "https://club.example/no%2Fte%20s"),
            "host variant": ("https://www2.club.example/a", "https://club.example/a"),
            "tracking": ("https://club.example/a?utm_source=x&id=1&abclid=y", "https://club.example/a?id=1"),
            "print variant": ("https://club.example/a/print?view=print&id=1&amp=1", "https://club.example/a?id=1"),
            "dot segments": ("https://club.example/a/./b/../c//d", "https://club.example/a/c/d"),
            "index page": ("https://club.example/a/index.html", "https://club.example/a/"),
            "trailing slash": ("https://club.example/a/", "https://club.example/a"),
            "order of parameters": ("https://club.example/a?b=1&a=2", "https://club.example/a?a=2&b=1"),
            "fragment": ("https://club.example/a#top", "https://club.example/a"),
            "scheme": ("https://club.example/a", "club.example/a"),
        }
        self.assertEqual(set(cases), set(RULES))
        for name, (before, after) in cases.items():
            with self.subTest(name):
                address = _read(before)
                assert address is not None
                self.assertEqual(str(RULES[name](address)), after)

    def test_a_fragment_that_names_a_page_tells_pages_apart(self) -> None:
        forms = {
            canonical_link(f"https://a.example/{end}") for end in ("#!/a", "#!/b", "#/post/1", "#/post/2", "#top", "")
        }
        self.assertEqual(len(forms), 5)

    def test_bytes_that_are_no_utf_8_are_told_apart(self) -> None:
        self.assertNotEqual(canonical_link("https://a.example/?q=%FC"), canonical_link("https://a.example/?q=%F6"))

    def test_hosts_are_compared_as_browsers_ask_for_them(self) -> None:
        self.assertEqual(canonical_link("https://BÜCHER.example/"), canonical_link("https://xn--bcher-kva.example"))
        self.assertNotEqual(canonical_link("https://straße.example/"), canonical_link("https://strasse.example/"))
        self.assertEqual(canonical_link("http://[2001:DB8::1]:8080/x"), "[2001:db8::1]:8080/x")

    def test_a_page_about_printing_is_no_print_variant(self) -> None:
        for link in ("https://a.example/print", "https://a.example/printmaking", "https://a.example/?view=list"):
            self.assertEqual(canonical_link(link), link.removeprefix("https://").replace("/?", "?"))

    def test_what_chooses_the_page_stays(self) -> None:
        self.assertNotEqual(canonical_link("https://a.example/?id=1"), canonical_link("https://a.example/?id=2"))
        self.assertNotEqual(canonical_link("https://a.example:8080/"), canonical_link("https://a.example/"))
        self.assertNotEqual(canonical_link("https://a.example/a%2Fb"), canonical_link("https://a.example/a/b"))

    def test_a_host_of_two_labels_keeps_its_name(self) -> None:
        self.assertEqual(canonical_link("https://m.example/"), "m.example")

    @given(st.text(max_size=80))
    def test_any_text_has_a_stable_form(self, text: str) -> None:
        self.assertIsInstance(canonical_link(text), str)
        self.assertIsInstance(canonical_link(f"http://{text}"), str)


class Sentences(SimpleTestCase):
    def test_abbreviations_and_initials_do_not_end_a_sentence(self) -> None:
        text = "Dr. Farrow spoke. It was approx. 40 cm, i.e. big. J. Quill agreed!"
        self.assertEqual(sentences("El EE. UU. calla. “好吗？”他问。"), ["El EE. UU. calla.", "“好吗？”他问。"])
        self.assertEqual(sentences("Il part. « Où ? » dit-on."), ["Il part.", "« Où ? » dit-on."])
        self.assertEqual(sentences(text), ["Dr. Farrow spoke.", "It was approx. 40 cm, i.e. big.", "J. Quill agreed!"])

    def test_a_word_that_can_be_either_is_one_before_a_number_only(self) -> None:
        self.assertEqual(sentences("He said no. Then he left."), ["He said no.", "Then he left."])

    def test_a_sentence_ends_at_the_marks_of_its_script(self) -> None:
        for text in (
            "वह आया।|वह गया॥|फिर?",
            "هل أتى؟|نعم.",
            "وہ آیا۔|وہ گیا۔",
            "Er sagte: „Komm.“|Dann ging er.",
            "»Komm.« |Sie ging.",
            "«Viens.»|Elle partit.",
            "Ծիրան։|Նուռ",
        ):
            with self.subTest(text):
                self.assertEqual(sentences(text.replace("|", " ")), [part.strip() for part in text.split("|")])

    def test_days_initials_and_abbreviations_end_a_sentence_only_before_what_opens_one(self) -> None:
        for text in (
            "Er kam am 3. März an.|Dann ging er.",
            "It was 3.|Then 4 came.",
            "Plan B.|Then we left.",
            "J. K. Marta wrote it.|Good.",
            "Das ist z.B. Marta.|Und d.h. es ging.",
            "We met in the u.s.|The end was near.",
            "Come at 5 p.m. Marta will wait.",
            "Lamps, mounts etc.|They came late.",
            "Dr. The Great came.",
            "M. Le Brun est là.|Oui.",
            "Он жил в 1990 г. в городе.|Потом ушёл.",
            "И т. д.|Потом он ушёл.",
            "1. Marta came.|Ola left.",
            "He asked why? and left!|Done.",
        ):
            with self.subTest(text):
                self.assertEqual(sentences(text.replace("|", " ")), text.split("|"))
        self.assertEqual(sentences("It is no. 7 of ten. Look."), ["It is no. 7 of ten.", "Look."])
        self.assertEqual(sentences("Vgl. Abb. 3 dazu. Danach."), ["Vgl. Abb. 3 dazu.", "Danach."])
        self.assertEqual(sentences("Ph.D. Quill spoke. Yes."), ["Ph.D. Quill spoke.", "Yes."])

    def test_quotes_belong_to_their_sentence(self) -> None:
        self.assertEqual(sentences("“Look!” She pointed. “There.”"), ["“Look!”", "She pointed.", "“There.”"])

    def test_ideographic_stops_need_no_space(self) -> None:
        self.assertEqual(sentences("彗星だ。明るい。"), ["彗星だ。", "明るい。"])

    @given(st.text(max_size=120))
    def test_nothing_is_lost(self, text: str) -> None:
        self.assertEqual("".join("".join(sentences(text)).split()), "".join(text.split()))


class Excerpts(SimpleTestCase):
    blocks = ("One two three. Four five.", "Six seven.")

    def test_a_cut_between_two_elements_is_marked_where_the_text_ends(self) -> None:
        self.assertEqual(first_words_of("<p>One two</p><p>three</p>", 2, ellipsis="…"), "<p>One two…</p>")

    def test_words_are_cut_whole_with_an_ellipsis(self) -> None:
        self.assertEqual(cut(list(self.blocks), unit=Unit.WORDS, count=4), "One two three. Four…")

    def test_a_text_short_enough_stays_as_it_is(self) -> None:
        self.assertEqual(cut(["One two."], unit=Unit.WORDS, count=2), "One two.")

    def test_sentences_run_on_into_the_next_paragraph(self) -> None:
        self.assertEqual(
            cut(list(self.blocks), unit=Unit.SENTENCES, count=3), "One two three. Four five.\n\nSix seven."
        )

    def test_paragraphs_are_kept_whole(self) -> None:
        self.assertEqual(cut(list(self.blocks), unit=Unit.PARAGRAPHS, count=1), self.blocks[0])


class Markup(SimpleTestCase):
    def test_blocks_become_lines_and_unseen_parts_vanish(self) -> None:
        html = (
            "<p>One <b>two</b></p><script>no</script><ul><li>three</li><li>four&nbsp;&amp; five</li></ul><!-- x -->six"
        )
        self.assertEqual(plain_text(html), "One two\nthree\nfour & five\nsix")

    def test_paragraphs_leave_out_empty_blocks(self) -> None:
        self.assertEqual(paragraphs("<p>a</p><p>&nbsp;</p><p>b</p>"), ["a", "b"])

    def test_plain_text_becomes_paragraphs(self) -> None:
        self.assertEqual(text_to_html("a < b\n\nc"), "<p>a &lt; b</p><p>c</p>")

    def test_relative_addresses_are_resolved(self) -> None:
        html = absolute('<a href="/x">a</a><img src="p.png" srcset="p.png 1x, q.png 2x">', "https://club.example/n/1")
        self.assertIn('href="https://club.example/x"', html)
        self.assertIn('srcset="https://club.example/n/p.png 1x, https://club.example/n/q.png 2x"', html)

    def test_hostile_snippets_come_out_harmless(self) -> None:
        for snippet in HOSTILE:
            with self.subTest(snippet):
                clean = sanitise(f"<p>before</p>{snippet}<p>after</p>")
                self.assertNotRegex(
                    clean, re.compile(r"<script|<iframe|<svg|<form|javascript:|data:|style=", re.IGNORECASE)
                )
                self.assertNotRegex(clean, re.compile(r"<[^>]*\son\w+=", re.IGNORECASE))

    @given(st.text(alphabet="<>/=\"' apsvgimgscriptonerrorhref:&#;-!x", max_size=120))
    def test_sanitising_twice_changes_nothing_more(self, html: str) -> None:
        once = sanitise(html)
        self.assertEqual(sanitise(once), once)

    @given(st.text(max_size=200))
    def test_any_text_can_be_read_as_markup(self, html: str) -> None:
        self.assertNotIn("<script", sanitise(absolute(html, "https://a.example/")).lower())
        plain_text(html)


class Slugs(SimpleTestCase):
    def test_a_title_becomes_words_with_hyphens(self) -> None:
        self.assertEqual(slugify("Fireball over the Orrin hills!"), "fireball-over-the-orrin-hills")

    def test_a_long_title_is_cut_between_words(self) -> None:
        self.assertEqual(slugify("aaaa bbbb cccc", longest=10), "aaaa-bbbb")

    def test_scripts_without_spaces_are_not_taken_apart(self) -> None:
        self.assertEqual(slugify("Süße Sterne & Monde: 彗星が来た!"), "susse-sterne-monde-彗星が来た")
        self.assertEqual(slugify("l'été_2026"), "l-ete-2026")
        self.assertEqual(slugify("Мой ёж"), "мой-ёж")

    def test_a_taken_slug_gets_the_first_free_number(self) -> None:
        self.assertEqual(unused("a", {"a", "a-2"}), "a-3")
        self.assertEqual(unused("b", {"a"}), "b")
