"""Trying an address, adding it, and keeping how it was read."""

from unittest.mock import patch

from django.test import SimpleTestCase, TestCase
from glyptarch_core.errors import ParseError
from glyptarch_core.readers import read_feed
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.items.actions import keep_answer
from glyptarch_server.sources import queries
from glyptarch_server.sources.actions import remove_source
from glyptarch_server.sources.adding import add_source
from glyptarch_server.sources.checking import check_addresses, normal_address
from glyptarch_server.sources.gathering import SourceAnswer, read_sources
from glyptarch_server.sources.models import Source
from glyptarch_server.wiring import FetchCode, Fetched, FetchError

from tests.server.fixtures import NOW, CannedPortal, make_blog, make_source
from tests.server.test_runs import FEED

ADDRESS = "https://club.example/feed"
PAGE = b"""<!doctype html><html><head><title>Club</title>
<link rel="alternate" type="application/rss+xml" title="News" href="/feed"></head><body>Hello</body></html>"""


class Trying(SimpleTestCase):
    def test_an_address_gets_its_scheme(self) -> None:
        for typed, address in {
            " club.example/feed ": "https://club.example/feed",
            "feed:club.example/feed": "https://club.example/feed",
            "feed://club.example/feed": "https://club.example/feed",
            "feed:https://club.example/feed": "https://club.example/feed",
            "http://club.example/feed": "http://club.example/feed",
        }.items():
            with self.subTest(typed):
                self.assertEqual(normal_address(typed), address)

    def test_a_feed_says_what_it_fills_and_shows_its_newest(self) -> None:
        checked = check_addresses([ADDRESS], CannedPortal({ADDRESS: FEED}))[0]
        assert checked.feed is not None
        self.assertEqual((checked.error, len(checked.samples)), ("", len(checked.feed.items[:3])))
        self.assertEqual(checked.fields["title"], len(checked.feed.items))
        self.assertEqual(checked.fields["film"], 0)

    def test_a_page_leads_to_the_feeds_it_names(self) -> None:
        checked = check_addresses(["https://club.example/"], CannedPortal({"https://club.example/": PAGE}))[0]
        self.assertEqual([link.url for link in checked.leads_to], [ADDRESS])
        self.assertEqual((checked.feed, checked.error), (None, ""))

    def test_a_page_without_feeds_says_where_to_look(self) -> None:
        bare = PAGE.replace(b"application/rss+xml", b"text/css")
        checked = check_addresses(["https://club.example/"], CannedPortal({"https://club.example/": bare}))[0]
        self.assertIn("names no feed", checked.detail)
        self.assertTrue(checked.error)

    def test_one_that_fails_does_not_stop_the_others(self) -> None:
        failed = FetchError(FetchCode.UNREACHABLE, "nobody answers at https://gone.example/")
        portal = CannedPortal({"https://gone.example/": failed, ADDRESS: FEED})
        gone, found = check_addresses(["https://gone.example/", ADDRESS], portal)
        self.assertEqual((gone.error, found.error), (FetchCode.UNREACHABLE.value, ""))

    def test_a_site_that_speaks_no_https_is_asked_plainly_where_no_scheme_was_typed(self) -> None:
        portal = CannedPortal({ADDRESS: FetchError(FetchCode.TLS, "no TLS"), "http://club.example/feed": FEED})
        checked = check_addresses(["club.example/feed"], portal)[0]
        self.assertEqual(checked.url, "http://club.example/feed")
        self.assertEqual(check_addresses([ADDRESS], portal)[0].error, FetchCode.TLS.value)


class Adding(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.portal = CannedPortal({ADDRESS: FEED})

    def add(self, title: str = "", url: str = ADDRESS) -> Source:
        return add_source(self.blog, url, title, fetcher=self.portal, now=NOW)[0]

    def test_it_is_called_as_asked_else_as_the_feed_calls_itself(self) -> None:
        self.assertEqual(self.add(" Our club ").title, "Our club")
        remove_source(Source.objects.get(), now=NOW)
        self.assertEqual(self.add().title, read_feed(FEED, source="x", url=ADDRESS).title)

    def test_two_of_one_name_get_keys_of_their_own(self) -> None:
        self.portal.bodies["https://other.example/feed"] = FEED
        keys = {self.add("Club").key, self.add("Club", "https://other.example/feed").key}
        self.assertEqual(len(keys), 2)

    def test_what_is_read_already_is_named(self) -> None:
        self.add("Our club")
        with self.assertRaisesRegex(Conflict, "“Our club” already reads this address"):
            self.add("Another")

    def test_two_who_add_it_at_once_get_one_source(self) -> None:
        self.add("Our club")
        with (
            patch.object(queries, "address_taken", return_value=None),
            self.assertRaisesRegex(Conflict, "just been added"),
        ):
            self.add("Another")
        self.assertEqual(Source.objects.count(), 1)

    def test_what_is_no_feed_is_refused_with_what_it_is(self) -> None:
        self.portal.bodies[ADDRESS] = PAGE
        with self.assertRaisesRegex(Invalid, "leads to feeds, but is none itself"):
            self.add()
        self.portal.bodies[ADDRESS] = FetchError(FetchCode.UNREACHABLE, "nobody answers there")
        with self.assertRaisesRegex(Invalid, "nobody answers there"):
            self.add()


class Reading(TestCase):
    def setUp(self) -> None:
        self.source = make_source(make_blog())

    def test_the_next_reading_asks_only_for_what_has_changed(self) -> None:
        portal = CannedPortal({self.source.url: FEED})
        answer = next(read_sources([self.source], portal))[0][1]  # type: ignore[arg-type]
        keep_answer(self.source, answer, now=NOW)
        list(read_sources([Source.objects.get()], portal))  # type: ignore[arg-type]
        self.assertEqual([request.etag for request in portal.asked], ["", '"1"'])

    def test_every_outcome_is_on_record(self) -> None:
        unchanged = Fetched(url=self.source.url, body=b"", not_modified=True, content_type="", etag="", last_modified="",
                            milliseconds=1)  # fmt: skip
        for outcome, error in (
            (read_feed(FEED, source="club", url=self.source.url), ""),
            (unchanged, ""),
            (FetchError(FetchCode.UNREACHABLE, "nobody answers"), FetchCode.UNREACHABLE.value),
            (ParseError("empty", "there is nothing in it"), "empty"),
        ):
            reading = keep_answer(self.source, SourceAnswer(outcome=outcome), now=NOW)
            self.assertEqual(reading.error, error)
        self.assertEqual(self.source.readings.count(), 4)

    def test_a_body_that_is_no_feed_keeps_the_state_of_the_last_good_one(self) -> None:
        self.source.state.etag = '"good"'
        answer = next(read_sources([self.source], CannedPortal({self.source.url: b"hello"})))[0][1]  # type: ignore[arg-type]
        self.assertIsInstance(answer.outcome, ParseError)
        self.assertEqual(self.source.state.etag, '"good"')
