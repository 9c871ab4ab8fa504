"""Numbers as they are written: a wrong price is worse than none."""

from django.test import SimpleTestCase
from glyptarch_core.readers.model import stated
from glyptarch_core.text import number_in
from hypothesis import given
from hypothesis import strategies as st


class Numbers(SimpleTestCase):
    def test_each_way_of_writing_is_read(self) -> None:
        for text, number in (
            ("18", 18), ("18.50", 18.5), ("18,50", 18.5), ("-4.5", -4.5), (".99", 0.99), ("0,99", 0.99),
            ("1,234.50", 1234.5), ("1.234,50", 1234.5), ("1.234.567", 1234567), ("1,234,567.8", 1234567.8),
            ("1 234,50", 1234.5), ("1\u00a0234", 1234), ("1\u202f234\u202f567,25", 1234567.25), ("1'299.90", 1299.9),
            ("1,299", 1299), ("1.299", 1.299), ("1.299 €", 1299), ("EUR 1.299", 1299), ("£1,299", 1299),
            ("0.125", 0.125), ("0,125 kg", 0.125), ("12.3456", 12.3456), ("1 234.567", 1234.567), ("4.5 of 5", 4.5),
            ("from 148.00", 148), ("18,- each", 18), ("18.50.", 18.5), ("No.5", 5), ("2026-11-24", 2026),
            ("1.5K", 1500), ("2.3M views", 2_300_000), ("1,5 Mio.", 1_500_000), ("3 Mrd. €", 3e9), ("12 m", 12), ("5 mm", 5),
            ("−5", -5), ("1e3", 1000), ("2.5e-1", 0.25), ("１２３", 123), ("٣٫٥", 3.5), ("१२", 12), ("1,23,456", 123456),
            ("12,34,567.50", 1234567.5), ("4K monitor", 4000), ("B12", 12),
        ):  # fmt: skip
            with self.subTest(text):
                self.assertEqual(number_in(text), number)

    def test_what_is_no_number_is_none(self) -> None:
        for text in ("", "free", "1.2.3", "1,23,45", "12,34.56.78", "9" * 20, "-", "€"):
            with self.subTest(text):
                self.assertIsNone(number_in(text))

    def test_alone_nothing_else_may_stand_there(self) -> None:
        self.assertEqual(number_in(" 1,234.5 ", alone=True), 1234.5)
        self.assertIsNone(number_in("12 mm", alone=True))

    @given(st.integers(-(10**9), 10**9), st.sampled_from([",", ".", " ", "'", "\u202f"]), st.integers(0, 99))
    def test_a_number_with_cents_is_read_in_every_house_style(self, whole: int, between: str, cents: int) -> None:
        decimal = "," if between == "." else "."
        written = f"{whole:,}".replace(",", between) + f"{decimal}{cents:02}"
        sign = -1 if whole < 0 else 1
        self.assertAlmostEqual(number_in(f"{written} €") or 0.0, whole + sign * cents / 100, places=2)

    @given(st.text(alphabet="0123456789.,' -€x\u00a0", max_size=30))
    def test_anything_gives_a_number_or_none(self, text: str) -> None:
        found = number_in(text)
        self.assertTrue(found is None or abs(found) < 1e15)


class Stated(SimpleTestCase):
    def test_prices_are_what_the_source_says(self) -> None:
        self.assertEqual(stated(price="$1,234.50"), {"price": 1234.5})
        self.assertEqual(stated(price="1.299,00 €"), {"price": 1299.0})
        self.assertEqual(stated(price=18.5, views=12_000_000_000_000_000), {"price": 18.5, "views": 1.2e16})

    def test_what_is_no_number_is_not_stated(self) -> None:
        self.assertEqual(stated(rating=float("nan"), length=float("inf"), views=True), {})

    def test_what_is_no_single_price_is_kept_as_it_was_said(self) -> None:
        for text in ("on request", "from 20 to 30"):
            self.assertEqual(stated(price=text), {"price_said": text})
        for number in (0, -5, float("nan"), 1e12):
            self.assertEqual(stated(price=number), {})
