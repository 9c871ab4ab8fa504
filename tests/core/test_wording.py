"""Every code that the core can put into a trace has its words in the interface."""

import re
from pathlib import Path

from django.test import SimpleTestCase
from glyptarch_core.match.near import COMPARERS
from glyptarch_core.match.rules import EXACT
from glyptarch_core.release.holds import HOLD_RULES
from glyptarch_core.shape.registry import COMPILERS
from glyptarch_core.sift.registry import KINDS

ROOT = Path(__file__).parents[2]
CODE = re.compile(r'code="([a-z_.]+)"')
WORDED = re.compile(r'^  "?([a-z_.]+)"?: (?:onText)?\(', re.MULTILINE)


def kinds(registry: object) -> set[str]:
    return {rule.model_fields["kind"].default for rule in registry}  # type: ignore[attr-defined]


_LIB = ROOT / "web" / "src" / "lib"


class Wordings(SimpleTestCase):
    def worded(self) -> set[str]:
        return {
            code
            for path in [*(_LIB / "wording").glob("*.ts"), _LIB / "checkup.ts"]
            if ".test." not in path.name
            for code in WORDED.findall(path.read_text())
        }

    def test_what_is_written_out_in_the_core_has_words(self) -> None:
        written = {
            code for path in (ROOT / "core").rglob("*.py") for code in CODE.findall(path.read_text()) if "." in code
        }
        self.assertIn("shape.template_failed", written)
        described = {code for kind in KINDS for code in kind.findings}
        self.assertEqual(written - self.worded() - described, set())

    def test_every_kind_of_comparison_step_and_hold_has_words(self) -> None:
        made = {
            *(f"match.{kind}" for kind in kinds(EXACT) | kinds(COMPARERS)),
            *(f"step.{kind}" for kind in kinds(COMPILERS)),
            *(f"hold.{kind}" for kind in kinds(HOLD_RULES)),
        }
        self.assertGreater(len(made), 15)
        self.assertEqual(made - self.worded(), set())
