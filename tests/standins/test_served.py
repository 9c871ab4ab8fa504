"""The simulated world over HTTP: sites, feeds, pages, pictures, and switchable faults."""

import json
import re
import urllib.error
import urllib.parse
import urllib.request
from collections.abc import Mapping
from datetime import UTC, datetime
from http.client import IncompleteRead
from typing import Any

from django.test import SimpleTestCase
from glyptarch_core.readers import discover_feeds, page_picture, read_feed
from glyptarch_standins.app import World, make_app
from glyptarch_standins.faults import FAULTS
from glyptarch_standins.stories import SITES, site_named, stories_up_to

from tests.served import served

NOON = datetime(2026, 11, 24, 12, tzinfo=UTC)


class Served(SimpleTestCase):
    def setUp(self) -> None:
        self.world = World(fixed=NOON)
        opened = served(make_app(self.world))
        self.base = f"http://{opened.__enter__()}"
        self.addCleanup(opened.__exit__, None, None, None)

    def get(self, path: str, headers: Mapping[str, str] | None = None) -> Any:  # noqa: ANN401
        return urllib.request.urlopen(urllib.request.Request(f"{self.base}{path}", headers=dict(headers or {})))  # noqa: S310

    def status(self, path: str, headers: Mapping[str, str] | None = None) -> int:
        try:
            with self.get(path, headers) as answer:
                return int(answer.status)
        except urllib.error.HTTPError as error:
            error.close()
            return error.code

    def send(self, **form: str) -> None:
        with urllib.request.urlopen(f"{self.base}/control", urllib.parse.urlencode(form).encode()) as answer:  # noqa: S310
            answer.read()


class Sites(Served):
    def test_every_site_leads_to_a_feed_that_can_be_read(self) -> None:
        for site in SITES:
            with self.subTest(site.name):
                home = self.get(f"/{site.name}/").read()
                links = discover_feeds(home, f"{self.base}/{site.name}/")
                self.assertEqual([link.url for link in links], [f"{self.base}/{site.name}/feed"])
                feed = read_feed(self.get(f"/{site.name}/feed").read(), source=site.name, url=links[0].url)
                self.assertEqual(len(feed.items), site.in_feed)

    def test_what_a_feed_links_to_is_there(self) -> None:
        feed = read_feed(self.get("/observatory/feed").read(), source="observatory", url=self.base)
        for item in feed.items[:3]:
            page = urllib.request.urlopen(item.link).read().decode()  # noqa: S310
            self.assertIn(item.title.replace("’", "’"), page)

    def test_what_is_not_there_is_not_found(self) -> None:
        for path in ("/nowhere/", "/nowhere/feed", "/skywire/notes/x", "/pictures/none.gif"):
            self.assertEqual(self.status(path), 404, path)

    def test_an_atom_feed_goes_on_for_some_pages(self) -> None:
        url, seen = f"{self.base}/observatory/feed", set[str]()
        for number in range(1, 7):
            feed = read_feed(urllib.request.urlopen(url).read(), source="observatory", url=url)  # noqa: S310
            self.assertEqual(len(seen), (number - 1) * 20)
            seen |= {item.identity for item in feed.items}
            self.assertEqual(feed.older, f"{self.base}/observatory/feed?page={number + 1}" if number < 6 else "")
            url = feed.older

    def test_an_unchanged_feed_says_so(self) -> None:
        tag = self.get("/skywire/feed").headers["ETag"]
        self.assertEqual(self.status("/skywire/feed", {"If-None-Match": tag}), 304)
        self.assertEqual(self.status("/skywire/feed", {"If-None-Match": '"other"'}), 200)

    def test_the_past_can_be_read_as_it_was(self) -> None:
        then = urllib.parse.quote("2026-11-01T12:00:00+00:00")
        items = json.loads(self.get(f"/skywire/feed?at={then}").read())["items"]
        self.assertTrue(all(item["date_published"] < "2026-11-01T12:00:01" for item in items))

    def test_now_and_then_a_page_has_a_picture_where_the_feed_has_none(self) -> None:
        site = site_named("skywire")
        assert site is not None
        bare = [story for story in stories_up_to(site, NOON, self.world.seed) if not story.picture]
        results = [
            page_picture(self.get(f"/skywire/notes/{story.number}").read(), f"{self.base}/skywire/notes/{story.number}")
            for story in bare
        ]
        self.assertTrue(any(results))
        self.assertFalse(all(results))
        first = next(picture for picture in results if picture)
        self.assertEqual(urllib.request.urlopen(first.url).headers["Content-Type"], "image/jpeg")  # noqa: S310

    def test_pixels_and_the_way_to_the_control_page(self) -> None:
        self.assertEqual(self.get("/pixel.gif").headers["Content-Type"], "image/gif")
        self.assertIn("The simulated world", self.get("/").read().decode())


class Control(Served):
    def test_time_goes_on_and_comes_back(self) -> None:
        before = self.get("/skywire/feed").read()
        self.send(hours="72")
        self.assertNotEqual(self.get("/skywire/feed").read(), before)
        self.send(hours="now")
        self.assertEqual(self.get("/skywire/feed").read(), before)

    def test_a_fault_spoils_one_site_until_it_is_taken_off(self) -> None:
        self.send(site="skywire", fault="broken")
        self.assertEqual((self.status("/skywire/feed"), self.status("/meadowlark/feed")), (500, 200))
        self.send(site="skywire", fault="")
        self.assertEqual(self.status("/skywire/feed"), 200)

    def test_unknown_sites_and_faults_change_nothing(self) -> None:
        self.send(site="nowhere", fault="broken")
        self.send(site="skywire", fault="no-such-fault")
        self.assertEqual(self.status("/skywire/feed"), 200)

    def test_each_quick_fault_spoils_the_answer_in_its_way(self) -> None:
        expected = {
            "missing": 404,
            "broken": 500,
            "gone": 410,
            "too_often": 429,
            "sign_in": 401,
            "forbidden": 403,
            "never_changed": 304,
            "no_target": 302,
            "moved_to_nothing": 404,
        }
        for name in sorted(set(FAULTS) - {"slow", "huge"}):
            with self.subTest(name):
                self.send(site="meadowlark", fault=name)
                if name in expected:
                    self.assertEqual(self.status("/meadowlark/feed"), expected[name])
                elif name == "cut_off":
                    with self.assertRaises((IncompleteRead, ConnectionError)):
                        self.get("/meadowlark/feed").read()
                elif name == "redirect_loop":
                    with self.assertRaises(urllib.error.HTTPError) as raised:
                        self.get("/meadowlark/feed")
                    raised.exception.close()
                elif name == "bad_encoding":
                    answer = self.get("/meadowlark/feed")
                    self.assertEqual((answer.headers["Content-Encoding"], answer.read(5)), ("gzip", b"<?xml"))
                elif name == "wrong_encoding":
                    with self.assertRaises(UnicodeDecodeError):
                        self.get("/meadowlark/feed").read().decode()
                else:
                    self.assertNotIn(b"<rss", self.get("/meadowlark/feed").read())


class Bulletin(Served):
    """A site without a feed, which moves between two layouts."""

    def text(self, path: str) -> str:
        return str(self.get(path).read().decode())

    def test_lists_go_on_until_their_last_page_and_every_link_is_there(self) -> None:
        first = self.text("/bulletin/sky/")
        self.assertIn('href="/bulletin/sky/?page=2"', first)
        self.assertNotIn("?page=", self.text("/bulletin/sky/?page=6").replace("page=6", ""))
        for number in re.findall(r'href="(/bulletin/notes/\d+)"', first):
            self.assertEqual(self.status(number), 200)

    def test_the_layout_moves_and_the_stories_stay(self) -> None:
        before = self.text("/bulletin/")
        self.send(layout="2")
        after = self.text("/bulletin/")
        titles = [
            re.findall(r">([^<>]+)</a></h2>", before),
            re.findall(r'class="heading" href="[^"]+">([^<>]+)</a>', after),
        ]
        self.assertEqual(titles[0], titles[1])
        self.assertNotIn("<article", after)

    def test_some_articles_have_two_parts_and_some_a_consent_page(self) -> None:
        pages = {number: self.text(f"/bulletin/notes/{number}") for number in range(400, 440)}
        self.assertTrue([number for number, text in pages.items() if "?part=2" in text])
        self.assertTrue([number for number, text in pages.items() if "Before you continue" in text])

    def test_robots_forbid_a_part_and_ask_for_a_pause(self) -> None:
        robots = self.text("/robots.txt")
        self.assertIn("Disallow: /bulletin/staff/", robots)
        self.assertIn("Crawl-delay", robots)

    def test_every_second_product_states_its_price_for_machines(self) -> None:
        self.assertIn("/shop/goods/1", self.text("/shop/"))
        stated = ["application/ld+json" in self.text(f"/shop/goods/{number}") for number in range(4)]
        self.assertEqual(stated, [True, False, True, False])

    def test_unknown_sections_are_not_found(self) -> None:
        for path in ("/bulletin/nowhere/", "/bulletin/notes/x"):
            self.assertEqual(self.status(path), 404)
