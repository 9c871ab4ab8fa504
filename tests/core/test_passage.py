"""Words, terms and where they are found."""

from django.test import SimpleTestCase
from glyptarch_core.text import Passage, Term, fold, title_key
from hypothesis import given
from hypothesis import strategies as st


def found(term: str, text: str) -> list[str]:
    return [text[hit.start : hit.end] for hit in Passage.of_text(text).find(Term.parse(term))]


class Terms(SimpleTestCase):
    def test_a_term_matches_whole_words_only(self) -> None:
        self.assertEqual(found("comet", "Comets and a comet"), ["comet"])

    def test_case_and_accents_do_not_matter(self) -> None:
        self.assertEqual(found("meteore", "MÉTÉORE"), ["MÉTÉORE"])
        self.assertEqual(found("Straße", "die STRASSE"), ["STRASSE"])

    def test_a_star_matches_the_start_of_a_word(self) -> None:
        self.assertEqual(found("comet*", "Comets, cometary, a comet, not acomet"), ["Comets", "cometary", "comet"])

    def test_a_phrase_matches_words_one_after_another_across_punctuation(self) -> None:
        self.assertEqual(found('"meteor shower"', "A meteor, shower; a meteor big shower"), ["meteor, shower"])

    def test_a_phrase_can_end_in_a_star(self) -> None:
        self.assertEqual(found("meteor shower*", "the meteor showers"), ["meteor showers"])

    def test_a_possessive_holds_the_word(self) -> None:
        self.assertEqual(found("club", "the club’s dome"), ["club"])

    def test_scripts_without_spaces_match_inside_a_run(self) -> None:
        self.assertEqual(found("彗星", "昨夜の彗星観測"), ["彗星"])
        self.assertEqual(found("星が", "彗星が"), ["星が"])

    def test_a_term_without_a_word_is_refused(self) -> None:
        with self.assertRaisesRegex(ValueError, "no word"):
            Term.parse(" *** ")

    def test_a_phrase_at_the_end_of_a_text_does_not_run_over_it(self) -> None:
        self.assertEqual(found("big comet tail", "a big comet"), [])

    @given(st.text(max_size=60))
    def test_every_word_of_a_text_is_found_where_it_stands(self, text: str) -> None:
        passage = Passage.of_text(text)
        for word in set(passage.words):
            for hit in passage.find(Term(text=word, words=((word, False),))):
                self.assertEqual(title_key(text[hit.start : hit.end]), word)

    @given(st.text(max_size=20))
    def test_folding_twice_changes_nothing_more(self, word: str) -> None:
        self.assertEqual(fold(fold(word)), fold(word))


class Counting(SimpleTestCase):
    def test_an_apostrophe_does_not_make_two_words(self) -> None:
        self.assertEqual(Passage.of_text("It’s the club's dome").word_count, 4)

    def test_numbers_count_and_underscores_part(self) -> None:
        self.assertEqual(Passage.of_text("40 cm snake_case").words, ("40", "cm", "snake", "case"))

    def test_title_keys_forget_case_punctuation_and_spaces(self) -> None:
        self.assertEqual(title_key("  Fireball: over—the Hills! "), title_key("fireball over the hills"))

    @given(
        st.lists(st.sampled_from(["a", "b", "ab"]), max_size=12),
        st.lists(st.sampled_from(["a", "b"]), min_size=1, max_size=3),
    )
    def test_words_are_counted_even_where_one_run_begins_as_another_ends(
        self, words: list[str], run: list[str]
    ) -> None:
        standing = sum(words[place : place + len(run)] == run for place in range(len(words)))
        self.assertEqual(Passage(" ".join(words)).times(run), standing)
