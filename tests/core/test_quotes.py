"""Straight marks become the language's quotes, an apostrophe or a prime."""

from django.test import SimpleTestCase
from glyptarch_core.testing import captured
from glyptarch_core.text.quotes import typographic
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_shape_steps import Steps


def made(text: str, language: str = "en") -> str:
    return "".join(typographic([text], language))


class Marks(SimpleTestCase):
    def test_marks_follow_the_language(self) -> None:
        for language, text, wanted in (
            ("en", '"Look," he said, "it\'s here."', "“Look,” he said, “it’s here.”"),
            ("en-GB", "The club's 'open night'", "The club’s ‘open night’"),
            ("de", '"Schau", sagte er, "da ist\'s."', "„Schau“, sagte er, „da ist’s.“"),
            ("de", "'ja' und 'nein'", "‚ja‘ und ‚nein‘"),
            ("fr", '"Regarde", dit-il, "l\'étoile".', "«\u00a0Regarde\u00a0», dit-il, «\u00a0l’étoile\u00a0»."),
            ("nl", "hij zei: 't is daar", "hij zei: ’t is daar"),
            ("sv", '"Titta", sa han', "”Titta”, sa han"),
        ):
            with self.subTest(text):
                self.assertEqual(made(text, language), wanted)

    def test_a_mark_after_a_digit_that_closes_nothing_is_a_prime(self) -> None:
        self.assertEqual(made("a 15\" mirror in a 6' tube"), "a 15″ mirror in a 6′ tube")
        self.assertEqual(made('he wrote "since 1999" there'), "he wrote “since 1999” there")

    def test_what_is_left_out_of_a_word_is_an_apostrophe(self) -> None:
        self.assertEqual(made("rock 'n' roll of the '90s, 'tis said"), "rock ’n’ roll of the ’90s, ’tis said")

    def test_one_stands_inside_another_and_in_brackets(self) -> None:
        self.assertEqual(made('"nested \'inner\' mark" ("so")'), "“nested ‘inner’ mark” (“so”)")

    def test_a_language_that_is_not_known_keeps_its_marks(self) -> None:
        self.assertEqual(made('"x"', "xx"), '"x"')

    @given(st.lists(st.text(alphabet="ab1 \"'-(.", max_size=8), max_size=6), st.sampled_from(["en", "de", "fr", "xx"]))
    def test_where_a_text_is_parted_changes_nothing(self, pieces: list[str], language: str) -> None:
        together = typographic(["".join(pieces)], language)
        apart = typographic(pieces, language)
        self.assertEqual(("".join(apart), len(apart)), ("".join(together), len(pieces)))


class InABody(Steps):
    def test_a_mark_knows_what_stands_around_it_in_other_elements(self) -> None:
        step = {"kind": "tidy", "quotes": True}
        for body, wanted in (
            ('<p>She said "<em>yes</em>", twice.</p>', "<p>She said “<em>yes</em>”, twice.</p>"),
            ('<p>"One</p><p>Two"</p>', "<p>“One</p><p>Two”</p>"),
            ("<p>the <b>dome</b>'s roof</p>", "<p>the <b>dome</b>’s roof</p>"),
            ('<p>run <code>x="1"</code> "now"</p>', '<p>run <code>x="1"</code> “now”</p>'),
        ):
            with self.subTest(body):
                self.assertEqual(self.body("", step, item=captured(body=body, language="en")), wanted)
