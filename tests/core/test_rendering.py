"""Our quick way through a template, held to what the library makes of the same template."""

import unittest
from typing import Any

from glyptarch_core.errors import TemplateError
from glyptarch_core.shape import templates
from glyptarch_core.shape.rendering import QuickTemplate
from glyptarch_core.shape.templates import compile_template
from hypothesis import given
from hypothesis import strategies as st
from liquid import BoundTemplate, Environment
from liquid.builtin.content import Literal
from liquid.builtin.output import Output
from liquid.builtin.tags.if_tag import IfTag
from liquid.exceptions import LiquidError
from markupsafe import Markup

_NAMES = ("title", "words", "lead.url", "lead", "facts.price", "facts", "authors", "missing", "missing.deep", "rich")
_NUMBERS = ("0", "3", "-2", "2.5", "40")
_FILTERS = (
    "upcase",
    "size",
    "escape",
    "append: '<b>'",
    "default: 'none'",
    "first",
    "plus: 1",
    "strip_html",
    "join",
    "divided_by: 0",
    "abs",
    "sum",
)
_VALUES: tuple[Any, ...] = (
    "",
    "<i>Ölmütz</i> & so on",
    Markup("<b>x</b>"),
    None,
    True,
    False,
    0,
    3,
    2.5,
    [],
    ["a", "<"],
)

_values = st.sampled_from(_VALUES)
_given = st.fixed_dictionaries(
    {
        "title": _values,
        "words": _values,
        "rich": _values,
        "authors": _values,
        "lead": st.one_of(_values, st.fixed_dictionaries({"url": _values})),
        "facts": st.dictionaries(st.sampled_from(["price", "size", "first"]), _values, max_size=2),
    }
)
_name = st.sampled_from(_NAMES)
_asked = st.builds(
    lambda name, filters: " | ".join([name, *filters]), _name, st.lists(st.sampled_from(_FILTERS), max_size=2)
)
_output = _asked.map(lambda asked: f"{{{{ {asked} }}}}")
_comparison = st.builds(
    lambda name, sign, other: f"{name} {sign} {other}",
    _name,
    st.sampled_from(["<", ">", "==", "<=", "contains"]),
    st.one_of(st.sampled_from(_NUMBERS), _name),
)
_condition = st.one_of(_name, _comparison, st.builds("{} and {}".format, _name, _comparison))
_texts = st.sampled_from(
    ["<p>", " ", "\n", "ä & b", "{% assign words = 7 %}", "{% capture title %}<u>{% endcapture %}"]
)


def _around(inner: st.SearchStrategy[str]) -> st.SearchStrategy[str]:
    block = st.lists(inner, max_size=3).map("".join)
    return st.one_of(
        st.builds("{{% if {} %}}{}{{% endif %}}".format, _condition, block),
        st.builds("{{% if {} %}}{}{{% else %}}{}{{% endif %}}".format, _condition, block, block),
        st.builds("{{% if {} %}}{}{{% elsif {} %}}{}{{% endif %}}".format, _condition, block, _condition, block),
        st.builds("{{% for one in {} %}}{}{{{{ one }}}}{{% break %}}{{% endfor %}}".format, _name, block),
    )


_templates = st.lists(st.recursive(st.one_of(_texts, _output), _around, max_leaves=8), max_size=6).map("".join)


class _Library(templates._Limited):
    """The same limits and filters, with the parts of the library itself."""

    template_class = BoundTemplate

    def setup_tags_and_filters(self, *, extra: bool = False) -> None:
        super().setup_tags_and_filters(extra=extra)
        for tag in (Literal, Output, IfTag):
            self.add_tag(tag)


def _rendered(environment: Environment, source: str, values: dict[str, Any]) -> str:
    templates._work.left = templates._MOST_WORK
    try:
        return environment.from_string(source).render(**values)
    except LiquidError as fault:
        return f"{type(fault).__name__}: {fault.args[0]} at {fault.context()}"
    except Exception as fault:  # noqa: BLE001 - to be compared
        # Liquid lets some internal errors through.
        return f"{type(fault).__name__}: {fault}"


class QuickRendering(unittest.TestCase):
    def test_it_says_what_the_library_says_of_every_kind_of_value(self) -> None:
        asked = ["words", *(f"words {sign} {number}" for sign in "<>" for number in _NUMBERS)]
        sources = [f"{{% if {condition} %}}yes{{% else %}}no{{% endif %}}" for condition in asked]
        sources += ["{{ words }}", "{{ words.deep }}", *(f"{{{{ words | {name} }}}}" for name in _FILTERS)]
        for html in (True, False):
            quick, library = templates._Limited(autoescape=html), _Library(autoescape=html)
            for source in sources:
                for value in (*_VALUES, 40, {"deep": "x"}, object):
                    with self.subTest(source=source, value=value, html=html):
                        said = _rendered(library, source, {"words": value})
                        self.assertEqual(_rendered(quick, source, {"words": value}), said)

    @given(source=_templates, values=_given, html=st.booleans())
    def test_it_says_what_the_library_says(self, *, source: str, values: dict[str, Any], html: bool) -> None:
        quick, library = templates._Limited(autoescape=html), _Library(autoescape=html)
        self.assertIs(type(quick.from_string(source)), QuickTemplate)
        self.assertEqual(_rendered(quick, source, values), _rendered(library, source, values))

    def test_names_of_the_clock_stand_for_nothing(self) -> None:
        for source in ("{{ now }}", "{{ today }}", "{% if now %}x{% endif %}", "{{ now | date: '%Y' }}"):
            for html in (True, False):
                with self.subTest(source=source, html=html):
                    self.assertEqual(compile_template(source, html=html)({}), "")

    def test_a_fault_behind_a_plain_filter_is_named_with_its_place(self) -> None:
        with self.assertRaises(TemplateError) as caught:
            compile_template("a\n{{ many | uniq }}", html=True)({"many": list(range(30_000))})
        self.assertEqual(caught.exception.line, 2)

    def test_the_limit_of_the_output_holds_across_small_pieces(self) -> None:
        with self.assertRaises(TemplateError):
            compile_template("{% for a in many %}{% for b in many %}{{ long }}{% endfor %}{% endfor %}", html=False)(
                {"many": list(range(40)), "long": "x" * 2_000}
            )
