"""Chapters of episodes: invalid ones are left out, and any input gives lines."""

import json
import unittest

from glyptarch_core.text.chapters import Chapter, chapters_as_lines, chapters_in
from hypothesis import given
from hypothesis import strategies as st


def written(*rows: object) -> bytes:
    return json.dumps({"version": "1.2.0", "chapters": rows}).encode()


class Chapters(unittest.TestCase):
    def test_they_become_lines_of_a_time_and_a_title(self) -> None:
        rows = [{"startTime": 0, "title": "Opening"}, {"startTime": 3725.9, "title": " The  comet\n"}]
        self.assertEqual(chapters_as_lines(written(*rows)), "0:00 Opening\n1:02:05 The comet")

    def test_what_is_hidden_or_no_chapter_is_left_out(self) -> None:
        rows = [
            {"startTime": 1, "title": "Hidden", "toc": False},
            {"startTime": "5", "title": "A text"},
            {"startTime": True, "title": "Yes"},
            {"startTime": -1, "title": "Before"},
            {"startTime": 1e12, "title": "Never"},
            {"startTime": 2, "title": ""},
            {"startTime": 2},
            "chapter",
        ]
        self.assertEqual(chapters_as_lines(written(*rows)), "")
        for nothing in (b"", b"[]", b"{", b'{"chapters": 5}', b"[" * 100_000):
            self.assertEqual(chapters_as_lines(nothing), "")

    def test_lines_are_read_back(self) -> None:
        self.assertEqual(
            chapters_in("0:00 Opening\nno chapter\n1:02:05 The comet"),
            [
                Chapter(seconds=0, time="0:00", title="Opening"),
                Chapter(seconds=3725, time="1:02:05", title="The comet"),
            ],
        )

    @given(
        st.recursive(
            st.none() | st.booleans() | st.floats() | st.text(),
            lambda inner: (
                st.lists(inner) | st.dictionaries(st.sampled_from(["chapters", "startTime", "title", "toc"]), inner)
            ),
        )
    )
    def test_anything_gives_lines(self, value: object) -> None:
        lines = chapters_as_lines(json.dumps({"chapters": value}).encode())
        self.assertEqual(len(chapters_in(lines)), len(lines.split("\n")) if lines else 0)
