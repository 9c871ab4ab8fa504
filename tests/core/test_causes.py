"""The table of causes: every code that a reading can end with has its words and its remedy."""

import ast
import unittest
from pathlib import Path

from glyptarch_core.causes import CAUSES, cause_of
from glyptarch_core.errors import ParseError
from glyptarch_core.readers import read_feed
from glyptarch_server.wiring import FetchCode

CORE = Path(__file__).parents[2] / "core" / "glyptarch_core"
LISTS = {"not_opml"}
OF_THE_PROCESS_THAT_READS = {"too_costly"}


def parse_codes() -> set[str]:
    """Return the codes of all ParseErrors that the core raises, from its text."""
    codes = set()
    for path in CORE.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Call) and getattr(node.func, "id", "") == "ParseError" and node.args:
                first = node.args[0]
                if isinstance(first, ast.Constant):
                    codes.add(str(first.value))
    return codes


class Causes(unittest.TestCase):
    def test_every_code_has_a_cause(self) -> None:
        codes = {code.value for code in FetchCode} | parse_codes() - LISTS
        self.assertGreater(len(parse_codes()), 8)
        self.assertEqual(codes - set(CAUSES), set())

    def test_no_cause_is_left_over(self) -> None:
        self.assertEqual(set(CAUSES) - {code.value for code in FetchCode} - parse_codes(), OF_THE_PROCESS_THAT_READS)

    def test_words_are_the_rest_of_a_sentence_and_remedies_are_sentences(self) -> None:
        for code, cause in CAUSES.items():
            with self.subTest(code):
                for words in (cause.one, cause.many):
                    self.assertRegex(words, r"^[a-z].*[a-zA-Z]$")
                self.assertRegex(cause.remedy, r"^[A-Z].*[.]$")

    def test_an_unknown_code_has_a_general_one(self) -> None:
        self.assertEqual(cause_of("nobody knows").one, "cannot be read")


class LoginPages(unittest.TestCase):
    def code(self, body: str) -> str:
        with self.assertRaises(ParseError) as caught:
            read_feed(body.encode(), source="s", url="https://a.example/")
        return caught.exception.code

    def test_a_page_with_a_field_for_a_password_is_a_login_page(self) -> None:
        page = "<!doctype html><html><body><form><input name=u>{}</form></body></html>"
        self.assertEqual(self.code(page.format('<INPUT id=p type="password">')), "login_page")
        self.assertEqual(self.code(page.format("<input type=password>")), "login_page")
        self.assertEqual(self.code(page.format("<p>type=password</p>")), "page")
