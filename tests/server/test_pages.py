"""The page of the desk, the policy on every answer, and the commands."""

import io
import json
import os
import subprocess
import sys
import tempfile
from datetime import timedelta
from pathlib import Path
from unittest.mock import patch

from aiohttp import web
from django.core.management import CommandError, call_command
from django.http import HttpRequest, HttpResponse
from django.test import Client, SimpleTestCase, TestCase, override_settings
from glyptarch_server.common.headers import security_headers
from glyptarch_server.config import proof_cli
from glyptarch_server.config.management.commands import export_schema
from glyptarch_server.posts.actions import move_post
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import Post

from tests.served import served
from tests.server.fixtures import NOW, make_blog, make_campaign, make_source, run
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


class Addresses(TestCase):
    """What is at an address, and how long it may be kept."""

    def test_what_nobody_serves_is_not_found(self) -> None:
        for path in (
            "/sitemap.xml",
            "/.env",
            "/admin/",
            "/.git/config",
            "/wp-login.php",
            "/manifest.json",
            "/.vite/manifest.json",
            "/desks",
        ):
            with self.subTest(path):
                self.assertContains(Client().get(path), "nothing at this address", status_code=404)

    def test_robots_read_the_blogs_and_not_the_desk(self) -> None:
        self.assertContains(Client().get("/robots.txt"), "Disallow: /desk/")

    def test_answers_of_the_api_are_kept_by_no_cache(self) -> None:
        for path in ("/api/session", "/api/blogs", "/api/nothing"):
            self.assertEqual(Client().get(path)["Cache-Control"], "no-store")

    def test_a_name_with_a_hash_is_kept_for_a_year_and_no_other(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            Path(folder, "assets").mkdir()
            Path(folder, "assets", "index-abc123.js").write_text("1")
            Path(folder, "mark.svg").write_text("<svg/>")
            with override_settings(SERVESTATIC_ROOT=Path(folder)):
                client = Client()
                hashed, other = client.get("/assets/index-abc123.js"), client.get("/mark.svg")
        self.assertIn("immutable", hashed["Cache-Control"])
        self.assertEqual(other["Cache-Control"], "max-age=60, public")

    def test_a_feed_that_has_not_changed_is_not_sent_again(self) -> None:
        blog = make_blog()
        make_source(blog, stories=2)
        run(make_campaign(blog))
        for path in ("/blog/meadow/feed.xml", "/blog/meadow/atom.xml"):
            first = Client().get(path)
            self.assertTrue(first["Last-Modified"])
            for header, value in (
                ("HTTP_IF_NONE_MATCH", first["ETag"]),
                ("HTTP_IF_MODIFIED_SINCE", first["Last-Modified"]),
            ):
                again = Client().get(path, **{header: value})
                self.assertEqual((again.status_code, again.content), (304, b""))
        move_post(Post.objects.all()[0], PostState.HELD, now=NOW + timedelta(minutes=1))
        self.assertEqual(Client().get("/blog/meadow/feed.xml", HTTP_IF_NONE_MATCH=first["ETag"]).status_code, 200)


class OverTls(SimpleTestCase):
    """What is switched on where the blog is served over TLS."""

    def settings_of(self, **env: str) -> dict[str, object]:
        code = (
            "import json; from glyptarch_server.config import settings as s;"
            "print(json.dumps({n: getattr(s, n) for n in dir(s) if n.startswith(('SECURE_', 'SESSION_', 'CSRF_'))}, default=str))"
        )
        done = subprocess.run(
            [sys.executable, "-c", code], env={**os.environ, **env}, capture_output=True, text=True, check=True
        )
        found: dict[str, object] = json.loads(done.stdout)
        return found

    def test_cookies_redirects_and_hsts_come_with_one_setting(self) -> None:
        plain, over_tls = self.settings_of(), self.settings_of(GLYPTARCH_HTTPS="1", GLYPTARCH_HOSTS="blog.example")
        self.assertEqual(
            (plain["SESSION_COOKIE_SECURE"], plain["SECURE_SSL_REDIRECT"], plain["SECURE_HSTS_SECONDS"]),
            (False, False, 0),
        )
        for name in ("SESSION_COOKIE_SECURE", "CSRF_COOKIE_SECURE", "SECURE_SSL_REDIRECT"):
            self.assertEqual(over_tls[name], 1, name)
        self.assertEqual(over_tls["SECURE_HSTS_SECONDS"], 31536000)
        self.assertEqual(over_tls["CSRF_TRUSTED_ORIGINS"], ["https://blog.example"])

    def test_the_scheme_is_believed_only_from_a_proxy_that_is_trusted(self) -> None:
        self.assertIsNone(self.settings_of(GLYPTARCH_HTTPS="1")["SECURE_PROXY_SSL_HEADER"])
        behind = self.settings_of(GLYPTARCH_HTTPS="1", GLYPTARCH_TRUSTED_PROXIES="10.0.0.0/8")
        self.assertEqual(behind["SECURE_PROXY_SSL_HEADER"], ["HTTP_X_FORWARDED_PROTO", "https"])
