"""Names in bylines, told from running text that begins with the same words."""

from django.test import SimpleTestCase
from glyptarch_core.pages.article import extract
from glyptarch_core.pages.byline import author_name, name_beside, name_in_byline
from glyptarch_core.pages.page import load_page


class NameInByline(SimpleTestCase):
    def test_a_line_of_its_own_gives_the_name(self) -> None:
        for line, language, name in (
            ("By Anna Bee", "", "Anna Bee"),
            ("Von Anna Bee, Korrespondentin am Hang", "de", "Anna Bee"),
            ("Text: anna b.", "de", "anna b"),
            ("Di Marta Colle", "it-IT", "Marta Colle"),
            ("Af Anna Bee og Karl Dahl", "da", "Anna Bee og Karl Dahl"),
            ("Por Ana de la Cumbre", "es", "Ana de la Cumbre"),
            ("記者：山田花子", "ja", "山田花子"),
        ):
            self.assertEqual(name_in_byline(line, language), name, line)

    def test_sentences_and_short_words_of_other_languages_name_nobody(self) -> None:
        for line, language in (
            ("By the river it was dark", "en"),
            ("De burgemeester opent de brug", "nl"),
            ("De Grote Markt", "nl"),
            ("Von unten sieht man mehr", "de"),
            ("Av Himalaya Snow", "en"),
            ("Door de storm viel de stroom uit", "nl"),
        ):
            self.assertEqual(name_in_byline(line, language), "", line)

    def test_names_with_small_words_stay_whole(self) -> None:
        for name in ("Jean le Rond", "Omar el Hadi", "Anna de Vries"):
            self.assertEqual(author_name(name), name)
        self.assertEqual(author_name("Anna Bee Published May 3"), "Anna Bee")
        self.assertEqual(author_name("Anna Bee le 3 mai"), "Anna Bee")


class NameBesideADate(SimpleTestCase):
    def test_is_found_with_or_without_a_byline(self) -> None:
        self.assertEqual(name_beside("Posted on | by Anna Bee in weather", "en"), "Anna Bee")
        self.assertEqual(name_beside(" | | De Vries", "nl"), "De Vries")
        self.assertEqual(name_beside("| Monday Morning", "en"), "")

    def test_words_of_a_date_name_nobody(self) -> None:
        page = load_page(
            '<html lang="es"><body><article><h1>El puente del molino</h1><p>24 de noviembre de 2026</p>'
            f"{'<p>El puente del molino se abre de nuevo al paso de los vecinos.</p>' * 6}</article>".encode(),
            url="https://a.example/puente/",
        )
        self.assertEqual(extract(page).author, "")
