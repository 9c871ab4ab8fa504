"""Dates of feeds: every form that feeds use, and None for ambiguous ones."""

from datetime import UTC, datetime, timedelta

from django.test import SimpleTestCase
from glyptarch_core.readers import read_feed
from glyptarch_core.readers.dates import moment_of
from hypothesis import given
from hypothesis import strategies as st

NOON = datetime(2026, 11, 24, 12, tzinfo=UTC)


def at(hour: int, minute: int = 0, day: int = 24) -> datetime:
    return datetime(2026, 11, day, hour, minute, tzinfo=UTC)


class Dates(SimpleTestCase):
    def test_are_read_in_every_form(self) -> None:
        for text, wanted in (
            ("2026-11-24T12:00:00Z", NOON), ("2026-11-24t12:00:00z", NOON), ("20261124T120000Z", NOON), ("2026-W48-2T12:00:00Z", NOON),
            ("2026-328T12:00Z", NOON), ("2026-11-24 12:00:00", NOON), ("2026-11-24T13:00:00+01:00", NOON), ("2026-11-24 13:00:00 +0100", NOON),
            ("2026-11-24T24:00:00Z", at(0, day=25)), ("2026-11-24", at(0)), ("2026-11-24 12:00:00 CET", at(11)),
            ("1795521600", NOON), ("1795521600000", NOON), ("1795521600.5", NOON + timedelta(seconds=0.5)),
            ("Tue, 24 Nov 2026 12:00:00 GMT", NOON), ("24 Nov 2026 12:00 MESZ", at(10)), ("Tue, 24 Nov 2026 12:00:00 JST", at(3)),
            ("Tue, 24 Nov 2026 12:00:00 IST", at(6, 30)), ("Tue, 24 Nov 26 12:00:00 EST", at(17)), ("Tue, 24 Nov 2026 12:00:00 +0530", at(6, 30)),
            ("Tue, 24 Nov 2026 12:00:00 +05:30", at(6, 30)), ("24 Nov 2026 12:00:00+02:00", at(10)), ("Tue, 24 Nov 2026 12:00 -05:00", at(17)),
            ("Tue, 24 Nov 2026 12:00:00 GMT+02:00", at(10)), ("Tue, 24 Nov 2026 12:00:00 UTC-0500", at(17)),
        ):  # fmt: skip
            with self.subTest(text):
                self.assertEqual(moment_of(text), wanted)

    def test_are_read_in_the_words_of_a_language(self) -> None:
        for text, wanted in (
            ("24. November 2026", at(0)), ("Dienstag, 24. November 2026, 12:00 Uhr", NOON), ("24.11.2026 12:00", NOON),
            ("mardi 24 novembre 2026 à 12h00", NOON), ("martes, 24 de noviembre de 2026 12:00", NOON), ("24 ноября 2026", at(0)),
            ("вторник, 24 ноября 2026 12:00", NOON), ("24. listopadu 2026", at(0)), ("24 Kasım 2026 12:00 +0300", at(9)),
            ("24 de novembro de 2026", at(0)), ("24. november 2026 kl. 12:00", NOON), ("24 nov. 2026 12:00 CET", at(11)),
        ):  # fmt: skip
            with self.subTest(text):
                self.assertEqual(moment_of(text), wanted)
        for text in ("24. lis 2026", "soon 24. November 2026", "31. November 2026", "24.13.2026", "24 elephants 2026"):
            with self.subTest(text):
                self.assertIsNone(moment_of(text))

    def test_that_cannot_be_read_for_certain_are_none(self) -> None:
        for text in (
            "",
            "yesterday",
            "2026",
            "2026-11",
            "2026-13-45",
            "0000-00-00",
            "12:00",
            "17",
            "soon 2026",
            "9" * 40,
            "0001-01-01T00:00:00+14:00",
            "9999-12-31T23:59:59-23:59",
        ):
            with self.subTest(text):
                self.assertIsNone(moment_of(text))

    @given(st.text(max_size=40) | st.from_regex(r"[0-9TZ:+-]{1,30}", fullmatch=True))
    def test_of_any_text_give_a_time_with_a_zone_or_none(self, text: str) -> None:
        found = moment_of(text)
        self.assertTrue(found is None or found.tzinfo is not None)

    @given(st.datetimes(datetime(1971, 1, 1), datetime(2199, 1, 1)))  # noqa: DTZ001 - written without a zone
    def test_written_in_two_ways_are_the_same(self, moment: datetime) -> None:
        exact = moment.replace(microsecond=0, tzinfo=UTC)
        self.assertEqual(moment_of(exact.isoformat()), exact)
        self.assertEqual(moment_of(exact.strftime("%a, %d %b %Y %H:%M:%S +0000")), exact)

    def test_that_cannot_be_read_are_told_at_the_source(self) -> None:
        for date, code in (("next week", "date_unreadable"), ("1795521600", None)):
            body = f"<rss version='2.0'><channel><title>C</title><item><title>x</title><link>https://c.example/1</link><pubDate>{date}</pubDate></item></channel></rss>"
            feed = read_feed(body.encode(), source="c", url="https://c.example/")
            self.assertEqual([warning.code for warning in feed.warnings], [code] if code else [])
            self.assertEqual(feed.items[0].published, None if code else NOON)
