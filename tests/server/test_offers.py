"""Offers: what shops state, what readers see of it, and how long."""

import json
import re
from dataclasses import replace
from datetime import timedelta
from decimal import Decimal
from typing import Any
from unittest.mock import patch

from django.test import Client, TestCase
from glyptarch_core.item import Item as CoreItem
from glyptarch_core.item import Media, MediaKind, MediaOrigin, Review
from glyptarch_core.offers import OfferDocument, OfferFault, ShopSettings
from glyptarch_server import wiring
from glyptarch_server.blogs.actions import change_appearance
from glyptarch_server.blogs.models import Category
from glyptarch_server.common.page_cache import ENDS_HEADER, GOODS_HEADER
from glyptarch_server.common.problems import Invalid
from glyptarch_server.front.tokens import sign_for_basket
from glyptarch_server.items.capturing import capture
from glyptarch_server.offers import actions, successors
from glyptarch_server.offers.models import LinkCount, OfferPast, Product
from glyptarch_server.offers.queries import held_prices
from glyptarch_server.offers.tasks import let_posts_follow
from glyptarch_server.platforms.models import Connection
from glyptarch_server.posts.models import Post
from glyptarch_server.sources.models import PlatformAsk, Source
from procrastinate.contrib.django.models import ProcrastinateJob

from tests.server.fixtures import NOW, make_blog, make_campaign, make_source, run

HOUR = timedelta(hours=1)
BODY = '<p>{{ excerpt }}</p>{% offer price, wording: "Look at it" %}{% offer rating %}{% offer history %}'


def good(number: str, **facts: Any) -> CoreItem:  # noqa: ANN401
    stated = {"price": 89.0, "currency": "EUR", "sku": number, "availability": "in stock", **facts}
    return CoreItem(
        source="shop",
        identity=f"http://shop.example/{number}",
        link=f"http://shop.example/{number}",
        title=f"Eyepiece {number}",
        summary="<p>A wide view of the night from the workshop on the ridge.</p>",
        published=NOW,
        facts={name: value for name, value in stated.items() if value is not None},
    )


class Offers(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.shop = make_source(self.blog, "shop")
        self.now = NOW
        patched = patch.object(wiring, "clock", lambda: lambda: self.now)
        patched.start()
        self.addCleanup(patched.stop)
        self.client = Client()

    def read(self, *items: CoreItem, later: timedelta = timedelta(), source: Source | None = None) -> None:
        self.now += later
        capture(source or self.shop, items, now=self.now)

    def publish(self, body: str = BODY, **parts: Any) -> None:  # noqa: ANN401
        parts.setdefault("place", {"kind": "product"})
        run(make_campaign(self.blog, sources=("shop",), shape={"body": body}, match={"rules": []}, **parts))

    def page(self, path: str = "eyepiece-g-1/") -> str:
        answer = self.client.get(f"/blog/meadow/{path}")
        self.assertEqual(answer.status_code, 200)
        return answer.content.decode()

    def rules(self, **document: Any) -> None:  # noqa: ANN401
        self.blog.refresh_from_db()
        actions.save_offers(self.blog, OfferDocument.model_validate(document), begun=None)


class Shown(Offers):
    """What readers see."""

    def setUp(self) -> None:
        super().setUp()
        self.read(good("G-1", list_price="104.00", rating=4.2, rating_count="31"))
        self.publish()

    def test_a_post_holds_a_place_and_no_price(self) -> None:
        post = Post.objects.get()
        self.assertNotIn("89", post.body)
        self.assertEqual(post.products, ["shop/G-1"])

    def test_a_page_shows_the_price_with_its_time_and_its_end(self) -> None:
        answer = self.client.get("/blog/meadow/eyepiece-g-1/")
        page = answer.content.decode()
        self.assertIn("€89.00", page)
        self.assertIn("€104.00", page)
        self.assertIn(">-14%</span>", page)
        self.assertIn("read 12:00", page)
        self.assertIn(">Look at it</a>", page)
        self.assertIn("4.2 of 5, 31 ratings at", page)
        self.assertEqual(int(answer[ENDS_HEADER]), int((NOW + 24 * HOUR).timestamp()))

    def test_an_old_price_is_shown_nowhere(self) -> None:
        self.blog.full_feeds = True
        self.blog.save()
        places = ("", "eyepiece-g-1/", "feed.xml", "atom.xml", "feed.json", "search/?q=eyepiece", "archive/")
        self.now += 24 * HOUR - timedelta(seconds=1)
        self.assertIn("89", self.page())
        self.assertIn("89", self.page(""))
        self.now += timedelta(seconds=1)
        for place in places:
            self.assertNotRegex(self.page(place), r"89|104", place)
        self.assertIn("Look at it", self.page())
        self.assertIn("See the price at", self.page(""))

    def test_feeds_carry_no_price_because_they_are_kept_elsewhere(self) -> None:
        self.blog.full_feeds = True
        self.blog.save()
        for feed in ("feed.xml", "atom.xml", "feed.json"):
            page = self.page(feed)
            self.assertNotIn("89", page, feed)
            self.assertIn("Look at it", page, feed)

    def test_linked_data_says_what_the_page_says(self) -> None:
        def product() -> dict[str, Any]:
            data = json.loads(re.search(r'<script type="application/ld\+json">(.*?)</script>', self.page())[1])
            return next(thing for thing in data["@graph"] if thing["@type"] == "Product")

        fresh = product()
        self.assertEqual((fresh["offers"]["price"], fresh["offers"]["priceCurrency"]), ("89", "EUR"))
        self.assertEqual(fresh["aggregateRating"]["ratingCount"], 31)
        self.now += 25 * HOUR
        self.assertNotIn("price", product()["offers"])

    def test_a_shop_may_have_another_limit_or_forbid_telling(self) -> None:
        self.rules(shops=[ShopSettings(shop="shop", hours=2)])
        self.now += 2 * HOUR
        self.assertNotIn("€89", self.page())
        self.now = NOW
        self.assertIn("€89", self.page())
        self.rules(shops=[ShopSettings(shop="shop", tells_prices=False)])
        self.assertNotIn("€89", self.page())

    def test_a_new_reading_is_shown_and_the_history_kept(self) -> None:
        self.read(good("G-1", price=80.0), later=HOUR)
        self.read(good("G-1", price=80.0), later=HOUR)
        page = self.page()
        self.assertIn("€80.00", page)
        self.assertNotIn("offer-less", page, "a list price of an earlier reading is no reduction")
        self.assertEqual([row.price for row in OfferPast.objects.order_by("at")], [89, 80])
        self.assertIn("Price over time", page)

    def test_the_best_are_those_with_the_best_ratings_and_a_fresh_price(self) -> None:
        goods = [good(f"B-{number}", rating=number / 2, rating_count="9") for number in range(2, 10)]
        self.read(*goods, good("B-X", rating=5.0, price=None))
        Post.objects.update(body='<div data-offer="best"></div>')
        found = re.findall(r">Eyepiece (\S+)</a> <span class=\"offer-stars", self.page())
        self.assertEqual(found, ["B-9", "G-1", "B-8", "B-7", "B-6"])

    def test_a_comparison_begins_with_the_cheapest(self) -> None:
        self.read(good("C-1", price=90.0), good("C-2", price=9.0), good("C-3", price=None))
        keys = " ".join(f"shop/C-{number}" for number in (1, 3, 2))
        Post.objects.update(body=f'<div data-offer="compare" data-products="{keys}"></div>')
        self.assertEqual(re.findall(r'<th scope="col"><a[^>]+>Eyepiece ([^<]+)<', self.page()), ["C-2", "C-1", "C-3"])

    def test_a_successor_takes_the_place(self) -> None:
        self.read(good("G-2", price=120.0))
        first, second = Product.objects.order_by("number")
        successors.name_successor(self.blog, first, second.key)
        self.assertIn("€120.00", self.page())
        self.assertNotIn("€89", self.page())

    def test_a_successor_that_is_replaced_itself_leads_on(self) -> None:
        self.read(good("G-2", price=120.0), good("G-3", price=130.0))
        first, second, third = Product.objects.order_by("number")
        successors.name_successor(self.blog, first, second.key)
        successors.name_successor(self.blog, second, third.key)
        self.assertIn("€130.00", self.page())
        with self.assertRaises(Invalid):
            successors.name_successor(self.blog, third, first.key)

    def test_a_page_names_its_products_and_what_any_can_enter(self) -> None:
        row = Product.objects.get()
        self.assertEqual(self.client.get("/blog/meadow/eyepiece-g-1/")[GOODS_HEADER], str(row.pk))
        self.assertEqual(self.client.get("/blog/meadow/goods/")[GOODS_HEADER], "*")
        self.assertFalse(self.client.get("/blog/meadow/archive/").has_header(GOODS_HEADER))
        for body in ('<div data-offer="best"></div>', '<div data-offer="price" data-products="shop/UNKNOWN"></div>'):
            Post.objects.update(body=body)
            self.assertEqual(self.client.get("/blog/meadow/eyepiece-g-1/")[GOODS_HEADER], "*")

    def test_places_of_sources_are_taken_out(self) -> None:
        body = '<div data-offer="price" data-products="shop/G-1">Now for 5 € only</div>'
        text = CoreItem(source="shop", identity="x", link="http://x.example/", title="Trap", body=body, published=NOW)
        self.read(text)
        self.publish("{{ body }}", name="Second")
        self.assertEqual(Post.objects.get(title="Trap").products, [])

    def test_a_page_with_forty_offers_costs_three_queries_more_at_most(self) -> None:
        self.read(*(good(f"N-{number}") for number in range(40)))
        post = Post.objects.get()
        Post.objects.filter(pk=post.pk).update(body="<p>None</p>")
        self.page()
        with self.assertNumQueries(11):
            self.page()
        keys = " ".join(f"shop/N-{number}" for number in range(20))
        places = [f'<div data-offer="history" data-products="shop/N-{number}"></div>' for number in range(20, 40)]
        Post.objects.filter(pk=post.pk).update(
            body=f'<div data-offer="compare" data-products="{keys}"></div>{"".join(places)}'
        )
        with self.assertNumQueries(13):
            self.page()


class Details(Offers):
    """Features, pictures and reviews of the shop."""

    def setUp(self) -> None:
        super().setUp()
        pictures = [
            Media(url=f"http://shop.example/{name}.jpg", kind=MediaKind.PICTURE, origin=MediaOrigin.FEED)
            for name in "ab"
        ]
        item = replace(
            good("G-1"),
            features=("Ground by hand", "40 mm"),
            reviews=(Review(text="Closes <b>with</b> gloves on.", by="Ada", stars=4.5), Review(text="Fine.", stars=9)),
            media=tuple(pictures),
        )
        self.read(item)
        self.publish("{% offer features %}{% offer gallery %}{% offer reviews %}")

    def test_they_are_shown_with_their_source(self) -> None:
        page = self.page()
        self.assertIn("<li>Ground by hand</li><li>40 mm</li>", page)
        self.assertEqual(re.findall(r'<li><img src="http://shop.example/(\w).jpg"', page), ["a", "b"])
        self.assertIn("Closes &lt;b&gt;with&lt;/b&gt; gloves on.", page)
        self.assertIn("4.5 of 5", page)
        self.assertIn("<bdi>Ada</bdi>, <a", page)

    def test_linked_data_has_the_reviews_that_the_page_shows(self) -> None:
        self.assertIn('"reviewBody": "Fine."', self.page())
        self.assertIn('"ratingValue": 4.5', self.page())
        self.assertNotIn('"ratingValue": 9', self.page())
        Post.objects.update(body='<div data-offer="price" data-products="shop/G-1"></div>')
        self.assertNotIn("reviewBody", self.page())

    def test_what_a_shop_writes_badly_does_no_harm(self) -> None:
        self.read(
            replace(
                good("G-7"),
                features=("\x00ก้อง\x00", "مرقب", "\ud800", "x" * 9000, "<script>alert(1)</script>"),
                reviews=(Review(text="\x00", by="\x00"), Review(text="दूरबीन " * 500, by="A\x00b", stars=float("nan"))),
            )
        )
        details = Product.objects.get(number="G-7").details
        self.assertEqual(details["features"][:2], ["ก้อง", "مرقب"])
        self.assertEqual([len(details["reviews"]), details["reviews"][0]["stars"]], [1, None])
        self.assertTrue(details["reviews"][0]["text"].endswith("दूरबीन…"))
        Post.objects.update(body='<div data-offer="features" data-products="shop/G-7"></div>')
        self.assertNotIn("<script>alert", self.page())

    def test_only_where_the_source_may_be_shown_in_full(self) -> None:
        for right in ("excerpt", "link"):
            Source.objects.update(right=right)
            page = self.page()
            for text in ("Ground by hand", "gloves on", "shop.example/b.jpg"):
                self.assertNotIn(text, page)

    def test_a_post_that_shows_copies_only_shows_no_picture_of_the_shop_itself(self) -> None:
        Post.objects.update(copies_pictures=True)
        self.assertNotIn("shop.example/b.jpg", self.page())


class AllGoods(Offers):
    """The page with all goods of a blog."""

    def setUp(self) -> None:
        super().setUp()
        self.read(
            good("G-1", price=50.0, list_price="60"),
            good("G-2", price=90.0, list_price="180", availability="out of stock"),
            good("G-3", price=70.0),
        )
        self.publish()

    def goods(self, query: str = "") -> list[str]:
        return re.findall(r'class="still-title" dir="auto">Eyepiece (\S+)</span>', self.page(f"goods/{query}"))

    def test_in_the_order_asked_for(self) -> None:
        self.assertEqual(sorted(self.goods()), ["G-1", "G-2", "G-3"])
        self.assertEqual(self.goods("?order=cheapest"), ["G-1", "G-3", "G-2"])
        self.assertEqual(self.goods("?order=reduced"), ["G-2", "G-1"])
        self.now += 25 * HOUR
        self.assertEqual((self.goods("?order=cheapest"), len(self.goods())), ([], 3))

    def test_narrowed_to_a_section_and_to_what_is_in_stock(self) -> None:
        section = Category.objects.create(blog=self.blog, name="Glass", slug="glass")
        Post.objects.get(title="Eyepiece G-3").categories.add(section)
        self.assertEqual(self.goods("?section=glass"), ["G-3"])
        self.assertEqual(self.goods("?section=glass&order=cheapest"), ["G-3"])
        self.assertEqual(self.goods("?stock=in&order=cheapest"), ["G-1", "G-3"])
        self.assertEqual(sorted(self.goods("?stock=in")), ["G-1", "G-3"])

    def test_what_is_not_known_counts_as_not_asked_for(self) -> None:
        for query in ("?order=x", "?section=nowhere", "?page=-1", "?order=%00&section=%00&stock=%00&page=%00"):
            self.assertEqual(len(self.goods(query)), 3, query)

    def test_only_posts_that_readers_may_see_and_each_product_once(self) -> None:
        Post.objects.filter(title="Eyepiece G-3").update(visibility="private")
        Post.objects.filter(title="Eyepiece G-2").update(state="held")
        self.assertEqual((self.goods(), self.goods("?order=cheapest")), (["G-1"], ["G-1"]))

    def test_a_post_that_has_the_address_keeps_it(self) -> None:
        Post.objects.filter(title="Eyepiece G-3").update(slug="goods")
        self.assertIn("<h1>Eyepiece G-3</h1>", self.page("goods/"))

    def test_pages_lead_on_and_end(self) -> None:
        with patch("glyptarch_server.front.goods._ON_A_PAGE", 2):
            self.assertEqual(self.goods("?order=cheapest"), ["G-1", "G-3"])
            self.assertIn('rel="next" href="?order=cheapest&amp;page=2"', self.page("goods/?order=cheapest"))
            self.assertEqual(self.goods("?order=cheapest&page=2"), ["G-2"])
            self.assertEqual(self.client.get("/blog/meadow/goods/?order=cheapest&page=3").status_code, 404)

    def test_a_table_of_the_front_leads_there(self) -> None:
        part = {"id": "goods", "kind": "table", "order": "reduced", "count": 3}
        self.blog.refresh_from_db()
        change_appearance(self.blog, {"parts": [part, {"id": "newest", "kind": "newest"}]})
        self.assertIn('href="/blog/meadow/goods/?order=reduced"', self.page(""))


class OnTheFront(Offers):
    """A table of the front takes what is reduced most, or costs least."""

    def rows(self, order: str) -> list[str]:
        part = {"id": "goods", "kind": "table", "order": order, "count": 3}
        self.blog.refresh_from_db()
        change_appearance(self.blog, {"parts": [part, {"id": "newest", "kind": "newest"}]})
        return re.findall(r">Eyepiece (\S+)</a></div></th>", self.page(""))

    def test_by_reduction_and_by_price_with_fresh_prices_only(self) -> None:
        self.read(good("G-1", price=50.0, list_price="60"), good("G-2", price=90.0, list_price="180"), good("G-3"))
        self.publish()
        self.assertEqual(self.rows("reduced"), ["G-2", "G-1"])
        self.assertEqual(self.rows("cheapest"), ["G-1", "G-3", "G-2"])
        self.now += 25 * HOUR
        self.assertEqual(self.rows("cheapest"), [])


class Readings(Offers):
    """What a reading changes."""

    def product(self) -> Product:
        return Product.objects.get()

    def test_what_is_not_certain_gives_no_price_and_says_why(self) -> None:
        cases = (
            ({"price": None}, OfferFault.NO_PRICE),
            ({"price": None, "price_said": "from 20 to 30"}, OfferFault.NOT_A_PRICE),
            ({"currency": None}, OfferFault.NO_CURRENCY),
            ({"currency": "$"}, OfferFault.NO_CURRENCY),
            ({"currency": "USD"}, OfferFault.OTHER_CURRENCY),
        )
        self.read(good("G-1"))
        for facts, fault in cases:
            self.read(good("G-1", **facts), later=HOUR)
            row = self.product()
            self.assertEqual((row.price, row.fault), (None, fault.value), facts)
            self.read(good("G-1"), later=HOUR)
            self.assertEqual((self.product().price, self.product().fault), (89, ""))

    def test_a_price_that_jumps_waits_for_a_person(self) -> None:
        self.read(good("G-1"))
        self.publish()
        self.read(good("G-1", price=8.9), later=HOUR)
        self.assertNotRegex(self.page(), r"€8\.90|€89")
        self.assertEqual(self.product().fault, OfferFault.JUMP.value)
        actions.decide_price(self.product(), take=True, now=self.now)
        self.assertIn("€8.90", self.page())

    def test_a_refused_jump_shows_no_price_until_the_shop_asks_another(self) -> None:
        self.read(good("G-1"))
        self.publish()
        self.read(good("G-1", price=890.0), later=HOUR)
        self.assertEqual(held_prices(self.blog).count(), 1)
        actions.decide_price(self.product(), take=False, now=self.now)
        self.assertNotRegex(self.page(), "€8")
        self.read(good("G-1", price=890.0), later=HOUR)
        self.assertNotRegex(self.page(), "€8", "the same mistake is not believed the second time")
        self.assertEqual(held_prices(self.blog).count(), 0, "and nobody is asked again")
        self.read(good("G-1", price=900.0), later=HOUR)
        self.assertEqual(held_prices(self.blog).count(), 1)
        self.read(good("G-1", price=91.0), later=HOUR)
        self.assertIn("€91.00", self.page())

    def test_the_newer_reading_wins_whoever_writes_last(self) -> None:
        self.read(good("G-1", price=95.0), later=HOUR)
        actions.note_readings(self.blog.pk, {"shop/G-1": good("G-1", price=70.0)}, now=self.now - HOUR)
        self.assertEqual(self.product().price, Decimal(95))

    def test_sources_of_one_connection_share_a_product_and_regions_do_not(self) -> None:
        connection = Connection.objects.create(
            blog=self.blog, key="glass", platform="shop", name="Glass", address="http://shop.example", made_at=NOW
        )
        for key, region in (("new", ""), ("all", ""), ("abroad", "ch")):
            source = make_source(self.blog, key)
            parameters = {"region": region} if region else {}
            PlatformAsk.objects.create(source=source, platform="shop", connection=connection, parameters=parameters)
            self.read(good("G-1"), source=Source.objects.get(pk=source.pk))
        self.assertEqual(sorted(Product.objects.values_list("key", flat=True)), ["glass/G-1", "glass@ch/G-1"])

    def test_products_with_long_addresses_alike_are_kept_apart(self) -> None:
        base = "http://shop.example/" + "a" * 100
        for ending, price in (("1", 10.0), ("2", 20.0)):
            item = good("x", price=price, sku=None)
            self.read(replace(item, identity=base + ending, link=base + ending), later=HOUR)
        self.assertEqual(sorted(Product.objects.values_list("price", flat=True)), [10, 20])
        self.read(replace(good("x", price=11.0, sku=None), identity=base + "1", link=base + "1"), later=HOUR)
        self.assertEqual(sorted(Product.objects.values_list("price", "fault")), [(11, ""), (20, "")])

    def test_an_item_without_an_offer_makes_no_product(self) -> None:
        self.read(CoreItem(source="shop", identity="a", link="http://a.example/", title="Note", published=NOW))
        self.assertFalse(Product.objects.exists())

    def test_posts_follow_what_their_campaign_says_of_goods_that_are_gone(self) -> None:
        self.read(good("G-1"), good("G-2"), good("G-3"))
        self.publish(release={"mode": "publish", "withdrawn": "take_down", "sold_out": "hold"})
        compared = Post.objects.get(title="Eyepiece G-3")
        Post.objects.filter(pk=compared.pk).update(
            body='<div data-offer="compare" data-products="shop/G-1 shop/G-2"></div>'
        )
        self.read(good("G-1", availability="Discontinued"), good("G-2", availability="out of stock"), later=HOUR)
        for job in ProcrastinateJob.objects.filter(task_name="let_posts_follow"):
            let_posts_follow(**job.args)
            let_posts_follow(**job.args)
        self.assertEqual(
            list(Post.objects.order_by("title").values_list("state", flat=True)), ["binned", "held", "published"]
        )

    def test_a_campaign_may_keep_posts_as_they_are(self) -> None:
        self.read(good("G-1"))
        self.publish(release={"mode": "publish", "sold_out": "keep"})
        self.read(good("G-1", availability="out of stock"), later=HOUR)
        self.assertIn("Out of stock", self.page())
        for job in ProcrastinateJob.objects.filter(task_name="let_posts_follow"):
            let_posts_follow(**job.args)
        for path in ("eyepiece-g-1/", ""):
            self.assertNotIn("Out of stock", self.page(path))
            self.assertNotIn("schema.org/OutOfStock", self.page(path))

    def test_a_shop_that_states_a_new_number_is_followed_once(self) -> None:
        self.read(good("G-1"), good("G-9", price=95.0))
        self.publish()
        self.read(good("G-1", replaced_by="G-9"), later=HOUR)
        self.assertIn("€95.00", self.page())
        # A person decides otherwise, and the shop repeats itself.
        successors.name_successor(self.blog, Product.objects.get(number="G-1"), "")
        self.read(good("G-1", replaced_by="G-9"), later=HOUR)
        self.assertIn("€89.00", self.page())
        self.read(good("G-1", replaced_by="G-1"), good("G-9", replaced_by="UNKNOWN"), later=HOUR)
        self.assertEqual(Product.objects.filter(successor__isnull=False).count(), 0)

    def test_what_is_back_before_the_job_comes_leaves_its_post_alone(self) -> None:
        self.read(good("G-1"))
        self.publish(release={"mode": "publish", "sold_out": "take_down"})
        self.read(good("G-1", availability="out of stock"), later=HOUR)
        self.read(good("G-1"), later=HOUR)
        for job in ProcrastinateJob.objects.filter(task_name="let_posts_follow"):
            let_posts_follow(**job.args)
        self.assertEqual(Post.objects.get().state, "published")

    def test_a_title_is_no_longer_than_the_rights_of_its_source_allow(self) -> None:
        Source.objects.update(right="link")
        words = " ".join(f"word{number}" for number in range(60))
        item = good("G-1")
        self.read(replace(item, title=words, summary=f"<p>{words}</p>"), source=Source.objects.get())
        self.assertLess(len(Product.objects.get().title.split()), 40)
        self.read(replace(item, title=words, summary=f"<p>{words} more</p>"), source=Source.objects.get(), later=HOUR)
        self.assertLess(len(Product.objects.get().title.split()), 40)

    def test_old_prices_and_counts_are_thinned(self) -> None:
        self.read(good("G-1"))
        self.publish()
        row = {"blog": self.blog, "post": Post.objects.get(), "product": Product.objects.get(), "block": "price"}
        for years in (1, 3):
            LinkCount.objects.create(day=NOW.date() - timedelta(days=365 * years), **row)
            OfferPast.objects.create(product=row["product"], at=NOW - timedelta(days=365 * years), currency="EUR")
        actions.thin_offers(now=NOW)
        self.assertEqual((LinkCount.objects.count(), OfferPast.objects.count()), (1, 2))

    def test_by_default_the_page_says_so_and_the_post_stays(self) -> None:
        self.read(good("G-1"))
        self.publish()
        self.read(good("G-1", availability="out of stock"), later=HOUR)
        self.assertIn("Out of stock", self.page())

    def test_after_three_readings_without_it_a_product_is_withdrawn(self) -> None:
        self.read(good("G-1"))
        self.publish()
        for _ in range(3):
            self.now += HOUR
            actions.note_missing(self.blog.pk, ["shop/G-1"], now=self.now)
        self.assertIn("No longer sold", self.page())
        self.assertNotIn("€89", self.page())
        self.read(good("G-1"), later=HOUR)
        self.assertIn("€89.00", self.page())


class PartnerLinks(Offers):
    """Links that earn carry the blog's tag, and say so."""

    def test_every_link_to_a_partner_gets_the_tag_at_display(self) -> None:
        self.read(good("G-1"))
        self.publish(BODY + '<p><a href="http://shop.example/old?tag=other">old</a></p>')
        self.rules(partners=[{"host": "shop.example", "parameters": {"tag": "meadow"}}], disclosure="We earn by it.")
        page = self.page()
        self.assertIn('href="http://shop.example/G-1?tag=meadow" rel="sponsored nofollow noopener"', page)
        self.assertIn('href="http://shop.example/old?tag=meadow"', page)
        self.assertEqual(page.count("We earn by it."), 1)
        self.rules(partners=[{"host": "shop.example", "parameters": {"tag": "heath"}}])
        self.assertNotIn("tag=meadow", self.page())
        self.assertIn("tag=heath", self.page())

    def test_a_placed_disclosure_is_not_repeated(self) -> None:
        self.read(good("G-1"))
        self.publish("{% offer disclosure %}" + BODY)
        self.rules(partners=[{"host": "shop.example", "parameters": {"tag": "m"}}], disclosure="We earn by it.")
        page = self.page()
        self.assertEqual(page.count("We earn by it."), 1)
        self.assertLess(page.index("We earn by it."), page.index("Look at it"))


class CountedLinks(Offers):
    """Links that the blog counts lead nowhere else, and count readers only."""

    READER = "Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101 Firefox/128.0"

    def setUp(self) -> None:
        super().setUp()
        self.read(good("G-1"))
        self.publish()
        self.rules(counts_links=True, partners=[{"host": "shop.example", "parameters": {"tag": "m"}}])
        self.link = re.search(r'href="(/blog/meadow/to/[^"]+)"', self.page())[1]

    def clicks(self) -> int:
        return sum(LinkCount.objects.values_list("count", flat=True))

    def follow(self, link: str = "", **headers: str) -> Any:  # noqa: ANN401
        return self.client.get(link or self.link, headers={"User-Agent": self.READER, **headers})

    def test_a_link_leads_to_the_shop_with_the_tag_of_now_and_is_counted(self) -> None:
        answer = self.follow()
        self.assertEqual((answer.status_code, answer["Location"]), (302, "http://shop.example/G-1?tag=m"))
        self.rules(counts_links=True, partners=[{"host": "shop.example", "parameters": {"tag": "new"}}])
        self.assertEqual(self.follow()["Location"], "http://shop.example/G-1?tag=new")
        row = LinkCount.objects.get()
        self.assertEqual((row.count, row.block, row.day), (2, "price", NOW.date()))
        self.assertFalse(answer.cookies)

    def test_programs_and_browsers_that_ask_ahead_are_led_but_not_counted(self) -> None:
        for headers in ({"User-Agent": "Somebot/1.0"}, {"User-Agent": ""}, {"Sec-Purpose": "prefetch"},
                        {"Purpose": "prefetch"}, {"X-Moz": "prefetch"}):  # fmt: skip
            self.assertEqual(self.follow(**headers).status_code, 302)
        self.client.head(self.link, headers={"User-Agent": self.READER})
        self.assertEqual(self.clicks(), 0)

    def test_what_the_blog_did_not_sign_leads_nowhere(self) -> None:
        token = self.link.split("/")[-2]
        forged = (
            token[:-1] + ("A" if token[-1] != "A" else "B"),
            "http://evil.example",
            f"1.1.1.price:{token.split(':')[1]}",
            "x" * 5000,
            "%0d%0aLocation: evil",
        )
        for text in forged:
            self.assertEqual(self.follow(f"/blog/meadow/to/{text}/").status_code, 404, text)
        make_blog("heath")
        self.assertEqual(self.follow(self.link.replace("meadow", "heath")).status_code, 404)
        self.assertEqual(self.clicks(), 0)

    def test_a_post_that_is_not_out_or_no_longer_shows_it_leads_nowhere(self) -> None:
        Post.objects.update(state="held")
        self.assertEqual(self.follow().status_code, 404)
        Post.objects.update(state="published", body="<p>Nothing</p>")
        self.assertEqual(self.follow().status_code, 404)

    def test_one_client_counts_sixty_times_an_hour_at_most(self) -> None:
        for _ in range(65):
            self.assertEqual(self.follow().status_code, 302)
        self.assertEqual(self.clicks(), 60)

    def test_linked_data_and_feeds_name_the_shop_itself(self) -> None:
        self.assertIn('"url": "http://shop.example/G-1?tag=m"', self.page())
        self.blog.refresh_from_db()
        self.blog.full_feeds = True
        self.blog.save()
        self.assertNotIn("/to/", self.page("feed.xml"))


class Basket(Offers):
    """A reader's list: kept by the reader's browser, changed by forms of the blog alone."""

    def setUp(self) -> None:
        super().setUp()
        self.read(good("G-1"), good("G-2", price=12.5))
        self.publish()
        self.rules(has_basket=True, shops=[{"shop": "shop", "basket": "https://shop.example/basket?add={items}"}])

    def signed(self, slug: str = "eyepiece-g-1") -> str:
        return re.search(r'name="product" value="([^"]+)"', self.page(f"{slug}/"))[1]

    def send(self, product: str, status: int = 303, headers: dict[str, str] | None = None, **fields: str) -> str:
        answer = self.client.post("/blog/meadow/basket/", {"product": product, **fields}, headers=headers or {})
        self.assertEqual(answer.status_code, status, answer.content[:300])
        return answer.content.decode()

    def test_products_are_added_changed_and_removed_without_scripts(self) -> None:
        first, second = self.signed(), self.signed("eyepiece-g-2")
        self.send(first)
        self.send(first)
        self.send(second)
        page = self.page("basket/")
        self.assertIn("€89.00", page)
        self.assertIn("https://shop.example/basket?add=G-1:2,G-2:1", page)
        self.send(first, pieces="5")
        self.assertIn("add=G-1:5,G-2:1", self.page("basket/"))
        self.send(first, pieces="0")
        self.assertIn("add=G-2:1", self.page("basket/"))
        self.send(second, pieces="0")
        self.assertIn("Nothing is on your list", self.page("basket/"))

    def test_an_old_price_is_not_shown_and_what_is_gone_is_not_handed_over(self) -> None:
        self.send(self.signed())
        self.send(self.signed("eyepiece-g-2"))
        self.now += 25 * HOUR
        self.assertNotIn("€89", self.page("basket/"))
        self.read(good("G-1", availability="Discontinued"))
        page = self.page("basket/")
        self.assertIn("No longer sold, so it is not handed over.", page)
        self.assertIn("add=G-2:1", page)

    def test_bad_forms_are_refused_and_nothing_is_kept(self) -> None:
        signed = self.signed()
        for product in ("", "1.1", signed[:-1] + "x", "<script>", f"9.9:{signed.split(':')[1]}"):
            self.send(product, 400)
        for pieces in ("-1", "100", "1e3", "abc", "٣", "1\r\nSet-Cookie: a=b"):
            self.assertIn("Write a number of pieces", self.send(signed, 400, pieces=pieces))
        self.send(signed, 400, headers={"Sec-Fetch-Site": "cross-site"})
        self.send(signed, 400, headers={"Origin": "https://evil.example"})
        self.assertNotIn("basket", self.client.cookies)

    def test_a_list_has_fifty_lines_at_most(self) -> None:
        self.read(*(good(f"N-{number}") for number in range(60)))
        rows = Product.objects.filter(number__startswith="N-").order_by("pk")
        for row in rows[:50]:
            self.send(sign_for_basket(self.blog, row.pk))
        self.assertIn("50 lines already", self.send(sign_for_basket(self.blog, rows[55].pk), 400))
        self.assertLess(len(self.client.cookies["basket"].value), 1500)

    def test_a_changed_cookie_is_an_empty_list_and_blogs_have_lists_apart(self) -> None:
        self.send(self.signed())
        kept = self.client.cookies["basket"].value
        heath = make_blog("heath")
        actions.save_offers(heath, OfferDocument(has_basket=True), begun=None)
        self.client.cookies["basket"] = kept
        self.assertIn("Nothing is on your list", self.client.get("/blog/heath/basket/").content.decode())
        self.client.cookies["basket"] = kept.replace(".1:", ".9:", 1)
        self.assertIn("Nothing is on your list", self.page("basket/"))

    def test_the_cookie_goes_to_the_list_alone_and_scripts_cannot_read_it(self) -> None:
        self.send(self.signed())
        cookie = self.client.cookies["basket"]
        self.assertEqual(
            (cookie["path"], cookie["httponly"], cookie["samesite"]), ("/blog/meadow/basket/", True, "Lax")
        )
        answer = self.client.get("/blog/meadow/basket/")
        self.assertEqual(answer["Cache-Control"], "private, no-store")

    def test_a_title_cannot_bring_markup_into_the_list(self) -> None:
        self.read(good("G-1"))
        Product.objects.filter(number="G-1").update(title='<script>alert(1)</script>"')
        self.send(self.signed())
        self.assertNotIn("<script>alert", self.page("basket/"))

    def test_a_blog_without_lists_has_no_such_page(self) -> None:
        self.rules()
        self.assertEqual(self.client.get("/blog/meadow/basket/").status_code, 404)
        self.assertNotIn("Put on my list", self.page())
