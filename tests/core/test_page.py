"""The picture a page names as its own."""

from django.test import SimpleTestCase
from glyptarch_core.item import MediaOrigin
from glyptarch_core.readers import page_picture
from hypothesis import given
from hypothesis import strategies as st

URL = "https://club.example/notes/1"


def found(html: str) -> str:
    picture = page_picture(html.encode(), URL)
    return picture.url if picture else ""


class APage(SimpleTestCase):
    def test_open_graph_comes_first_with_its_size(self) -> None:
        picture = page_picture(
            b'<link rel="image_src" href="/b.png"><meta property="og:image" content="/a.png">'
            b'<meta property="og:image:width" content="1200"><meta property="og:image:alt" content=" A  ridge ">',
            URL,
        )
        assert picture is not None
        self.assertEqual(
            (picture.url, picture.width, picture.alt, picture.origin),
            ("https://club.example/a.png", 1200, "A ridge", MediaOrigin.PAGE),
        )

    def test_linked_data_is_looked_through(self) -> None:
        data = '{"@graph": [{"@type": "Article", "image": {"@type": "ImageObject", "url": "https://c.example/d.png"}}]}'
        self.assertEqual(found(f'<script type="application/ld+json">{data}</script>'), "https://c.example/d.png")

    def test_a_link_element_serves_where_nothing_else_is_said(self) -> None:
        self.assertEqual(found('<link rel="image_src" href="e.png">'), "https://club.example/notes/e.png")

    def test_only_web_addresses_count(self) -> None:
        self.assertEqual(found('<meta property="og:image" content="data:image/png;base64,xx">'), "")
        self.assertEqual(
            found('<base href="https://cdn.example/x/"><meta property="og:image" content="f.png">'),
            "https://cdn.example/x/f.png",
        )

    def test_broken_linked_data_does_no_harm(self) -> None:
        for data in ("{", "[" * 5000, '{"image": 7}', '{"image": [null, {"url": 3}]}'):
            self.assertEqual(found(f'<script type="application/ld+json">{data}</script>'), "")

    @given(st.binary(max_size=300))
    def test_any_bytes_give_a_picture_or_none(self, page: bytes) -> None:
        page_picture(page, URL)
