"""The main text of a page, and the parts that are not."""

from django.test import SimpleTestCase
from glyptarch_core.pages.main_text import main_element, text_html
from glyptarch_core.pages.page import load_page
from glyptarch_core.text import plain_text

SENTENCE = "A sentence that says something of the night sky, and of the old dome on the ridge."
_WORDS = ("first", "second", "third", "fourth", "fifth")
TEXT = f"<p>{SENTENCE}</p>" * 6


def text_of(html: str, title: str = "") -> str:
    page = load_page(html.encode(), url="https://a.example/news/")
    return text_html(page, main_element(page), title=title)


class MainText(SimpleTestCase):
    def test_two_parts_of_one_article_are_both_in_it(self) -> None:
        # The first part alone has seven tenths of the text.
        first, second = (
            f"<p>{SENTENCE}</p>" * 7,
            "<p>And what was seen later that night, from the wall of the mill.</p>" * 4,
        )
        text = text_of(f"<div><div>{first}</div><div>{second}</div></div><p>Short.</p>")
        self.assertIn("the old dome", text)
        self.assertIn("the wall of the mill", text)

    def test_a_notice_of_the_site_is_left_out(self) -> None:
        notice = "<p>Sign up for our newsletter and never miss a clear night.</p>"
        self.assertNotIn("newsletter", text_of(f"<article>{TEXT}{notice}{TEXT}</article>"))

    def test_a_notice_of_one_word_goes_and_a_sentence_with_that_word_stays(self) -> None:
        for language, label, sentence in (
            ("de", "Anzeige", "Die Anzeige am Rathaus zeigt wieder die richtige Zeit."),
            ("fr", "Publicité", "Une loi protège votre vie privée, dit la maire."),
            ("pl", "Reklama", "Nowa reklama wisi na starym młynie."),
            ("zh", "广告", "我们使用旧的广告牌修好了磨坊的门。"),
        ):
            text = text_of(f'<html lang="{language}"><article>{TEXT}<p>{label}</p><p>{sentence}</p>{TEXT}</article>')
            self.assertIn(sentence, text)
            self.assertNotIn(f">{label}<", text)

    def test_labels_at_the_edges_go_and_short_sentences_stay(self) -> None:
        for language, label, sentence in (
            ("nl", "Lees ook: de markt", "De brug is dicht."),
            ("de", "Stand: 3. Mai 2026", "Stand heute bleibt sie zu."),
            ("de", "Mehr", "Mehr war nicht zu sehen."),
            ("en", "By Anna Bee", "More will follow in May."),
        ):
            for inside in (f"<p>{label}</p><p>{sentence}</p>{TEXT}", f"{TEXT}<p>{sentence}</p><p>{label}</p>"):
                text = text_of(f'<html lang="{language}"><article>{inside}</article>')
                self.assertIn(sentence, text)
                self.assertNotIn(f">{label}<", text)

    def test_boxes_with_a_heading_beside_the_paragraphs_are_left_out(self) -> None:
        said = "".join(f"<p>The {word} lamp was lit at dusk, and the boats came in one by one.</p>" for word in _WORDS)
        box = "<section><h3>Letters</h3><p>My aunt saw two boats only, and she was there from noon until the tide.</p></section>"
        page = load_page(f"<body><main><h1>Lamps</h1>{said}{box}</main></body>".encode(), url="https://a.example/")
        self.assertNotIn("aunt", plain_text(text_html(page, main_element(page))))
        # A text that consists of such parts keeps them.
        parts = "".join(box.replace("Letters", word.title()) for word in _WORDS)
        page = load_page(f"<body><main><h1>Lamps</h1>{parts}</main></body>".encode(), url="https://a.example/")
        self.assertEqual(plain_text(text_html(page, main_element(page))).count("aunt"), len(_WORDS))

    def test_a_class_name_alone_decides_nothing(self) -> None:
        said = "".join(f"<p>The {word} lamp was lit at dusk, and the boats came in one by one.</p>" for word in _WORDS)
        side = "<div><p>We have written about the vale since the second winter, and we read each letter.</p></div>"
        for name in ("category-legal", "widget Blog", "node-promoted advert-content-wrap", "with-comments has-sidebar"):
            for around in ("{}", "<form action='/x'>{}</form>"):
                body = around.format(f"<div class='{name}'><h2>Lamps</h2>{said}</div>")
                page = load_page(f"<body>{side}{body}</body>".encode(), url="https://a.example/")
                text = plain_text(text_html(page, main_element(page)))
                self.assertEqual((name, around, text.count("lit at dusk")), (name, around, len(_WORDS)))
                self.assertNotIn("second winter", text)

    def test_hidden_elements_are_left_out(self) -> None:
        for hidden in ("hidden", "aria-hidden='true'", "style='display: none'"):
            text = text_of(
                f"<article>{TEXT}<div {hidden}><p>Nobody sees this sentence of the night.</p></div></article>"
            )
            self.assertNotIn("Nobody sees", text, hidden)

    def test_the_title_does_not_stand_in_the_text_again(self) -> None:
        for tag in ("h1", "h2"):
            text = text_of(
                f"<article><{tag}>A night on the ridge</{tag}>{TEXT}</article>", title="A night on the ridge"
            )
            self.assertNotIn("A night on the ridge", text, tag)
            self.assertIn("the old dome", text)
