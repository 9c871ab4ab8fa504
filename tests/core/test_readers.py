"""Feeds, well- and ill-formed, in every format."""

import contextlib
import json
from datetime import UTC, datetime, timedelta

from django.test import SimpleTestCase
from glyptarch_core.errors import ParseError
from glyptarch_core.item import MediaKind, MediaOrigin
from glyptarch_core.readers import Feed, discover_feeds, read_feed
from hypothesis import given
from hypothesis import strategies as st

from tests.core.no_io import no_io

BASE = "https://club.example/feed"
RSS = """<?xml version="1.0" encoding="utf-8"?><rss version="2.0" xmlns:content="http://purl.org/rss/1.0/modules/content/"
 xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:media="http://search.yahoo.com/mrss/"><channel><title>Club &amp;amp; Co</title>
<link>https://club.example/</link><language>en-GB</language><item><title>A &lt;b&gt;bold&lt;/b&gt; comet &amp;amp; tail</title>
<link>/notes/1</link><guid isPermaLink="false">n-1</guid><pubDate>Tue, 24 Nov 2026 13:05:00 +0100</pubDate>
<dc:creator>Ida  Farrow</dc:creator><category>Sky</category><category>Comets</category><description>Short.</description>
<content:encoded><![CDATA[<p>Long <img src="/a.png" width="640" height="480" alt="tail"> text.</p>]]></content:encoded>
<enclosure url="https://club.example/s.mp3" type="audio/mpeg" length="1"/>
<media:thumbnail url="https://club.example/t.jpg" width="120" height="90"/>
<source url="https://wire.example/feed">The wire</source></item></channel></rss>"""
ATOM = """<feed xmlns="http://www.w3.org/2005/Atom" xml:lang="de" xml:base="https://obs.example/b/"><title>Obs</title>
<entry><id>tag:obs.example,2026:7</id><title type="text">1 &lt; 2 comets</title><link href="n/7"/>
<updated>2026-11-24T10:00:00Z</updated><summary>Sum.</summary>
<content type="html">&lt;p&gt;Body &lt;a href="x"&gt;x&lt;/a&gt;&lt;/p&gt;</content></entry></feed>"""
JSON = {
    "version": "https://jsonfeed.org/version/1.1",
    "title": "Wire",
    "home_page_url": "https://wire.example/",
    "authors": [{"name": "The desk"}],
    "items": [
        {"id": 7, "url": "/n/7", "title": "Clouds &amp; wind", "content_text": "One.\n\nTwo.", "summary": "S",
         "date_published": "2026-11-24T10:00:00+01:00", "tags": ["sky", 3], "image": "/p.jpg",
         "attachments": [{"url": "/f.mp4", "mime_type": "video/mp4"}]},
        "not an item",
    ],
}  # fmt: skip


def read(text: str | bytes, content_type: str = "") -> Feed:
    body = text.encode() if isinstance(text, str) else text
    with no_io():
        return read_feed(body, source="club", url=BASE, content_type=content_type)


MEDIA = (
    '<rss version="2.0" xmlns:media="http://search.yahoo.com/mrss/"><channel><title>T</title><item><title>A</title>'
    "<link>https://a.example/1</link>{inside}</item></channel></rss>"
)


class OddElements(SimpleTestCase):
    def test_elements_of_names_that_the_library_works_out_spoil_no_entry(self) -> None:
        for name in ("links", "tags", "enclosures", "license", "category", "media_content"):
            text = RSS.replace("<guid ", f"<{name}>words</{name}><guid ")
            feed = read_feed(text.encode(), source="club", url=BASE)
            self.assertEqual([w.code for w in feed.warnings if w.code == "entry_unreadable"], [], name)
            self.assertEqual(feed.items[0].title, "A bold comet & tail")


class Episodes(SimpleTestCase):
    def test_what_a_podcast_states_of_an_episode_is_kept(self) -> None:
        inside = (
            "<podcast:season>2</podcast:season><podcast:episode>7</podcast:episode>"
            '<podcast:transcript url="https://club.example/7.vtt" type="text/vtt"/>'
            '<podcast:chapters url="https://club.example/7.json" type="application/json+chapters"/>'
        )
        text = RSS.replace("<guid ", f"{inside}<guid ").replace(
            "<rss ", '<rss xmlns:podcast="https://podcastindex.org/namespace/1.0" '
        )
        facts = read(text).items[0].facts
        self.assertEqual((facts["season"], facts["episode"]), ("2", "7"))
        self.assertEqual(
            (facts["transcript"], facts["chapters"]), ("https://club.example/7.vtt", "https://club.example/7.json")
        )
        odd = read(text.replace("https://club.example/7.vtt", "javascript:x")).items[0].facts
        self.assertNotIn("transcript", odd)


class Wished(SimpleTestCase):
    """The polling interval that a feed asks for."""

    def test_minutes_of_ttl_and_periods_of_the_syndication_module(self) -> None:
        for said, minutes in (
            ("<ttl>90</ttl>", 90),
            ("<ttl> 15 </ttl>", 15),
            ("<ttl>soon</ttl>", 0),
            ("<ttl>-3</ttl>", 0),
            (f"<ttl>{'9' * 30}</ttl>", 0),
            ("<sy:updatePeriod>daily</sy:updatePeriod>", 24 * 60),
            ("<sy:updatePeriod>hourly</sy:updatePeriod><sy:updateFrequency>4</sy:updateFrequency>", 15),
            ("<sy:updatePeriod>hourly</sy:updatePeriod><sy:updateFrequency>0</sy:updateFrequency>", 60),
            ("<sy:updatePeriod>often</sy:updatePeriod>", 0),
            ("", 0),
        ):
            text = RSS.replace("<language>", f"{said}<language>").replace(
                "<rss ", '<rss xmlns:sy="http://purl.org/rss/1.0/modules/syndication/" '
            )
            feed = read_feed(text.encode(), source="club", url=BASE)
            self.assertEqual((feed.wished / timedelta(minutes=1), len(feed.items)), (minutes, 1), said)


class Rss(SimpleTestCase):
    def setUp(self) -> None:
        self.feed = read(RSS)
        self.item = self.feed.items[0]

    def test_the_feed_is_named_and_its_format_told(self) -> None:
        self.assertEqual((self.feed.format, self.feed.title, self.feed.language), ("RSS 2.0", "Club & Co", "en-gb"))

    def test_titles_are_plain_text(self) -> None:
        self.assertEqual(self.item.title, "A bold comet & tail")

    def test_summary_and_content_are_kept_apart(self) -> None:
        self.assertIn("Long", self.item.body)
        self.assertEqual(self.item.summary, "Short.")

    def test_identity_link_date_and_people_are_read(self) -> None:
        self.assertEqual(self.item.identity, "n-1")
        self.assertEqual(self.item.link, "https://club.example/notes/1")
        self.assertEqual(self.item.published, datetime(2026, 11, 24, 12, 5, tzinfo=UTC))
        self.assertEqual((self.item.authors, self.item.categories), (("Ida Farrow",), ("Sky", "Comets")))

    def test_media_are_found_where_they_stand(self) -> None:
        found = {(medium.kind, medium.origin): medium.url for medium in self.item.media}
        self.assertEqual(
            found,
            {
                (MediaKind.PICTURE, MediaOrigin.FEED): "https://club.example/t.jpg",
                (MediaKind.SOUND, MediaOrigin.ENCLOSURE): "https://club.example/s.mp3",
                (MediaKind.PICTURE, MediaOrigin.TEXT): "https://club.example/a.png",
            },
        )

    def test_where_the_source_has_it_from_is_read(self) -> None:
        assert self.item.credit is not None
        self.assertEqual((self.item.credit.title, self.item.credit.link), ("The wire", "https://wire.example/feed"))

    def test_an_entry_without_guid_or_link_is_known_by_what_it_says(self) -> None:
        text = "<rss version='2.0'><channel><item><title>A</title><description>B</description></item></channel></rss>"
        self.assertTrue(read(text).items[0].identity.startswith("sha256:"))
        self.assertEqual(read(text).items[0].identity, read(text).items[0].identity)

    def test_an_empty_entry_is_left_out_with_a_warning(self) -> None:
        feed = read("<rss version='2.0'><channel><item></item></channel></rss>")
        self.assertEqual((feed.items, feed.warnings[0].code), ((), "entry_empty"))


class OtherFormats(SimpleTestCase):
    def test_atom_is_read_with_its_bases_and_languages(self) -> None:
        item = read(ATOM).items[0]
        self.assertEqual(item.link, "https://obs.example/b/n/7")
        self.assertIn('href="https://obs.example/b/x"', item.body)
        self.assertEqual((item.title, item.language), ("1 < 2 comets", "de"))
        self.assertIsNone(item.published)
        self.assertEqual(item.updated, datetime(2026, 11, 24, 10, tzinfo=UTC))

    def test_the_description_of_a_picture_is_not_the_text_of_the_entry(self) -> None:
        caption = '<media:description type="plain">A ring, seen from the ridge</media:description>'
        for inside in (
            f'<description>The text.</description><media:content url="/1.jpg">{caption}</media:content>',
            f"{caption}<description>The text.</description>",
            f"<description>The text.</description><media:group>{caption}</media:group>",
        ):
            item = read(MEDIA.format(inside=inside)).items[0]
            self.assertEqual((item.summary, item.body), ("The text.", ""), inside)
        film = read(MEDIA.format(inside=f"<media:group>{caption}</media:group>")).items[0]
        self.assertEqual(film.summary, "<p>A ring, seen from the ridge</p>", "a film has no other text")

    def test_a_date_is_missed_only_where_there_is_none(self) -> None:
        updated = "<entry><id>1</id><title>A</title><updated>2026-11-24T10:00:00Z</updated><link href='/1'/></entry>"
        atom = '<feed xmlns="http://www.w3.org/2005/Atom"><title>T</title><id>f</id>{}</feed>'
        self.assertEqual(read(atom.format(updated)).warnings, ())
        json_feed = {**JSON, "items": [{"id": "1", "title": "A", "content_text": "x", "date_modified": "2026-11-24"}]}
        self.assertNotIn("no_date", [warning.code for warning in read(json.dumps(json_feed)).warnings])
        both = updated.replace("<updated>", "<published>someday</published><updated>")
        self.assertEqual([warning.code for warning in read(atom.format(both)).warnings], ["date_unreadable"])

    def test_rss_1_is_read(self) -> None:
        feed = read(
            '<rdf:RDF xmlns="http://purl.org/rss/1.0/" xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">'
            '<channel rdf:about="x"><title>L</title></channel><item rdf:about="https://l.example/1"><title>T</title>'
            "<link>https://l.example/1</link></item></rdf:RDF>"
        )
        self.assertEqual((feed.format, feed.items[0].title), ("RSS 1.0", "T"))
        self.assertEqual([warning.code for warning in feed.warnings], ["no_date"])

    def test_json_feed_is_read_and_its_oddities_forgiven(self) -> None:
        feed = read(json.dumps(JSON))
        item = feed.items[0]
        self.assertEqual((feed.format, len(feed.items), feed.warnings[0].code), ("JSON Feed 1.1", 1, "entry_empty"))
        self.assertEqual((item.identity, item.link, item.title), ("7", "https://wire.example/n/7", "Clouds & wind"))
        self.assertEqual((item.body, item.summary), ("<p>One.</p><p>Two.</p>", "<p>S</p>"))
        self.assertEqual((item.authors, item.categories), (("The desk",), ("sky",)))
        self.assertEqual(item.published, datetime(2026, 11, 24, 9, tzinfo=UTC))
        self.assertEqual([medium.kind for medium in item.media], [MediaKind.PICTURE, MediaKind.FILM])

    def test_a_json_item_without_a_picture_has_none(self) -> None:
        data = {**JSON, "items": [{"id": "1", "title": "T"}]}
        self.assertEqual(read(json.dumps(data)).items[0].media, ())


class IllFormed(SimpleTestCase):
    def fails(self, body: str | bytes, code: str) -> None:
        with self.assertRaises(ParseError) as caught:
            read(body)
        self.assertEqual(caught.exception.code, code)

    def test_each_kind_of_no_feed_is_told_apart(self) -> None:
        self.fails("", "empty")
        self.fails("  \n", "empty")
        self.fails("<!doctype html><html><body>Hi</body></html>", "page")
        self.fails("This was a feed once.", "not_a_feed")
        self.fails("<plain>xml</plain>", "not_a_feed")
        self.fails('{"version": ', "bad_json")
        self.fails('{"version": "1"}', "not_a_feed")
        self.fails("[1, 2]", "not_a_feed")

    def test_a_body_cut_off_gives_what_came_and_a_warning(self) -> None:
        whole = RSS.replace("</channel></rss>", "<item><title>Second</title><link>/2</link></item></channel></rss>")
        feed = read(whole[: whole.index("Second") + 3])
        self.assertEqual(feed.items[0].identity, "n-1")
        self.assertIn("ill_formed", [warning.code for warning in feed.warnings])

    def test_a_wrong_encoding_is_read_as_well_as_it_can_be(self) -> None:
        body = RSS.replace("Short.", "Café").encode("cp1252")
        feed = read(body, "application/rss+xml; charset=utf-8")
        self.assertEqual(feed.items[0].summary, "Café")
        self.assertTrue(feed.warnings)

    def test_utf_16_is_read_and_holds_no_way_around(self) -> None:
        text = (
            RSS.replace("utf-8", "utf-16")
            .replace("<rss", '<!DOCTYPE r [<!ENTITY z "zzzz">]><rss')
            .replace("Short.", "é &z;")
        )
        self.assertNotIn("zzzz", str([item.summary for item in read(text.encode("utf-16")).items]))

    def test_entities_are_not_expanded(self) -> None:
        bomb = '<!DOCTYPE x [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;"><!ENTITY c "&b;&b;&b;&b;&b;&b;&b;&b;">]>'
        text = (
            f"<?xml version='1.0'?>{bomb}<rss version='2.0'><channel><item><title>x &c;</title></item></channel></rss>"
        )
        try:
            titles = [item.title for item in read(text).items]
        except ParseError:
            titles = []
        self.assertNotIn("hahahaha", "".join(titles))

    def test_no_file_named_by_a_body_is_opened(self) -> None:
        self.fails("/etc/hostname", "not_a_feed")
        self.fails("http://127.0.0.1/feed", "not_a_feed")

    @given(st.binary(max_size=300))
    def test_any_bytes_give_a_feed_or_the_one_error(self, body: bytes) -> None:
        with contextlib.suppress(ParseError):
            read_feed(body, source="club", url=BASE)

    @given(st.integers(0, len(RSS)), st.integers(0, len(RSS)))
    def test_any_damage_to_a_feed_gives_a_feed_or_the_one_error(self, start: int, end: int) -> None:
        with contextlib.suppress(ParseError):
            read_feed((RSS[:start] + RSS[end:]).encode(), source="club", url=BASE)

    @given(st.recursive(st.none() | st.booleans() | st.integers() | st.text(max_size=8),
                        lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.sampled_from(
                            ["id", "url", "title", "authors", "tags", "image", "attachments", "date_published",
                             "content_html", "name", "mime_type"]), inner, max_size=5), max_leaves=12))  # fmt: skip
    def test_any_json_entry_is_borne(self, entry: object) -> None:
        data = {"version": "https://jsonfeed.org/version/1.1", "items": [entry]}
        read_feed(json.dumps(data).encode(), source="club", url=BASE)


class Discovery(SimpleTestCase):
    def test_feeds_are_found_in_link_elements_with_their_base(self) -> None:
        page = (
            b'<html><head><base href="https://club.example/x/"><link rel="alternate" type="application/rss+xml" title="All"'
            b' href="feed"><link rel="stylesheet" href="s.css"><link rel="ALTERNATE" type="application/feed+json" href="/j">'
            b'<link rel="alternate" hreflang="de" href="/de"></head></html>'
        )
        feeds = [(link.url, link.title, link.format) for link in discover_feeds(page, "https://club.example/")]
        self.assertEqual(
            feeds, [("https://club.example/x/feed", "All", "RSS"), ("https://club.example/j", "", "JSON Feed")]
        )

    @given(st.binary(max_size=200))
    def test_any_bytes_give_a_list(self, page: bytes) -> None:
        self.assertIsInstance(discover_feeds(page, "https://a.example/"), tuple)


class Facts(SimpleTestCase):
    def test_what_a_feed_states_is_read(self) -> None:
        text = RSS.replace(
            "<dc:creator>",
            '<media:content url="https://club.example/f.mp4" type="video/mp4" duration="95"/><media:community>'
            '<media:starRating average="4.5"/><media:statistics views="1200"/></media:community><dc:creator>',
        )
        self.assertEqual(dict(read(text).items[0].facts), {"rating": 4.5, "views": 1200.0, "length": 95.0})

    def test_json_extensions_become_fields_of_their_own(self) -> None:
        entry = {"id": "1", "_glass": {"price": "18,50", "mount": "equatorial", "deep": {"x": 1}}, "_note": "hand made"}
        facts = read(json.dumps({**JSON, "items": [entry]})).items[0].facts
        self.assertEqual(dict(facts), {"price": 18.5, "mount": "equatorial", "note": "hand made"})


class WhatAFeedAsksFor(SimpleTestCase):
    def feed(self, head: str, *, atom: bool = False) -> Feed:
        rss = f"<rss version='2.0' xmlns:a='http://www.w3.org/2005/Atom'><channel><title>T</title>{head}<item><title>A</title></item></channel></rss>"
        as_atom = (
            f"<feed xmlns='http://www.w3.org/2005/Atom'><title>T</title>{head}<entry><title>A</title></entry></feed>"
        )
        return read_feed((as_atom if atom else rss).encode(), source="s", url="https://a.example/feed")

    def test_hours_to_skip(self) -> None:
        hours = "<skipHours><hour>0</hour> <hour> 13 </hour><hour>24</hour></skipHours>"
        self.assertEqual(self.feed(hours).skip_hours, {0, 13})
        every = "".join(f"<hour>{hour}</hour>" for hour in range(24))
        self.assertEqual(self.feed(f"<skipHours>{every}</skipHours>").skip_hours, frozenset())
        self.assertEqual(self.feed("<skipHours><hour>x</hour></skipHours>").skip_hours, frozenset())

    def test_hub_itself_and_older_entries(self) -> None:
        links = "<link rel='hub' href='https://hub.example/'/><link rel='self' href='/me'/><link rel='prev-archive' href='/2025'/>"
        feed = self.feed(links, atom=True)
        self.assertEqual(
            (feed.hub, feed.self_link, feed.older),
            ("https://hub.example/", "https://a.example/me", "https://a.example/2025"),
        )
        paged = self.feed("<a:link rel='next' href='/feed?page=2'/><a:link rel='hub' href='javascript:x'/>")
        self.assertEqual((paged.hub, paged.older), ("", "https://a.example/feed?page=2"))

    def test_the_same_of_a_json_feed(self) -> None:
        data = {
            "version": "https://jsonfeed.org/version/1.1",
            "title": "T",
            "feed_url": "https://a.example/me",
            "next_url": "/older",
            "hubs": [{"type": "rssCloud", "url": "https://no.example/"}, 7, {"type": "WebSub", "url": "/hub"}],
            "items": [{"id": "1", "content_text": "A"}],
        }
        feed = read_feed(json.dumps(data).encode(), source="s", url="https://a.example/feed")
        self.assertEqual(
            (feed.hub, feed.self_link, feed.older),
            ("https://a.example/hub", "https://a.example/me", "https://a.example/older"),
        )
