"""The exact comparisons by product, film and keyword."""

from django.test import SimpleTestCase
from glyptarch_core.item import Captured, Media, MediaKind, MediaOrigin
from glyptarch_core.match import keys_of
from glyptarch_core.match.products import product_number
from glyptarch_core.pipeline import decide
from glyptarch_core.testing import NOON, FakeMemory, captured
from glyptarch_core.trace import Verdict
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_stages import document


def same(kind: str, *items: Captured) -> bool:
    rules = document(match={"rules": [{"id": "m", "kind": kind}]})
    decisions = decide(list(items), rules, memory=FakeMemory(), now=NOON)
    return any(decision.verdict is Verdict.DUPLICATE for decision in decisions)


class Products(SimpleTestCase):
    def test_trade_numbers_are_one_whatever_their_form(self) -> None:
        number = product_number({"ean": "4006381333931"}, "")
        self.assertEqual(number, "04006381333931")
        self.assertEqual(product_number({"gtin14": "0 4006381-33393-1"}, ""), number)

    def test_an_isbn_of_ten_digits_is_that_of_thirteen(self) -> None:
        self.assertEqual(product_number({"isbn": "0-306-40615-2"}, ""), product_number({"isbn": "9780306406157"}, ""))

    def test_a_wrong_check_digit_makes_no_number(self) -> None:
        self.assertEqual(product_number({"ean": "4006381333932"}, ""), "")

    def test_a_shops_own_number_holds_within_the_shop(self) -> None:
        facts = {"sku": "DM-100"}
        self.assertEqual(product_number(facts, "https://shop.example/x"), "shop.example dm-100")
        self.assertEqual(product_number(facts, ""), "")
        one, other = (captured(n, link=f"https://{n}.example/p", facts=facts) for n in ("a", "b"))
        self.assertFalse(same("product", one, other))

    @given(st.text(max_size=20), st.text(max_size=20))
    def test_any_text_gives_a_number_or_nothing(self, number: str, link: str) -> None:
        product_number({"gtin": number, "isbn": number, "sku": number}, link)


class MediaAndKeyword(SimpleTestCase):
    def test_the_same_film_is_found_under_another_title(self) -> None:
        film = Media(url="https://films.example/v/1.mp4", kind=MediaKind.FILM, origin=MediaOrigin.ENCLOSURE)
        again = Media(url="http://www.films.example/v/1.mp4?utm_source=x", kind=MediaKind.FILM, origin=MediaOrigin.TEXT)
        self.assertTrue(same("media", captured("a", media=(film,)), captured("b", media=(again,))))
        self.assertFalse(same("media", captured("a"), captured("b")))

    def test_a_platforms_number_comes_before_the_address(self) -> None:
        self.assertTrue(same("media", captured("a", facts={"media_id": "77"}), captured("b", facts={"media_id": "77"})))

    def test_a_keyword_is_served_once(self) -> None:
        one, other = (captured(name, facts={"keyword": word}) for name, word in [("a", "Dark sky"), ("b", "dark SKY")])
        self.assertTrue(same("keyword", one, other))
        self.assertFalse(same("keyword", captured("a"), captured("b")))

    def test_a_post_is_remembered_by_all_it_can_be_known_by(self) -> None:
        item = captured(facts={"ean": "4006381333931", "keyword": "optics"})
        self.assertEqual([key.kind.value for key in keys_of(item)], ["identity", "link", "title", "product", "keyword"])
