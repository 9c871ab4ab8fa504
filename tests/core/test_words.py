"""Words for comparison: folded, in any script, stemmed.

And terms as people write them.
"""

import unicodedata

from django.test import SimpleTestCase
from glyptarch_core.pipeline import decide
from glyptarch_core.term_text import all_terms
from glyptarch_core.testing import NOON, FakeMemory, captured
from glyptarch_core.text import STEMMED, Passage, Term, count_words, fold, hashtags, title_key
from glyptarch_core.text.measure import first_words
from glyptarch_core.text.words import folded_words, spans_of, stem_of
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_stages import document


class Folding(SimpleTestCase):
    def test_case_accents_and_width_do_not_count(self) -> None:
        for word, folded in {
            "Éclair": "eclair", "ÅNGSTRÖM": "angstrom", "ﬁlm": "film", "Ｗｉｄｅ": "wide", "Σίσυφος": "σισυφοσ",
            "İstanbul": "istanbul", "Æther": "æther", "naïve": "naive", "Ⅷ": "viii",
        }.items():  # fmt: skip
            with self.subTest(word):
                self.assertEqual(fold(word), folded)

    @given(st.text(min_size=1, max_size=12))
    def test_composed_and_decomposed_forms_are_one(self, word: str) -> None:
        self.assertEqual(fold(unicodedata.normalize("NFC", word)), fold(unicodedata.normalize("NFD", word)))

    @given(st.text(max_size=40))
    def test_a_passage_gives_back_the_words_it_was_kept_with(self, text: str) -> None:
        passage = Passage(text)
        kept = Passage(text, folded=passage.folded)
        self.assertEqual(kept.words, passage.words)
        self.assertEqual(kept.word_count, passage.word_count)

    def test_words_are_parted_by_all_that_is_no_letter_digit_or_mark(self) -> None:
        self.assertEqual(folded_words("one-two_three, FOUR.5 (six)"), ["one", "two", "three", "four", "5", "six"])

    def test_scripts_without_spaces_give_their_characters(self) -> None:
        self.assertEqual(folded_words("彗星 and ดาว"), ["彗", "星", "and", "ด", "า", "ว"])

    def test_words_of_scripts_without_spaces_are_counted_by_dictionaries(self) -> None:
        for text, words in (
            ("每周通告", "每周|通告"),
            ("今週のお知らせ", "今週|の|お知らせ"),
            ("ประกาศประจำสัปดาห์", "ประกาศ|ประจำ|สัปดาห์"),
            ("ព័ត៌មានប្រចាំសប្តាហ៍", "ព័ត៌មាន|ប្រចាំ|សប្តាហ៍"),
            ("သတင်းစာမျက်နှာ", "သတင်းစာ|မျက်နှာ"),
            ("😀 𠀀彗星。comet's 3 nights", "𠀀|彗星|comet|s|3|nights"),
        ):
            with self.subTest(text):
                self.assertEqual("|".join(text[start:end] for start, end in spans_of(text)), words)
        self.assertEqual(count_words("彗星在comet's老磨坊"), 5)
        self.assertEqual(Passage("彗星在comet's老磨坊").word_count, 5)
        self.assertEqual(first_words("每周通告：彗星出现", 2), "每周通告：…")

    def test_marks_stay_with_their_letters(self) -> None:
        self.assertEqual(len(folded_words("שָׁלוֹם עֲלֵיכֶם")), 2)
        self.assertEqual(len(folded_words("e\u0301clair")), 1)

    def test_a_title_is_its_words(self) -> None:
        self.assertEqual(title_key(" “The Fireball” — again! "), "the fireball again")
        self.assertEqual(title_key("…"), "")


class Stems(SimpleTestCase):
    def test_every_form_of_a_word_has_one_stem(self) -> None:
        for language, forms in {
            "en": ("meteor", "meteors"), "de": ("planet", "planeten"), "fr": ("planete", "planetes"),
            "es": ("estrella", "estrellas"), "sv": ("stjarna", "stjarnor"),
        }.items():  # fmt: skip
            with self.subTest(language):
                self.assertEqual(len({stem_of(form, language) for form in forms}), 1)

    def test_a_language_without_a_stemmer_leaves_words_as_they_are(self) -> None:
        self.assertEqual(stem_of("comets", "xx"), "comets")

    @given(st.sampled_from(sorted(STEMMED)), st.text(alphabet="abcdefghijklmnopqrstuvwxyz", min_size=1, max_size=12))
    def test_a_stem_is_a_folded_word(self, language: str, word: str) -> None:
        self.assertEqual(fold(stem_of(word, language)), stem_of(word, language))

    def test_a_stemmed_term_is_found_in_its_other_forms_where_they_stand(self) -> None:
        passage = Passage("Shooting stars were shooting")
        term = Term.parse("shoot star", stem="en")
        self.assertTrue(passage.has(term))
        hits = [passage.text[hit.start : hit.end] for hit in passage.find(term)]
        self.assertEqual(hits, ["Shooting stars"])
        self.assertEqual(passage.first(Term.parse("shoot", stem="en"))[1], 2)


class TermsAsWritten(SimpleTestCase):
    def test_quotes_around_a_phrase_mean_nothing_more(self) -> None:
        for written in ('"dark sky"', "“dark sky”", " dark sky "):
            self.assertEqual(Term.parse(written).words, (("dark", False), ("sky", False)))
            self.assertEqual(Term.parse(written).text, "dark sky")

    def test_a_star_can_stand_after_any_word(self) -> None:
        term = Term.parse("dark* sky*")
        self.assertEqual(term.words, (("dark", True), ("sky", True)))
        self.assertIsNone(term.run)
        self.assertTrue(Passage("a darker skyline").has(term))
        self.assertFalse(Passage("a darker blue sky").has(term))

    def test_a_run_ends_with_a_space_unless_more_letters_may_follow(self) -> None:
        self.assertEqual(Term.parse("dark sky").run, " dark sky ")
        self.assertEqual(Term.parse("dark sky*").run, " dark sky")

    def test_the_first_place_and_the_number_are_found_without_all_places(self) -> None:
        passage = Passage("A comet, a comet and no comets")
        hit, times = passage.first(Term.parse("comet"))
        assert hit is not None
        self.assertEqual((passage.text[hit.start : hit.end], hit.start, times), ("comet", 2, 2))
        self.assertEqual(passage.first(Term.parse("comet*"))[1], 3)
        self.assertEqual(passage.first(Term.parse("nova")), (None, 0))

    @given(
        st.lists(st.sampled_from(["a", "ab", "abc", "b", "Ä"]), max_size=10),
        st.lists(st.sampled_from(["a", "ab", "b", "ä"]), min_size=1, max_size=2), st.sampled_from(["", "*"]),
    )  # fmt: skip
    def test_to_have_a_term_is_to_find_it_somewhere(self, words: list[str], wanted: list[str], star: str) -> None:
        term = Term.parse(" ".join(wanted) + star)
        places = [(hit.start, hit.end) for hit in Passage(" ".join(words)).find(term)]
        hit, times = Passage(" ".join(words)).first(term)
        self.assertEqual(Passage(" ".join(words)).has(term), bool(places))
        self.assertEqual((times, (hit.start, hit.end) if hit else None), (len(places), min(places, default=None)))

    def test_terms_of_lists_come_after_those_given_each_once(self) -> None:
        lists = {"bad": ("horoscope", "renewals"), "more": ("renewals", "minutes")}
        self.assertEqual(
            all_terms(("minutes", "notice"), ("bad", "gone", "more"), lists),
            ["minutes", "notice", "horoscope", "renewals"],
        )


class Emoji(SimpleTestCase):
    """A term can be one emoji or several.

    Variation selectors (U+FE0F) are ignored.
    """

    def test_they_are_found_where_they_stand(self) -> None:
        passage = Passage.of_text("Comet ☄️ over the ridge ☄ tonight 👩🏽‍🚀!")
        self.assertEqual([passage.text[hit.start : hit.end] for hit in passage.find(Term.parse("☄️"))], ["☄️", "☄"])
        self.assertEqual(passage.first(Term.parse("☄"))[1], 2)
        for sign, there in (("👩🏽‍🚀", True), ("☄", True), ("🌙", False), ("☄ 🌙", False)):
            self.assertIs(passage.has(Term.parse(sign)), there, sign)

    def test_beside_words_they_do_not_count(self) -> None:
        self.assertTrue(Passage.of_text("A comet tonight").has(Term.parse("comet ☄️")))

    def test_other_signs_are_no_terms(self) -> None:
        for text in ("!!!", "…", "\ufe0f", "\u200d", "«»"):
            with self.assertRaisesRegex(ValueError, "no word"):
                Term.parse(text)

    def test_rules_and_steps_take_them(self) -> None:
        item = captured(title="Sale 🔥 of telescopes", body="<p>A dome.</p><p>Buy now 🔥</p>")
        rules = {"rules": [{"id": "t", "kind": "terms", "mode": "none", "terms": ["🔥"]}]}
        self.assertEqual(decide([item], document(sift=rules), memory=FakeMemory(), now=NOON)[0].left_at, "sift")
        steps = {"steps": [{"id": "d", "kind": "drop_paragraphs", "terms": ["🔥"]}]}
        draft = decide([item], document(shape=steps), memory=FakeMemory(), now=NOON)[0].draft
        self.assertEqual(draft and draft.body, "<p>A dome.</p>")
        query = {"rules": [{"id": "q", "kind": "query", "query": "telescopes -🔥"}]}
        self.assertEqual(decide([item], document(sift=query), memory=FakeMemory(), now=NOON)[0].left_at, "sift")


class Scripts(SimpleTestCase):
    """Words stay whole and distinct in any script."""

    def found(self, term: str, text: str) -> bool:
        return Passage.of_text(text).has(Term.parse(term))

    def test_letters_with_signs_are_names_of_their_own(self) -> None:
        for term in ("C", "C++", "C#"):
            self.assertEqual(
                [self.found(term, f"We write {other} here.") for other in ("C", "C++", "C#")],
                [term == other for other in ("C", "C++", "C#")],
            )
        self.assertTrue(self.found("plan", "plan B++ or #plan"))

    def test_a_soft_hyphen_parts_nothing(self) -> None:
        self.assertTrue(self.found("telescope", "a tele\u00adscope of ours"))
        self.assertEqual(Passage.of_text("tele\u00adscope").word_count, 1)

    def test_vowel_signs_are_letters(self) -> None:
        for word in ("தொலைநோக்கி", "দূরবীন", "టెలిస్కోప్", "દૂરબીન", "दूरबीन", "ദൂരദർശിനി", "ਦੂਰਬੀਨ", "ටෙලිස්කෝපය"):
            with self.subTest(word):
                self.assertEqual(Passage.of_text(f"{word} {word}").word_count, 2)
                self.assertTrue(self.found(word, f"x {word} y"))
        self.assertFalse(self.found("कल", "किला"))

    def test_the_voicing_of_kana_makes_another_letter(self) -> None:
        self.assertFalse(self.found("パス", "駅前のバスに乗る"))
        self.assertTrue(self.found("パス", "駅前のパスを買う"))

    def test_letters_fold_as_readers_expect(self) -> None:
        for one, other in (
            ("İSTANBUL", "istanbul"),
            ("Istanbul", "ıstanbul"),
            ("Søren", "soren"),
            ("Łódź", "lodz"),
            ("Đà", "da"),
            ("Straße", "STRASSE"),
        ):
            with self.subTest(one):
                self.assertTrue(self.found(one, other))

    def test_hashtags_stand_in_every_script_and_in_no_address(self) -> None:
        text = "#हिन्दी ＃天文 #夜空 #meteor https://x.example/#top page.html#part &#39; a#b"
        self.assertEqual(hashtags(text), ["हिन्दी", "天文", "夜空", "meteor"])
