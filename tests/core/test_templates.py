"""Templates, custom fields, lead pictures, layouts, tables of terms."""

from typing import Any

from django.test import SimpleTestCase
from glyptarch_core.draft import Draft
from glyptarch_core.errors import DocumentError
from glyptarch_core.item import Captured, Media, MediaKind, MediaOrigin
from glyptarch_core.pipeline import decide
from glyptarch_core.ports import BlogContext, TableRow
from glyptarch_core.shape import LAYOUTS, ShapeSettings, never_filled, unknown_variables
from glyptarch_core.testing import NOON, FakeMemory, captured
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_stages import document, one


def picture(name: str, origin: MediaOrigin = MediaOrigin.TEXT, **more: Any) -> Media:  # noqa: ANN401
    return Media(url=f"https://club.example/{name}.png", kind=MediaKind.PICTURE, origin=origin, **more)


def shaped(item: Captured, context: BlogContext | None = None, **shape: Any) -> Draft:  # noqa: ANN401
    decision = decide([item], document(shape=shape), memory=FakeMemory(), now=NOON, context=context)[0]
    assert decision.draft is not None, decision.reason
    return decision.draft


class Templates(SimpleTestCase):
    def test_what_has_parts_has_no_text_and_the_fault_says_what_to_write(self) -> None:
        for body, says in (
            ("{{ source }}", "{{ source.title }}"),
            ("{{ facts }}", "{{ facts.price }}"),
            ("{% assign x = source %}{{ x }}", "{{ source.title }}"),
        ):
            with self.subTest(body):
                item = captured(facts={"price": 4.0})
                decision = decide([item], document(shape={"body": body}), memory=FakeMemory(), now=NOON)[0]
                assert decision.reason is not None
                self.assertEqual(decision.reason.code, "shape.template_failed")
                self.assertIn(says, str(decision.reason.data["message"]))

    def test_parts_are_written_and_asked_for_as_ever(self) -> None:
        item = captured(facts={"price": 289.0, "weight": 1.5})
        body = "<p>{{ source.title }}: {{ facts.price }}, {{ facts['weight'] }}{% if facts %}!{% endif %}</p>"
        self.assertEqual(shaped(item, body=body).body, "<p>The club: 289, 1.5!</p>")

    def test_a_price_is_written_as_one_and_stays_a_number(self) -> None:
        for price, written in ((18.5, "18.50"), (289.0, "289"), (0.125, "0.125"), (1e-7, "1e-07")):
            with self.subTest(price):
                self.assertEqual(shaped(captured(facts={"price": price}), body="{{ facts.price }}").body, written)
        body = "{% if facts.price > 18 and facts.price < 19 %}{{ facts.price | times: 2 }}{% endif %}"
        self.assertEqual(shaped(captured(facts={"price": 18.5}), body=body).body, "37.0")

    def test_excerpt_address_and_description_have_templates_of_their_own(self) -> None:
        draft = shaped(
            captured(title="Long night"),
            excerpt_text="Seen: {{ title }}",
            address="{{ title }} {{ words }}",
            description="{{ excerpt }} at {{ source.title }}",
        )
        self.assertEqual(draft.excerpt, "Seen: Long night")
        self.assertEqual((draft.address, draft.description), ("Long night 10", "Seen: Long night at The club"))

    def test_a_fault_names_line_and_column(self) -> None:
        with self.assertRaisesRegex(DocumentError, r"line 2, column 14: unknown filter"):
            document(shape={"title": "one\n  {{ title | nofilter }}"})

    def test_what_a_source_never_fills_is_found_by_source_and_template(self) -> None:
        settings = ShapeSettings.model_validate(
            {"title": "{{ author }}: {{ title }}", "body": "{% if facts.price %}{{ facts.price }}{% endif %}{{ body }}"}
        )
        items = [captured("a", authors=("Ada",), facts={"price": 3.0}), captured("b", source="wire")]
        self.assertEqual(never_filled(settings, items), {"wire": {"author": ["title"], "facts.price": ["body"]}})

    def test_a_variable_that_exists_nowhere_is_named(self) -> None:
        fields = [{"id": "f", "name": "scope", "value": "x"}]
        settings = ShapeSettings.model_validate(
            {"title": "{{ titel }} {{ fields.scope }} {{ lead.url }}", "fields": fields}
        )
        self.assertEqual(unknown_variables(settings), {"titel": ["title"]})

    def test_variables_made_in_the_template_are_no_question_to_the_source(self) -> None:
        settings = ShapeSettings.model_validate(
            {"body": "{% for x in authors %}{{ x }}{% endfor %}{% assign y = 1 %}{{ y }}"}
        )
        self.assertEqual(unknown_variables(settings), {})

    def test_a_template_is_stopped_before_it_does_too_much(self) -> None:
        doubling = "{% assign a = 'aaaaaaaaaa' %}" + "{% assign a = a | replace: 'a', 'aa' %}" * 40 + "{{ a | size }}"
        cases = {
            "loops": "{% for a in (1..3000) %}x{% endfor %}",
            "nested loops": "{% for a in (1..60) %}{% for b in (1..60) %}x{% endfor %}{% endfor %}",
            "filters that double": doubling,
            "a range made whole": "{{ (1..90000000) | join: ',' }}",
            "one large step": "{% assign a = body | replace: 'a', body %}{{ a | size }}",
            "many steps": "{% for a in (1..1900) %}{% assign b = body | upcase | downcase %}{% endfor %}",
        }
        item = captured(body=f"<p>{'a' * 12_000}</p>")
        for name, template in cases.items():
            with self.subTest(name):
                decision = one(item, shape={"body": template})
                self.assertEqual(decision.reason and decision.reason.code, "shape.template_failed")

    def test_a_template_does_not_know_what_time_it_is(self) -> None:
        for word in ("now", "today", " Now "):
            made = one(captured(body="<p>x</p>"), shape={"title": f'{{{{ "{word}" | date: "%Y" }}}}'})
            self.assertEqual(made.verdict.value, "refused")
            assert made.reason is not None
            self.assertEqual((made.reason.code, made.reason.data["line"]), ("shape.template_failed", 1))
            self.assertIn("names no whole date", str(made.reason.data["message"]))
        item = captured(body="<p>x</p>", published=NOON)
        draft = one(item, shape={"title": '{{ published | date: "%d.%m.%Y" }}'}).draft
        assert draft is not None
        self.assertEqual(draft.title, f"{NOON:%d.%m.%Y}")

    def test_a_template_reads_nothing_but_its_variables(self) -> None:
        for template in (
            "{{ title.__class__ }}", "{{ lead.__init__ }}", "{{ body.__globals__ }}", "{{ self }}", "{{ settings }}",
            "{{ source.rights }}", "{{ facts.__len__ }}", "{{ title.upper }}",
        ):  # fmt: skip
            self.assertEqual(shaped(captured(), body=f"<p>x</p>{template}").body, "<p>x</p>", template)
        for tag in ("include", "render"):
            with self.assertRaisesRegex(DocumentError, "no template “secret” to take in"):
                document(shape={"body": f"{{% {tag} 'secret' %}}"})

    @given(st.text(max_size=60))
    def test_any_text_is_a_template_or_a_fault_of_the_document(self, source: str) -> None:
        try:
            document(shape={"title": source})
        except DocumentError as error:
            self.assertEqual(error.faults[0].path.split(".")[:2], ["shape", "title"])


class Fields(SimpleTestCase):
    def fields(self, **values: tuple[str, str]) -> dict[str, Any]:
        results = [
            {"id": f"f{n}", "name": name, "type": kind, "value": text}
            for n, (name, (kind, text)) in enumerate(values.items())
        ]
        return {field.name: field.value for field in shaped(captured(facts={"price": 12.5}), fields=results).fields}

    def test_each_type_is_read_as_what_it_is(self) -> None:
        found = self.fields(
            a=("text", " {{ title }} "), b=("number", "1 234,5"), c=("yes_no", "YES"), d=("date", "2026-11-24"),
            e=("link", "https://x.example/a"), f=("rich_text", "<b>x</b><script>y</script>"), g=("number", "{{ facts.price }}"),
        )  # fmt: skip
        self.assertEqual(
            found,
            {"a": "Story one of the night", "b": 1234.5, "c": True, "d": "2026-11-24", "e": "https://x.example/a",
             "f": "<b>x</b>", "g": 12.5},
        )  # fmt: skip

    def test_what_cannot_be_read_is_left_out_and_named(self) -> None:
        results = [
            {"id": "f", "name": "when", "type": "date", "value": "soon"},
            {"id": "g", "name": "none", "value": ""},
        ]
        decision = one(captured(), shape={"fields": results})
        note = next(note for note in decision.trace if note.code == "fields.unread")
        self.assertEqual(note.data["unread"], [{"name": "when", "text": "soon"}])
        self.assertEqual(decision.draft and decision.draft.fields, ())

    def test_templates_can_use_them(self) -> None:
        results = [{"id": "f", "name": "note", "type": "rich_text", "value": "<em>{{ title }}</em>"}]
        draft = shaped(captured(title="A & B"), fields=results, body="{{ fields.note }}", title="{{ title }}!")
        self.assertEqual((draft.body, draft.title), ("<em>A &amp; B</em>", "A & B!"))

    def test_a_name_stands_once(self) -> None:
        results = [{"id": "f", "name": "a"}, {"id": "g", "name": "a"}]
        with self.assertRaisesRegex(DocumentError, "named “a”"):
            document(shape={"fields": results})


class Leads(SimpleTestCase):
    def lead(self, *media: Media, **lead: Any) -> str:  # noqa: ANN401
        found = shaped(captured(media=media), lead=lead).lead
        return found.url.rpartition("/")[2] if found else ""

    def test_small_pictures_do_not_count(self) -> None:
        small, large = picture("small", width=200, height=150), picture("large", width=900, height=600)
        self.assertEqual(self.lead(small, large, least_width=400, least_height=300), "large.png")
        self.assertEqual(self.lead(small, least_width=400), "")

    def test_pictures_of_unknown_size_count_unless_said_otherwise(self) -> None:
        self.assertEqual(self.lead(picture("odd"), least_width=400), "odd.png")
        self.assertEqual(self.lead(picture("odd"), least_width=400, unknown_size_counts=False), "")
        self.assertEqual(self.lead(picture("odd"), unknown_size_counts=False), "odd.png")

    def test_the_page_and_the_house_have_their_place_in_the_order(self) -> None:
        page = picture("page", MediaOrigin.PAGE)
        pictures = [{"url": f"https://house.example/{n}.png", "alt": "Night"} for n in range(3)]
        self.assertEqual(self.lead(picture("text"), page, order=["page", "text"]), "page.png")
        self.assertEqual(self.lead(order=["feed", "blog"], pictures=[]), "")
        first = self.lead(order=["feed", "blog"], pictures=pictures)
        self.assertEqual(first, self.lead(order=["feed", "blog"], pictures=pictures))
        self.assertIn(first, {"0.png", "1.png", "2.png"})


class Layouts(SimpleTestCase):
    item = captured(
        media=(picture("a", MediaOrigin.FEED), Media(url="https://x.example/f.mp4", kind=MediaKind.FILM, origin=MediaOrigin.ENCLOSURE)),
        facts={"price": 9.5},
    )  # fmt: skip

    def test_each_is_a_template_that_keeps_what_it_sets(self) -> None:
        for layout in LAYOUTS:
            with self.subTest(layout.key):
                body = shaped(self.item, body=layout.body).body
                self.assertTrue(body)
                for word in ("figure", "video", "blockquote"):
                    self.assertEqual(f"<{word}" in layout.body, f"<{word}" in body)

    def test_the_place_of_a_figure_survives_sanitising_and_no_other_class_does(self) -> None:
        body = shaped(
            captured(), body='<figure class="left">x</figure><figure class="evil left">y</figure><p class="left">z</p>'
        ).body
        self.assertEqual(body, '<figure class="left">x</figure><figure class="left">y</figure><p>z</p>')


class Tables(SimpleTestCase):
    context = BlogContext(
        lists={"lost": ("originally posted",)},
        tables={
            "names": (TableRow(what="scope", by="telescope"), TableRow(what="dome", link="https://house.example/dome"))
        },
    )

    def test_every_line_is_a_replacement_and_links_keep_the_word(self) -> None:
        item = captured(body="<p>A scope in the Dome, a scope.</p>")
        step = {"id": "t", "kind": "table", "tables": ["names"], "first": 1}
        body = shaped(item, self.context, steps=[step]).body
        self.assertEqual(body, '<p>A telescope in the <a href="https://house.example/dome">dome</a>, a scope.</p>')

    def test_a_table_that_is_gone_changes_nothing(self) -> None:
        step = {"id": "t", "kind": "table", "tables": ["none"]}
        self.assertEqual(shaped(captured(body="<p>x</p>"), self.context, steps=[step]).body, "<p>x</p>")

    def test_paragraphs_go_by_a_word_list_as_well(self) -> None:
        item = captured(body="<p>Story.</p><p>Originally posted at noon</p>")
        step = {"id": "d", "kind": "drop_paragraphs", "lists": ["lost"]}
        self.assertEqual(shaped(item, self.context, steps=[step]).body, "<p>Story.</p>")
