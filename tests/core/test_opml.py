"""Lists of feeds: read as other readers write them, written so that they are read again."""

import time
from datetime import UTC, datetime

from django.test import SimpleTestCase
from glyptarch_core.errors import ParseError
from glyptarch_core.readers.opml import MOST_FEEDS, ListedFeed, ListFault, read_opml, write_opml
from hypothesis import given
from hypothesis import strategies as st

NOW = datetime(2026, 11, 26, 12, tzinfo=UTC)
LIST = b"""<?xml version="1.0"?><!-- mine --><opml version="1.0"><head><title>Feeds</title></head><body>
<outline text="Sky"><outline text="Clubs"><outline type="rss" text="Club &amp; Co" xmlUrl="https://club.example/feed"
 htmlUrl="https://club.example/"/></outline><outline title="Wire" text="w" xmlUrl=" https://wire.example/feed "/></outline>
<outline text="Again" xmlUrl="https://club.example/feed"/><outline text="No feed"/><outline xmlUrl="feed:local"/>
<outline xmlUrl="file:///etc/passwd"/></body></opml>"""


def one(attributes: str, *, encoding: str = "utf-8") -> ListedFeed:
    """Return the only entry of a list."""
    text = f'<?xml version="1.0" encoding="{encoding}"?><opml version="2.0"><body><outline {attributes}/></body></opml>'
    (entry,) = read_opml(text.encode(encoding))
    return entry


class Reading(SimpleTestCase):
    def test_entries_come_in_order_with_their_folders_and_their_faults(self) -> None:
        self.assertEqual(
            read_opml(LIST),
            [
                ListedFeed(
                    url="https://club.example/feed",
                    title="Club & Co",
                    link="https://club.example/",
                    folders=("Sky", "Clubs"),
                ),
                ListedFeed(url="https://wire.example/feed", title="Wire", folders=("Sky",)),
                ListedFeed(url="https://club.example/feed", title="Again", fault=ListFault.DOUBLE),
                ListedFeed(url="feed:local", fault=ListFault.NOT_WEB),
                ListedFeed(url="file:///etc/passwd", fault=ListFault.NOT_WEB),
            ],
        )

    def test_a_little_damage_does_not_matter_and_what_is_no_list_is_refused(self) -> None:
        self.assertEqual(len(read_opml(LIST.replace(b"</body></opml>", b""))), 5)
        for body in (b"", b"hello", b"<rss><channel/></rss>", b"\x00\xff", b"{}"):
            with self.assertRaises(ParseError):
                read_opml(body)

    def test_names_in_any_case(self) -> None:
        entries = read_opml(b"<OPML><BODY><Outline TEXT='Wire' XMLURL='https://w.example/'/></BODY></OPML>")
        self.assertEqual(entries, [ListedFeed(url="https://w.example/", title="Wire")])

    def test_text_that_is_no_exact_xml(self) -> None:
        for written, title in (
            ("Ring & Dome", "Ring & Dome"),
            ("Caf&eacute;&nbsp;Owl", "Café Owl"),
            ("a &amp;&lt; b", "a &< b"),
            ("a &unheard; b", "a &unheard; b"),
            ("&#xD83D;&#xDD2D; dome", "\U0001f52d dome"),
            ("\U0001f52d dome", "\U0001f52d dome"),
            ("a&#0;b", "a\ufffdb"),
            ("a&nvlt;b", "a<\u20d2b"),
        ):
            with self.subTest(written=written):
                entry = one(f'text="{written}" xmlUrl="https://a.example/f?a=1&b=2"')
                self.assertEqual((entry.title, entry.url), (title, "https://a.example/f?a=1&b=2"))

    def test_declared_encodings(self) -> None:
        for encoding, title in (
            ("windows-1252", "Straße – “Owl”"),
            ("iso-8859-2", "Łódź"),
            ("windows-1251", "Небо над лугом"),
            ("utf-16", "Ærø"),
            ("shift_jis", "夜空の便り"),
        ):
            with self.subTest(encoding=encoding):
                entry = one(f'text="{title}" xmlUrl="https://a.example/"', encoding=encoding)
                self.assertEqual(entry.title, title)

    def test_addresses_that_cannot_be_read_are_named(self) -> None:
        for url, fault in (
            ("http://", ListFault.NO_HOST),
            ("https:///feed", ListFault.NO_HOST),
            ("http://[x/", ListFault.NO_HOST),
            ("", ListFault.NOT_WEB),
            ("gopher://a.example/", ListFault.NOT_WEB),
            (f"https://a.example/{'a' * 2000}", ListFault.TOO_LONG),
            ("HTTPS://a.example/f", None),
        ):
            with self.subTest(url=url[:30]):
                self.assertEqual(one(f'text="A" xmlUrl="{url}"').fault, fault)

    def test_a_long_title_is_cut_with_a_mark(self) -> None:
        self.assertEqual(one(f'text="{"a" * 301}" xmlUrl="https://a.example/"').title, "a" * 299 + "…")

    def test_the_categories_of_an_entry_are_folders_too(self) -> None:
        entry = one('text="A" xmlUrl="https://a.example/" category="/sky/meteors,clubs"')
        self.assertEqual(entry.folders, ("sky", "meteors", "clubs"))

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
        self.assertEqual(len(read_opml(LIST.replace(b"<opml ", b"<!DOCTYPE opml><opml "))), 5)

    def test_depth_costs_nothing_and_the_number_is_bounded(self) -> None:
        deep = b"<opml><body>" + b"<outline text='a'>" * 300 + b"<outline xmlUrl='https://a.example/'/>"
        self.assertEqual([entry.folders for entry in read_opml(deep)], [("a",)])
        begun = time.process_time()
        read_opml(b"<opml><body>" + b"<outline text='a'>" * 100_000)
        self.assertLess(time.process_time() - begun, 5)
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
