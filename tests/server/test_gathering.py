"""Requests to sources: their access, their pace, their moved addresses, and their limits."""

import json
import ssl
import tempfile
import time
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from unittest.mock import patch

from aiohttp import web
from cryptography import x509
from cryptography.fernet import Fernet
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import NameOID
from django.test import SimpleTestCase, TestCase, TransactionTestCase, override_settings
from glyptarch_core.readers import Feed
from glyptarch_server.adapters.robots import Robots
from glyptarch_server.audit.models import Entry
from glyptarch_server.campaigns.queries import latest_revision
from glyptarch_server.common.seal import _box
from glyptarch_server.items.actions import add_and_capture, keep_answer, read_and_capture
from glyptarch_server.items.models import Item
from glyptarch_server.items.page_pictures import look_up_pages
from glyptarch_server.pages.fetching import _robots, fetch_pages
from glyptarch_server.runs.actions import begin_run
from glyptarch_server.runs.models import Run
from glyptarch_server.sources.access import access_of, request_for
from glyptarch_server.sources.actions import change_access, change_many
from glyptarch_server.sources.gathering import SourceAnswer, read_sources
from glyptarch_server.sources.models import Reading, Source, SourceState
from glyptarch_server.sources.queries import newest_items
from glyptarch_server.sources.readings import due_for_schedule
from glyptarch_server.wiring import FetchCode, Fetched, FetchError, FetchLimits, FetchPortal, FetchRequest
from glyptarch_standins.app import World, make_app
from glyptarch_standins.faults import FAULTS

from tests.served import served
from tests.server.fixtures import NOW, CannedPortal, carry, clock, fill, make_blog, make_campaign, make_source
from tests.server.test_api import ApiCase
from tests.server.test_runs import FEED

SECRET = "quiet-owl-17"  # noqa: S105
KEY = {"name": "X-Api-Key", "value": SECRET}


def own_certificate(folder: Path) -> ssl.SSLContext:
    """A certificate for localhost that nobody vouches for."""
    key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "localhost")])
    made = (
        x509.CertificateBuilder()
        .subject_name(name)
        .issuer_name(name)
        .public_key(key.public_key())
        .serial_number(1)
        .not_valid_before(datetime(2020, 1, 1, tzinfo=UTC))
        .not_valid_after(datetime(2120, 1, 1, tzinfo=UTC))
        .sign(key, hashes.SHA256())
    )
    pem = made.public_bytes(serialization.Encoding.PEM) + key.private_bytes(
        serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
    )
    (folder / "pem").write_bytes(pem)
    context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    context.load_cert_chain(folder / "pem")
    return context


class Asked(SimpleTestCase):
    """A server that records its requests."""

    def setUp(self) -> None:
        self.asked: list[tuple[str, dict[str, str], float]] = []

        async def answer(request: web.Request) -> web.Response:
            self.asked.append((request.path, dict(request.headers), time.monotonic()))
            if request.path.startswith("/to/"):
                raise web.HTTPMovedPermanently(f"http://{self.other}/there")
            if request.path == "/here":
                raise web.HTTPFound("/there")
            if request.path == "/home":
                raise web.HTTPPermanentRedirect("/there")
            return web.Response(body=FEED)

        def app() -> web.Application:
            app = web.Application()
            app.router.add_get("/{path:.*}", answer)
            return app

        self.address = self.enter(served(app()))
        self.other = self.enter(served(app()))
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.safe = self.enter(served(app(), own_certificate(Path(folder.name))))
        allowed = frozenset({self.address, self.other, self.safe})
        self.portal = FetchPortal(allowed=allowed, limits=FetchLimits(seconds=5))
        self.addCleanup(self.portal.close)

    def enter(self, opened: Any) -> str:  # noqa: ANN401
        address: str = opened.__enter__()
        self.addCleanup(opened.__exit__, None, None, None)
        return address

    def fetch(self, path: str, host: str = "", **more: Any) -> Fetched | FetchError:  # noqa: ANN401
        return self.portal.fetch_all([FetchRequest(url=f"http://{host or self.address}{path}", **more)])[0]

    def test_own_headers_go_to_the_own_host_and_to_no_other(self) -> None:
        self.fetch("/to/other", headers=(("X-Api-Key", SECRET),))
        sent = [(path, headers.get("X-Api-Key", "")) for path, headers, _ in self.asked]
        self.assertEqual(sent, [("/to/other", SECRET), ("/there", "")])
        self.assertNotIn(SECRET, repr(FetchRequest(url="http://x", headers=(("X-Api-Key", SECRET),))))

    def test_a_certificate_that_nobody_vouches_for_is_taken_only_where_it_was_said(self) -> None:
        refused, taken = (
            self.portal.fetch_all([FetchRequest(url=f"https://{self.safe}/feed", any_certificate=any_certificate)])[0]
            for any_certificate in (False, True)
        )
        self.assertEqual(getattr(refused, "code", None), FetchCode.TLS)
        self.assertIsInstance(taken, Fetched)

    def test_where_it_leads_to_another_host_the_certificate_must_be_vouched_for(self) -> None:
        folder = self.enterContext(tempfile.TemporaryDirectory())
        first = web.Application()
        first.router.add_get("/go", self.lead_to_safe)
        here = self.enter(served(first, own_certificate(Path(folder))))
        portal = FetchPortal(allowed=frozenset({here, self.safe}), limits=FetchLimits(seconds=5))
        self.addCleanup(portal.close)
        (answer,) = portal.fetch_all([FetchRequest(url=f"https://{here}/go", any_certificate=True)])
        self.assertEqual(getattr(answer, "code", answer), FetchCode.TLS)

    async def lead_to_safe(self, _request: web.Request) -> web.Response:
        raise web.HTTPFound(f"https://{self.safe}/feed")

    def test_requests_to_a_host_are_spaced_as_it_was_asked_for(self) -> None:
        requests = [FetchRequest(url=f"http://{self.address}/{number}", pause_ms=150) for number in range(4)]
        begun = time.monotonic()
        self.portal.fetch_all(requests)
        self.fetch("/later", pause_ms=150)
        # A busy machine can delay an arrival, and so shorten the gap after it; none arrives before its turn.
        times = sorted(at - begun for _, _, at in self.asked)
        early = [number for number, at in enumerate(times) if at < number * 0.15 - 0.01]
        self.assertEqual((len(times), early), (5, []))

    def test_only_permanent_redirects_say_that_a_source_has_moved(self) -> None:
        moved = {path: getattr(self.fetch(path), "moved_to", None) for path in ("/home", "/here", "/there")}
        self.assertEqual(moved, {"/home": f"http://{self.address}/there", "/here": "", "/there": ""})


class AccessOfASource(ApiCase):
    PATH = "/blogs/meadow/sources/club/access"

    def put(self, **body: Any) -> Any:  # noqa: ANN401
        return self.call(self.editor, "PUT", self.PATH, body)

    def kept(self) -> Source:
        return Source.objects.get(key="club")

    def test_headers_and_sign_in_are_sent_with_each_request(self) -> None:
        self.put(headers=[KEY], user="mira", password="owl", pause_ms=250, patience_s=60)
        request = request_for(self.kept())
        self.assertEqual(dict(request.headers), {"X-Api-Key": SECRET, "Authorization": "Basic bWlyYTpvd2w="})
        self.assertEqual((request.pause_ms, request.seconds), (250, 60))
        self.assertEqual(self.put(headers=[], patience_s=121).status_code, 422)

    def test_secrets_are_encrypted_and_given_out_by_nothing(self) -> None:
        told = [self.put(headers=[KEY], user="mira", password="barn-owl-9").content.decode()]
        told += [
            self.call(self.owner, "GET", path).content.decode()
            for path in (self.PATH, "/blogs/meadow/sources/club", "/blogs/meadow/sources", "/blogs/meadow/audit")
        ]
        told += [json.dumps(list(Source.objects.values()), default=str), repr(access_of(self.kept()))]
        told += [json.dumps(list(Entry.objects.values()), default=str)]
        for text in told:
            self.assertNotIn(SECRET, text)
            self.assertNotIn("barn-owl-9", text)
        self.assertIn("X-Api-Key", told[0])

    def test_they_go_to_no_other_host_and_never_from_tls_to_plain_text(self) -> None:
        self.put(headers=[KEY], user="mira", password="owl", any_certificate=True)
        source = self.kept()
        for url, sent in (
            ("https://club.example/page/2", 2),
            ("https://evil.example/page/2", 0),
            ("https://club.example:8443/page/2", 0),
            ("http://club.example/page/2", 0),
        ):
            request = request_for(source, url=url)
            self.assertEqual((len(request.headers), request.any_certificate), (sent, sent > 0), url)

    def test_a_missing_key_is_told_at_the_source_and_holds_up_no_other(self) -> None:
        self.put(headers=[KEY])
        other = make_source(self.blog, "wire")
        portal = CannedPortal({other.url: FEED})
        with override_settings(GLYPTARCH_ENCRYPTION_KEYS=(Fernet.generate_key().decode(),)):
            _box.cache_clear()
            self.addCleanup(_box.cache_clear)
            come = [one for batch in read_sources([self.kept(), other], portal) for one in batch]  # type: ignore[arg-type]
        outcomes = {source.key: answer.outcome for source, answer in come}
        self.assertIn("GLYPTARCH_ENCRYPTION_KEYS", str(outcomes["club"]))
        self.assertIsInstance(outcomes["wire"], Feed)

    def test_an_empty_secret_keeps_the_known_one_and_another_user_needs_a_password(self) -> None:
        self.put(headers=[KEY], user="mira", password="owl")
        self.put(headers=[{"name": "X-Api-Key", "value": ""}], user="mira")
        self.assertEqual((access_of(self.kept()).headers[0][1], access_of(self.kept()).password), (SECRET, "owl"))
        self.assertEqual(self.put(user="edda").json()["faults"][0]["path"], "password")
        self.put()
        self.assertEqual(self.kept().access.sealed, "")

    def test_headers_that_would_break_a_request_are_refused(self) -> None:
        for name, value in (("Host", "x"), ("X-A\r\nB", "x"), ("X-A", "a\r\nB: c"), ("X-A", "ü"), ("X-A", "")):
            answer = self.put(headers=[{"name": name, "value": value}])
            self.assertEqual(answer.status_code, 422, (name, value))
            self.assertTrue(answer.json()["faults"][0]["path"].startswith("headers.0"))
        self.assertEqual(self.put(user="a:b", password="x").status_code, 422)


class Moving(TestCase):
    def setUp(self) -> None:
        self.source = make_source(make_blog())

    def read(self, moved_to: str) -> None:
        unchanged = Fetched(url=self.source.url, body=b"", not_modified=True, content_type="", etag="", last_modified="",
                            milliseconds=1)  # fmt: skip
        keep_answer(self.source, SourceAnswer(outcome=unchanged, moved_to=moved_to), now=NOW)
        self.source.refresh_from_db()

    def test_the_address_changes_after_three_readings_in_a_row(self) -> None:
        new = "https://new.example/feed"
        for _ in range(2):
            self.read(new)
        self.assertEqual(self.source.url, "https://club.example/feed")
        self.read(new)
        self.assertEqual((self.source.url, self.source.former_url), (new, "https://club.example/feed"))
        self.assertEqual(Entry.objects.get(action="source.moved").after, new)

    def test_a_redirect_that_comes_and_goes_moves_nothing(self) -> None:
        for where in ("https://a.example/", "https://a.example/", "", "https://a.example/", "https://b.example/"):
            self.read(where)
        self.assertEqual((self.source.url, self.source.state.moved_times), ("https://club.example/feed", 1))

    def test_a_source_with_secrets_follows_to_no_other_host(self) -> None:
        change_access(self.source, headers=[KEY], user="", password="", any_certificate=False, pause_ms=0)
        for _ in range(5):
            self.read("https://evil.example/feed")
        self.assertEqual(self.source.url, "https://club.example/feed")
        for _ in range(3):
            self.read("https://club.example/new")
        self.assertEqual(self.source.url, "https://club.example/new")

    def test_an_address_that_is_too_long_is_not_taken(self) -> None:
        for _ in range(4):
            self.read("https://new.example/" + "a" * 3000)
        self.assertEqual((self.source.url, self.source.state.moved_to), ("https://club.example/feed", ""))

    def test_an_address_that_another_source_reads_is_not_taken(self) -> None:
        other = make_source(self.source.blog, "other")
        for _ in range(5):
            self.read(other.url)
        self.assertEqual(self.source.url, "https://club.example/feed")


class Together(ApiCase):
    def change(self, change: str, label: str = "") -> int:
        body = {"keys": ["club", "wire", "nowhere"], "change": change, "label": label}
        return int(self.call(self.editor, "POST", "/blogs/meadow/sources-together", body).json()["changed"])

    def listed(self, query: str = "") -> list[str]:
        rows = self.call(self.viewer, "GET", f"/blogs/meadow/sources{query}").json()["rows"]
        return [row["key"] for row in rows]

    def setUp(self) -> None:
        super().setUp()
        make_source(self.blog, "wire")
        make_source(self.blog, "shop")

    def test_several_are_labelled_found_by_it_and_exported(self) -> None:
        self.assertEqual(self.change("label", " Sky "), 2)
        self.assertEqual(self.change("label", "Sky"), 0)
        self.assertEqual(self.listed("?label=Sky"), ["club", "wire"])
        self.assertEqual(self.call(self.viewer, "GET", "/blogs/meadow/sources").json()["labels"], ["Sky"])
        written = self.call(self.viewer, "GET", "/blogs/meadow/opml?chosen=wire,shop").content.decode()
        self.assertIn('category="Sky"', written)
        self.assertNotIn("club.example", written)
        self.assertEqual(self.change("unlabel", "Sky"), 2)
        self.assertEqual(self.listed("?label=Sky"), [])

    def test_what_is_paused_is_read_by_no_run(self) -> None:
        self.change("pause")
        due = due_for_schedule(list(Source.objects.order_by("key")), now=NOW)
        self.assertEqual([source.key for source in due], ["shop"])
        portal = CannedPortal({source.url: FEED for source in Source.objects.all()})
        campaign = make_campaign(self.blog, "All", gather={"sources": ["club", "shop"]})
        run = begin_run(campaign, by=self.owner, now=NOW, queue=False)
        carry(run, portal)
        self.assertEqual([request.url for request in portal.asked], ["https://shop.example/feed"])
        self.assertEqual(self.change("resume"), 2)

    def test_several_are_removed_and_an_empty_label_is_none(self) -> None:
        self.assertEqual(self.change("remove"), 2)
        self.assertEqual(self.listed(), ["shop"])
        body = {"keys": ["shop"], "change": "label", "label": " "}
        self.assertEqual(self.call(self.editor, "POST", "/blogs/meadow/sources-together", body).status_code, 422)

    def test_several_get_the_same_rights_and_keep_what_is_left_out(self) -> None:
        Source.objects.filter(key="wire").update(attribution="Courtesy of the wire")
        seen = self.call(self.editor, "GET", "/blogs/meadow/sources/wire").json()["source"]["version"]
        body: dict[str, Any] = {"keys": ["club", "wire", "nowhere"], "right": "excerpt", "right_words": 80}
        path = "/blogs/meadow/sources-together/rights"
        self.assertEqual(self.call(self.editor, "POST", path, body).json(), {"changed": 2})
        self.assertEqual(self.call(self.editor, "POST", path, body).json(), {"changed": 0})
        body |= {"attribution": "By the club", "full_text_words": 30}
        self.assertEqual(self.call(self.editor, "POST", path, {**body, "keys": ["club"]}).json(), {"changed": 1})
        rows = {row.key: row for row in Source.objects.all()}
        self.assertEqual(
            [(rows[key].right, rows[key].right_words, rows[key].attribution, rows[key].full_text.words) for key in ("club", "wire")],
            [("excerpt", 80, "By the club", 30), ("excerpt", 80, "Courtesy of the wire", 0)],
        )  # fmt: skip
        self.assertEqual(rows["shop"].right, "full")
        # Somebody who edits one of them meanwhile is told.
        self.assertEqual(rows["wire"].version, seen + 1)
        self.assertEqual(self.call(self.editor, "POST", path, {**body, "right_words": 0}).status_code, 422)

    def test_several_are_asked_so_and_keep_their_secrets(self) -> None:
        club = Source.objects.get(key="club")
        headers = [{"name": "X-Key", "value": "of the vale"}]
        change_access(club, headers=headers, user="", password="", any_certificate=True, pause_ms=5, patience_s=60)
        body: dict[str, Any] = {"keys": ["club", "wire", "nowhere"], "tries": 3, "pause_ms": 900}
        path = "/blogs/meadow/sources-together/access"
        self.assertEqual(self.call(self.editor, "POST", path, body).json(), {"changed": 2})
        self.assertEqual(self.call(self.editor, "POST", path, body).json(), {"changed": 0})
        rows = {row.key: row.access for row in Source.objects.all()}
        self.assertEqual(
            [
                (rows[key].tries, rows[key].pause_ms, rows[key].patience_s, rows[key].any_certificate)
                for key in ("club", "wire", "shop")
            ],
            [(3, 900, 60, True), (3, 900, 0, False), (1, 0, 0, False)],
        )
        self.assertEqual(access_of(Source.objects.get(key="club")).headers, (("X-Key", "of the vale"),))
        self.assertEqual(self.call(self.editor, "POST", path, {"keys": ["club"], "tries": 0}).status_code, 422)

    def test_several_are_added_to_a_campaign_as_a_new_revision(self) -> None:
        campaign = make_campaign(self.blog, "Night", gather={"sources": ["club"]})
        path = f"/blogs/meadow/campaigns/{campaign.slug}/sources"
        taken = self.call(self.editor, "POST", path, {"keys": ["club", "wire", "shop", "wire"]}).json()
        self.assertEqual(taken, {"added": 2})
        revision = latest_revision(campaign)
        self.assertEqual(revision.document["gather"]["sources"], ["club", "wire", "shop"])
        self.assertEqual((revision.number, revision.note, revision.saved_by), (2, "2 sources added", self.editor))
        self.assertEqual(self.call(self.editor, "POST", path, {"keys": ["wire"]}).json(), {"added": 0})
        self.assertEqual(latest_revision(campaign).number, 2)
        self.assertEqual(self.call(self.editor, "POST", path, {"keys": ["nowhere"]}).status_code, 422)
        with patch("glyptarch_server.campaigns.actions.MOST_SOURCES", 3):
            make_source(self.blog, "fourth")
            self.assertEqual(self.call(self.editor, "POST", path, {"keys": ["fourth"]}).status_code, 422)

    def test_all_that_a_search_finds_are_changed_at_once(self) -> None:
        body = {"found": {"search": "W", "health": "unread"}, "change": "label", "label": "Sky"}
        changed = self.call(self.editor, "POST", "/blogs/meadow/sources-together", body).json()["changed"]
        self.assertEqual((changed, self.listed("?label=Sky")), (1, ["wire"]))
        body = {"found": {"label": "Sky"}, "change": "pause"}
        self.assertEqual(self.call(self.editor, "POST", "/blogs/meadow/sources-together", body).json(), {"changed": 1})

    def test_the_sources_of_rules_are_listed_with_the_keys_that_name_none(self) -> None:
        Source.objects.filter(key="shop").update(labels=["Sky"])
        body = {"keys": ["wire", "gone"], "labels": ["Sky"]}
        chosen = self.call(self.viewer, "POST", "/blogs/meadow/chosen-sources", body).json()
        self.assertEqual(([row["key"] for row in chosen["rows"]], chosen["total"]), (["shop", "wire"], 2))
        self.assertEqual(chosen["lost"], ["gone"])
        found = self.call(self.viewer, "POST", "/blogs/meadow/found-sources", {"label": "Sky"}).json()
        self.assertEqual(found, ["shop"])

    def test_many_are_changed_with_few_queries_and_one_line_in_the_log(self) -> None:
        for number in range(120):
            make_source(self.blog, f"s{number}")
        sources = list(Source.objects.filter(key__startswith="s"))
        with self.assertNumQueries(4):
            change_many(self.blog, sources, "label", "Sky", now=NOW)
        with self.assertNumQueries(4):
            change_many(self.blog, sources, "pause", now=NOW)
        self.assertEqual(Entry.objects.order_by("-pk")[0].subject, "121 sources")
        self.assertFalse(Source.objects.filter(key__startswith="s", paused=False).exists())

    def test_each_change_stands_in_the_audit_list(self) -> None:
        change_many(self.blog, list(Source.objects.filter(key="wire")), "pause", now=NOW)
        self.assertEqual(Entry.objects.order_by("-pk")[0].action, "source.paused")


class FactsOfASource(ApiCase):
    def test_fields_words_categories_and_hashtags_of_its_items(self) -> None:
        make_source(self.blog, "wire", stories=2)
        first, second = Item.objects.filter(source__key="wire").order_by("pk")
        Item.objects.filter(pk=first.pk).update(categories=["Sky", "Sky"], words=10, text="Seen #comet and #moon")
        Item.objects.filter(pk=second.pk).update(
            categories=["Sky"], words=20, text="A #comet", title="", published=None
        )
        facts = self.call(self.viewer, "GET", "/blogs/meadow/sources/wire/facts").json()
        self.assertEqual((facts["items"], facts["words"]), (2, 15))
        self.assertEqual((facts["fields"]["title"], facts["fields"]["published"], facts["fields"]["film"]), (1, 1, 0))
        self.assertEqual(facts["categories"], [{"name": "Sky", "count": 2}])
        self.assertEqual(facts["hashtags"][0], {"name": "comet", "count": 2})

    def test_what_unchanged_answers_saved(self) -> None:
        Reading.objects.all().delete()
        for size, unchanged in ((1000, False), (3000, False), (0, True), (0, True), (0, True)):
            Reading.objects.create(source=self.source, at=NOW, size=size, not_modified=unchanged)
        self.assertEqual(self.call(self.viewer, "GET", "/blogs/meadow/sources/club").json()["saved_bytes"], 6000)


class HowManyItems(TestCase):
    def test_a_source_knows_how_many_it_has(self) -> None:
        blog = make_blog()
        one, other = make_source(blog, stories=3), make_source(blog, "observatory")
        fill(one, [2, 7, 8])
        fill(other, [1])
        self.assertEqual(
            [Source.objects.get(pk=row.pk).state.item_count for row in (one, other)],
            [Item.objects.filter(source=row).count() for row in (one, other)],
        )
        Item.objects.filter(source=one, identity__in=["n7", "n8"]).delete()
        self.assertEqual(Source.objects.get(pk=one.pk).state.item_count, Item.objects.filter(source=one).count())
        self.assertEqual(newest_items([one, other])[other.pk][0], 1)
        self.assertEqual(
            newest_items([one])[one.pk][1], max(Item.objects.filter(source=one).values_list("dated", flat=True))
        )


class TheSameFeed(TestCase):
    def test_a_second_address_of_one_feed_is_noticed(self) -> None:
        blog = make_blog()
        portal = CannedPortal({"https://a.example/feed": FEED, "https://b.example/rss": FEED})
        first = add_and_capture(blog, "https://a.example/feed", "A", fetcher=portal, now=NOW)  # type: ignore[arg-type]
        second = add_and_capture(blog, "https://b.example/rss", "B", fetcher=portal, now=NOW)  # type: ignore[arg-type]
        self.assertIsNone(first.same_as)
        self.assertEqual(second.same_as, first.source)

    def test_another_feed_is_not(self) -> None:
        blog = make_blog()
        fill(make_source(blog), range(5))
        portal = CannedPortal({"https://a.example/feed": FEED})
        added = add_and_capture(blog, "https://a.example/feed", "A", fetcher=portal, now=NOW)  # type: ignore[arg-type]
        self.assertIsNone(added.same_as)


class RobotsOfASite(TestCase):
    TEXT = b"User-agent: *\nDisallow: /secret\nCrawl-delay: 2.5\n\nUser-agent: BadBot\nDisallow: /\n"

    def test_what_is_forbidden_and_the_pause_are_read(self) -> None:
        robots = Robots.read(self.TEXT, "Glyptarch (feed reader)")
        self.assertTrue(robots.allows("https://a.example/story"))
        self.assertFalse(robots.allows("https://a.example/secret/1"))
        self.assertEqual(robots.pause_ms(), 2500)

    def test_odd_bytes_forbid_nothing(self) -> None:
        for body in (b"", b"\xff\xfe\x00", b"<html>", b"Crawl-delay: soon", b"a" * 2_000_000):
            robots = Robots.read(body, "Glyptarch")
            self.assertTrue(robots.allows("https://a.example/story"))
            self.assertLessEqual(robots.pause_ms(), 60_000)
        self.assertTrue(Robots().allows("https://a.example/"))

    def test_pages_that_a_site_forbids_are_not_asked(self) -> None:
        source = make_source(make_blog())
        source.reads_pages = True
        fill(source, range(2))
        first, second = Item.objects.order_by("pk")
        Item.objects.filter(pk=first.pk).update(link="https://site.example/story", media=[])
        Item.objects.filter(pk=second.pk).update(link="https://site.example/secret/2", media=[])
        portal = CannedPortal({"https://site.example/robots.txt": self.TEXT})
        _robots.clear()
        look_up_pages(source, fetcher=portal, now=NOW)  # type: ignore[arg-type]
        asked = {request.url: request.pause_ms for request in portal.asked}
        self.assertEqual(asked, {"https://site.example/robots.txt": 0, "https://site.example/story": 2500})


class RobotsAreKept(TestCase):
    def test_robots_txt_is_asked_once_an_hour(self) -> None:
        source = make_source(make_blog())
        source.reads_pages = True
        portal = CannedPortal()
        _robots.clear()
        for number, minutes in enumerate((0, 30, 61)):
            fill(source, [number], link=f"https://site.example/{number}")
            look_up_pages(source, fetcher=portal, now=NOW + timedelta(minutes=minutes))  # type: ignore[arg-type]
        asked = [request.url for request in portal.asked]
        self.assertEqual(asked.count("https://site.example/robots.txt"), 2)
        self.assertEqual(len(asked), 5)


class Manners(SimpleTestCase):
    SITE = "https://site.example"

    def ask(self, portal: CannedPortal, path: str = "/a", *, minutes: float = 0) -> Fetched | FetchError:
        now = NOW + timedelta(minutes=minutes)
        (answer,) = fetch_pages(
            [f"{self.SITE}{path}"],
            request_for=lambda url: FetchRequest(url=url),
            fetcher=portal,  # type: ignore[arg-type]
            now=now,
        )
        return answer

    def setUp(self) -> None:
        _robots.clear()

    def test_a_robots_txt_that_cannot_be_had_closes_its_site_for_a_while(self) -> None:
        portal = CannedPortal({f"{self.SITE}/robots.txt": FetchError(FetchCode.SERVER_ERROR, "Trouble.", status=503)})
        closed = self.ask(portal)
        assert isinstance(closed, FetchError)
        self.assertEqual((closed.code, "left alone for 10 minutes" in str(closed)), (FetchCode.ROBOTS, True))
        portal.bodies[f"{self.SITE}/robots.txt"] = b"User-agent: *\nDisallow: /secret/"
        self.assertIsInstance(self.ask(portal, minutes=9), FetchError)
        self.assertIsInstance(self.ask(portal, minutes=11), Fetched)

    def test_one_that_is_not_there_forbids_nothing(self) -> None:
        missing = FetchError(FetchCode.NOT_FOUND, "Not there.", status=404)
        self.assertIsInstance(self.ask(CannedPortal({f"{self.SITE}/robots.txt": missing})), Fetched)

    def test_a_redirect_into_a_forbidden_folder_is_not_followed(self) -> None:
        asked: list[str] = []
        app = web.Application()

        async def robots(_request: web.Request) -> web.Response:
            return web.Response(text="User-agent: *\nDisallow: /secret/")

        async def leads(_request: web.Request) -> web.Response:
            raise web.HTTPFound("/secret/page")

        async def secret(_request: web.Request) -> web.Response:
            asked.append("secret")
            return web.Response(text="<p>Secret</p>", content_type="text/html")

        app.add_routes([web.get("/robots.txt", robots), web.get("/a", leads), web.get("/secret/page", secret)])
        with served(app) as address:
            portal = FetchPortal(allowed=frozenset({address}))
            self.addCleanup(portal.close)
            (answer,) = fetch_pages(
                [f"http://{address}/a"], request_for=lambda url: FetchRequest(url=url), fetcher=portal, now=NOW
            )
        assert isinstance(answer, FetchError)
        self.assertEqual((answer.code, asked), (FetchCode.ROBOTS, []))

    def test_requests_say_whom_to_ask(self) -> None:
        seen: list[str] = []
        app = web.Application()

        async def tell(request: web.Request) -> web.Response:
            seen.append(request.headers["User-Agent"])
            return web.Response(text="x")

        app.add_routes([web.get("/", tell)])
        with served(app) as address:
            for contact in ("", "mailto:desk@meadow.example"):
                portal = FetchPortal(allowed=frozenset({address}), contact=contact)
                self.addCleanup(portal.close)
                portal.fetch_all([FetchRequest(url=f"http://{address}/")])
        self.assertEqual(seen, ["Glyptarch (feed reader)", "Glyptarch (feed reader; +mailto:desk@meadow.example)"])


class EveryFault(TransactionTestCase):
    """Each fault of the simulated world is reported at source and run, and stops no other."""

    def setUp(self) -> None:
        self.world = World(fixed=datetime(2026, 11, 24, 12, tzinfo=UTC))
        opened = served(make_app(self.world))
        address = opened.__enter__()
        self.addCleanup(opened.__exit__, None, None, None)
        self.portal = FetchPortal(
            allowed=frozenset({address}), limits=FetchLimits(bytes=1 << 20, seconds=1.5, redirects=3)
        )
        self.addCleanup(self.portal.close)
        blog = make_blog()
        for key in ("meadowlark", "observatory"):
            Source.objects.create(
                blog=blog, key=key, url=f"http://{address}/{key}/feed", title=key.title(), right="full", added_at=NOW
            )
        self.campaign = make_campaign(blog, gather={"sources": ["meadowlark", "observatory"]}, match={"rules": []})

    def run_with(self, fault: str) -> tuple[Run, dict[str, Reading]]:
        self.world.faults["meadowlark"] = fault
        run = begin_run(self.campaign, by=None, now=NOW, queue=False)
        carry(run, self.portal)
        run.refresh_from_db()
        return run, {reading.source.key: reading for reading in run.readings.select_related("source")}

    def test_it_is_told_in_plain_words_and_the_other_source_is_read(self) -> None:
        said: dict[str, str] = {}
        for fault in FAULTS:
            with self.subTest(fault):
                SourceState.objects.update(etag="", last_modified="")
                run, readings = self.run_with(fault)
                self.assertEqual(run.state, "done")
                self.assertEqual(readings["observatory"].error, "")
                self.assertGreater(readings["observatory"].found, 0)
                bad = readings["meadowlark"]
                if fault == "wrong_encoding":
                    self.assertEqual(bad.error, "")
                    self.assertIn("encoding_differs", [warning["code"] for warning in bad.warnings])
                elif fault == "never_changed":
                    self.assertEqual((bad.error, bad.not_modified), ("", True))
                else:
                    self.assertTrue(bad.detail.endswith((".", ")")), bad.detail)
                    said[fault] = bad.detail
                    self.assertNotIn("Traceback", bad.detail)
        self.assertEqual(len(set(said.values())), len(FAULTS) - 2, said)

    def test_a_name_that_nobody_has_and_a_closed_port_are_told_as_well(self) -> None:
        for url, code in (("http://no-such-site.invalid/feed", "unknown_host"), ("http://127.0.0.1:1/feed", "port")):
            Source.objects.filter(key="meadowlark").update(url=url)
            _, readings = self.run_with("")
            self.assertIn(readings["meadowlark"].error, {code, "private_address"})
            self.assertEqual(readings["observatory"].error, "")

    def test_a_reading_keeps_status_and_size(self) -> None:
        source = Source.objects.get(key="observatory")
        whole = read_and_capture(source, fetcher=self.portal, clock=clock)
        self.assertEqual((whole.status, whole.size > 1000), (200, True))
        unchanged = read_and_capture(Source.objects.get(pk=source.pk), fetcher=self.portal, clock=clock)
        self.assertEqual((unchanged.status, unchanged.size), (304, 0))
        self.world.faults["observatory"] = "broken"
        broken = read_and_capture(Source.objects.get(pk=source.pk), fetcher=self.portal, clock=clock)
        self.assertEqual((broken.status, broken.size), (500, 0))


class AfterTheAccess(TestCase):
    def test_the_access_of_a_source_is_part_of_its_request_only(self) -> None:
        source = make_source(make_blog())
        change_access(source, headers=[KEY], user="", password="", any_certificate=True, pause_ms=0)
        later = NOW + timedelta(days=1)
        self.assertEqual(due_for_schedule([source], now=later), [source])
        self.assertTrue(request_for(source).any_certificate)
        self.assertEqual(request_for(source, url="https://club.example/page/2").etag, "")
