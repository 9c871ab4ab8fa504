"""JSON from outside: readers can calculate with every number."""

import json
import math
from collections.abc import Iterator
from typing import Any

from django.test import SimpleTestCase
from glyptarch_core.pages.oembed import read_oembed
from glyptarch_core.platforms.values import loaded
from glyptarch_core.readers import read_feed
from glyptarch_core.readers.page import page_picture
from glyptarch_core.text.chapters import chapters_as_lines
from glyptarch_core.text.foreign_json import load_json, value_at
from hypothesis import given
from hypothesis import strategies as st

NUMBERS = ("1" + "0" * 400, "-1" + "0" * 400, "1" + "0" * 4000, "1e999", "-1e999", "NaN", "Infinity", "1" * 41)
VALUES = st.recursive(
    st.none() | st.booleans() | st.text(max_size=8) | st.integers() | st.floats(allow_nan=False, allow_infinity=False),
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(st.text(max_size=4), inner, max_size=4),
)


def numbers_in(value: Any) -> Iterator[int | float]:  # noqa: ANN401
    if isinstance(value, dict):
        value = list(value.values())
    if isinstance(value, list):
        for part in value:
            yield from numbers_in(part)
    elif isinstance(value, int | float):
        yield value


class ForeignJson(SimpleTestCase):
    def test_a_number_that_no_double_holds_is_none(self) -> None:
        for number in NUMBERS:
            with self.subTest(number[:12]):
                self.assertEqual(load_json(f'{{"a": [{number}, 2]}}'), {"a": [None, 2]})

    @given(VALUES)
    def test_all_others_are_as_they_were(self, value: object) -> None:
        self.assertTrue(all(map(math.isfinite, numbers_in(load_json(json.dumps(value))))))
        if all(len(str(number)) <= 40 for number in numbers_in(value)):
            self.assertEqual(load_json(json.dumps(value)), value)

    def test_a_path_leads_to_a_part_or_to_nothing(self) -> None:
        data = {"author": {"links": [{"to": 1}, {"to": 2}]}, "": 3}
        for path, value in (
            ("", data), ("author.links.1.to", 2), ("author.links.2", None), ("author.links.-1", None),
            ("author.links.²", None), ("author.name.first", None), ("author.links.to", None),
        ):  # fmt: skip
            with self.subTest(path):
                self.assertEqual(value_at(data, path), value)

    def test_what_is_nested_too_deeply_is_no_json(self) -> None:
        with self.assertRaises(ValueError):
            load_json("[" * 200_000)

    def test_no_reader_stumbles_over_any_number(self) -> None:
        for number in NUMBERS:
            with self.subTest(number[:12]):
                chapters = (
                    f'{{"chapters": [{{"startTime": {number}, "title": "x"}}, {{"startTime": 5, "title": "Dome"}}]}}'
                )
                self.assertEqual(chapters_as_lines(chapters.encode()), "0:05 Dome")
                embed = f'{{"type": "video", "html": "<iframe src=/p>", "width": {number}, "height": {number}}}'
                player = read_oembed(embed.encode(), "https://f.example/")
                self.assertEqual(player and player.ratio, 0.0)
                self.assertIsNone(loaded(f'{{"n": {number}}}'.encode()).whole("n"))
                feed = (
                    f'{{"version": "https://jsonfeed.org/version/1.1", "title": "C", "items": [{{"id": {number}, "title": "T",'
                    f' "rating": {number}, "attachments": [{{"url": "https://a.example/a.mp3", "mime_type": "audio/mpeg",'
                    f' "duration_in_seconds": {number}, "size_in_bytes": {number}}}]}}]}}'
                )
                read = read_feed(feed.encode(), source="c", url="https://a.example/feed")
                self.assertEqual([item.title for item in read.items], ["T"])
                page = (
                    f'<script type="application/ld+json">{{"image": {{"url": {number}, "width": {number}}}}}</script>'
                )
                self.assertIsNone(page_picture(page.encode(), "https://a.example/"))
