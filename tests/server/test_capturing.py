"""Storing answers of several sources together, and skipping known entries."""

from datetime import timedelta
from unittest.mock import patch

from django.db import IntegrityError, transaction
from django.test import TestCase
from glyptarch_core.readers import Feed, FeedEntry
from glyptarch_server import wiring
from glyptarch_server.items.actions import keep_answers, read_and_capture
from glyptarch_server.items.capturing import Given, capture_all, known_entries
from glyptarch_server.items.models import Item
from glyptarch_server.posts.models import Post
from glyptarch_server.sources.gathering import SourceAnswer
from glyptarch_server.sources.models import Reading, Source
from glyptarch_server.wiring import FetchCode, FetchError, RawFeed

from tests.server.fixtures import NOW, CannedPortal, clock, make_blog, make_campaign, make_source, run, story

DAY = "Tue, 24 Nov 2026 10:00:00 GMT"


def entry(number: int, title: str = "", *, day: str = DAY, inside: str = "") -> str:
    return (
        f"<item><title>{title or f'Story {number}'}</title><guid>n{number}</guid><pubDate>{day}</pubDate>"
        f"<link>https://club.example/{number}</link><description>Words of it.</description>{inside}</item>"
    )


def feed_of(*entries: str) -> bytes:
    return f"<rss version='2.0'><channel><title>Club</title>{''.join(entries)}</channel></rss>".encode()


class SeveralTogether(TestCase):
    def setUp(self) -> None:
        blog = make_blog()
        self.sources = [make_source(blog, key) for key in ("club", "observatory", "meadowlark")]

    def answers(self, *bodies: bytes | None, now_hours: int = 0) -> list[Reading]:
        """Read a feed for each source.

        None means a server that does not answer.
        """
        pairs = []
        for source, body in zip(self.sources, bodies, strict=True):
            row = Source.objects.get(pk=source.pk)
            outcome: Feed | FetchError = FetchError(FetchCode.TOO_SLOW, "It did not answer.")
            if body is not None:
                outcome = wiring.apart().read_feed(RawFeed(body=body, source=row.key, url=row.url))
            pairs.append((row, SourceAnswer(outcome=outcome, status=200)))
        return keep_answers(pairs, now=NOW + timedelta(hours=now_hours))

    def test_each_source_keeps_its_own_items_and_its_own_log(self) -> None:
        readings = self.answers(feed_of(entry(1), entry(2)), None, feed_of(entry(1)))
        self.assertEqual([(reading.source.key, reading.found, reading.fresh, reading.error) for reading in readings], [
            ("club", 2, 2, ""), ("observatory", 0, 0, "too_slow"), ("meadowlark", 1, 1, ""),
        ])  # fmt: skip
        self.assertTrue(all(reading.pk for reading in readings))
        kept = list(Item.objects.order_by("source__pk", "identity").values_list("source__key", "identity"))
        club = f"{self.sources[0].url.rsplit('/', 1)[0]}/n1"
        self.assertEqual([key for key, _ in kept], ["club", "club", "meadowlark"])
        self.assertEqual(kept[0][1], club)
        rows = {one.key: one for one in Source.objects.all()}
        self.assertEqual([rows[key].state.failures for key in ("club", "observatory", "meadowlark")], [0, 1, 0])
        self.assertEqual([rows[key].state.item_count for key in ("club", "observatory", "meadowlark")], [2, 0, 1])
        self.assertEqual([rows[key].state.health for key in ("club", "observatory")], ["ok", "unread"])
        self.assertTrue(all(row.state.next_read_at and row.state.next_read_at > NOW for row in rows.values()))

    def test_what_is_edited_in_one_is_replaced_there_alone(self) -> None:
        self.answers(feed_of(entry(1)), feed_of(entry(1)), feed_of(entry(1)))
        readings = self.answers(
            feed_of(entry(1)), feed_of(entry(1, "Edited")), feed_of(entry(1), entry(2)), now_hours=1
        )
        self.assertEqual([reading.fresh for reading in readings], [0, 0, 1])
        titles = Item.objects.order_by("source__pk", "identity").values_list("title", flat=True)
        self.assertEqual(list(titles), ["Story 1", "Edited", "Story 1", "Story 2"])

    def test_a_person_who_changes_a_source_meanwhile_keeps_the_change(self) -> None:
        held = [Source.objects.get(pk=source.pk) for source in self.sources]
        Source.objects.update(title="Named by a person", paused=True)
        feed = wiring.apart().read_feed(RawFeed(body=feed_of(entry(1)), source="x", url="https://club.example/feed"))
        keep_answers([(one, SourceAnswer(outcome=feed)) for one in held], now=NOW)
        self.assertEqual(set(Source.objects.values_list("title", "paused")), {("Named by a person", True)})

    def test_a_source_that_is_gone_does_not_come_back(self) -> None:
        held = [Source.objects.get(pk=source.pk) for source in self.sources]
        Source.objects.filter(pk=held[0].pk).delete()
        feed = wiring.apart().read_feed(RawFeed(body=feed_of(entry(1)), source="x", url="https://club.example/feed"))
        readings = keep_answers([(one, SourceAnswer(outcome=feed)) for one in held], now=NOW)
        self.assertEqual([reading.source_id for reading in readings], [held[1].pk, held[2].pk])
        self.assertEqual((Source.objects.count(), Item.objects.count()), (2, 2))

    def test_one_that_the_database_does_not_take_is_left_out_of_its_source_alone(self) -> None:
        unfit = story(1, title="x" * 2000)
        given = [
            Given(source=self.sources[0], entries=[FeedEntry(story(0), 1), FeedEntry(unfit, 2)]),
            Given(source=self.sources[1], entries=[FeedEntry(story(0), 1)]),
        ]  # fmt: skip
        with self.assertLogs("glyptarch.items"):
            results = capture_all(given, now=NOW)
        self.assertEqual([(result.fresh, result.refused) for result in results], [(1, ("n1",)), (1, ())])


class KnownEntriesOfASource(TestCase):
    def setUp(self) -> None:
        self.source = make_source(make_blog(), "club")

    def reads(self, body: bytes) -> Reading:
        source = Source.objects.get(pk=self.source.pk)
        return read_and_capture(source, fetcher=CannedPortal({source.url: body}), clock=clock)  # type: ignore[arg-type]

    def read_again(self, body: bytes) -> tuple[int, Reading]:
        """Read once more.

        Return the number of entries read.
        """
        read: list[int] = []
        real = wiring.apart().read_feeds

        def counted(feeds: list[RawFeed]) -> object:
            found = real(feeds)
            read.extend(len(one.items) for one in found if isinstance(one, Feed))
            return found

        with patch.object(wiring.apart(), "read_feeds", counted):
            reading = self.reads(body)
        return sum(read), reading

    def test_only_what_is_new_or_edited_is_read_again(self) -> None:
        first = self.reads(feed_of(entry(1), entry(2), entry(3)))
        self.assertEqual((first.found, first.fresh), (3, 3))
        self.assertEqual(len(known_entries([self.source])[self.source.pk].marks), 3)
        looked_at, reading = self.read_again(feed_of(entry(4), entry(1), entry(2, "Edited"), entry(3)))
        self.assertEqual((looked_at, reading.found, reading.fresh), (2, 4, 1))
        titles = Item.objects.order_by("identity").values_list("title", flat=True)
        self.assertEqual(list(titles), ["Story 1", "Edited", "Story 3", "Story 4"])
        looked_at, reading = self.read_again(feed_of(entry(4), entry(1), entry(2, "Edited"), entry(3)))
        self.assertEqual((looked_at, reading.found, reading.fresh), (0, 4, 0))

    def test_new_ids_for_the_same_stories_are_found_as_duplicates(self) -> None:
        self.reads(feed_of(entry(1), entry(2)))
        run(make_campaign(self.source.blog))
        for reading in range(3):
            body = feed_of(entry(1), entry(2)).decode()
            self.reads(body.replace("<guid>n", f"<guid>again-{reading}-").encode())
            run(make_campaign(self.source.blog, f"Again {reading}"))
        self.assertEqual(Item.objects.count(), 8)
        self.assertFalse(Item.objects.filter(link_key="").exists())
        self.assertEqual(Post.objects.count(), 2)

    def test_no_item_is_stored_without_features(self) -> None:
        self.reads(feed_of(entry(1)))
        with self.assertRaises(IntegrityError), transaction.atomic():
            Item.objects.update(link_key="")

    def test_what_is_odd_in_an_entry_is_told_each_time(self) -> None:
        body = feed_of(entry(1, day="someday"), entry(2))
        self.reads(body)
        looked_at, reading = self.read_again(body)
        self.assertEqual((looked_at, reading.found), (1, 2))
        self.assertEqual(
            [(warning["code"], warning["entry"]) for warning in reading.warnings], [("date_unreadable", 1)]
        )

    def test_an_entry_that_is_written_otherwise_and_says_the_same_is_read_once_more_only(self) -> None:
        self.reads(feed_of(entry(1), entry(2)))
        other = feed_of(entry(1, inside="<comments>https://club.example/1/said</comments>"), entry(2))
        before = Item.objects.get(title="Story 1").changed_at
        looked_at, _ = self.read_again(other)
        self.assertEqual(looked_at, 1)
        self.assertEqual(Item.objects.get(title="Story 1").changed_at, before)
        self.assertEqual(self.read_again(other)[0], 0)

    def test_of_two_entries_with_one_identity_the_last_stays_however_often_they_are_read(self) -> None:
        def titles() -> list[str]:
            return list(Item.objects.order_by("identity").values_list("title", flat=True))

        both = feed_of(entry(1, "First"), entry(2), entry(1, "Last"))
        self.reads(both)
        self.assertEqual(titles(), ["Last", "Story 2"])
        for _ in range(3):
            looked_at, _ = self.read_again(both)
            self.assertEqual((looked_at, titles()), (2, ["Last", "Story 2"]))
        # A changed entry before a known one leaves the known one unread.
        self.read_again(feed_of(entry(2), entry(1, "Last")))
        self.assertEqual(self.read_again(feed_of(entry(2), entry(1, "Last")))[0], 0)
        self.read_again(both)
        self.assertEqual(titles(), ["Last", "Story 2"])

    def test_what_was_forgotten_is_captured_again(self) -> None:
        self.reads(feed_of(entry(1), entry(2)))
        Item.objects.filter(title="Story 1").delete()
        looked_at, reading = self.read_again(feed_of(entry(1), entry(2)))
        self.assertEqual((looked_at, reading.fresh, Item.objects.count()), (1, 1, 2))

    def test_one_whose_edit_cannot_be_kept_is_read_again(self) -> None:
        self.reads(feed_of(entry(1)))
        (had,) = Item.objects.all()
        edited = story(1, identity=had.identity, title="y\x00")
        with self.assertLogs("glyptarch.items"):
            (result,) = capture_all([Given(source=self.source, entries=[FeedEntry(edited, 1, "m")])], now=NOW)
        self.assertEqual(result.refused, (had.identity,))
        self.assertEqual(known_entries([self.source])[self.source.pk].marks, {had.entry_mark})
