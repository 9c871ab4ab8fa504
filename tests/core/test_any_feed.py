"""Feeds in any encoding with any oddity: faults stay in their entry."""

import codecs
import json
import random
from typing import Any

from django.test import SimpleTestCase
from glyptarch_core.errors import ParseError
from glyptarch_core.item import Item
from glyptarch_core.readers import Feed, read_feed
from glyptarch_core.text import absolute

JAPANESE = "夜空を見上げる人々のための新しい観測会が丘の上で開かれました。今夜は流星群が見られるでしょう。"
CHINESE = "今天晚上在山上举行了新的观测会，我们可以看到很多流星和一颗明亮的彗星。天气很好，欢迎大家来参加。"
KOREAN = "오늘 밤 언덕 위에서 새로운 관측회가 열렸습니다. 우리는 많은 유성과 밝은 혜성을 볼 수 있습니다."
RUSSIAN = "Сегодня вечером на холме прошла новая встреча наблюдателей. Мы увидели много метеоров и яркую комету."


def rss(entry: str, *, head: str = '<?xml version="1.0"?>') -> str:
    return f'{head}<rss version="2.0" xmlns:g="http://base.google.com/ns/1.0"><channel><title>C</title>{entry}</channel></rss>'


def atom(entry: str, before: str = "") -> str:
    return f'<feed xmlns="http://www.w3.org/2005/Atom"><title>C</title>{before}<entry><id>tag:c,2026:1</id>{entry}</entry></feed>'


def read(body: str | bytes, content_type: str = "") -> Feed:
    given = body.encode() if isinstance(body, str) else body
    return read_feed(given, source="club", url="https://club.example/feed", content_type=content_type)


def first(body: str | bytes, content_type: str = "") -> Item:
    return read(body, content_type).items[0]


class Encodings(SimpleTestCase):
    def test_are_told_by_the_bytes_where_nothing_is_declared(self) -> None:
        for text, encodings in (
            (JAPANESE, ("shift_jis", "euc_jp", "utf-8", "utf-16", "utf-16-le", "utf-32", "utf-8-sig")),
            (CHINESE, ("gb2312", "gb18030", "utf-16-be")),
            (KOREAN, ("euc_kr", "cp949")),
            (RUSSIAN, ("koi8-r", "cp1251", "utf-32-be")),
        ):
            for encoding in encodings:
                with self.subTest(encoding):
                    body = rss(f"<item><title>{text}</title></item>", head="").encode(encoding)
                    self.assertEqual(first(body).title, text)

    def test_labels_mean_what_browsers_take_them_for(self) -> None:
        for label, encoding, text in (
            ("Shift_JIS", "cp932", "①髙橋さんの観測"),
            ("euc-kr", "cp949", "똠방각하의 관측"),
            ("ISO-8859-1", "cp1252", "“Quoted” – déjà"),
            ("gb2312", "gb18030", "𠮷镕的观测"),
        ):
            with self.subTest(label):
                body = rss(f"<item><title>{text}</title></item>", head=f'<?xml version="1.0" encoding="{label}"?>')
                self.assertEqual(first(body.encode(encoding)).title, text)
                self.assertEqual(first(body.encode(encoding), f"text/xml; charset={label}").title, text)

    def test_a_mark_goes_before_everything(self) -> None:
        for mark, encoding in ((codecs.BOM_UTF32_LE, "utf-32-le"), (codecs.BOM_UTF16_BE, "utf-16-be")):
            body = mark + rss(f"<item><title>{RUSSIAN}</title></item>").encode(encoding)
            self.assertEqual(first(body, "text/xml; charset=iso-8859-1").title, RUSSIAN)

    def test_one_bad_byte_is_one_bad_letter(self) -> None:
        body = rss(f"<item><title>{JAPANESE}</title></item>").encode()
        spoiled = body.replace("星".encode(), b"\xe6\xff", 1)
        self.assertIn("の上で開かれました", first(spoiled).title)
        self.assertIn("\ufffd", first(spoiled).title)

    def test_a_wrong_declaration_is_told(self) -> None:
        feed = read(rss(f"<item><title>{RUSSIAN}</title></item>"), "text/xml; charset=iso-8859-1")
        self.assertEqual(feed.items[0].title, RUSSIAN)
        self.assertIn("encoding_differs", [warning.code for warning in feed.warnings])


class References(SimpleTestCase):
    def test_to_what_xml_forbids_go_and_leave_the_feed_well_formed(self) -> None:
        feed = read(rss("<item><title>a&#1;b&#x0;c&#x110000;d</title></item><item><title>sound</title></item>"))
        self.assertEqual([item.title for item in feed.items], ["abcd", "sound"])
        self.assertNotIn("ill_formed", [warning.code for warning in feed.warnings])

    def test_to_two_halves_of_an_emoji_are_one_emoji(self) -> None:
        for pair in ("&#55356;&#57120;", "&#xD83C;&#xDF20;"):
            feed = read(rss(f"<item><title>{pair} tonight</title></item><item><title>sound</title></item>"))
            self.assertEqual([item.title for item in feed.items], ["🌠 tonight", "sound"])
        self.assertEqual(first(rss("<item><title>half &#55356; of it</title></item>")).title, "half of it")

    def test_entities_of_the_prolog_are_not_expanded_and_cost_nothing(self) -> None:
        bomb = '<!DOCTYPE r [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;">]>'
        self.assertEqual(
            first(rss("<item><title>sound</title><link>https://c.example/1</link></item>", head=bomb)).title, "sound"
        )
        tricky = "<!DOCTYPE r [<!ENTITY a '<rss>]>\">'> <!-- <feed> --> ]><?pi <rss> ?>"
        self.assertEqual(first(rss("<item><title>sound</title></item>", head=tricky)).title, "sound")


class Entries(SimpleTestCase):
    def test_with_nothing_but_a_film_or_a_file_are_kept(self) -> None:
        sound = first(rss('<item><enclosure url="/e.mp3" type="audio/mpeg" length="1"/></item>'))
        self.assertEqual([medium.url for medium in sound.media], ["https://club.example/e.mp3"])
        film = first(atom('<content type="video/mp4" src="/v.mp4"/>'))
        self.assertEqual(
            [(medium.url, medium.kind.value) for medium in film.media], [("https://club.example/v.mp4", "film")]
        )

    def test_without_an_author_have_that_of_their_feed(self) -> None:
        of_feed = "<author><name>Ida</name></author>"
        self.assertEqual(first(atom("<title>x</title>", of_feed)).authors, ("Ida",))
        own = "<title>x</title><author><name>Tobin</name></author>"
        self.assertEqual(first(atom(own, of_feed)).authors, ("Tobin",))

    def test_keep_their_contributors(self) -> None:
        entry = "<title>x</title><contributor><name>Wren</name></contributor>"
        self.assertEqual(first(atom(entry)).facts["contributors"], "Wren")

    def test_of_plain_text_keep_their_angle_brackets(self) -> None:
        item = first(atom('<title type="text">if a &lt;b&gt; c</title><summary type="text">x &lt;i&gt; y</summary>'))
        self.assertEqual((item.title, item.summary), ("if a <b> c", "<p>x &lt;i&gt; y</p>"))

    def test_have_one_price_in_whatever_order_their_prices_stand(self) -> None:
        sale, usual = "<g:sale_price>149.00</g:sale_price>", "<g:price>199.00</g:price>"
        for prices in (sale + usual, usual + sale):
            self.assertEqual(first(rss(f"<item><title>x</title>{prices}</item>")).facts["price"], 199.0)

    def test_keep_their_pictures_in_the_order_of_their_first_place(self) -> None:
        pictures = "".join(f'&lt;img src="https://c.example/{name}.png"&gt;' for name in "abac")
        item = first(rss(f"<item><title>x</title><description>{pictures}</description></item>"))
        self.assertEqual([medium.url[-5:] for medium in item.media], ["a.png", "b.png", "c.png"])

    def test_have_absolute_addresses_however_they_are_written(self) -> None:
        cleaned = absolute('<A HREF = "/x">x</A><img SRC="y.png">', "https://c.example/d/")
        self.assertIn('href="https://c.example/x"', cleaned)
        self.assertIn('src="https://c.example/d/y.png"', cleaned)

    def test_are_resolved_against_a_home_page_that_is_relative_itself(self) -> None:
        data = {
            "version": "https://jsonfeed.org/version/1.1",
            "home_page_url": "/",
            "items": [{"id": "1", "url": "a/b", "title": "x"}],
        }
        self.assertEqual(first(json.dumps(data)).link, "https://club.example/a/b")

    def test_do_not_lend_the_feed_the_title_of_a_picture(self) -> None:
        body = '<rss version="2.0"><channel><image><title>Logo</title><url>i.png</url></image><item><title>x</title></item></channel></rss>'
        self.assertEqual(read(body).title, "")


class AnyBytes(SimpleTestCase):
    def test_give_items_that_can_be_kept_or_the_one_error(self) -> None:
        choose = random.Random(5)  # noqa: S311 - the same mutations each time
        seeds = [
            rss("<item><title>One &amp; two</title><link>/1</link><description><![CDATA[<p>x</p>]]></description></item>"),
            atom('<title type="html">a &lt;b&gt;</title><content type="xhtml"><div>x</div></content>'),
            json.dumps({"version": "https://jsonfeed.org/version/1", "items": [{"id": 1, "title": "t", "_x": {"price": 3}}]}),
        ]  # fmt: skip
        bits = [
            b"<",
            b"&#1;",
            b"\xff",
            b"\x00",
            b"\\u0000",
            b"\\ud800",
            b"null",
            b"NaN",
            b"1e999",
            b"</item>",
            b"{...p}",
            b"]]>",
            b'xml:base="http://["',
        ]
        for _ in range(1500):
            body = bytearray(choose.choice(seeds).encode())
            for _ in range(choose.randint(1, 5)):
                place = choose.randrange(len(body))
                if choose.random() < 0.6:
                    body[place:place] = choose.choice(bits)
                else:
                    del body[place : place + choose.randint(1, 20)]
            try:
                feed = read(bytes(body))
            except ParseError:
                continue
            for item in feed.items:
                kept: list[Any] = [item.raw, dict(item.facts), item.title, item.body, item.link, item.identity]
                json.dumps(kept, allow_nan=False, ensure_ascii=False).encode()
                self.assertNotIn("\x00", f"{kept}")
