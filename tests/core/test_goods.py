"""Goods of a shop, which describes many in the same words: their numbers tell them apart."""

from datetime import UTC, datetime

from django.test import SimpleTestCase
from glyptarch_core.campaign import load_document
from glyptarch_core.item import Captured
from glyptarch_core.match.products import are_other_products
from glyptarch_core.pipeline import decide
from glyptarch_core.testing import FakeMemory, captured
from glyptarch_core.trace import Decision

NOW = datetime(2026, 11, 24, 12, tzinfo=UTC)
BOILERPLATE = (
    "Ground and polished by hand in the workshops of the vale, tested for a night on the ridge, and sent in a box of "
    "beech wood with two caps, a cloth and a card that tells who made it and when it was looked through first."
)

NAMES = ("Heron", "Plover", "Teal", "Curlew", "Snipe", "Wren")


def good(number: int, sku: str = "", **facts: str | float) -> Captured:
    return captured(
        f"g{number}",
        at=NOW,
        source="shop",
        link=f"https://shop.example/goods/{number}",
        title=f"{NAMES[number]} from the workshop",
        body=f"<p>{BOILERPLATE}</p>",
        published=NOW,
        facts={**({"sku": sku} if sku else {}), **facts},
    )


def decided(*items: Captured, memory: FakeMemory | None = None) -> list[Decision]:
    rules = [{"id": "text", "kind": "near_text"}, {"id": "title", "kind": "near_title"}]
    document = load_document({"gather": {"sources": ["shop"]}, "match": {"rules": rules}})
    return list(decide(items, document, memory=memory or FakeMemory(), now=NOW))


class Goods(SimpleTestCase):
    def kept(self, *items: Captured) -> int:
        return sum(decision.verdict.kept for decision in decided(*items))

    def test_goods_with_other_numbers_are_other_goods_however_alike_their_texts(self) -> None:
        self.assertEqual(self.kept(*(good(number, f"G-{number}") for number in range(6))), 6)

    def test_one_number_twice_is_compared_as_ever(self) -> None:
        self.assertEqual(self.kept(good(1, "G-1"), good(1, "G-1")), 1)

    def test_where_one_has_no_number_the_words_decide(self) -> None:
        self.assertLess(self.kept(good(1, "G-1"), good(2)), 2)

    def test_numbers_of_two_shops_say_nothing_about_each_other(self) -> None:
        self.assertFalse(are_other_products("shop.example g-1", "other.example g-2"))
        self.assertTrue(are_other_products("shop.example g-1", "shop.example g-2"))

    def test_trade_numbers_are_the_same_everywhere(self) -> None:
        self.assertTrue(are_other_products("04006381333931", "09780306406157"))
        self.assertFalse(are_other_products("04006381333931", "shop.example g-2"))
        self.assertFalse(are_other_products("", "04006381333931"))
