"""Parsing beyond the limits is ended: whole feeds by their process, single entries alone."""

import time
from unittest.mock import patch

from django.test import SimpleTestCase
from glyptarch_core.errors import ParseError
from glyptarch_core.readers import Feed
from glyptarch_server.adapters import apart as module
from glyptarch_server.wiring import Apart, RawFeed

SOUND = b'<rss version="2.0"><channel><title>C</title><item><title>One sound entry</title></item></channel></rss>'
NESTED = "<b>" * 60_000 + "deep" + "</b>" * 60_000


def raw(body: bytes) -> RawFeed:
    return RawFeed(body=body, source="club", url="https://club.example/feed")


def many_entries(number: int) -> bytes:
    entry = b"<item><title>x</title><description>" + b"&lt;p&gt;word &amp;amp; word" * 20 + b"</description></item>"
    return b'<rss version="2.0"><channel><title>C</title>' + entry * number + b"</channel></rss>"


def sleeps(_: object) -> None:
    time.sleep(60)


def dozes(_: object) -> int:
    """Wait longer than the limit by the clock with little CPU time, as on a busy machine."""
    time.sleep(5)
    return 5


def spins(_: object) -> None:
    while True:
        pass


def stumbles(_: object) -> None:
    raise OverflowError("int too large to convert to float")


def takes_memory(_: object) -> int:
    return len(b"x" * (900 << 20))


def dies(_: object) -> None:
    import os  # noqa: PLC0415 - in the other process

    os._exit(3)


class ReadApart(SimpleTestCase):
    def setUp(self) -> None:
        self.apart = Apart(module.ApartLimits(seconds=3, seconds_of_entry=0.3, memory=400 << 20))
        self.addCleanup(self.apart.close)

    def test_a_feed_comes_back_with_the_features_of_its_items(self) -> None:
        feed = self.apart.read_feed(raw(SOUND))
        self.assertEqual([item.title for item in feed.items], ["One sound entry"])
        self.assertEqual([entry.computed().title_key for entry in feed.entries], ["one sound entry"])

    def test_an_error_comes_back_with_its_code(self) -> None:
        with self.assertRaisesRegex(ParseError, "empty") as caught:
            self.apart.read_feed(raw(b""))
        self.assertEqual(caught.exception.code, "empty")

    def test_what_takes_too_long_too_much_memory_or_the_process_with_it_gives_nothing_and_harms_no_other(self) -> None:
        begun = time.monotonic()
        for function in (sleeps, spins, takes_memory, dies, stumbles):
            with self.subTest(function.__name__), patch.object(module, "_PATIENCE", 1 if function is sleeps else 12):
                self.assertEqual(self.apart.call(function, [(None,)]), [None])
                self.assertEqual(len(self.apart.read_feed(raw(SOUND)).items), 1)
        self.assertLess(time.monotonic() - begun, 60)

    def test_waiting_for_the_processor_counts_for_nothing(self) -> None:
        with patch.object(module, "_PATIENCE", 30):
            self.assertEqual(self.apart.call(dozes, [(None,)]), [5])

    def test_a_feed_that_is_broken_off_says_so_and_the_others_are_read(self) -> None:
        slow = many_entries(1900).replace(b"word", b"<b>word" * 8)
        # Small feeds share a batch, and a failing one does not affect the others.
        for small in (1 << 10, 1 << 30):
            with patch("glyptarch_server.adapters.apart._SMALL", small):
                broken, sound, other = self.apart.read_feeds([raw(slow), raw(SOUND), raw(b"no feed")])
            assert isinstance(broken, ParseError), "the feed was read in time: make it larger"
            self.assertEqual(broken.code, "too_costly")
            assert isinstance(sound, Feed)
            assert isinstance(other, ParseError)
            self.assertNotEqual(other.code, "too_costly")

    def test_many_feeds_come_in_their_order(self) -> None:
        bodies = [SOUND.replace(b"<title>", b"<title>%d " % number, 1) for number in range(30)]
        titles = [
            feed.title for feed in self.apart.read_feeds([raw(body) for body in bodies]) if isinstance(feed, Feed)
        ]
        self.assertEqual([title.split()[0] for title in titles], [str(number) for number in range(30)])

    def test_entries_beyond_the_most_are_not_even_parsed(self) -> None:
        tiny = b"<item><title>x</title></item>"
        body = b'<rss version="2.0"><channel><title>C</title>' + tiny * 250_000 + b"</channel></rss>"
        feed = Apart.read_feed(self.apart, raw(body))
        self.assertEqual(len(feed.items), 2000)
        self.assertIn(("too_many_entries", "250000"), [(warning.code, warning.detail) for warning in feed.warnings])

    def test_one_entry_that_takes_too_long_is_left_out_alone(self) -> None:
        def features(item: object) -> object:
            if item.title == "slow":  # type: ignore[attr-defined]
                raise module.CostlyEntryError
            return module.features_of(item)  # type: ignore[arg-type]

        body = SOUND.replace(b"</channel>", b"<item><title>slow</title></item></channel>")
        feed = module.read_feed(body, source="club", url="https://club.example/", features=features)  # type: ignore[arg-type]
        self.assertEqual([item.title for item in feed.items], ["One sound entry"])
        self.assertEqual([(warning.code, warning.entry) for warning in feed.warnings][-1], ("entry_too_costly", 2))

    def test_the_alarm_of_an_entry_rings(self) -> None:
        module._begin(1 << 40, 0.05)
        self.addCleanup(module.signal.signal, module.signal.SIGPROF, module.signal.SIG_DFL)
        self.addCleanup(module.signal.signal, module.signal.SIGINT, module.signal.default_int_handler)

        def forever(_: object) -> None:
            end = time.monotonic() + 5
            while time.monotonic() < end:
                pass

        real, module.features_of = module.features_of, forever  # type: ignore[assignment]
        self.addCleanup(setattr, module, "features_of", real)
        with self.assertRaises(module.CostlyEntryError):
            module._features(object(), frozenset())  # type: ignore[arg-type]
