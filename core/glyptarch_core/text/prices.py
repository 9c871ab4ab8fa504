"""Amounts of money as people and shops write them."""

import re
import unicodedata
from decimal import Decimal

from price_parser import Price

__all__ = ["HIGHEST", "amount_of", "currency_in"]

HIGHEST = 10**9
"""From here on an amount is taken for a mistake."""

_LONGEST = 100
_MARKS = str.maketrans({"٫": ".", "٬": ",", "\N{MINUS SIGN}": "-", "\N{EN DASH}": "-"})
_NEGATIVE = re.compile(r"-\s*[^\w\s]{0,3}\s*\d")
_APOSTROPHE = re.compile(r"(?<=\d)['’](?=\d{3})")
_POWER = re.compile(r"\d[eE][+-]?\d")


def amount_of(text: str) -> Decimal | None:
    """Return the amount of a price such as “1.299,00 €”, “$12.99” or “CHF 1'299.50”.

    A wrong price is worse than none, so the text must have one number only: None for a range, a price for each hundred
    grams, a negative or a huge number, words, and for 0, by which shops say that they have no price.
    """
    plain = _with_plain_digits(text.strip()[:_LONGEST])
    if _NEGATIVE.search(plain) or _POWER.search(plain):
        return None
    price = Price.fromstring(plain)
    if price.amount is None or price.amount_text is None:
        return None
    before, _, after = plain.partition(price.amount_text)
    if any(character.isdigit() for character in before + after):
        return None
    return price.amount if 0 < price.amount < HIGHEST else None


def currency_in(text: str) -> str:
    """Return the currency in a price as it is written: a sign, code or short name."""
    return Price.fromstring(text[:_LONGEST]).currency or ""


def _with_plain_digits(text: str) -> str:
    """Write the digits of all scripts as 0 to 9, and leave out apostrophes within a number."""
    digits = (str(unicodedata.decimal(letter, letter)) for letter in text.translate(_MARKS))
    return _APOSTROPHE.sub("", "".join(digits))
