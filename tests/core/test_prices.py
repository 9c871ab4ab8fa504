"""Amounts of money: read for certain, or not at all."""

import unittest
from decimal import Decimal

from glyptarch_core.text.prices import amount_of

READ = {
    "12,99": "12.99",
    "$12.99": "12.99",
    "1.299,00 €": "1299.00",
    "1,299.00 USD": "1299.00",
    "1 299,00 zł": "1299.00",
    "CHF 1'299.50": "1299.50",
    "EUR 7": "7",
    "¥3,500": "3500",
    "٣٥٫٥٠ ر.س": "35.50",
    "₹१२९": "129",
    "  8.50 € incl. VAT  ": "8.50",
}
UNCERTAIN = (
    "",
    "free",
    "on request",
    "0",
    "0,00 €",
    "-5",
    "−5 €",
    "-€5",
    "- $ 5",
    "from 20 to 30",
    "20 – 30 €",
    "20-30",
    "12,99 € / 100 g",
    "3 for 20 €",
    "was 20 €, now 15 €",
    "1e400",
    "1E5",
    "9" * 60,
    "NaN",
    "Infinity",
)


class Prices(unittest.TestCase):
    def test_one_number_is_read_in_any_way_of_writing(self) -> None:
        for text, amount in READ.items():
            with self.subTest(text):
                self.assertEqual(amount_of(text), Decimal(amount))

    def test_what_is_not_certain_is_no_price(self) -> None:
        for text in UNCERTAIN:
            with self.subTest(text):
                self.assertIsNone(amount_of(text))
