"""Page readers: from an address to items, layout changes and repairs."""

from dataclasses import replace
from datetime import UTC, datetime, timedelta
from typing import Any
from unittest.mock import patch
from urllib.parse import parse_qs, urlsplit

from glyptarch_server import wiring
from glyptarch_server.items.models import Item
from glyptarch_server.pages import fetching
from glyptarch_server.pages.models import Reader, Snapshot
from glyptarch_server.pages.models import Site as KnownSite
from glyptarch_server.sources.models import Source
from glyptarch_server.wiring import FetchCode, Fetched, FetchError, FetchRequest
from glyptarch_standins import bulletin
from glyptarch_standins.stories import story_by_number

from tests.server.fixtures import CannedPortal, make_campaign, run
from tests.server.test_api import ApiCase

SITE = "https://ridge.example"
LIST = f"{SITE}/bulletin/"
NOW = datetime(2026, 11, 24, 12, tzinfo=UTC)


class Site(CannedPortal):
    """The bulletin without a network, with a record of requests."""

    def __init__(self) -> None:
        super().__init__()
        self.now = NOW
        self.layout = 1
        self.failing: set[str] = set()
        self.etag = ""

    @property
    def addresses(self) -> list[str]:
        return [request.url for request in self.asked]

    def _answer(self, request: FetchRequest) -> Fetched | FetchError:
        parts, query = urlsplit(request.url), parse_qs(urlsplit(request.url).query)
        if request.url in self.failing:
            return FetchError(
                FetchCode.SERVER_ERROR, f"{request.url} has trouble on its side (status 500).", status=500
            )
        if parts.path == "/robots.txt":
            text, kind = bulletin.ROBOTS, "text/plain"
        elif parts.path == "/bulletin/sitemap.xml":
            text, kind = f"<sitemapindex><sitemap><loc>{SITE}/map.gz</loc></sitemap></sitemapindex>", "text/xml"
        elif parts.path == "/map.gz":
            return self._given(request.url, bulletin.sitemap(SITE, now=self.now, seed=7), "application/gzip")
        elif parts.path == "/bulletin/notes/x":
            return FetchError(FetchCode.NOT_FOUND, f"{request.url} does not exist there (404).", status=404)
        elif parts.path.startswith("/bulletin/notes/"):
            number, part = int(parts.path.rpartition("/")[2]), int(query.get("part", ["1"])[0])
            text, kind = bulletin.article_page(number, part, seed=7, layout=self.layout), "text/html"
        elif parts.path.startswith("/bulletin/"):
            section, page = parts.path.removeprefix("/bulletin/").strip("/"), int(query.get("page", ["1"])[0])
            text, kind = bulletin.list_page(section, page, now=self.now, seed=7, layout=self.layout), "text/html"
        else:
            return FetchError(FetchCode.NOT_FOUND, f"{request.url} does not exist there (404).", status=404)
        return self._given(request.url, text.encode(), kind)

    def _given(self, url: str, body: bytes, kind: str) -> Fetched:
        unchanged = bool(self.etag) and self.asked[-1].url == url and self.asked[-1].etag == self.etag
        return Fetched(
            url=url,
            body=b"" if unchanged else body,
            not_modified=unchanged,
            content_type=kind,
            etag=self.etag,
            last_modified="",
            milliseconds=1,
            status=304 if unchanged else 200,
        )


class PageReaders(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.site = Site()
        fetching._robots.clear()
        patched = patch.object(wiring, "fetcher", return_value=self.site)
        patched.start()
        self.addCleanup(patched.stop)

    def ask(self, method: str, path: str, status: int = 200, **body: Any) -> Any:  # noqa: ANN401
        answer = self.call(self.editor, method, f"/blogs/meadow{path}", body if method in {"POST", "PUT"} else None)
        self.assertEqual(answer.status_code, status, answer.content[:500])
        return answer.json() if status == 200 else None

    def document(self, **changes: Any) -> dict[str, Any]:  # noqa: ANN401
        page = self.ask("POST", "/pages", url=LIST)
        return {"url": LIST, "list_page": page["lists"][0]["list_page"], **changes}

    def made_source(self, **changes: Any) -> Source:  # noqa: ANN401
        made = self.ask("POST", "/readers", name="Bulletin", document=self.document(**changes))
        self.ask("POST", "/page-sources", reader=made["key"], title="Bulletin")
        return Source.objects.get(reader__key=made["key"])

    def read(self, source: Source) -> Any:  # noqa: ANN401
        return self.ask("POST", f"/sources/{source.key}/read")

    def test_a_page_is_opened_with_proposals_and_sections(self) -> None:
        page = self.ask("POST", "/pages", url=LIST)
        self.assertEqual((page["url"], page["kind"]), (LIST, "article"))
        self.assertEqual(page["lists"][0]["count"], 8)
        self.assertEqual(page["lists"][0]["list_page"]["next"], "a[rel=next]")
        self.assertEqual(
            [section["name"] for section in page["sections"]],
            ["Sky", "Dome", "Evenings", "Archive", "Tonight", "Visits", "Staff"],
        )
        self.assertEqual(self.ask("GET", f"/pages/{page['id']}")["lists"], page["lists"])

    def test_robots_are_asked_first_and_a_page_they_forbid_is_not_fetched(self) -> None:
        answer = self.call(self.editor, "POST", "/blogs/meadow/pages", {"url": f"{LIST}staff/"})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("robots.txt does not let us read", answer.json()["detail"])
        self.assertEqual(self.site.addresses, [f"{SITE}/robots.txt"])

    def test_what_is_no_address_is_left_to_the_fetcher_and_ends_no_other_page(self) -> None:
        requests = [FetchRequest(url="http://[x"), FetchRequest(url=f"{LIST}sky/")]
        allowed = fetching._allowed_requests(requests, self.site, NOW)
        self.assertEqual([request.url for request in allowed if request], [request.url for request in requests])

    def test_articles_become_items_with_their_fields_once_each(self) -> None:
        source = self.made_source(sections=[{"url": f"{LIST}sky/", "category": "Comets"}, {"url": f"{LIST}dome/"}])
        reading = self.read(source)
        self.assertEqual((reading["error"], reading["fresh"] > 8), ("", True))
        items = list(Item.objects.filter(source=source))
        self.assertTrue(all(item.title and item.published and item.text for item in items))
        self.assertTrue(all(item.authors for item in items if not item.text.startswith("Not")))
        self.assertIn(["Comets"], [item.categories for item in items])
        for words in ("More notes", "Send", "Before you continue", "Continue on page 2"):
            self.assertFalse([item.pk for item in items if words in item.body], words)
        before = len(self.site.asked)
        self.assertEqual(self.read(source)["fresh"], 0)
        self.assertFalse([url for url in self.site.addresses[before:] if "/notes/" in url and self._is_captured(url)])

    def _is_captured(self, url: str) -> bool:
        return Item.objects.filter(link=url).exists()

    def test_an_article_in_two_parts_is_put_together(self) -> None:
        source = self.made_source()
        reader = Reader.objects.get()
        reader.document["article"]["next_part"] = "a.continue"
        reader.document["list_page"]["pages"] = 4
        reader.document["at_most"] = 40
        reader.save()
        self.read(source)
        parted = [url.partition("?")[0] for url in self.site.addresses if "part=2" in url]
        self.assertTrue(parted)
        number = int(parted[0].rpartition("/")[2])
        story = story_by_number(bulletin._OBSERVATORY, number, 7)
        text = Item.objects.get(link=parted[0]).text
        self.assertIn(story.paragraphs[0][:60], text)
        self.assertIn(story.paragraphs[-1][-60:], text)

    def test_consent_pages_are_told_and_become_no_item(self) -> None:
        source = self.made_source()
        Reader.objects.update(document=Reader.objects.get().document | {"at_most": 40})
        reader = Reader.objects.get()
        reader.document["list_page"]["pages"] = 6
        reader.save()
        reading = self.read(source)
        self.assertIn("page_consent", [warning["code"] for warning in reading["warnings"]])
        self.assertFalse(Item.objects.filter(source=source, title__startswith="Before you").exists())

    def test_a_site_that_asks_for_long_pauses_is_read_in_parts(self) -> None:
        source = self.made_source()
        with patch.object(bulletin, "ROBOTS", "User-agent: *\nCrawl-delay: 60\n"):
            fetching._robots.clear()
            reading = self.read(source)
        self.assertEqual(
            reading["found"] + sum(warning["code"].startswith("page_") for warning in reading["warnings"]), 5
        )
        self.assertIn("more_articles", [warning["code"] for warning in reading["warnings"]])

    def test_pages_are_kept_so_that_a_reader_can_be_tried_on_those_of_yesterday(self) -> None:
        self.read(self.made_source())
        reader = Reader.objects.get()
        self.site.layout = 2
        self.read(reader.sources.get())
        kept = self.ask("GET", f"/readers/{reader.key}/pages")
        lists = [one for one in kept if one["lists"]]
        self.assertEqual((len(lists), len(kept) - len(lists)), (2, 2))
        found = [
            len(self.ask("POST", f"/pages/{one['id']}/list", document=reader.document)["entries"]) for one in lists
        ]
        self.assertEqual(found, [0, 8])

    def test_one_section_that_fails_is_told_and_stops_no_other(self) -> None:
        source = self.made_source(sections=[{"url": f"{LIST}sky/"}, {"url": f"{LIST}dome/"}])
        self.site.failing = {f"{LIST}sky/"}
        reading = self.read(source)
        self.assertEqual(reading["error"], "")
        self.assertIn("section_unread", [warning["code"] for warning in reading["warnings"]])
        self.assertGreater(reading["fresh"], 0)
        self.site.failing |= {f"{LIST}dome/"}
        self.assertEqual(self.read(source)["error"], "server_error")

    def test_a_sitemap_behind_an_index_is_a_list_of_articles(self) -> None:
        page = self.ask("POST", "/pages", url=f"{LIST}sitemap.xml")
        self.assertEqual(page["kind"], "sitemap")
        made = self.ask("POST", "/readers", name="Map", document={"url": page["url"], "at_most": 5})
        self.ask("POST", "/page-sources", reader=made["key"], title="Map")
        source = Source.objects.get(reader__key=made["key"])
        reading = self.read(source)
        self.assertGreater(reading["fresh"], 2)
        self.assertIn("more_articles", [warning["code"] for warning in reading["warnings"]])
        newest = bulletin._stories("", self.site.now, 7)[0]
        self.assertIn(f"{LIST}notes/{newest.number}", self.site.addresses)

    def test_one_page_is_taken_by_its_address_and_used_by_a_campaign(self) -> None:
        notes = [story for story in bulletin._stories("", NOW, 7) if story.number % 17 != 4 and story.number % 5]
        taken = self.ask("POST", "/taken-pages", url=f"{LIST}notes/{notes[0].number}")
        self.assertEqual((taken["title"], taken["reader"], taken["fresh"]), (notes[0].title, "", True))
        self.assertFalse(self.ask("POST", "/taken-pages", url=f"{LIST}notes/{notes[0].number}")["fresh"])
        self.ask("POST", "/readers", name="Bulletin", document=self.document())
        other = self.ask("POST", "/taken-pages", url=f"{LIST}notes/{notes[1].number}")
        self.assertEqual((other["reader"], other["source"]), ("Bulletin", taken["source"]))
        campaign = make_campaign(self.blog, "By hand", sources=(taken["source"],))
        self.assertEqual(run(campaign, self.site).verdicts, {"publish": 2})
        self.assertNotIn("https://taken-by-hand.invalid/", self.site.addresses)

    def test_what_is_no_article_is_not_taken_and_says_why(self) -> None:
        consent = next(story.number for story in bulletin._stories("", NOW, 7) if story.number % 17 == 4)
        for path, words in (
            (f"notes/{consent}", "consent"),
            ("staff/", "robots.txt"),
            ("notes/x", "404"),
            ("tonight/", "scripts"),
        ):
            answer = self.call(self.editor, "POST", "/blogs/meadow/taken-pages", {"url": f"{LIST}{path}"})
            self.assertEqual((answer.status_code, words in answer.json()["detail"]), (422, True), answer.content)

    def drifted(self, **changes: Any) -> Source:  # noqa: ANN401
        source = self.made_source()
        Reader.objects.update(**changes)
        for _ in range(3):
            self.read(source)
            self.site.now += timedelta(days=1)
        self.site.layout = 2
        self.read(source)
        return source

    def test_a_new_layout_is_noticed_its_posts_are_held_and_the_mend_reads_it_again(self) -> None:
        source = self.drifted()
        reader = Reader.objects.get()
        self.assertIn("list.link", [one["part"] for one in reader.drift])
        shown = self.ask("GET", f"/sources/{source.key}")["source"]
        self.assertEqual(
            (shown["in_doubt"], shown["health"], shown["health_data"]), (True, "changed", {"layout": True})
        )
        held = run(make_campaign(self.blog, "In doubt", sources=(source.key,)), self.site)
        self.assertEqual(set(held.verdicts), {"hold"})
        found = self.ask("GET", f"/readers/{reader.key}/mend")
        self.assertTrue(found["sure"])
        self.assertEqual(found["found"], found["known"])
        taken = self.ask("POST", f"/readers/{reader.key}/mend")
        self.assertEqual(taken["drift"], [])
        source.refresh_from_db()
        self.assertFalse(source.state.in_doubt)
        self.site.now += timedelta(days=2)
        self.assertGreater(self.read(source)["fresh"], 0)

    def test_a_site_that_is_down_has_not_changed_its_layout(self) -> None:
        source = self.made_source(sections=[{"url": f"{LIST}{name}/"} for name in ("sky", "dome", "evenings")])
        for _ in range(3):
            self.read(source)
        for failing in ({f"{LIST}sky/", f"{LIST}dome/"}, {f"{LIST}{name}/" for name in ("sky", "dome", "evenings")}):
            self.site.failing = failing
            self.read(source)
            self.assertEqual(Reader.objects.get().drift, [])
        source.refresh_from_db()
        self.assertEqual((source.state.in_doubt, source.state.health), (False, "unsteady"))

    def test_a_list_that_has_not_changed_is_asked_for_that_only(self) -> None:
        source = self.made_source(at_most=40)
        self.site.etag = '"one"'
        consent = [warning for warning in self.read(source)["warnings"] if warning["code"] == "page_consent"]
        self.assertEqual(consent, [])
        asked = len(self.site.asked)
        again = self.read(source)
        self.assertEqual((again["not_modified"], again["error"], again["status"]), (True, "", 304))
        self.assertEqual([(one.url, one.etag) for one in self.site.asked[asked:]], [(LIST, '"one"')])
        reader = self.ask("GET", f"/readers/{Reader.objects.get().key}")
        self.ask(
            "PUT", f"/readers/{reader['key']}", name="Other", document=reader["document"], mends_itself=False,
            version=reader["version"],
        )  # fmt: skip
        self.assertFalse(self.read(source)["not_modified"])

    def test_a_list_is_asked_in_full_while_something_of_it_was_left(self) -> None:
        source = self.made_source(at_most=3)
        self.site.etag = '"one"'
        self.assertEqual(self.read(source)["fresh"], 3)
        self.assertEqual(self.read(source)["fresh"], 3)

    def test_a_reading_stops_at_the_oldest_day_that_is_wanted(self) -> None:
        source = self.made_source(at_most=40)
        reader = Reader.objects.get()
        reader.document["list_page"]["pages"] = 6
        reader.document["since"] = (NOW - timedelta(days=4)).date().isoformat()
        reader.save()
        self.read(source)
        dates = list(Item.objects.filter(source=source).values_list("published", flat=True))
        self.assertTrue(dates)
        self.assertTrue(all(at and at.date() >= (NOW - timedelta(days=4)).date() for at in dates))
        self.assertLess(len([url for url in self.site.addresses if "page=" in url]), 5)

    def test_a_reader_is_tested_on_articles_of_every_section(self) -> None:
        sections = [{"url": f"{LIST}{name}/"} for name in ("sky", "dome", "evenings")]
        document = self.document(sections=[*sections, {"url": f"{LIST}archive/", "on": False}])
        rows = self.ask("POST", "/reader-test", document=document, urls=[])
        self.assertEqual(len(rows), 6)
        self.assertEqual({int(row["url"].rpartition("/")[2]) % 3 for row in rows}, {0, 1, 2})

    def test_what_a_page_carries_for_its_scripts_is_read_without_them(self) -> None:
        page = self.ask("POST", "/pages", url=f"{LIST}visits/")
        self.assertEqual((page["kind"], page["lists"][0]["count"]), ("scripted", 8))
        listed = page["lists"][0]["list_page"]
        self.assertEqual(listed["data"]["list"], "held.page.notes")
        source = self.made_source(url=f"{LIST}visits/", list_page=listed)
        self.assertGreaterEqual(self.read(source)["fresh"], 7)

    def test_pages_are_read_after_their_scripts_where_the_source_says_so(self) -> None:
        drawn = bulletin.list_page("sky", 1, now=NOW, seed=7, layout=1).encode()
        shown: list[FetchRequest] = []

        def render(request: FetchRequest, _fetcher: object) -> Fetched:
            shown.append(request)
            answer = self.site._answer(request)
            assert isinstance(answer, Fetched)
            return answer if "/notes/" in request.url else replace(answer, body=drawn)

        with patch.object(wiring, "renderer") as renderer:
            renderer.return_value.render = render
            page = self.ask("POST", "/pages", url=f"{LIST}tonight/", rendered=True, hosts=["cdn.example"])
            self.assertEqual((page["kind"], page["lists"][0]["count"]), ("article", 8))
            self.assertEqual(shown[0].hosts, ("cdn.example",))
            document = {"url": f"{LIST}tonight/", "list_page": page["lists"][0]["list_page"]}
            urls = [f"{SITE}/bulletin/notes/1"]
            self.ask("POST", "/reader-test", document=document, urls=urls, rendered=True)
            self.assertEqual(shown[-1].url, urls[0])
            made = self.ask("POST", "/readers", name="Tonight", document=document)
            self.assertFalse(made["rendered"])
            self.ask("POST", "/page-sources", reader=made["key"], title="Tonight", rendered=True)
            self.assertTrue(self.ask("GET", f"/readers/{made['key']}")["rendered"])
            del shown[:]
            self.assertGreaterEqual(self.read(Source.objects.get(title="Tonight"))["fresh"], 7)
            self.assertGreaterEqual(len(shown), 8)
            # robots.txt itself is no page.
            self.assertFalse([one.url for one in shown if one.url.endswith("robots.txt")])

    def test_two_lists_of_one_reader_are_held_each_against_its_own_past(self) -> None:
        source = self.made_source()
        key = Reader.objects.get().key
        self.ask("POST", "/page-sources", reader=key, title="Last page", url=f"{LIST}sky/?page=9")
        other = Source.objects.get(title="Last page")
        for _ in range(3):
            self.read(source)
            self.read(other)
        self.assertEqual(
            (Reader.objects.get().drift, self.ask("GET", f"/readers/{key}")["tallies"][0]["counts"]["link"]), ([], 8)
        )
        self.site.layout = 2
        self.read(source)
        self.read(other)
        source.refresh_from_db()
        other.refresh_from_db()
        self.assertEqual((source.state.in_doubt, other.state.in_doubt), (True, False))
        self.assertTrue(Reader.objects.get().drift)

    def test_a_reader_that_mends_itself_says_so_in_the_audit_list(self) -> None:
        source = self.drifted(mends_itself=True)
        reader = Reader.objects.get()
        self.assertEqual(reader.drift, [])
        self.assertIsNotNone(reader.mended_at)
        source.refresh_from_db()
        self.assertFalse(source.state.in_doubt)
        entry = self.call(self.owner, "GET", "/blogs/meadow/audit").json()["rows"][0]
        self.assertEqual((entry["action"], entry["after"]), ("reader.mended", {"by_itself": True}))

    def test_pointing_gives_a_selector_and_typing_shows_its_faults(self) -> None:
        page = self.ask("POST", "/pages", url=LIST)
        links = self.ask("POST", f"/pages/{page['id']}/match", selector="h2 a")["places"]
        made = self.ask("POST", f"/pages/{page['id']}/point", examples=links[:2])
        self.assertEqual(made[0]["places"], links)
        self.assertTrue(made[0]["exact"])
        one = self.ask("POST", f"/pages/{page['id']}/point", examples=links[:1], only=True)
        self.assertEqual(one[0]["places"], links[:1])
        wrong = self.ask("POST", f"/pages/{page['id']}/match", selector="h2 >> a")
        self.assertEqual((wrong["places"], wrong["at"] > 0), ([], True))

    def test_a_test_reads_sample_articles_and_keeps_nothing(self) -> None:
        document = self.document()
        entries = self.ask("POST", f"/pages/{Snapshot.objects.get().pk}/list", document=document)["entries"]
        self.assertEqual(len(entries), 8)
        self.assertTrue(all(entry["date"] and entry["excerpt"] for entry in entries))
        rows = self.ask("POST", "/reader-test", document=document, urls=[entry["url"] for entry in entries[:4]])
        self.assertEqual(
            next(row["cells"]["title"]["value"] for row in rows if row["kind"] == "article"), entries[0]["title"]
        )
        self.assertEqual(Snapshot.objects.count(), 1)
        self.assertEqual(Item.objects.filter(link__startswith=LIST).count(), 0)

    def test_what_all_articles_share_is_known_from_earlier_readings_and_not_from_tests(self) -> None:
        box = "<div><h3>Letters</h3><div>{} and everybody of the vale has something to say about it.</div></div>"
        answer = self.site._answer

        def with_letters(request: FetchRequest) -> Fetched | FetchError:
            got = answer(request)
            if isinstance(got, Fetched) and "/notes/" in request.url:
                page = got.body.decode()
                letters = box.format(f"Number {request.url.rpartition('/')[2]} was read aloud,")
                return replace(got, body=page.replace("</article>", f"{letters}</article>").encode())
            return got

        addresses = [f"{LIST}notes/{number}" for number in (40, 41, 42, 43)]
        with patch.object(self.site, "_answer", side_effect=with_letters):
            rows = self.ask("POST", "/reader-test", document=self.document(), urls=addresses)
            self.assertTrue(all("Letters" in [part["text"] for part in row["repeated"]] for row in rows), rows)
            self.assertFalse(KnownSite.objects.exists())
            alone = self.ask("POST", "/reader-test", document=self.document(), urls=addresses[:1])
            self.assertEqual(alone[0]["repeated"], [])
            source = self.made_source()
            self.read(source)
            items = list(Item.objects.filter(source=source).exclude(raw__left_out=[]))
            self.assertTrue(items)
            self.assertFalse([item.pk for item in items if "was read aloud" in item.body])
            self.assertIn("Letters", items[0].raw["left_out"])
            # The last articles of the site are known, so one more can be read by itself.
            alone = self.ask("POST", "/reader-test", document=self.document(), urls=addresses[:1])
            self.assertIn("Letters", [part["text"] for part in alone[0]["repeated"]])
            self.assertNotIn("was read aloud", alone[0]["html"])
            kept = [part["key"] for part in alone[0]["repeated"]]
            document = self.document(article={"keep": kept})
            alone = self.ask("POST", "/reader-test", document=document, urls=addresses[:1])
            self.assertTrue(all(part["kept"] for part in alone[0]["repeated"]))
            self.assertIn("was read aloud", alone[0]["html"])

    def test_the_frame_holds_no_script_and_may_load_nothing_from_elsewhere(self) -> None:
        page = self.ask("POST", "/pages", url=LIST)
        answer = self.call(self.editor, "GET", f"/blogs/meadow/pages/{page['id']}/frame")
        text = answer.content.decode()
        self.assertIn("default-src 'none'", answer["Content-Security-Policy"])
        self.assertIn("sandbox allow-same-origin", answer["Content-Security-Policy"])
        self.assertNotIn("<script", text)
        self.assertNotIn("window.seen", text)
        self.assertNotIn(" href=", text.replace("<link", ""))
        self.assertIn('data-place="0"', text)
        self.assertIn("/asset?of=", text)

    def test_only_addresses_that_we_have_signed_are_fetched_for_a_frame(self) -> None:
        page = self.ask("POST", "/pages", url=LIST)
        before = len(self.site.asked)
        answer = self.call(self.editor, "GET", f"/blogs/meadow/pages/{page['id']}/asset?of=https://evil.example/")
        self.assertEqual((answer.status_code, len(self.site.asked)), (404, before))

    def test_a_reader_goes_out_as_yaml_and_comes_in_again(self) -> None:
        made = self.ask("POST", "/readers", name="Bulletin", document=self.document())
        written = self.ask("GET", f"/readers/{made['key']}/yaml")
        again = self.ask("POST", "/reader-yaml", **written)
        self.assertEqual((again["document"], again["name"]), (made["document"], "Bulletin"))
        self.assertNotEqual(again["key"], made["key"])
        answer = self.call(
            self.editor, "POST", "/blogs/meadow/reader-yaml", {"yaml": "name: x\nlist_page: {link: 'a >'}"}
        )
        self.assertEqual(answer.status_code, 422)
        self.assertIn("list_page", answer.json()["detail"])

    def test_a_reader_that_a_source_uses_is_not_removed(self) -> None:
        source = self.made_source()
        path = f"/blogs/meadow/readers/{Reader.objects.get().key}"
        self.assertEqual(self.call(self.editor, "DELETE", path, None).status_code, 409)
        self.ask("DELETE", f"/sources/{source.key}", status=204)
        self.ask("DELETE", path.removeprefix("/blogs/meadow"), status=204)
        self.assertEqual(self.ask("GET", "/readers"), [])
