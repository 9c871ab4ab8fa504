"""oEmbed: found by the links of a page, and read without trust."""

import json

from django.test import SimpleTestCase
from glyptarch_core.pages.oembed import Player, oembed_link, read_oembed
from glyptarch_core.pages.page import load_page

URL = "https://films.example/oembed?url=7"
FRAME = '<iframe src="/player/7" width="640" height="360"></iframe><script>alert(1)</script>'
FILM = {"version": "1.0", "type": "video", "html": FRAME, "width": 640, "height": 360}


def read(data: object) -> Player | None:
    body = data if isinstance(data, bytes) else json.dumps(data).encode()
    return read_oembed(body, URL)


class OEmbed(SimpleTestCase):
    def test_it_is_found_by_the_links_of_a_page_json_first(self) -> None:
        head = (
            '<link rel="alternate" type="text/xml+oembed" href="/o?f=xml"><link rel="alternate" type="application/rss+xml" href="/f">'
            '<link rel="Alternate" type="application/json+oembed" href="/o?f=json">'
        )
        self.assertEqual(
            oembed_link(load_page(f"<html><head>{head}".encode(), url=URL)), "https://films.example/o?f=json"
        )
        xml = head.replace("application/json+oembed", "text/plain")
        self.assertEqual(
            oembed_link(load_page(f"<html><head>{xml}".encode(), url=URL)), "https://films.example/o?f=xml"
        )
        self.assertEqual(oembed_link(load_page(b"<html><body>x", url=URL)), "")

    def test_of_its_markup_only_the_address_of_the_frame_counts(self) -> None:
        self.assertEqual(read(FILM), Player(url="https://films.example/player/7", ratio=1.7778))

    def test_xml_is_read_alike_and_expands_no_entities(self) -> None:
        text = "<?xml version='1.0'?><oembed><type>video</type><html>&lt;iframe src='/p'&gt;&lt;/iframe&gt;</html><width>4</width><height>3</height></oembed>"
        self.assertEqual(read(text.encode()), Player(url="https://films.example/p", ratio=1.3333))
        bomb = (
            b"<!DOCTYPE o [<!ENTITY a 'aaaa'><!ENTITY b '&a;&a;'>]><oembed><type>video</type><html>&b;</html></oembed>"
        )
        self.assertIsNone(read(bomb))

    def test_what_offers_no_player_gives_none(self) -> None:
        for data in (
            {**FILM, "type": "link"}, {**FILM, "html": "<p>No frame</p>"}, {**FILM, "html": None}, [], "x", b"", b"<html>", b"{",
            {**FILM, "html": '<iframe src="javascript:alert(1)"></iframe>'}, b"[" * 99999, {**FILM, "type": {"a": 1}},
        ):  # fmt: skip
            self.assertIsNone(read(data), data)

    def test_odd_sizes_say_nothing(self) -> None:
        for sizes in (
            {"width": 0},
            {"height": "x"},
            {"width": 10**9},
            {"width": "100%"},
            {"height": None},
            {"height": 1},
        ):
            reading = read({**FILM, **sizes})
            assert reading is not None
            self.assertEqual(reading.ratio, 0.0, sizes)
