"""The fast lane of feeds gives what feedparser gives, for every feed that it takes."""

from contextlib import AbstractContextManager
from dataclasses import replace
from unittest.mock import patch
from xml.sax.saxutils import escape

from django.test import SimpleTestCase
from glyptarch_core.readers import Feed, fast_lane, read_feed
from hypothesis import given
from hypothesis import strategies as st

from tests.core import test_readers

URL = "https://club.example/feeds/../feed"
RSS = "<rss version='2.0' {names}><channel><title>Club &amp; co</title><ttl>60</ttl>{entries}</channel></rss>"
ATOM = "<feed xmlns='http://www.w3.org/2005/Atom' {names}><title>Club</title><author><name>Desk</name></author>{entries}</feed>"
NAMES = (
    "xmlns:content='http://purl.org/rss/1.0/modules/content/' xmlns:dc='http://purl.org/dc/elements/1.1/' "
    "xmlns:media='http://search.yahoo.com/mrss/' xmlns:slash='http://purl.org/rss/1.0/modules/slash/' "
    "xmlns:wfw='http://wellformedweb.org/CommentAPI/' xmlns:atom='http://www.w3.org/2005/Atom' xmlns:odd='urn:odd'"
)

texts = st.one_of(
    st.sampled_from([
        "", " ", "A comet", "Ida Farrow", "ida@club.example (Ida)", "<b>Bold</b> &amp; thin", "<p>See <a href='/x'>x</a></p>",
        "Fünf Sterne", "FÃ¼nf", "a\u0085b", "/notes/1", "https://club.example/notes/1?a=1&b=2", "//wire.example/x", "n-1",
        "Tue, 24 Nov 2026 13:05:00 +0100", "2026-11-24T10:00:00Z", "24. November 2026", "yesterday", "१२", "&#x1f30c;", "12",
    ]),
    st.text(alphabet="ab <>&\"'ü\n;#/", max_size=12),
)  # fmt: skip
marked = st.tuples(st.booleans(), texts).map(
    lambda pair: f"<![CDATA[{pair[1]}]]>" if pair[0] and "]]>" not in pair[1] else escape(pair[1])
)
quoted = texts.map(lambda text: escape(text, {'"': "&quot;"}))


def element(name: str, *attributes: str) -> st.SearchStrategy[str]:
    values = {attribute: st.one_of(st.none(), quoted) for attribute in attributes}
    return st.tuples(st.fixed_dictionaries(values), marked).map(
        lambda made: "<{0}{1}>{2}</{0}>".format(
            name, "".join(f' {one}="{value}"' for one, value in made[0].items() if value is not None), made[1]
        )
    )


rss_elements = st.one_of(
    *(element(name) for name in (
        "title", "link", "description", "pubDate", "author", "comments", "dc:creator", "dc:date", "dc:subject",
        "content:encoded", "slash:comments", "wfw:commentRss",
    )),
    element("guid", "isPermaLink"),
    element("category", "domain"),
    element("source", "url"),
    element("enclosure", "url", "type", "length").map(lambda text: text.split(">")[0] + "/>"),
    element("media:content", "url", "type", "medium", "width").map(lambda text: text.split(">")[0] + "/>"),
    element("media:thumbnail", "url", "width").map(lambda text: text.split(">")[0] + "/>"),
    st.sampled_from(["<!-- aside -->", "<odd:one>x</odd:one>", "<title>A <b>b</b></title>", "<guid isPermaLink='false'>7</guid>"]),
)  # fmt: skip
atom_elements = st.one_of(
    *(element(name) for name in ("id", "published", "updated")),
    *(element(name, "type") for name in ("title", "summary", "content")),
    *(
        st.tuples(element(name), st.sampled_from(["text", "html", "text/html", "xhtml"])).map(
            lambda made: made[0].replace(">", f" type='{made[1]}'>", 1)
        )
        for name in ("title", "summary", "content")
    ),
    element("link", "href", "rel", "type", "title").map(lambda text: text.split(">")[0] + "/>"),
    st.sampled_from(["<link href='/n/1'/>", "<link href='/n/1.json' rel='alternate' type='application/json'/>"]),
    element("category", "term", "label", "scheme").map(lambda text: text.split(">")[0] + "/>"),
    element("name").map(lambda text: f"<author>{text}</author>"),
    element("media:thumbnail", "url").map(lambda text: text.split(">")[0] + "/>"),
    st.just("<author><name>Ida</name><uri>/ida</uri></author>"),
)
entries = st.one_of(
    st.tuples(
        st.just(RSS), st.lists(st.lists(rss_elements, max_size=7).map(lambda it: f"<item>{''.join(it)}</item>"), max_size=3)
    ),
    st.tuples(
        st.just(ATOM), st.lists(st.lists(atom_elements, max_size=6).map(lambda it: f"<entry>{''.join(it)}</entry>"), max_size=3)
    ),
)  # fmt: skip
feeds = st.tuples(entries, st.sampled_from(["", "xml:lang='de_AT'"])).map(
    lambda made: made[0][0].format(names=f"{NAMES} {made[1]}", entries="".join(made[0][1]))
)


def slow_only() -> AbstractContextManager[object]:
    return patch.object(fast_lane, "split", lambda *_: None)


def read(body: bytes) -> Feed:
    return read_feed(body, source="club", url=URL)


class FastLane(SimpleTestCase):
    def assert_same(self, body: bytes) -> None:
        fast = read(body)
        with slow_only():
            slow = read(body)
        self.assertEqual([item.raw for item in fast.items], [item.raw for item in slow.items], body)
        self.assertEqual(fast.items, slow.items, body)
        self.assertEqual(replace(fast, entries=()), replace(slow, entries=()), body)

    def test_what_looks_like_a_reference_in_an_address_is_read_as_feedparser_reads_it(self) -> None:
        for address in ("/n?a=1&amp;b;c", ";&amp;a;", "?a=1&amp;b=2"):
            item = f"<item><title>T</title><link>https://club.example/{address}</link></item>"
            self.assert_same(RSS.format(names=NAMES, entries=item).encode())

    @given(feeds)
    def test_any_feed_is_read_as_feedparser_reads_it(self, text: str) -> None:
        self.assert_same(text.encode())

    def test_feeds_of_the_other_tests_are_read_as_feedparser_reads_them(self) -> None:
        for text in (test_readers.RSS, test_readers.ATOM):
            self.assert_same(text.encode())
            self.assert_same(text.replace(' xml:base="https://obs.example/b/"', "").encode())

    def test_what_feedparser_treats_in_its_own_way_comes_out_alike(self) -> None:
        for inside in (
            "<title>FÃ¼nf Sterne</title><link>/fÃ¼nf</link>",
            "<title>A</title><dc:creator>ida@club.example (Ida)</dc:creator>",
            "<title>A</title><author>&lt;ida@club.example&gt; Ida</author><author>Ben</author>",
            "<title>One</title><title>Two</title>",
            "<description>One</description><description>Two</description>",
            "<content:encoded>One</content:encoded><description>Two</description>",
            "<link>/a</link><link></link>",
        ):
            self.assert_same(RSS.format(names=NAMES, entries=f"<item>{inside}</item>").encode())

    def test_ordinary_feeds_take_it(self) -> None:
        item = test_readers.RSS[test_readers.RSS.index("<rss") :]
        entry = test_readers.ATOM.replace(' xml:base="https://obs.example/b/"', "")
        for text in (item, entry):
            found = fast_lane.split(text, URL)
            assert found is not None
            self.assertEqual((len(found[1].entries), "<item>" in found[0], "<entry>" in found[0]), (1, False, False))

    def test_a_date_in_words_is_read_on_it_as_well(self) -> None:
        body = RSS.format(names="", entries="<item><title>A</title><pubDate>Tue Nov 24 10:00:00 2026</pubDate></item>")
        found = fast_lane.split(body, URL)
        assert found is not None
        self.assert_same(body.encode())
        self.assertIsNotNone(read(body.encode()).items[0].published)


class Known(SimpleTestCase):
    """Entries with known marks are not read again."""

    FIRST, OTHER = (
        "<item><title>A</title><guid>1</guid><pubDate>{day}</pubDate><link>/1</link></item>",
        "<item><title>B</title>{rest}</item>",
    )
    DAY = "Tue, 24 Nov 2026 13:05:00 +0100"

    def again(self, text: str, earlier: Feed) -> Feed:
        known = {entry.mark for entry in earlier.entries if entry.mark}
        return read_feed(text.encode(), source="club", url=URL, known_marks=known)

    @given(feeds, feeds)
    def test_what_is_left_reads_as_it_does_in_the_whole(self, text: str, other: str) -> None:
        earlier, whole = read(text.encode()), read(other.encode())
        for later, full in ((self.again(text, earlier), earlier), (self.again(other, earlier), whole)):
            numbers = {entry.number for entry in later.entries}
            kept = [entry for entry in full.entries if entry.number in numbers]
            self.assertEqual([(e.item, e.mark) for e in later.entries], [(e.item, e.mark) for e in kept])
            self.assertEqual(len(later.items) + later.unchanged, len(full.items))
            self.assertEqual((later.warnings, later.title), (full.warnings, full.title))

    def feed(self, *entries: str, head: str = "") -> str:
        return RSS.format(names=NAMES, entries=head + "".join(entries))

    def test_only_an_entry_that_has_changed_is_read(self) -> None:
        first, other = (
            self.FIRST.format(day=self.DAY),
            self.OTHER.format(rest=f"<guid>2</guid><link>/2</link><pubDate>{self.DAY}</pubDate>"),
        )
        earlier = read(self.feed(first, other).encode())
        self.assertEqual([item.title for item in earlier.items], ["A", "B"])
        same = self.again(self.feed(first, other), earlier)
        self.assertEqual((same.items, same.unchanged), ((), 2))
        later = self.again(self.feed("<item><title>New</title></item>", first, other.replace("B", "C")), earlier)
        self.assertEqual(
            [(entry.item.title, entry.number) for entry in later.entries],
            [("New", 1), ("C", 3)],
        )
        self.assertEqual(later.unchanged, 1)
        self.assertEqual({warning.entry for warning in later.warnings}, {1})

    def test_what_is_at_fault_is_read_and_told_each_time(self) -> None:
        text = self.feed(self.FIRST.format(day="someday"))
        later = self.again(text, read(text.encode()))
        self.assertEqual((len(later.items), later.unchanged), (1, 0))
        self.assertEqual([warning.code for warning in later.warnings], ["date_unreadable"])

    def test_what_does_not_fit_is_told_by_its_place_in_the_feed(self) -> None:
        entry = self.FIRST.format(day=self.DAY)
        long = f"<item><title>L</title><link>https://a.example/{'x' * 5000}</link><pubDate>{self.DAY}</pubDate></item>"
        later = self.again(self.feed(entry, "<item/>", long), read(self.feed(entry).encode()))
        results = [(warning.code, warning.entry) for warning in later.warnings]
        self.assertEqual((later.unchanged, results), (1, [("entry_empty", 2), ("link_too_long", 3)]))
        self.assertEqual([entry.mark for entry in later.entries], [""])

    def test_all_are_read_where_the_feed_says_something_else_for_them(self) -> None:
        entry = self.FIRST.format(day=self.DAY)
        earlier = read(self.feed(entry).encode())
        self.assertEqual(self.again(self.feed(entry, head="<ttl>5</ttl>"), earlier).unchanged, 1)
        self.assertEqual(self.again(self.feed(entry, head="<language>de</language>"), earlier).items[0].language, "de")
        self.assertEqual(self.again(self.feed(entry, head="<dc:language>de</dc:language>"), earlier).unchanged, 0)
        known = {entry.mark for entry in earlier.entries}
        moved = read_feed(self.feed(entry).encode(), source="club", url="https://moved.example/", known_marks=known)
        self.assertEqual(moved.items[0].link, "https://moved.example/1")
        notes = "<entry><title>A</title><id>1</id><link href='/1'/><updated>2026-11-24T10:00:00Z</updated></entry>"
        atom = (
            ATOM.format(names="", entries=notes)
            .replace("<updated>", "<published>")
            .replace("</updated>", "</published>")
        )
        earlier = read(atom.encode())
        self.assertEqual(self.again(atom, earlier).unchanged, 1)
        self.assertEqual(self.again(atom.replace("Desk", "Night desk"), earlier).items[0].authors, ("Night desk",))
