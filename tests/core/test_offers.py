"""Offers: showing, reading, places in texts, partner links, planning."""

import random
import unittest
from datetime import UTC, datetime, timedelta
from decimal import Decimal

from glyptarch_core.errors import TemplateError
from glyptarch_core.offers import (
    Availability,
    Block,
    Offer,
    OfferDocument,
    OfferFault,
    OfferRules,
    PartnerLink,
    Place,
    ToRead,
    Why,
    chosen_to_read,
    filled,
    has_tag,
    is_jump,
    is_partner,
    keeps_fresh,
    next_reading,
    number_of,
    offers_of,
    place_markup,
    places_in,
    product_key,
    read_offer,
    shown_offer,
    tagged,
    with_partner_links,
    without_places,
)
from glyptarch_core.readers.model import stated
from glyptarch_core.shape.templates import compile_template
from glyptarch_core.text import sanitise
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

NOW = datetime(2026, 11, 24, 12, tzinfo=UTC)
HOUR = timedelta(hours=1)
DAY = timedelta(days=1)


def offer(**values: object) -> Offer:
    usual = {"read_at": NOW, "price": Decimal(89), "currency": "EUR", "availability": Availability.IN_STOCK}
    return Offer(**{**usual, **values})  # type: ignore[arg-type]


class Showing(unittest.TestCase):
    def test_a_price_is_shown_until_its_limit_and_not_a_moment_longer(self) -> None:
        rules = OfferRules()
        fresh = shown_offer(offer(), rules, NOW + DAY - timedelta(microseconds=1))
        self.assertEqual((fresh.price, fresh.ends, fresh.why), (Decimal(89), NOW + DAY, None))
        old = shown_offer(offer(), rules, NOW + DAY)
        self.assertEqual((old.price, old.availability, old.why), (None, Availability.UNKNOWN, Why.OLD))

    def test_the_shop_may_end_a_price_earlier_but_not_later(self) -> None:
        self.assertEqual(shown_offer(offer(until=NOW + HOUR), OfferRules(), NOW).ends, NOW + HOUR)
        self.assertEqual(shown_offer(offer(until=NOW + 9 * DAY), OfferRules(), NOW).ends, NOW + DAY)

    def test_a_reading_of_the_future_is_of_a_clock_that_was_wrong(self) -> None:
        self.assertIsNotNone(shown_offer(offer(), OfferRules(), NOW - timedelta(minutes=2)).price)
        self.assertIsNone(shown_offer(offer(), OfferRules(), NOW - timedelta(minutes=3)).price)

    def test_what_is_withdrawn_held_or_not_to_be_told_has_no_price(self) -> None:
        cases = (
            (shown_offer(offer(availability=Availability.WITHDRAWN), OfferRules(), NOW), Why.WITHDRAWN),
            (shown_offer(offer(), OfferRules(), NOW, held=True), Why.HELD),
            (shown_offer(offer(), OfferRules(tells=False), NOW), Why.NOT_TOLD),
            (shown_offer(offer(price=None, currency=""), OfferRules(), NOW), Why.NO_PRICE),
        )
        for shown, why in cases:
            self.assertEqual((shown.price, shown.list_price, shown.why), (None, None, why))

    def test_availability_without_a_price_ages_as_well(self) -> None:
        shown = shown_offer(offer(price=None, currency=""), OfferRules(), NOW)
        self.assertEqual((shown.availability, shown.ends), (Availability.IN_STOCK, NOW + DAY))

    def test_a_reduction_is_rounded_down_and_needs_a_higher_list_price(self) -> None:
        less = shown_offer(offer(list_price=Decimal(104)), OfferRules(), NOW)
        self.assertEqual((less.list_price, less.saves), (Decimal(104), 14))
        for price in (Decimal(89), Decimal(80)):
            shown = shown_offer(offer(list_price=price), OfferRules(), NOW)
            self.assertEqual((shown.list_price, shown.saves), (None, 0))

    def test_times_need_zones_and_prices_currencies(self) -> None:
        for values in ({"read_at": datetime(2026, 1, 1)}, {"until": datetime(2026, 1, 1)}, {"currency": ""}):  # noqa: DTZ001
            with self.assertRaises(ValueError):
                offer(**values)


class NeverStale(unittest.TestCase):
    """Ten thousand offers on a simulated clock, with outages and a clock that is set."""

    def test_no_price_older_than_its_limit_is_shown_at_any_moment(self) -> None:
        chance = random.Random(11)  # noqa: S311
        limit, together = 6 * HOUR, 10
        offers = {f"shop/{number}": offer(read_at=NOW) for number in range(10_000)}
        due = {key: next_reading(key, NOW, limit) for key in offers}
        now, shown_once, hidden = NOW, 0, 0
        for step in range(60 * 24):
            now += timedelta(minutes=1)
            if step == 500:
                # Somebody sets the clock back by an hour, and on again half a day later.
                now -= HOUR
            if step == 1200:
                now += HOUR
            works = not (200 <= step < 600 or 900 <= step < 1000)
            if works:
                waiting = [
                    ToRead(key=key, ends=offers[key].read_at + limit, seen=1) for key, at in due.items() if at <= now
                ]
                for product in chosen_to_read(waiting, room=len(waiting))[: 60 * together]:
                    if chance.random() < 0.98:
                        offers[product.key] = offer(read_at=now)
                        due[product.key] = next_reading(product.key, now, limit)
            for key in chance.sample(sorted(offers), 40):
                shown = shown_offer(offers[key], OfferRules(limit=limit), now)
                if shown.price is None:
                    hidden += 1
                    continue
                shown_once += 1
                self.assertLess(now - offers[key].read_at, limit)
                self.assertLessEqual(shown.ends, offers[key].read_at + limit)
        self.assertGreater(hidden, 0, "the outage was longer than the limit")
        self.assertGreater(shown_once, 40_000)

    @given(
        age=st.integers(-10_000, 400_000),
        hours=st.integers(1, 100),
        until=st.one_of(st.none(), st.integers(-10_000, 400_000)),
        tells=st.booleans(),
        held=st.booleans(),
        availability=st.sampled_from(Availability),
        price=st.one_of(st.none(), st.decimals("0.01", "99999", places=2)),
    )
    @settings(max_examples=400)
    def test_of_any_offer(self, age, hours, until, tells, held, availability, price) -> None:  # noqa: ANN001
        rules = OfferRules(limit=hours * HOUR, tells=tells)
        ends = NOW + timedelta(seconds=until) if until is not None else None
        stated_offer = offer(price=price, availability=availability, until=ends)
        now = NOW + timedelta(seconds=age)
        shown = shown_offer(stated_offer, rules, now, held=held)
        if shown.price is not None:
            self.assertLess(now, NOW + rules.limit)
            self.assertTrue(ends is None or now < ends)
            self.assertTrue(tells and not held and availability is not Availability.WITHDRAWN)
            self.assertGreater(shown.ends, now)
            self.assertIsNone(shown_offer(stated_offer, rules, shown.ends, held=held).price)


class Reading(unittest.TestCase):
    def read(self, **facts: object) -> object:
        return read_offer(stated(**{"price": "89.00", "currency": "EUR", **facts}), read_at=NOW, number="G-1")

    def test_prices_that_are_certain(self) -> None:
        for text, amount in (("1.299,00 €", "1299"), ("12,99", "12.99"), ("CHF 1'299.50", "1299.5"), ("0.01", "0.01")):
            self.assertEqual(self.read(price=text).offer.price, Decimal(amount), text)
        self.assertEqual(self.read(price=18.5).offer.price, Decimal("18.5"))

    def test_prices_that_are_not(self) -> None:
        for text in ("free", "from 20 to 30", "-5", "1e400", "1.299", "0", "12 per 100 g, 24 per box", "NaN", "79–90"):
            reading = self.read(price=text)
            self.assertEqual((reading.offer.price, reading.fault, reading.said), (None, OfferFault.NOT_A_PRICE, text))
        for number in (0.0, -5.0, float("inf"), 1e12):
            self.assertEqual(self.read(price=number).fault, OfferFault.NO_PRICE, number)

    def test_no_currency_is_guessed(self) -> None:
        for text, code in (("EUR", "EUR"), ("eur", "EUR"), ("€", "EUR"), ("JPY", "JPY")):
            self.assertEqual(self.read(currency=text).offer.currency, code)
        for text in ("$", "kr", "XYZ", "euro", ""):
            self.assertEqual(self.read(currency=text).fault, OfferFault.NO_CURRENCY, text)

    def test_another_product_and_another_currency_give_no_price(self) -> None:
        self.assertEqual(self.read(sku="G-2").fault, OfferFault.OTHER_PRODUCT)
        self.assertIsNone(self.read(sku="G-1").fault)
        facts = stated(price="89", currency="USD")
        self.assertEqual(read_offer(facts, read_at=NOW, before=offer()).fault, OfferFault.OTHER_CURRENCY)

    def test_a_list_price_counts_only_above_the_price(self) -> None:
        self.assertEqual(self.read(list_price="104,00").offer.list_price, Decimal(104))
        for text in ("80", "89.00", "soon"):
            self.assertIsNone(self.read(list_price=text).offer.list_price, text)

    def test_availability_in_the_words_of_shops(self) -> None:
        words = {"https://schema.org/InStock": "in_stock", "in stock": "in_stock", "SoldOut": "out_of_stock",
                 "on order": "on_order", "Discontinued": "withdrawn", "perhaps": ""}  # fmt: skip
        for said, meant in words.items():
            self.assertEqual(self.read(availability=said).offer.availability.value, meant, said)

    def test_ratings_only_as_they_were_given(self) -> None:
        given_rating = self.read(rating="4.2", rating_count="31").offer
        self.assertEqual((given_rating.rating, given_rating.rating_count), (4.2, 31))
        for rating in ("0", "9", "good"):
            self.assertIsNone(self.read(rating=rating).offer.rating, rating)

    def test_the_shop_may_state_when_a_price_ends(self) -> None:
        for text, ends in (
            ("2026-11-24T18:00:00+02:00", datetime(2026, 11, 24, 16, tzinfo=UTC)),
            ("2026-11-24", datetime(2026, 11, 25, tzinfo=UTC)),
            ("2026-11-24T18:00:00", datetime(2026, 11, 24, 18, tzinfo=UTC)),
            ("tonight", None),
        ):
            self.assertEqual(self.read(price_until=text).offer.until, ends, text)

    def test_a_jump_is_a_share_of_the_price_before(self) -> None:
        for price, share, jumps in (("8.9", 0.5, True), ("134", 0.5, True), ("133", 0.5, False), ("8.9", 0, False)):
            self.assertEqual(is_jump(offer(), offer(price=Decimal(price)), share), jumps, price)
        self.assertFalse(is_jump(None, offer(), 0.5))


class Places(unittest.TestCase):
    def test_a_place_survives_cleaning_and_is_filled(self) -> None:
        key = product_key("glass@de", 'G 1/"<>&é')
        place = Place(block=Block.PRICE, products=(key,), wording='Look & "see" <b>')
        inside = '<a href="http://x.example/">x</a>'
        html = sanitise(f"<p>a</p>{place_markup(place, inside)}tail")
        self.assertEqual(places_in(html), [place])
        self.assertEqual(
            filled(html, lambda found: f"<em>{found.products[0] == key}</em>"),
            '<p>a</p><div class="offer offer-price"><em>True</em></div>tail',
        )

    def test_places_of_a_source_are_taken_out_with_their_marks(self) -> None:
        html = sanitise('<div data-offer="price" data-products="a/b" data-wording="c">5 €</div><p>b</p>')
        self.assertEqual(without_places(html), "<div>5 €</div><p>b</p>")

    def test_what_names_no_block_or_product_is_no_place(self) -> None:
        self.assertEqual(places_in('<div data-offer="prize" data-products="a/b"></div>'), [])
        (place,) = places_in('<div data-offer="compare" data-products="a/b  a/b bad a/c&lt;"></div>')
        self.assertEqual(place.products, ("a/b",))

    def test_a_place_within_a_place_is_filled_with_it(self) -> None:
        html = '<div data-offer="price" data-products="a/b"><div data-offer="rating" data-products="a/b">x</div></div>'
        self.assertEqual(filled(html, lambda place: place.block.value), '<div class="offer offer-price">price</div>')

    def test_the_tag_writes_a_place_and_no_price(self) -> None:
        render = compile_template('{% offer price, wording: "Look" %}|{% offer disclosure %}', html=True)
        html = render({"offer_key": "a/b", "link": "http://x.example/?a=1&b", "source": {"title": "<Shop>"}})
        price, disclosure = html.split("|")
        self.assertEqual(places_in(price), [Place(block=Block.PRICE, products=("a/b",), wording="Look")])
        self.assertIn("&lt;Shop&gt;", price)
        self.assertEqual(places_in(disclosure)[0].block, Block.DISCLOSURE)
        self.assertEqual(render({"offer_key": "", "link": "", "source": None}).split("|")[0], "")

    def test_a_tag_that_cannot_be_read_says_what_to_write(self) -> None:
        for source, words in (("{% offer prize %}", "no block 'prize'"), ("{% offer price, x: 1 %}", "only wording")):
            with self.assertRaisesRegex(TemplateError, words):
                compile_template(source, html=True)
        with self.assertRaises(TemplateError):
            compile_template("{% offer price %}", html=False)


class Partners(unittest.TestCase):
    links = (
        PartnerLink(host="shop.example", parameters={"tag": "meadow-21"}),
        PartnerLink(host="other.example:8080", path="/to/meadow{path}"),
    )

    def test_links_get_the_tag_once(self) -> None:
        cases = {
            "https://shop.example/a?x=1&tag=theirs#f": "https://shop.example/a?x=1&tag=meadow-21#f",
            "http://www.shop.example": "http://www.shop.example/?tag=meadow-21",
            "https://other.example:8080/a/b?c=d": "https://other.example:8080/to/meadow/a/b?c=d",
            "https://other.example/a": "https://other.example/a",
            "https://evilshop.example/": "https://evilshop.example/",
            "https://shop.example.evil.example/": "https://shop.example.evil.example/",
            "https://shop.example@evil.example/": "https://shop.example@evil.example/",
            "javascript:alert(1)//shop.example": "javascript:alert(1)//shop.example",
            "http://[": "http://[",
        }
        for address, wanted in cases.items():
            self.assertEqual(tagged(address, self.links), wanted)
            self.assertEqual(tagged(wanted, self.links), wanted, "twice is the same as once")
            self.assertTrue(has_tag(wanted, self.links))

    def test_links_in_a_text_are_marked_as_sponsored(self) -> None:
        html, number = with_partner_links(
            '<a href="https://shop.example/a" rel="ugc">a</a> <a href="/b">b</a>', self.links
        )
        self.assertEqual(number, 1)
        self.assertEqual(
            html,
            '<a href="https://shop.example/a?tag=meadow-21" rel="sponsored nofollow noopener">a</a> <a href="/b">b</a>',
        )
        self.assertEqual(with_partner_links("<p>shop.example</p>", self.links), ("<p>shop.example</p>", 0))

    def test_the_longest_host_decides(self) -> None:
        inner = PartnerLink(host="de.shop.example", parameters={"tag": "inner"})
        self.assertIs(is_partner("http://a.de.shop.example/", (*self.links, inner)), inner)

    def test_a_region_has_a_tag_of_its_own(self) -> None:
        links = (*self.links, PartnerLink(host="shop.example", region="ch", parameters={"tag": "swiss"}))
        address = "https://shop.example/a"
        self.assertIn("tag=swiss", tagged(address, links, "ch"))
        for region in ("", "de"):
            self.assertIn("tag=meadow-21", tagged(address, links, region))

    def test_what_cannot_be_a_partner_is_refused(self) -> None:
        for values in ({"host": "https://shop.example"}, {"host": ""}, {"host": "a.example", "path": "/x"},
                       {"host": "a.example", "path": "x{path}"}, {"host": "a.example", "parameters": {"a b": "c"}}):  # fmt: skip
            with self.assertRaises(ValidationError):
                PartnerLink.model_validate(values)

    def test_a_document_names_each_host_and_shop_once(self) -> None:
        with self.assertRaisesRegex(ValidationError, "a.example"):
            OfferDocument.model_validate({"partners": [{"host": "a.example"}, {"host": "a.example"}]})
        self.assertEqual(offers_of({"partners": "gone bad"}), OfferDocument())
        self.assertEqual(OfferDocument().of_shop("any").hours, 24)


class Planning(unittest.TestCase):
    def test_readings_spread_over_a_part_of_the_limit(self) -> None:
        times = [next_reading(f"shop/{number}", NOW, DAY) - NOW for number in range(500)]
        self.assertGreaterEqual(min(times), DAY * 0.5)
        self.assertLess(max(times), DAY * 0.7)
        self.assertGreater(max(times) - min(times), 4 * HOUR)
        self.assertEqual(next_reading("a", NOW, DAY), next_reading("a", NOW, DAY))

    def test_a_quota_that_is_too_small_is_not_spread_over_all(self) -> None:
        products = [ToRead(key=f"p{number}", ends=NOW + number * HOUR, seen=number % 5) for number in range(50)]
        chosen = chosen_to_read(products, room=20)
        self.assertEqual({product.seen for product in chosen}, {3, 4})
        self.assertEqual(chosen, sorted(chosen, key=lambda product: product.ends))
        self.assertEqual(chosen_to_read(products, room=0), [])

    def test_how_many_a_quota_keeps_fresh(self) -> None:
        self.assertEqual(keeps_fresh(100, together=20, limit=DAY), 1700)
        self.assertEqual(keeps_fresh(100, together=20, limit=2 * DAY), 3400)

    def test_a_product_without_a_number_is_known_by_its_address(self) -> None:
        address = "https://a.example/" + "x" * 200
        self.assertEqual(number_of({}, address[:80]), address[:80])
        first, second = number_of({}, address + "1"), number_of({}, address + "2")
        self.assertEqual((len(first), len(second)), (80, 80))
        self.assertNotEqual(first, second)
        self.assertEqual(number_of({"gtin": "4006"}, "l"), "4006")
