"""No item stops a pass: an error becomes the decision of its item."""

from typing import Any
from unittest.mock import patch

from django.test import SimpleTestCase
from glyptarch_core import campaign_pass, pipeline
from glyptarch_core.campaign import load_document
from glyptarch_core.errors import DocumentError, TemplateError
from glyptarch_core.pipeline import decide
from glyptarch_core.shape.base import Draftable
from glyptarch_core.shape.templates import _HTML, compile_template, variables
from glyptarch_core.testing import NOON, FakeMemory, captured
from glyptarch_core.text import pixels, plain_text, sanitise
from glyptarch_core.text.markup import fragment, serialise
from glyptarch_core.trace import Decision

STEPS = [
    {"id": "tidy", "kind": "tidy", "quotes": True},
    {"id": "pictures", "kind": "pictures", "smallest_width": 5, "box_width": 300, "describe": True},
    {"id": "select", "kind": "select", "selector": "p > b, .x"},
    {"id": "shorten", "kind": "shorten", "unit": "words", "count": 5},
]
RULES: dict[str, Any] = {"gather": {"sources": ["club"]}, "shape": {"steps": STEPS}, "release": {"mode": "publish"}}


def decided(*bodies: str) -> tuple[Decision, ...]:
    items = [captured(f"n{place}", body=body) for place, body in enumerate(bodies)]
    return decide(items, load_document(RULES), memory=FakeMemory(), now=NOON)


class AnItem(SimpleTestCase):
    def broken(self, where: str) -> tuple[Decision, ...]:
        """Decide three items, of which the second fails at one place."""
        real = getattr(campaign_pass.CampaignPass, where)

        def fails(this: Any, one: Any, *more: Any) -> Any:  # noqa: ANN401
            item = getattr(one, "captured", one).item
            if item.identity == "n1":
                raise ZeroDivisionError("oh no\x00")
            return real(this, one, *more)

        with patch.object(campaign_pass.CampaignPass, where, fails):
            return decided("<p>Words of the first.</p>", "<p>Words of one more.</p>", "<p>Some of a third.</p>")

    def test_that_fails_leaves_at_shape_with_what_went_wrong_and_the_others_are_decided(self) -> None:
        for where in ("before_match", "shape", "end"):
            with self.subTest(where):
                first, second, third = self.broken(where)
                self.assertEqual([first.verdict.value, third.verdict.value], ["publish", "publish"])
                assert second.reason is not None
                self.assertEqual((second.left_at, second.reason.code), ("shape", "shape.failed"))
                self.assertEqual(second.reason.data, {"error": "ZeroDivisionError", "message": "oh no"})

    def test_that_spoils_the_comparison_is_compared_alone(self) -> None:
        real = pipeline.recall

        def spoiled(batch: Any, **more: Any) -> Any:  # noqa: ANN401
            if any(one.item.identity == "n1" for _, one in batch):
                raise ValueError("odd")
            return real(batch, **more)

        def positional(batch: Any, settings: Any = None, **more: Any) -> Any:  # noqa: ANN401
            return spoiled(batch, settings=settings, **more)

        with patch.object(pipeline, "recall", positional):
            verdicts = [one.verdict.value for one in decided("<p>a b c.</p>", "<p>d e f.</p>", "<p>g h i.</p>")]
        self.assertEqual(verdicts, ["publish", "refused", "publish"])

    def test_is_not_blamed_for_a_memory_that_fails(self) -> None:
        class Absent(FakeMemory):
            def recall(self, keys: Any, reach: Any) -> Any:  # noqa: ANN401
                del keys, reach
                raise ConnectionError("the database is away")

        with self.assertRaisesRegex(ConnectionError, "away"):
            decide([captured()], load_document(RULES), memory=Absent(), now=NOON)

    def test_of_any_markup_is_decided_without_a_fault(self) -> None:
        bodies = (
            '<img src="a.png" width="²" height="99999999999999999999">',
            '<img src="a.png" width="' + "9" * 5000 + '">',
            '<p {...props} {{x}}="y">text</p><img src="a.png"{...props}',
            "<p>&#1;&#0;&#x110000;&#xD83D; text</p>",
            '<a href="http://[">x</a><a href="//[::1">y</a>',
            "<svg:rect xlink:href='x'><math><mi>x</mi></math>text",
            "<table><td><ul><li><p>text<plaintext>",
            "<select><option>a</option></select><template><p>b</p></template>text",
        )
        for decision in decided(*bodies):
            codes = [note.code for note in decision.trace]
            self.assertNotIn("shape.failed", codes, decision.captured.item.body[:60])


class Rules(SimpleTestCase):
    def test_that_cannot_be_used_are_faults_of_the_document(self) -> None:
        for selector in ("svg|rect", "//p[foo()]", "//x:p", "//p[$x]", "p:nth-child(", "//p["):
            with self.subTest(selector), self.assertRaisesRegex(DocumentError, "selector cannot be read"):
                load_document({"shape": {"steps": [{"id": "s", "kind": "select", "selector": selector}]}})
        for query in ("(" * 400 + "a" + ")" * 400, "-" * 900 + "a"):
            with self.subTest(query[:3]), self.assertRaisesRegex(DocumentError, "deep"):
                load_document({"sift": {"rules": [{"id": "q", "kind": "query", "query": query}]}})

    def test_numbers_of_pixels_are_sensible_or_none(self) -> None:
        wanted = {"30": 30, " 30px ": 30, "²": None, "٣": None, "9" * 5000: None, "-3": None, "": None, "3.5": None}
        self.assertEqual({text: pixels(text) for text in wanted}, wanted)


class Templates(SimpleTestCase):
    def setUp(self) -> None:
        item = captured(authors=("Ada",), categories=("a", "b"), facts={"price": 1.5, "k": "v"})
        self.values = variables(item, Draftable(title="T", body="<p>x</p>"), frozenset(), excerpt="e", lead=None)

    def render(self, source: str) -> str:
        return compile_template(source, html=True)(self.values)

    def test_raise_one_error_whatever_a_filter_is_given(self) -> None:
        given = ("title", "authors", "facts", "words", "nil", "true", "''", "-1", "'12:00'", "lead")
        for name in _HTML.filters:
            for value in given:
                for more in ("", ": 1", ": -1", ": 'a', 'b'", ": x", ": facts", ": 99999999999999999999"):
                    try:
                        self.render(f"{{{{ {value} | {name}{more} }}}}")
                    except TemplateError:
                        continue

    def test_raise_one_error_whatever_a_tag_is_given(self) -> None:
        for source in (
            "{% for a in authors limit:-1 %}{{ a }}{% endfor %}",
            "{% tablerow a in authors cols:authors %}{{ a }}{% endtablerow %}",
            "{% for a in authors offset:'x' %}{{ a }}{% endfor %}",
            "{{ title | sum }}",
            "{{ true | modulo: 1.5 }}",
            "{{ 'ÿ' | base64_decode }}",
            "{{ facts | compact: x }}",
        ):
            try:
                self.render(source)
            except TemplateError:
                continue

    def test_say_which_filter_could_do_nothing(self) -> None:
        with self.assertRaisesRegex(TemplateError, "filter 'sum'"):
            self.render("{{ title | sum }}")

    def test_have_no_clock(self) -> None:
        for text in ("now", "today", "12:00", "Nov", "Monday", "3 November", "2026", "tomorrow"):
            with self.subTest(text):
                try:
                    self.assertEqual(self.render(f"{{{{ '{text}' | date: '%Y' }}}}"), text)
                except TemplateError as error:
                    self.assertIn("whole date", str(error))
        self.assertEqual(self.render("{{ '2026-11-24' | date: '%d.%m.%Y' }}"), "24.11.2026")
        self.assertEqual(self.render("{{ published | date: '%d %B %Y' }}"), "24 November 2026")
        self.assertEqual(self.render("{{ 'Nov 24, 2026 13:05' | date: '%H:%M' }}"), "13:05")

    def test_are_charged_what_a_filter_costs(self) -> None:
        source = "{% assign words = body | split: '' %}" + "{% assign words = words | concat: words %}" * 11
        with self.assertRaises(TemplateError):
            compile_template(source + "{{ words | uniq | size }}", html=True)(
                {**self.values, "body": "abcdefghij" * 400}
            )


class Markup(SimpleTestCase):
    def test_braces_and_references_come_through_as_a_reader_sees_them(self) -> None:
        self.assertEqual(plain_text("<p>a {b} &#123;c&#125; &#9731;</p>"), "a {b} {c} ☃")
        self.assertEqual(serialise(fragment("<p title='{x}'>{y}</p>")), '<p title="{x}">{y}</p>')
        self.assertEqual(sanitise("<p>{{ not a template }}</p>"), "<p>{{ not a template }}</p>")
