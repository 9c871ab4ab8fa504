"""Product numbers that are the same in every shop."""

import re
from collections.abc import Mapping

from glyptarch_core.text import host_of, title_key

__all__ = ["are_other_products", "product_number"]

_TRADE_NUMBERS = ("gtin", "gtin14", "gtin13", "gtin12", "gtin8", "ean", "upc", "isbn")
_SHOP_NUMBERS = ("sku", "mpn", "product_id")
# Folded placeholders that shops use instead of a number.
_NO_NUMBERS = frozenset(
    {"", "n a", "na", "none", "null", "nil", "0", "00", "000", "unknown", "tbd", "tba", "x", "xxx", "k a", "default"}
)
_LENGTHS = frozenset({8, 12, 13, 14})
_SEPARATORS = re.compile(r"[\s-]+")
_ISBN_10 = re.compile(r"\d{9}[\dX]")


def _checked(digits: str) -> str:
    """Return a trade number in 14 digits where its check digit is right.

    See GS1 General Specifications, 7.9.
    """
    if len(set(digits)) == 1:
        # All zeros or nines are placeholders for a required field.
        return ""
    padded = digits.zfill(14)
    total = sum(int(digit) * (3 if position % 2 == 0 else 1) for position, digit in enumerate(padded[:-1]))
    return padded if (10 - total % 10) % 10 == int(padded[-1]) else ""


def _trade_number(text: str) -> str:
    text = _SEPARATORS.sub("", text).upper()
    if _ISBN_10.fullmatch(text):
        # ISO 2108, annex A: a ten-digit ISBN becomes 978, its first nine digits, and a new check digit.
        core = f"978{text[:9]}"
        total = sum(int(digit) * (3 if position % 2 else 1) for position, digit in enumerate(core))
        text = f"{core}{(10 - total % 10) % 10}"
    return _checked(text) if text.isascii() and text.isdigit() and len(text) in _LENGTHS else ""


def product_number(facts: Mapping[str, str | float], link: str) -> str:
    """Return a product's trade number, else the shop's number with its host.

    Empty where there is neither.
    """
    for name in _TRADE_NUMBERS:
        number = _trade_number(_text(facts.get(name)))
        if number:
            return number
    numbers = (_text(facts.get(name)) for name in _SHOP_NUMBERS)
    shops = next((text for text in numbers if title_key(text) not in _NO_NUMBERS), "")
    host = host_of(link)
    return f"{host} {shops.lower()}" if shops and host else ""


def are_other_products(number: str, other: str) -> bool:
    """Whether two numbers of products name different ones.

    Trade numbers are compared with each other, and the numbers of one shop. An empty one names nothing.
    """
    if not number or not other or number == other:
        return False
    return number.rpartition(" ")[0] == other.rpartition(" ")[0]


def _text(value: str | float | None) -> str:
    if isinstance(value, float):
        return f"{value:.0f}" if value.is_integer() else ""
    return (value or "").strip()
