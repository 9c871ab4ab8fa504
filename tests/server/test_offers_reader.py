"""Reading offers again: what is due, many in one request, within the quota."""

from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.db.models import QuerySet
from django.test import TransactionTestCase
from glyptarch_core.item import Item as CoreItem
from glyptarch_core.offers import Availability, OfferFault
from glyptarch_server import wiring
from glyptarch_server.items.capturing import capture
from glyptarch_server.offers.actions import note_readings
from glyptarch_server.offers.models import Product
from glyptarch_server.offers.queries import claim_due
from glyptarch_server.offers.reader import read_due
from glyptarch_server.platforms.models import Connection, Usage
from glyptarch_server.posts.models import Post
from glyptarch_server.sources.models import Source
from glyptarch_server.wiring import FetchCode, FetchError

from tests.server.fixtures import NOW, CannedPortal, make_blog, make_campaign, make_source, run
from tests.server.test_platforms import Platforms

HOUR = timedelta(hours=1)
BODY = "<p>{{ excerpt }}</p>{% offer price %}"


def due_now(**values: Any) -> None:  # noqa: ANN401
    Product.objects.filter(**values).update(due_at=NOW)


class OfAShop(Platforms):
    """A shop with an API, which changes prices on its own clock."""

    def setUp(self) -> None:
        super().setUp()
        self.source = self.made("shop")
        self.read(self.source)
        rules = {"shape": {"body": BODY}, "match": {"rules": []}, "sift": {"rules": []}}
        run(make_campaign(self.blog, "Goods", sources=(self.source.key,), **rules))
        self.connection = Connection.objects.get()
        self.now = NOW
        patched = patch.object(wiring, "clock", lambda: lambda: self.now)
        patched.start()
        self.addCleanup(patched.stop)

    def read_at(self, hours: int) -> int:
        self.now = NOW + hours * HOUR
        self.world.ahead = hours * HOUR
        Product.objects.filter(due_at__isnull=False).update(due_at=self.now)
        return read_due(wiring.fetcher(), now=self.now)

    def faults(self) -> set[str]:
        return set(self.shown().filter(missing=0).values_list("fault", flat=True))

    def shown(self) -> QuerySet[Product]:
        """Return the products that pages show: nothing has taken their place."""
        return Product.objects.filter(successor=None)

    def requests(self) -> int:
        usage = Usage.objects.filter(who="offers").first()
        return usage.used if usage else 0

    def test_twenty_products_cost_one_request(self) -> None:
        number = self.shown().count()
        self.assertEqual(self.read_at(7), number)
        self.assertEqual(self.requests(), -(-number // 20))
        # The shop keeps no more than its forty newest.
        missing = Product.objects.filter(missing=1).count()
        self.assertLess(missing, 5)
        self.assertEqual(Product.objects.filter(read_at=self.now).count(), number - missing)

    def test_a_product_stated_by_number_is_asked_for_and_takes_the_place(self) -> None:
        old = Product.objects.order_by("number").first()
        assert old is not None
        facts = {"price": 9.0, "currency": "EUR", "sku": old.number, "replaced_by": "G-1000000"}
        item = CoreItem(source=self.source.key, identity=old.number, link=old.link, title=old.title, facts=facts)
        note_readings(self.blog.pk, {old.key: item}, now=NOW + HOUR)
        old.refresh_from_db()
        assert old.successor is not None
        self.assertEqual((old.successor.number, old.successor.title), ("G-1000000", old.title))
        # It is read in place of the old one, which no page shows any more.
        self.read_at(7)
        old.refresh_from_db()
        self.assertEqual((old.read_at, old.successor.missing), (NOW + HOUR, 1))
        # Also alone, when the old one is not due.
        self.now += 30 * HOUR
        Product.objects.exclude(pk=old.successor.pk).update(due_at=None)
        Product.objects.filter(pk=old.successor.pk).update(due_at=self.now)
        read_due(wiring.fetcher(), now=self.now)
        old.successor.refresh_from_db()
        self.assertEqual(old.successor.missing, 2)

    def test_what_no_published_post_shows_is_not_asked_for(self) -> None:
        Post.objects.update(state="held")
        self.assertEqual((self.read_at(7), self.requests()), (0, 0))
        self.assertFalse(Product.objects.filter(due_at__lte=self.now).exists())

    def test_prices_change_by_the_clock_of_the_shop(self) -> None:
        before = dict(Product.objects.values_list("number", "price"))
        for hours in (7, 14, 21, 28):
            self.read_at(hours)
        changed = [row for row in Product.objects.all() if row.price != before[row.number]]
        self.assertTrue(changed)
        self.assertTrue(all(row.past.count() > 1 for row in changed))

    def test_a_mistake_of_the_shop_is_held(self) -> None:
        self.world.platform_faults["shop"] = "price_slip"
        self.read_at(1)
        self.assertEqual(self.faults(), {OfferFault.JUMP.value})
        del self.world.platform_faults["shop"]
        self.read_at(2)
        self.assertEqual(self.faults(), {""})

    def test_what_the_shop_no_longer_has_is_withdrawn_after_three_readings(self) -> None:
        row = Product.objects.order_by("pk")[0]
        gone = Product.objects.create(
            blog=self.blog, shop=row.shop, number="G-0", key=f"{row.shop}/G-0", connection=self.connection,
            title="Gone", link=row.link, read_at=NOW - HOUR, due_at=NOW, made_at=NOW,
        )  # fmt: skip
        shown = Post.objects.order_by("pk")[0]
        Post.objects.filter(pk=shown.pk).update(body=f'<div data-offer="price" data-products="{gone.key}"></div>')
        for hours in (1, 2, 3):
            gone.refresh_from_db()
            self.assertNotEqual(gone.availability, Availability.WITHDRAWN.value)
            self.read_at(hours)
        gone.refresh_from_db()
        self.assertEqual(gone.availability, Availability.WITHDRAWN.value)
        self.assertEqual(gone.due_at, self.now + 7 * 24 * HOUR, "it may come back")

    def test_what_is_missing_is_not_asked_for_again_at_once(self) -> None:
        self.now, self.world.ahead = NOW + HOUR, 40 * 24 * HOUR
        Product.objects.update(due_at=NOW)
        read_due(wiring.fetcher(), now=self.now)
        missing = Product.objects.filter(missing=1)
        self.assertTrue(missing.exists())
        self.assertFalse(missing.exclude(due_at=self.now + 6 * HOUR).exists())

    def test_a_shop_that_fails_is_asked_again_soon_and_nothing_is_lost(self) -> None:
        before = list(Product.objects.order_by("pk").values_list("price", "read_at"))
        self.world.platform_faults["shop"] = "down"
        self.assertEqual(self.read_at(1), 0)
        self.assertEqual(list(Product.objects.order_by("pk").values_list("price", "read_at")), before)
        self.assertEqual(set(self.shown().values_list("due_at", flat=True)), {self.now + timedelta(minutes=15)})

    def test_a_quota_that_is_too_small_keeps_those_fresh_that_are_seen_most(self) -> None:
        # Half for the source, so one request a day for offers: seventeen products.
        Connection.objects.update(limit_a_day=2)
        keys = list(Product.objects.order_by("pk").values_list("key", flat=True))
        number = len(keys)
        self.assertGreater(number, 17)
        often = keys[:5]
        body = "".join(f'<div data-offer="price" data-products="{key}"></div>' for key in often)
        post = Post.objects.order_by("pk")[0]
        Post.objects.filter(pk=post.pk).update(body=post.body + body)
        self.now = NOW
        read = self.read_at(12)
        self.assertEqual(read, 17)
        asked = set(Product.objects.filter(read_at=self.now).values_list("key", flat=True))
        self.assertLessEqual(set(often), asked)
        Connection.objects.update(limit_a_day=2)
        self.assertEqual(self.read_at(36), 17)
        self.assertLessEqual(set(Product.objects.filter(read_at=self.now).values_list("key", flat=True)), asked)

    def test_two_workers_never_claim_the_same_product(self) -> None:
        Product.objects.update(due_at=NOW)
        first = claim_due(NOW)
        self.assertEqual(len(first), Product.objects.count())
        self.assertEqual(claim_due(NOW), [])


PAGE = """<html><body><article><h1>Eyepiece</h1><p>{}</p></article><script type="application/ld+json">
{{"@type": "Product", "name": "Eyepiece", "offers": {{"@type": "Offer", "price": "{}", "priceCurrency": "EUR",
"availability": "https://schema.org/InStock"}}}}</script></body></html>"""
WORDS = "A wide view of the night sky from the workshop on the ridge, ground and polished by hand. " * 6
LINK = "https://shop.example/eyepiece"


class OfPages(TransactionTestCase):
    """A shop without an API, whose pages are read. Its transactions are real ones."""

    def setUp(self) -> None:
        self.blog = make_blog()
        self.source = make_source(self.blog, "shop")
        facts = {"price": 89.0, "currency": "EUR", "availability": "InStock"}
        item = CoreItem(
            source="shop", identity=LINK, link=LINK, title="Eyepiece", body=WORDS, published=NOW, facts=facts
        )
        capture(Source.objects.get(), [item], now=NOW)
        run(make_campaign(self.blog, sources=("shop",), shape={"body": BODY}))
        patched = patch.object(wiring, "clock", lambda: lambda: NOW + HOUR)
        patched.start()
        self.addCleanup(patched.stop)
        due_now()

    def test_the_price_comes_from_its_page(self) -> None:
        portal = CannedPortal({LINK: PAGE.format(WORDS, "79.90").encode()})
        self.assertEqual(read_due(portal, now=NOW + HOUR), 1)
        row = Product.objects.get()
        self.assertEqual((str(row.price), row.fault, row.read_at), ("79.9000", "", NOW + HOUR))

    def test_a_range_on_the_page_is_no_price(self) -> None:
        page = PAGE.replace('"price": "{}"', '"lowPrice": "{}", "highPrice": "90"')
        read_due(CannedPortal({LINK: page.format(WORDS, "79").encode()}), now=NOW + HOUR)
        row = Product.objects.get()
        self.assertEqual((row.price, row.fault, row.said), (None, OfferFault.NOT_A_PRICE.value, "79–90"))

    def test_a_page_that_is_gone_counts_as_missing(self) -> None:
        portal = CannedPortal({LINK: FetchError(FetchCode.GONE, "410")})
        self.assertEqual(read_due(portal, now=NOW + HOUR), 0)
        row = Product.objects.get()
        self.assertEqual((row.missing, row.fault, row.price), (1, OfferFault.MISSING.value, 89))
