"""The test files of feedparser's own source package (6.0.14), read as feedparser reads them.

``data/feedparser-tests.tar.xz`` holds these files and their licence unchanged. Nobody here made them.
"""

import io
import tarfile
from collections.abc import Iterator
from pathlib import Path

import feedparser
from django.test import SimpleTestCase
from glyptarch_core.errors import ParseError
from glyptarch_core.readers import Feed, read_feed

from tests.core.test_fast_lane import slow_only

FILES = Path(__file__).parent / "data" / "feedparser-tests.tar.xz"
URL = "https://a.example/feed"
# Channel Definition Format, which no site has offered for twenty years.
NOT_READ = ("tests/wellformed/cdf/", "tests/wellformed/base/cdf_")


def files() -> Iterator[tuple[str, bytes]]:
    with tarfile.open(FILES) as archive:
        for member in archive:
            content = archive.extractfile(member) if member.isfile() and member.name != "LICENSE" else None
            if content is not None:
                yield member.name, content.read()


def read(body: bytes) -> Feed | str:
    try:
        return read_feed(body, source="s", url=URL)
    except ParseError as error:
        return error.code


def entries_of(body: bytes) -> int:
    headers = {"content-type": "application/xml"}
    return len(feedparser.parse(io.BytesIO(body), response_headers=headers).entries)


class FilesOfFeedparser(SimpleTestCase):
    def test_each_gives_as_many_items_as_entries_or_says_that_one_is_empty(self) -> None:
        number = 0
        for name, body in files():
            feed = read(body)
            number += 1
            if isinstance(feed, str):
                self.assertTrue(name.startswith(NOT_READ) or not entries_of(body), (name, feed))
                continue
            empty = sum(warning.code == "entry_empty" for warning in feed.warnings)
            self.assertEqual(len(feed.items) + empty, entries_of(body), name)
        self.assertGreater(number, 2_200)

    def test_the_fast_lane_gives_what_feedparser_gives(self) -> None:
        for name, body in files():
            fast = read(body)
            with slow_only():
                slow = read(body)
            if isinstance(fast, str) or isinstance(slow, str):
                self.assertEqual(fast, slow, name)
            else:
                self.assertEqual([item.raw for item in fast.items], [item.raw for item in slow.items], name)
                self.assertEqual((fast.items, fast.warnings), (slow.items, slow.warnings), name)
