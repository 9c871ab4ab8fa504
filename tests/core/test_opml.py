"""Lists of feeds: read as other readers write them, written so that they are read again."""

import time
from datetime import UTC, datetime

from django.test import SimpleTestCase
from glyptarch_core.errors import ParseError
from glyptarch_core.opml import MOST_FEEDS, ListedFeed, read_opml, write_opml
from hypothesis import given
from hypothesis import strategies as st

NOW = datetime(2026, 11, 26, 12, tzinfo=UTC)
LIST = b"""<?xml version="1.0"?><!-- mine --><opml version="1.0"><head><title>Feeds</title></head><body>
<outline text="Sky"><outline text="Clubs"><outline type="rss" text="Club &amp; Co" xmlUrl="https://club.example/feed"
 htmlUrl="https://club.example/"/></outline><outline title="Wire" text="w" xmlUrl=" https://wire.example/feed "/></outline>
<outline text="Again" xmlUrl="https://club.example/feed"/><outline text="No feed"/><outline xmlUrl="feed:local"/>
<outline xmlUrl="file:///etc/passwd"/></body></opml>"""


class Reading(SimpleTestCase):
    def test_feeds_come_in_order_with_their_folders_and_each_address_once(self) -> None:
        self.assertEqual(
            read_opml(LIST),
            [
                ListedFeed(
                    url="https://club.example/feed",
                    title="Club & Co",
                    link="https://club.example/",
                    folder="Sky / Clubs",
                ),
                ListedFeed(url="https://wire.example/feed", title="Wire", folder="Sky"),
            ],
        )

    def test_a_little_damage_does_not_matter_and_what_is_no_list_is_refused(self) -> None:
        self.assertEqual(len(read_opml(LIST.replace(b"</body></opml>", b""))), 2)
        for body in (b"", b"hello", b"<rss><channel/></rss>", b"\x00\xff", b"{}"):
            with self.assertRaises(ParseError):
                read_opml(body)

    def test_a_list_with_entities_of_its_own_is_refused_before_they_cost_anything(self) -> None:
        bomb = b"<!DOCTYPE opml [<!ENTITY a 'aaaaaaaaaa'>" + b"".join(
            b"<!ENTITY %c '%s'>" % (98 + n, b"&%c;" % (97 + n) * 10) for n in range(9)
        )
        secret = b'<!DOCTYPE opml [<!ENTITY f SYSTEM "file:///etc/passwd">]>'
        plain = b"<!DOCTYPE opml [<!ENTITY a 'expanded'>]>"
        for prolog in (bomb + b"]>", secret, plain):
            begun = time.process_time()
            body = prolog + b"<opml><body><outline text='&a;&j;&f;' xmlUrl='https://a.example/f'/></body></opml>"
            with self.assertRaises(ParseError):
                read_opml(body)
            self.assertLess(time.process_time() - begun, 1)
        self.assertEqual(len(read_opml(LIST.replace(b"<opml ", b"<!DOCTYPE opml><opml "))), 2)

    def test_depth_and_number_are_bounded(self) -> None:
        deep = b"<opml><body>" + b"<outline text='a'>" * 5000 + b"<outline xmlUrl='https://a.example/'/>"
        self.assertLessEqual(len(read_opml(deep)), 1)
        many = b"".join(b"<outline xmlUrl='https://a.example/%d'/>" % n for n in range(MOST_FEEDS + 10))
        self.assertEqual(len(read_opml(b"<opml><body>" + many + b"</body></opml>")), MOST_FEEDS)


_TITLES = st.text(st.characters(blacklist_categories=("Cs", "Cc")), min_size=1, max_size=40).map(
    lambda text: " ".join(text.split())
)


class Writing(SimpleTestCase):
    @given(st.lists(_TITLES, max_size=8))
    def test_what_is_written_is_read_again(self, titles: list[str]) -> None:
        feeds = [
            ListedFeed(url=f"https://a.example/{number}?a=1&b=<2>", title=title, link="https://a.example/")
            for number, title in enumerate(titles)
        ]
        read = read_opml(write_opml("Sources & more", feeds, now=NOW))
        self.assertEqual([one.url for one in read], [feed.url for feed in feeds])
        self.assertEqual([one.link for one in read], [feed.link for feed in feeds])
        for one, was in zip(read, feeds, strict=True):
            self.assertTrue(one.title == was.title or not was.title.isprintable(), (one.title, was.title))
