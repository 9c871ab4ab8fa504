"""The page of the desk, the policy on every answer, and the commands."""

import io
import json
import tempfile
from pathlib import Path
from unittest.mock import patch

from aiohttp import web
from django.core.management import CommandError, call_command
from django.http import HttpRequest, HttpResponse
from django.test import Client, SimpleTestCase, TestCase, override_settings
from glyptarch_server.common.headers import security_headers
from glyptarch_server.config import proof_cli
from glyptarch_server.config.management.commands import export_schema

from tests.served import served
from tests.server.test_runs import FEED


class Desk(TestCase):
    def test_any_address_of_the_desk_gives_the_built_page_that_is_not_kept(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            Path(folder, "index.html").write_text("<!doctype html><title>Built</title>")
            with override_settings(WEB_DIST=Path(folder)):
                answer = Client().get("/desk/meadow/campaigns/any")
        self.assertContains(answer, "<title>Built</title>")
        self.assertEqual(answer["Cache-Control"], "no-cache")

    def test_a_front_end_that_is_not_built_says_how_to_build_it(self) -> None:
        with override_settings(WEB_DIST=Path("/nowhere")):
            answer = Client().get("/desk/meadow/campaigns")
        self.assertEqual(answer.status_code, 503)
        self.assertIn("npm run build", answer.content.decode())


class Policy(SimpleTestCase):
    async def test_answers_that_come_later_carry_it_as_well(self) -> None:
        async def later(_request: HttpRequest) -> HttpResponse:
            return HttpResponse()

        answer = await security_headers(later)(HttpRequest())  # type: ignore[misc]
        self.assertIn("script-src 'self'", answer.headers["Content-Security-Policy"])

    def test_an_answer_with_a_policy_of_its_own_keeps_it(self) -> None:
        def own(_request: HttpRequest) -> HttpResponse:
            return HttpResponse(headers={"Content-Security-Policy": "default-src 'none'"})

        answer = security_headers(own)(HttpRequest())
        self.assertEqual(answer.headers["Content-Security-Policy"], "default-src 'none'")  # type: ignore[union-attr]


class Schema(SimpleTestCase):
    def test_the_written_schema_is_checked_and_written(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder, "openapi.json")
            path.write_text("{}")
            with patch.object(export_schema, "SCHEMA", path):
                with self.assertRaisesRegex(CommandError, "not current"):
                    call_command("export_schema", "--check")
                call_command("export_schema")
                call_command("export_schema", "--check")
                self.assertIn("paths", json.loads(path.read_text()))


class ProofByCommand(SimpleTestCase):
    def proof(self, feed: str, *words: str, rules: str = "format: 1\n") -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        with tempfile.TemporaryDirectory() as folder:
            campaign = Path(folder, "rules.yaml")
            campaign.write_text(rules)
            with patch("sys.stdout", out), patch("sys.stderr", err):
                code = proof_cli.main([str(campaign), "--feed", feed, *words])
        return code, out.getvalue(), err.getvalue()

    def test_a_feed_at_an_address_is_fetched_where_that_is_allowed(self) -> None:
        app = web.Application()

        async def feed(_request: web.Request) -> web.Response:
            return web.Response(body=FEED, content_type="application/rss+xml")

        app.add_routes([web.get("/feed", feed)])
        with served(app) as host:
            address = f"http://{host}/feed"
            code, _, said = self.proof(address)
            self.assertEqual(code, 1)
            self.assertTrue(said.strip())
            with patch.dict("os.environ", {"GLYPTARCH_FETCH_ALLOW": host}):
                code, printed, _ = self.proof(address, "--json", "--explain")
        self.assertEqual(code, 0)
        decisions = json.loads(printed)
        self.assertEqual({one["verdict"] for one in decisions}, {"hold"})
        self.assertEqual(decisions[0]["trace"][0]["code"], "gathered")

    def test_the_items_of_one_feed_are_compared_with_each_other(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder, "feed.xml")
            path.write_bytes(FEED)
            code, printed, _ = self.proof(
                str(path), rules="match:\n  rules:\n    - {id: near, kind: near_text, at_least_words: 10}\n"
            )
        self.assertEqual(code, 0)
        self.assertIn("hold", printed)

    def test_a_file_that_is_not_there_is_named(self) -> None:
        code, _, said = self.proof("/nowhere/feed.xml")
        self.assertEqual(code, 1)
        self.assertIn("/nowhere/feed.xml", said)

    def test_what_is_no_feed_says_so(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder, "feed.xml")
            path.write_text("hello")
            code, _, said = self.proof(str(path))
        self.assertEqual(code, 1)
        self.assertTrue(said)
