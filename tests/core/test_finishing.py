"""Steps on texts that templates have made, in chains with before and after."""

from typing import Any

from django.test import SimpleTestCase
from glyptarch_core.errors import DocumentError
from glyptarch_core.item import Captured, Right
from glyptarch_core.ports import BlogContext, TableRow
from glyptarch_core.shape import Shaped, ShapeSettings, around_step, compile_shape
from glyptarch_core.testing import captured
from glyptarch_core.text import count_words

from tests.core.test_rights import made, with_rights
from tests.core.test_stages import document

TEXT = "The comet was found on Monday. It moves north each night. Tea was served."
ITEM = captured(title="A comet above the mill", body=f"<p>{TEXT}</p>")


def shaped(*steps: dict[str, Any], item: Captured = ITEM, **parts: Any) -> Shaped:  # noqa: ANN401
    numbered = [{"id": f"s{number}", **step} for number, step in enumerate(steps)]
    settings = ShapeSettings.model_validate({"steps": numbered, **parts})
    return compile_shape(settings, BlogContext(language="en"))(item, item.item.body)


class Chains(SimpleTestCase):
    def test_the_order_of_the_steps_is_that_of_the_person(self) -> None:
        cut = {"kind": "shorten", "of": "excerpt", "unit": "sentences", "count": 1}
        added = {"kind": "standing", "of": "excerpt", "variants": ["Seen by {{ source.title }}."], "side": "before"}
        self.assertEqual(shaped(cut, added).excerpt, "Seen by The club.\nThe comet was found on Monday.")
        self.assertEqual(shaped(added, cut).excerpt, "Seen by The club.")

    def test_a_title_is_made_of_the_finished_excerpt(self) -> None:
        cut = {"kind": "shorten", "of": "excerpt", "unit": "words", "count": 3, "ellipsis": ""}
        loud = {"kind": "replace", "of": "title", "what": "comet", "by": "star"}
        self.assertEqual(shaped(cut, loud, title="{{ excerpt }}").title, "The star was")

    def test_the_body_and_the_other_texts_stay(self) -> None:
        step = {"kind": "replace", "of": "description", "what": "comet", "by": "star"}
        texts = shaped(step)
        self.assertIn("star", texts.description)
        for text in (texts.title, texts.excerpt, texts.body, texts.address):
            self.assertNotIn("star", text)

    def test_a_setting_for_parts_of_the_item_counts_for_nothing(self) -> None:
        step = {"kind": "replace", "of": "excerpt", "where": "title", "what": "comet", "by": "star"}
        texts = shaped(step)
        self.assertIn("star", texts.excerpt)
        self.assertNotIn("star", texts.title)

    def test_fields_are_read_after_their_steps(self) -> None:
        field = {"id": "f", "name": "weight", "type": "number", "value": "about {{ title }}"}
        step = {"kind": "replace", "of": "fields.weight", "find": "pattern", "what": r"^about (\d+).*", "by": r"\1"}
        item = captured(title="40 kilos of glass", body=f"<p>{TEXT}</p>")
        self.assertEqual([value.value for value in shaped(step, item=item, fields=[field]).fields], [40])

    def test_text_stays_text(self) -> None:
        item = captured(title='Up <b>& away</b> "now"', body=f"<p>{TEXT}</p>")
        step = {"kind": "replace", "of": "title", "what": "away", "by": "<i>off</i>"}
        self.assertEqual(shaped(step, item=item).title, 'Up <b>& <i>off</i></b> "now"')

    def test_a_template_can_say_that_an_excerpt_was_reworded(self) -> None:
        context = BlogContext(language="en", tables={"own": (TableRow(what="comet", by="star"),)})
        step = {"id": "r", "kind": "reword", "of": "excerpt", "tables": ["own"], "percent": 100}
        body = "<p>{{ excerpt }}</p>{% if reworded %}<p>Reworded.</p>{% endif %}"
        settings = ShapeSettings.model_validate({"steps": [step], "body": body})
        made_ = compile_shape(settings, context)(ITEM, ITEM.item.body)
        self.assertIn("The star was found", made_.body)
        self.assertIn("<p>Reworded.</p>", made_.body)

    def test_lines_of_an_excerpt_stay_lines(self) -> None:
        step = {"kind": "replace", "of": "excerpt", "what": "comet", "by": "star"}
        item = captured(body="<p>A comet rose.</p><p>It set.</p>")
        self.assertEqual(shaped(step, item=item).excerpt, "A star rose.\nIt set.")

    def test_each_step_says_what_it_did_to_which_text(self) -> None:
        cut = {"kind": "shorten", "of": "excerpt", "unit": "words", "count": 2, "ellipsis": ""}
        none = {"kind": "replace", "of": "title", "what": "nowhere", "by": "x"}
        notes = {note.rule: note for note in shaped(cut, none).notes if note.rule}
        self.assertEqual((notes["s0"].code, notes["s0"].data["of"], notes["s0"].data["after"]), ("step.shorten", "excerpt", "The comet"))  # fmt: skip
        self.assertTrue(str(notes["s0"].data["before"]).startswith("The comet was found"))
        self.assertEqual((notes["s1"].code, notes["s1"].data), ("step.nothing", {"of": "title"}))

    def test_what_is_off_or_has_no_text_does_nothing(self) -> None:
        off = {"kind": "replace", "of": "title", "what": "comet", "by": "star", "on": False}
        empty = {"kind": "standing", "of": "description", "variants": ["More."]}
        texts = shaped(off, empty, description="")
        self.assertEqual((texts.title, texts.description), ("A comet above the mill", ""))

    def test_before_and_after_a_step_are_the_text_that_it_works_on(self) -> None:
        steps = [
            {"id": "cut", "kind": "shorten", "of": "excerpt", "unit": "sentences", "count": 1},
            {"id": "star", "kind": "replace", "of": "excerpt", "what": "comet", "by": "star"},
            {"id": "body", "kind": "replace", "what": "tea", "by": "cocoa"},
        ]
        settings = ShapeSettings.model_validate({"steps": steps})
        before, after = around_step(settings, BlogContext(), ITEM, ITEM.item.body, "star")
        self.assertEqual((before.text, after.text), ("The comet was found on Monday.", "The star was found on Monday."))
        before, after = around_step(settings, BlogContext(), ITEM, ITEM.item.body, "body")
        self.assertIn("Tea", before.text)
        self.assertIn("cocoa", after.text)
        with self.assertRaises(LookupError):
            around_step(settings, BlogContext(), ITEM, ITEM.item.body, "none")

    def test_unknown_texts_and_fields_are_faults_of_the_document(self) -> None:
        for of, fault in (("fields.none", "“none”, which is not there"), ("picture", "must be written as")):
            with self.assertRaisesRegex(DocumentError, fault):
                document(shape={"steps": [{"id": "s", "kind": "shorten", "of": of}]})

    def test_other_kinds_work_on_the_body_alone(self) -> None:
        with self.assertRaises(DocumentError):
            document(shape={"steps": [{"id": "s", "kind": "tidy", "of": "title"}]})

    def test_rights_hold_over_what_the_steps_make(self) -> None:
        item = with_rights(captured(body=f"<p>{'A comet rose over the mill and the river. ' * 20}</p>"), right=Right.EXCERPT, words=12)  # fmt: skip
        steps = [{"id": "s", "kind": "replace", "of": "excerpt", "what": "comet", "by": "comet comet comet"}]
        draft = made(item, shape={"steps": steps, "excerpt": {"unit": "words", "count": 100}}).draft
        assert draft is not None
        self.assertLessEqual(count_words(draft.excerpt), 12 + 6)
