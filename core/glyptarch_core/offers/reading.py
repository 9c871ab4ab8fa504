"""Reading offers out of what items state of themselves."""

import hashlib
import math
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta
from decimal import Decimal
from functools import lru_cache
from urllib.parse import quote

from babel.numbers import is_currency

from glyptarch_core.offers.offer import Availability, Condition, Offer, OfferFault
from glyptarch_core.text.prices import amount_of

__all__ = ["OfferReading", "is_jump", "number_of", "product_key", "read_offer", "region_of", "states_offer"]

_AVAILABILITY: Mapping[str, Availability] = {
    "instock": Availability.IN_STOCK,
    "instoreonly": Availability.IN_STOCK,
    "onlineonly": Availability.IN_STOCK,
    "limitedavailability": Availability.IN_STOCK,
    "in": Availability.IN_STOCK,
    "available": Availability.IN_STOCK,
    "outofstock": Availability.OUT_OF_STOCK,
    "soldout": Availability.OUT_OF_STOCK,
    "out": Availability.OUT_OF_STOCK,
    "onorder": Availability.ON_ORDER,
    "preorder": Availability.ON_ORDER,
    "presale": Availability.ON_ORDER,
    "backorder": Availability.ON_ORDER,
    "madetoorder": Availability.ON_ORDER,
    "soon": Availability.ON_ORDER,
    "discontinued": Availability.WITHDRAWN,
}
_CONDITION: Mapping[str, Condition] = {
    "newcondition": Condition.NEW,
    "new": Condition.NEW,
    "usedcondition": Condition.USED,
    "used": Condition.USED,
    "refurbishedcondition": Condition.REFURBISHED,
    "refurbished": Condition.REFURBISHED,
    "damagedcondition": Condition.DAMAGED,
}
_SIGNS = {
    "€": "EUR", "₹": "INR", "₺": "TRY", "₽": "RUB", "₩": "KRW", "원": "KRW", "₪": "ILS", "₫": "VND", "₴": "UAH",
    "₸": "KZT", "円": "JPY", "zł": "PLN", "Kč": "CZK", "Ft": "HUF", "R$": "BRL", "US$": "USD", "AU$": "AUD",
    "CA$": "CAD", "NZ$": "NZD", "HK$": "HKD", "NT$": "TWD",
}  # fmt: skip
"""Signs that stand for one currency only. “$” and “kr” stand for several, so they name none."""

_NUMBERS = ("sku", "gtin")
_LONGEST_NUMBER = 80
_HASHED = 24
_BEST_RATING = 5.0
_MOST_RATINGS = 10**9
_PLACES = Decimal("0.0001")


@dataclass(frozen=True, slots=True, kw_only=True)
class OfferReading:
    """What one reading gave of a product: the offer, and why it has no price."""

    offer: Offer
    fault: OfferFault | None = None
    said: str = ""
    """What the shop wrote in place of a price."""


def states_offer(facts: Mapping[str, str | float]) -> bool:
    """Whether an item states that something can be bought."""
    return "price" in facts or "price_said" in facts or "availability" in facts


def number_of(facts: Mapping[str, str | float], link: str) -> str:
    """Return the number of a product in its shop, or its address where the shop tells none.

    A long one ends with a hash of the whole, so that no two products share it.
    """
    number = next((str(facts[name]).strip() for name in _NUMBERS if facts.get(name)), "") or link
    if len(number) <= _LONGEST_NUMBER:
        return number
    ending = hashlib.sha256(number.encode("utf-8", "surrogatepass")).hexdigest()[:_HASHED]
    return f"{number[: _LONGEST_NUMBER - _HASHED - 1]}~{ending}"


def region_of(shop: str) -> str:
    """Return the region of a shop's prices (ISO 3166-1). Empty where it has none."""
    return shop.partition("@")[2]


def product_key(shop: str, number: str) -> str:
    """Return the key by which posts name a product: without spaces, quotes and markup."""
    return f"{shop}/{quote(number, safe='', errors='replace')}"


def read_offer(
    facts: Mapping[str, str | float], *, read_at: datetime, number: str = "", before: Offer | None = None
) -> OfferReading:
    """Return the offer that an item states.

    The price is left out where it is not certain: without a currency, in another currency than ``before``, or of a
    product with another ``number``. A list price counts only above the price, in the same reading.
    """
    fault, said = None, str(facts.get("price_said", ""))
    price, currency = _amount(facts.get("price")), _currency(facts.get("currency"))
    stated_number = number_of(facts, "")
    if number and stated_number and stated_number != number:
        fault = OfferFault.OTHER_PRODUCT
    elif price is None:
        fault = OfferFault.NOT_A_PRICE if said or facts.get("price") else OfferFault.NO_PRICE
    elif not currency:
        fault = OfferFault.NO_CURRENCY
    elif before is not None and before.currency and before.currency != currency:
        fault = OfferFault.OTHER_CURRENCY
    list_price = _amount(facts.get("list_price"))
    is_sure = fault is None
    offer = Offer(
        read_at=read_at,
        price=price if is_sure else None,
        list_price=list_price
        if is_sure and price is not None and list_price is not None and list_price > price
        else None,
        currency=currency if is_sure else "",
        availability=_AVAILABILITY.get(_letters(facts.get("availability")), Availability.UNKNOWN),
        until=_until(facts.get("price_until"), read_at),
        condition=_CONDITION.get(_letters(facts.get("condition")), Condition.UNKNOWN),
        rating=_rating(facts.get("rating")),
        rating_count=_count(facts.get("rating_count")),
    )
    return OfferReading(offer=offer, fault=fault, said=said)


def is_jump(before: Offer | None, offer: Offer, share: float) -> bool:
    """Whether a price differs from the one before by more than a share of it.

    The share is 0.5 for half.

    A share of 0 takes every price.
    """
    if before is None or not before.price or offer.price is None or not share or before.currency != offer.currency:
        return False
    return abs(offer.price - before.price) > before.price * Decimal(str(share))


def _until(value: object, read_at: datetime) -> datetime | None:
    """Return the time that a shop sets for a price. None for none.

    A day without a time ends with it, in the zone of the reading.
    """
    text = str(value or "").strip()
    try:
        until = datetime.fromisoformat(text)
    except ValueError:
        return None
    if len(text) == len("2026-11-30"):
        until += timedelta(days=1)
    return until if until.tzinfo is not None else until.replace(tzinfo=read_at.tzinfo)


def _amount(value: str | float | None) -> Decimal | None:
    if isinstance(value, str):
        amount = amount_of(value)
    elif value is None or isinstance(value, bool) or not math.isfinite(value):
        return None
    else:
        amount = amount_of(f"{value:.4f}")
    return amount.quantize(_PLACES) if amount is not None else None


@lru_cache(maxsize=500)
def _known_currency(code: str) -> bool:
    return is_currency(code, "en")


def _currency(value: object) -> str:
    text = str(value or "").strip()[:10]
    code = _SIGNS.get(text, text.upper())
    return code if len(code) == len("EUR") and code.isascii() and code.isalpha() and _known_currency(code) else ""


def _letters(value: object) -> str:
    return "".join(filter(str.isalpha, str(value or "").rpartition("/")[2].lower()))


def _rating(value: object) -> float | None:
    return float(value) if isinstance(value, int | float) and 0 < value <= _BEST_RATING else None


def _count(value: object) -> int | None:
    text = str(value if value is not None else "").removesuffix(".0")
    return int(text) if text.isascii() and text.isdigit() and int(text) < _MOST_RATINGS else None
