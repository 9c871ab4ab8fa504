"""Any document that loads can decide any items.

A document that would fail later is refused at loading.
"""

from collections.abc import Callable
from typing import Any

from django.test import SimpleTestCase
from glyptarch_core.campaign import CampaignDocument, load_document
from glyptarch_core.errors import DocumentError
from glyptarch_core.item import Media, MediaKind, MediaOrigin
from glyptarch_core.pipeline import decide
from glyptarch_core.ports import BlogContext, TableRow
from glyptarch_core.testing import NOON, FakeMemory, captured
from glyptarch_core.text import sanitise
from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st

SCHEMA = CampaignDocument.model_json_schema()
TEXTS = st.one_of(
    st.sampled_from(
        ["a", "comet", "comet*", "en", "club", "words", "other", "https://a.example/?x=1", "a.example", "{{ title }}",
         "{% if lead %}{{ lead.url }}{% endif %}", "{{ facts.price }}", "p", "//p[1]", "//a/@href", "*", "(a)(b)?",
         r"x\1", r"\2", "\\", '"a b" OR -c', "2026-11-20T00:00:00Z", "18,50", "<b>x", "<script>x</script>", "]]>"]
    ),
    st.text(max_size=6),
)  # fmt: skip
ITEMS = [
    captured(
        title="A comet (ab) at 9",
        body='<div>a comet<br><a href="https://a.example/">b</a><p>more <img src="https://a.example/1.png"></p></div>',
        categories=("Sky", "#comet"),
        authors=("Ida",),
        media=(Media(url="https://a.example/1-300x200.png", kind=MediaKind.PICTURE, origin=MediaOrigin.FEED),),
        facts={"price": 18.5, "rating": 4.0, "mount": "x"},
    ),
    captured("bare", title="", body="", link=""),
    captured("odd", title="\u202e<b>", body="<table><td>x<p>y</table>\x00<script>a()</script>", language="zz"),
]
CONTEXT = BlogContext(
    lists={"words": ("comet*",)}, tables={"words": (TableRow(what="comet", by="star", link="https://a.example/"),)}
)


def an_object(schema: dict[str, Any]) -> st.SearchStrategy[Any]:
    parts = {name: values(one) for name, one in schema.get("properties", {}).items()}
    required = set(schema.get("required", ())) | {"kind", "terms", "at_least"}
    return st.fixed_dictionaries(
        {name: one for name, one in parts.items() if name in required},
        optional={name: one for name, one in parts.items() if name not in required},
    )


SIMPLE: dict[str | None, Callable[[dict[str, Any]], st.SearchStrategy[Any]]] = {
    "object": an_object,
    "array": lambda schema: st.lists(values(schema["items"]), min_size=schema.get("minItems", 0), max_size=2),
    "integer": lambda schema: st.integers(schema.get("minimum", 0), min(schema.get("maximum", 50), 50)),
    "number": lambda _schema: st.sampled_from([0.5, 0.8, 1, 2.5]),
    "boolean": lambda _schema: st.booleans(),
    "null": lambda _schema: st.none(),
    "string": lambda schema: st.just("r1") if "a-z0-9-" in schema.get("pattern", "") else TEXTS,
    None: lambda _schema: TEXTS,
}


def values(schema: dict[str, Any]) -> st.SearchStrategy[Any]:
    """Return values of roughly the shape of a JSON Schema."""
    if "$ref" in schema:
        return st.deferred(lambda: values(SCHEMA["$defs"][schema["$ref"].rpartition("/")[2]]))
    several = schema.get("oneOf") or schema.get("anyOf")
    if several:
        return st.one_of([values(one) for one in several])
    if "const" in schema or "enum" in schema:
        return st.sampled_from(schema.get("enum") or [schema["const"]])
    return SIMPLE[schema.get("type")](schema)


class AnyDocument(SimpleTestCase):
    def decides(self, data: dict[str, Any]) -> None:
        try:
            document = load_document({"gather": {"sources": ["club"]}, **data})
        except DocumentError as error:
            self.assertTrue(all(fault.message for fault in error.faults))
            assume(False)  # noqa: FBT003 - hypothesis counts it as no example
        decisions = decide(ITEMS, document, memory=FakeMemory(), now=NOON, context=CONTEXT)
        self.assertEqual([decision.captured for decision in decisions], ITEMS)
        for decision in decisions:
            self.assertTrue(decision.trace)
            self.assertEqual(decision.draft is None, decision.left_at is not None)
            if decision.draft is not None:
                self.assertEqual(sanitise(decision.draft.body), decision.draft.body)

    def part(self, path: str) -> st.SearchStrategy[dict[str, Any]]:
        stage, name = path.split(".")
        kinds = SCHEMA["$defs"][SCHEMA["properties"][stage]["$ref"].rpartition("/")[2]]["properties"][name]
        return values(kinds["items"]).map(lambda entry: {stage: {name: [{**entry, "id": "r1"}]}})

    def test_any_rule_of_any_kind(self) -> None:
        for path in (
            "sift.rules", "match.rules", "shape.steps", "shape.fields", "place.category_rules", "place.tag_rules",
            "release.hold_when",
        ):  # fmt: skip
            with self.subTest(path):
                look = given(self.part(path))(self.decides)
                settings(max_examples=80, suppress_health_check=list(HealthCheck), deadline=None)(look)()

    def test_any_settings_of_a_stage(self) -> None:
        for stage in ("match", "shape", "place", "release"):
            with self.subTest(stage):
                whole = values(SCHEMA["properties"][stage]).map(lambda part, stage=stage: {stage: part})
                look = given(whole)(self.decides)
                settings(max_examples=40, suppress_health_check=list(HealthCheck), deadline=None)(look)()
