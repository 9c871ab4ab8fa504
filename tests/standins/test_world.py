"""The simulated world: the same seed and moment always give the same stories."""

import io
import re
from datetime import UTC, datetime, timedelta

from django.test import SimpleTestCase
from glyptarch_core.readers import read_feed
from glyptarch_standins.feeds import CONTENT_TYPES, write_feed
from glyptarch_standins.pictures import draw
from glyptarch_standins.platform_records import is_sold, product
from glyptarch_standins.stories import SITES, site_named, stories_up_to
from PIL import Image

NOON = datetime(2026, 11, 24, 12, tzinfo=UTC)
BASE = "http://127.0.0.1:8790"


class Stories(SimpleTestCase):
    def test_a_seed_and_a_moment_give_the_same_stories(self) -> None:
        for site in SITES:
            self.assertEqual(stories_up_to(site, NOON, 7), stories_up_to(site, NOON, 7))
            self.assertNotEqual(stories_up_to(site, NOON, 7), stories_up_to(site, NOON, 8))

    def test_new_stories_come_as_time_passes_and_old_ones_stay_as_they_were(self) -> None:
        for site in SITES:
            before = {story.number: story for story in stories_up_to(site, NOON, 7)}
            after = {story.number: story for story in stories_up_to(site, NOON + timedelta(days=2), 7)}
            self.assertTrue(set(after) - set(before))
            self.assertTrue(all(after[number] == before[number] for number in set(after) & set(before)))

    def test_no_story_is_from_the_future(self) -> None:
        for site in SITES:
            self.assertLessEqual(max(story.at for story in stories_up_to(site, NOON, 7)), NOON)

    def test_the_wire_passes_on_stories_of_others_with_their_links(self) -> None:
        wire = site_named("skywire")
        assert wire is not None
        repeats = [story for story in stories_up_to(wire, NOON, 7) if story.repeat_of]
        self.assertTrue(repeats)
        self.assertIn("utm_source", write_feed(wire, repeats, BASE).decode())

    def test_what_the_shop_says_agrees_with_its_titles(self) -> None:
        shop = site_named("glasswright")
        assert shop is not None
        stories = stories_up_to(shop, NOON, 7, count=200)
        priced = [(story, price) for story in stories if (price := re.search(r"\d+\.\d\d", story.title))]
        self.assertTrue(priced)
        for story, price in priced:
            self.assertEqual(product(story, NOON)["price"]["amount"], float(price[0]), story.title)
        again = [product(story, NOON)["stock"] for story in stories if "In stock again" in story.title]
        self.assertEqual(set(again), {"in"})

    def test_the_shop_changes_prices_and_stock_on_its_clock_and_takes_goods_off(self) -> None:
        shop = site_named("glasswright")
        assert shop is not None
        stories = stories_up_to(shop, NOON, 7, count=60)
        later = [NOON + timedelta(hours=hours) for hours in range(0, 96, 6)]
        prices = [{product(story, at)["price"]["amount"] for at in later} for story in stories]
        self.assertTrue(any(len(amounts) > 1 for amounts in prices))
        self.assertEqual({product(story, at)["stock"] for story in stories for at in later}, {"in", "out", "soon"})
        for story in stories:
            price = product(story, NOON)["price"]
            self.assertTrue(price["before"] is None or price["before"] > price["amount"])
        self.assertTrue(any(not is_sold(story, NOON + timedelta(days=90)) for story in stories))
        self.assertTrue(all(is_sold(story, story.at) for story in stories))


class Feeds(SimpleTestCase):
    def test_every_feed_is_read_without_a_fault_of_the_whole(self) -> None:
        formats = set()
        for site in SITES:
            body = write_feed(site, stories_up_to(site, NOON, 7), BASE)
            feed = read_feed(body, source="x", url=f"{BASE}/{site.name}/feed", content_type=CONTENT_TYPES[site.format])
            formats.add(feed.format)
            self.assertEqual((feed.title, len(feed.items)), (site.title, site.in_feed))
            self.assertFalse([warning for warning in feed.warnings if warning.entry == 0])
        self.assertEqual(formats, {"RSS 2.0", "RSS 1.0", "Atom 1.0", "JSON Feed 1.1"})

    def test_lengths_and_pictures_differ_as_in_life(self) -> None:
        club = site_named("meadowlark")
        assert club is not None
        stories = stories_up_to(club, NOON, 7)
        self.assertGreater(len({len(story.paragraphs) for story in stories}), 3)
        self.assertEqual({bool(story.picture) for story in stories}, {True, False})


class Pictures(SimpleTestCase):
    def test_every_kind_is_drawn_and_numbers_differ(self) -> None:
        for kind in ("meteor", "comet", "ridge", "dome", "stars", "silhouette"):
            self.assertEqual(Image.open(io.BytesIO(draw(kind, 1))).size, (1200, 675))
        self.assertNotEqual(draw("comet", 1), draw("comet", 2))
