"""The kinds of filter rules as they describe themselves to the desk and the docs."""

import re
from pathlib import Path

from django.test import SimpleTestCase
from glyptarch_core.sift.description import Choice, Hours, Number, Text
from glyptarch_core.sift.registry import KINDS
from glyptarch_core.testing import captured

from tests.core.test_stages import one

_MANUAL = Path(__file__).resolve().parents[2] / "docs" / "rules.md"
_PLACE = re.compile(r"{(\w+)}")


class Kinds(SimpleTestCase):
    def test_a_new_rule_is_one_that_documents_take(self) -> None:
        for kind in KINDS:
            with self.subTest(kind.name):
                rule = kind.rule.model_validate({"id": "a", "kind": kind.name, **kind.start})
                self.assertEqual(rule.id, "a")

    def test_a_sentence_has_each_place_once_and_no_other(self) -> None:
        for kind in KINDS:
            with self.subTest(kind.name):
                self.assertEqual(sorted(_PLACE.findall(kind.sentence)), sorted(kind.places))
                self.assertLessEqual(set(kind.places), set(kind.rule.model_fields))

    def test_a_place_takes_all_that_the_settings_take_and_nothing_else(self) -> None:
        for kind in KINDS:
            for name, place in kind.places.items():
                with self.subTest(f"{kind.name}.{name}"):
                    for value, fits in _borders(place):
                        settings = {"id": "a", "kind": kind.name, **kind.start, name: value}
                        self.assertEqual(_is_valid(kind.rule, settings), fits, value)

    def test_the_manual_says_of_each_kind_what_the_kind_says(self) -> None:
        rows = [f"| `{kind.name}` | {kind.manual} |" for kind in KINDS]
        self.assertIn("\n".join(["| kind | tests |", "|---|---|", *rows, ""]), _MANUAL.read_text())


class Capitals(SimpleTestCase):
    def test_a_title_in_capitals_is_refused_and_a_short_name_is_not(self) -> None:
        rules = [{"id": "c", "kind": "capitals", "at_most": 60}]
        for title, share in (
            ("THE COMET IS HERE", 100),
            ("THE COMET is here tonight", 38),
            ("NGC 4565", 0),
            ("彗星出现在老磨坊上空 NGC", 0),
            ("ÜBER DEN RÜCKEN der Nacht", 67),
            ("", 0),
        ):
            with self.subTest(title):
                decision = one(captured(title=title), sift={"rules": rules})
                note = next(note for note in decision.trace if note.rule == "c")
                self.assertEqual((note.data["share"], note.against), (share, share > 60))


def _borders(place: Choice | Hours | Number | Text) -> list[tuple[object, bool]]:
    match place:
        case Choice(options=options):
            return [*((value, True) for value in options), ("nothing of it", False)]
        case Hours(most=most):
            return [(1, True), (most, True), (0, False), (most + 1, False)]
        case Number(least=least, most=most):
            return [(least, True), (most, True), (least - 1, False), (most + 1, False)]
        case Text():
            return [("a name", True)]


def _is_valid(rule: type, settings: dict[str, object]) -> bool:
    try:
        rule.model_validate(settings)  # type: ignore[attr-defined]
    except ValueError:
        return False
    return True
