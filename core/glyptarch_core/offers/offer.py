"""Offers: what a shop asked for a product when it was last read."""

from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal
from enum import StrEnum

__all__ = ["Availability", "Condition", "Offer", "OfferFault"]


class Availability(StrEnum):
    """Whether a product can be bought (schema.org ``ItemAvailability``, in fewer words)."""

    IN_STOCK = "in_stock"
    OUT_OF_STOCK = "out_of_stock"
    ON_ORDER = "on_order"
    WITHDRAWN = "withdrawn"
    UNKNOWN = ""


class Condition(StrEnum):
    """The state of the goods (schema.org ``OfferItemCondition``)."""

    NEW = "new"
    USED = "used"
    REFURBISHED = "refurbished"
    DAMAGED = "damaged"
    UNKNOWN = ""


class OfferFault(StrEnum):
    """Why a reading gave no price that is certain."""

    NO_PRICE = "no_price"
    NOT_A_PRICE = "not_a_price"
    NO_CURRENCY = "no_currency"
    OTHER_CURRENCY = "other_currency"
    OTHER_PRODUCT = "other_product"
    JUMP = "jump"
    MISSING = "missing"


@dataclass(frozen=True, slots=True, kw_only=True)
class Offer:
    """What a shop stated in one reading.

    ``price`` and ``list_price`` are amounts of ``currency`` (ISO 4217). ``until`` is the time that the shop itself sets
    for the price, None where it sets none. ``rating`` is of five.
    """

    read_at: datetime
    price: Decimal | None = None
    list_price: Decimal | None = None
    currency: str = ""
    availability: Availability = Availability.UNKNOWN
    condition: Condition = Condition.UNKNOWN
    rating: float | None = None
    rating_count: int | None = None
    until: datetime | None = None

    def __post_init__(self) -> None:
        if self.read_at.tzinfo is None or (self.until is not None and self.until.tzinfo is None):
            raise ValueError("the times of an offer need a zone")
        if self.price is not None and not self.currency:
            raise ValueError("a price needs a currency")
