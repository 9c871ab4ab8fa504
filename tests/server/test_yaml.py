"""Campaign documents as YAML, and the proof from the command line."""

import contextlib
import io
import json
import tempfile
import time
from pathlib import Path

from django.test import SimpleTestCase
from glyptarch_core.campaign import load_document
from glyptarch_core.errors import DocumentError
from glyptarch_server.campaigns.yaml_form import from_yaml, to_yaml
from glyptarch_server.config.proof_cli import main

from tests.server.test_runs import FEED

RULES = "sift:\n  rules:\n  - {id: first, kind: terms, terms: [first]}\nrelease: {mode: publish}\n"


class Yaml(SimpleTestCase):
    def test_a_document_comes_back_as_it_went(self) -> None:
        rules = [{"id": "a", "kind": "query", "query": '"süße Sterne" OR #mond'}]
        document = load_document({"gather": {"sources": ["club"]}, "sift": {"rules": rules}})
        self.assertEqual(from_yaml(to_yaml(document)), document)
        self.assertIn("süße", to_yaml(document))

    def test_nothing_is_no_document(self) -> None:
        for text in ("", "# only a remark", "{}"):
            with self.subTest(text), self.assertRaisesRegex(DocumentError, "no rules in it"):
                from_yaml(text)

    def test_values_that_are_not_what_they_say_are_faults(self) -> None:
        for text in (
            "a: 2024-13-45",
            f"a: {'9' * 5000}",
            "a: !!int abc",
            "a: !!timestamp x",
            "a: !!binary '*'",
            "a: !!python/name:os.system",
        ):
            with self.subTest(text[:30]), self.assertRaises(DocumentError):
                from_yaml(text)

    def test_what_costs_more_than_it_is_worth_is_refused_at_once(self) -> None:
        bomb = "a: &a [x,x,x,x,x,x,x,x,x]\n" + "".join(
            f"{chr(98 + n)}: &{chr(98 + n)} [*{chr(97 + n)}, *{chr(97 + n)}]\n" for n in range(20)
        )
        for text in ("[" * 20_000, "- " * 20_000, "{a: " * 20_000, bomb, "a: [" + "1," * 200_000 + "]", "x" * 500_001):
            begun = time.process_time()
            with self.subTest(text[:12]), self.assertRaises(DocumentError):
                from_yaml(text)
            self.assertLess(time.process_time() - begun, 1.5, text[:12])

    def test_no_text_of_a_document_holds_nul(self) -> None:
        self.assertEqual(from_yaml('place: {category: "a\\0b"}').place.category, "ab")

    def test_broken_yaml_names_its_line(self) -> None:
        with self.assertRaisesRegex(DocumentError, "line 3"):
            from_yaml("sift:\n  rules:\n - oops: [")

    def test_faults_name_their_path(self) -> None:
        with self.assertRaises(DocumentError) as caught:
            from_yaml("sift: {rules: [{id: a, kind: number}]}\nrelease: {mode: later}")
        self.assertEqual({fault.path for fault in caught.exception.faults}, {"sift.rules.0", "release.mode"})

    def test_a_path_is_that_of_the_document_whatever_the_kind(self) -> None:
        for text, fault in (
            ("sift: {rules: [{id: a, kind: terms, term: [x]}]}",
             "sift.rules.0.term: no such key is known; did you mean “terms”?"),
            ("sift: {rules: [{id: g, kind: group, rules: [{id: q, kind: query, query: 'moon -'}]}]}",
             "sift.rules.0.rules.0.query: at character 6: “-” must stand right before the word that is not wanted"),
            ("shape: {steps: [{id: a, kind: links, rel: [x]}]}",
             "shape.steps.0.rel.0: must be 'nofollow', 'sponsored' or 'ugc'"),
            ("place: {tag_rules: [{id: t, kind: title, at_most: 0}]}", "place.tag_rules.0.at_most: must be at least 1"),
            ("place: {category_rules: [{id: t, kind: table, rows: [{word: x}]}]}",
             "place.category_rules.0.rows.0.name: is missing"),
            ("sift: {rules: [{id: a}]}", "sift.rules.0: does not say its kind"),
            ("release: {hold_when: [{id: x, kind: words, terms: []}]}",
             "release.hold_when.0.terms: must have at least 1, has 0"),
            ("[]", "document: must be a mapping of keys to values"),
        ):  # fmt: skip
            with self.subTest(text), self.assertRaises(DocumentError) as caught:
                from_yaml(text)
            self.assertEqual([str(fault) for fault in caught.exception.faults], [fault])

    def test_a_kind_that_does_not_exist_is_told_with_those_that_do(self) -> None:
        with self.assertRaises(DocumentError) as caught:
            from_yaml("sift: {rules: [{id: a, kind: word}]}")
        (fault,) = caught.exception.faults
        self.assertEqual((fault.path, fault.message), ("sift.rules.0", "there is no such kind"))
        self.assertIn("'terms'", fault.hint)

    def test_yaml_cannot_make_objects(self) -> None:
        with self.assertRaises(DocumentError):
            from_yaml("!!python/object/apply:os.system ['true']")


class CommandLine(SimpleTestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.rules, self.feed = Path(folder.name) / "rules.yaml", Path(folder.name) / "feed.xml"
        self.rules.write_text(RULES)
        self.feed.write_bytes(FEED)

    def run_it(self, *words: str) -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            code = main([str(self.rules), "--feed", str(self.feed), *words])
        return code, out.getvalue(), err.getvalue()

    def test_prints_a_line_for_each_item_and_the_counts(self) -> None:
        code, out, _ = self.run_it()
        self.assertEqual(code, 0)
        self.assertIn("publish    First story of all", out)
        self.assertTrue(out.endswith("1 publish, 1 refused\n"))

    def test_explains_every_decision(self) -> None:
        self.assertIn("- sift     first          terms.no_term", self.run_it("--explain")[1])

    def test_gives_json(self) -> None:
        answer = json.loads(self.run_it("--json", "--explain")[1])
        self.assertEqual([one["verdict"] for one in answer], ["publish", "refused"])
        self.assertEqual(answer[1]["trace"][0]["stage"], "gather")

    def test_an_address_of_the_house_is_read_only_where_it_is_allowed(self) -> None:
        err = io.StringIO()
        with contextlib.redirect_stderr(err):
            code = main([str(self.rules), "--feed", "http://127.0.0.1:1/feed"])
        self.assertEqual(code, 1)
        self.assertIn("GLYPTARCH_FETCH_ALLOW names it", err.getvalue())

    def test_says_what_is_wrong_and_where(self) -> None:
        self.rules.write_text("sift: {rulez: []}")
        code, _, err = self.run_it()
        self.assertEqual(code, 1)
        self.assertIn("sift.rulez", err)
        self.assertIn("did you mean “rules”?", err)
        self.rules.write_text(RULES)
        self.feed.write_text("no feed")
        self.assertEqual(self.run_it()[0], 1)
