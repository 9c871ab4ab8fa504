"""Rewording by a blog's own synonyms: forms, names, quotations, and how much."""

import itertools
import re
from typing import Any

from django.test import SimpleTestCase
from glyptarch_core.editions import Synonyms, read_synonym, same_runs
from glyptarch_core.item import Captured, Right
from glyptarch_core.ports import BlogContext, TableRow
from glyptarch_core.shape import ShapeSettings, compile_shape
from glyptarch_core.testing import captured
from glyptarch_core.text import sanitise
from glyptarch_core.text.quotations import quotations
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_rights import with_rights
from tests.core.test_text import HOSTILE

LINES = {
    "big": "large",
    "walk/walks/walked": "stroll/strolls/strolled",
    "fast": "quick",
    "bright": "shining",
    "large": "enormous",
    "look up": "raise their eyes",
}


def reworded(
    text: str, lines: dict[str, str] = LINES, *, language: str = "en", share: float = 1, seed: str = "s"
) -> str:
    synonyms = Synonyms([read_synonym(what, by) for what, by in lines.items()])
    for begin, end, new in reversed(synonyms.changes(text, language=language, seed=seed, share=share)):
        text = text[:begin] + new + text[end:]
    return text


class Words(SimpleTestCase):
    def test_forms_are_those_of_the_list_and_capitals_stay(self) -> None:
        self.assertEqual(reworded("She walked; he walks. Walk on!"), "She strolled; he strolls. Stroll on!")
        self.assertEqual(reworded("A bigger one, a walker and BIG news"), "A bigger one, a walker and BIG news")
        self.assertEqual(reworded("People look up here."), "People raise their eyes here.")

    def test_each_word_is_changed_once_at_most(self) -> None:
        self.assertEqual(reworded("It is big."), "It is large.")

    def test_names_stay(self) -> None:
        for text in (
            "We saw the Big Dipper.",
            "Great. Big Dipper is up.",
            "At Bright Hill it rained.",
            "the Fast Lane",
        ):
            self.assertEqual(reworded(text), text)

    def test_in_a_language_of_capital_nouns_the_list_says_how_they_are_written(self) -> None:
        lines = {"Himmel": "Firmament", "hell": "leuchtend"}
        self.assertEqual(
            reworded("Der Himmel ist hell. Hell scheint er bei Hell.", lines, language="de"),
            "Der Firmament ist leuchtend. Leuchtend scheint er bei Hell.",
        )

    def test_quotations_stay(self) -> None:
        for quoted in (
            "“big and fast”",
            "„big and fast“",
            "«big»",
            "»big«",
            "'big'",
            "‘big, isn’t it’",
            "「big」",
            '"big"',
        ):
            self.assertEqual(reworded(f"She said {quoted} and was fast."), f"She said {quoted} and was quick.")
        self.assertEqual(reworded("“A big night, the first of many."), "“A big night, the first of many.")
        self.assertEqual(reworded("It isn’t big, don’t walk."), "It isn’t large, don’t stroll.")
        self.assertEqual(reworded('A 6" lens is big.'), 'A 6" lens is large.')
        self.assertEqual(reworded('A 6" lens is "big" and “big”, yes big.'), 'A 6" lens is "big" and “big”, yes large.')
        self.assertEqual(reworded("so big», she said, big"), "so big», she said, large")

    def test_articles_fit(self) -> None:
        self.assertEqual(reworded("A large one, the large one"), "A large one, the enormous one")
        self.assertEqual(reworded("l’étoile et l’astre", {"étoile": "planète", "astre": "objet"}, language="fr"), "l’étoile et l’objet")  # fmt: skip
        self.assertEqual(reworded("a large one", {"large": "enormous | wide"}), "a wide one")

    def test_accents_are_letters(self) -> None:
        self.assertEqual(reworded("le côté, la cote", {"cote": "mesure"}, language="fr"), "le côté, la mesure")

    def test_other_scripts(self) -> None:
        self.assertEqual(reworded("Большой дом", {"большой": "огромный"}, language="ru"), "Огромный дом")
        self.assertEqual(reworded("彗星很亮。", {"亮": "明亮"}, language="zh"), "彗星很明亮。")
        self.assertEqual(reworded("السماء كبيرة", {"كبيرة": "واسعة"}, language="ar"), "السماء واسعة")

    def test_no_more_than_the_share_changes_and_the_same_each_time(self) -> None:
        text = "big fast bright large " * 25
        once = reworded(text, share=0.2)
        changed = sum(one != other for one, other in zip(text.split(), once.split(), strict=True))
        self.assertEqual(changed, 20)
        self.assertEqual(once, reworded(text, share=0.2))
        self.assertNotEqual(once, reworded(text, share=0.2, seed="another item"))

    def test_lines_with_other_numbers_of_forms_are_refused(self) -> None:
        with self.assertRaisesRegex(ValueError, "3 forms and “stroll” 1"):
            read_synonym("walk/walks/walked", "stroll")
        for what, by in (("", "x"), ("x", ""), ("/", "x"), ("x", " | ")):
            with self.assertRaises(ValueError):
                read_synonym(what, by)

    @given(st.text(alphabet=st.sampled_from("bigfast walk “”\"'«».!? Bé\n\u0301的"), max_size=60))
    def test_of_any_text_only_listed_words_change(self, text: str) -> None:
        after = reworded(text)
        for new in LINES.values():
            after = re.sub("|".join(sorted(new.split("/"), key=len, reverse=True)), "", after, flags=re.IGNORECASE)
        gone = re.sub("big|fast|walk(s|ed)?", "", text, flags=re.IGNORECASE)
        self.assertLessEqual(len(re.sub("big|fast|walk(s|ed)?", "", after, flags=re.IGNORECASE)), len(gone))

    @given(st.text(max_size=200))
    def test_quotations_of_any_text_are_in_order_and_apart(self, text: str) -> None:
        spans = quotations(text)
        self.assertTrue(all(begin < end <= len(text) for begin, end in spans))
        self.assertTrue(all(one[1] <= other[0] for one, other in itertools.pairwise(spans)))

    def test_the_share_of_runs_that_are_still_the_same(self) -> None:
        self.assertEqual(same_runs("one two three four", "one two three four"), 1)
        self.assertEqual(same_runs("one two three four", "one two 3 four"), 0)
        self.assertEqual(same_runs("one two three four five", "zero two three four five"), 2 / 3)
        self.assertEqual(same_runs("", ""), 1)


class AsAStep(SimpleTestCase):
    context = BlogContext(
        language="en",
        tables={
            "synonyms": (*tuple(TableRow(what=what, by=by) for what, by in LINES.items()), TableRow(what="a/b", by="c"))
        },
    )

    def shaped(self, item: Captured, **step: Any) -> Any:  # noqa: ANN401
        settings = ShapeSettings.model_validate(
            {"steps": [{"id": "r", "kind": "reword", "tables": ["synonyms"], "percent": 100, **step}]}
        )
        return compile_shape(settings, self.context)(item, item.item.body)

    def test_markup_links_headings_and_quoted_elements_stay(self) -> None:
        body = (
            '<h2>A big day</h2><p>It is <em>big</em> and <a href="https://a.example/">big</a>, so <b>fast</b>.</p>'
            "<blockquote><p>big</p></blockquote><pre>big</pre><p>He said “big <em>fast</em> big”.</p>"
        )
        wanted = body.replace("<em>big</em> and", "<em>large</em> and").replace("<b>fast</b>", "<b>quick</b>")
        shaped = self.shaped(captured(body=body))
        self.assertEqual(shaped.body, wanted)
        note = next(note for note in shaped.notes if note.rule == "r")
        self.assertEqual((note.code, note.data["replaced"]), ("step.reword", ["big → large", "fast → quick"]))
        self.assertLess(note.data["same"], 100)
        self.assertIn("“a/b” has 2 forms", note.data["unread"][0])
        self.assertIn("A large day", self.shaped(captured(body=body), headings=True).body)

    def test_a_template_can_say_that_it_was_reworded(self) -> None:
        body = "{{ body }}{% if reworded %}<p>Reworded by the club.</p>{% endif %}"
        for text, says in (("<p>It is big.</p>", True), ("<p>It is small.</p>", False)):
            settings = ShapeSettings.model_validate(
                {"steps": [{"id": "r", "kind": "reword", "tables": ["synonyms"], "percent": 100}], "body": body}
            )
            shaped = compile_shape(settings, self.context)(captured(body=text), text)
            self.assertEqual("Reworded by the club" in shaped.body, says)

    def test_words_over_two_elements_stay_and_are_not_told(self) -> None:
        body = "<p>People look <em>up</em> here, it is big.</p>"
        shaped = self.shaped(captured(body=body))
        self.assertEqual(shaped.body, body.replace("big", "large"))
        self.assertEqual(next(note for note in shaped.notes if note.rule == "r").data["replaced"], ["big → large"])

    def test_titles_where_they_are_asked_for(self) -> None:
        item = captured(title="A big night", body="<p>big</p>")
        self.assertEqual([(made.title, made.body) for made in (self.shaped(item), self.shaped(item, where="title"), self.shaped(item, where="both"))], [("A big night", "<p>large</p>"), ("A large night", "<p>big</p>"), ("A large night", "<p>large</p>")])  # fmt: skip

    def test_what_may_only_be_linked_is_not_reworded(self) -> None:
        item = with_rights(captured(body="<p>It is big.</p>"), right=Right.LINK)
        note = next(note for note in self.shaped(item).notes if note.rule == "r")
        self.assertEqual(note.code, "step.spared")

    def test_an_excerpt_gets_no_longer_by_it(self) -> None:
        item = with_rights(
            captured(body=f"<p>{'It is a big and fast night. ' * 30}</p>"), right=Right.EXCERPT, words=20
        )
        self.assertLessEqual(len(re.sub("<[^>]+>", " ", self.shaped(item).body).split()), 22)

    def test_a_hostile_body_stays_harmless(self) -> None:
        for hostile in HOSTILE:
            item = captured(body=f"<div>big {hostile} big</div>")
            body = self.shaped(item).body
            self.assertEqual(sanitise(body), body)
            self.assertIn("large", body)
