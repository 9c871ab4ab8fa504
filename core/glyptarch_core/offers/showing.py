"""What readers may be shown of an offer at a moment. Nothing else decides about a price."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from decimal import ROUND_DOWN, Decimal
from enum import StrEnum

from glyptarch_core.offers.offer import Availability, Offer

__all__ = ["DAY", "OfferRules", "ShownOffer", "Why", "shown_offer"]

DAY = timedelta(hours=24)
"""The age at which a price ends, unless the blog sets another for the shop."""

_CLOCKS_DIFFER = timedelta(minutes=2)
"""Clocks of two machines may differ by this much. A reading further in the future is of a clock that was wrong."""


class Why(StrEnum):
    """Why no price is shown."""

    NO_PRICE = "no_price"
    OLD = "old"
    NOT_TOLD = "not_told"
    WITHDRAWN = "withdrawn"
    HELD = "held"


@dataclass(frozen=True, slots=True, kw_only=True)
class OfferRules:
    """How old the prices of a shop may be, and whether they may be told."""

    limit: timedelta = DAY
    tells: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class ShownOffer:
    """What may be shown: a price with its time, or the reason for none.

    ``ends`` is when this ceases to be true: no page may be kept longer. None where nothing of it ages.
    """

    price: Decimal | None = None
    list_price: Decimal | None = None
    currency: str = ""
    availability: Availability = Availability.UNKNOWN
    read_at: datetime | None = None
    ends: datetime | None = None
    why: Why | None = None

    @property
    def saves(self) -> int:
        """The reduction in whole per cent, rounded down. 0 for none."""
        if self.price is None or self.list_price is None or self.list_price <= self.price:
            return 0
        share = (self.list_price - self.price) / self.list_price * 100
        return int(share.quantize(Decimal(1), rounding=ROUND_DOWN))


def shown_offer(offer: Offer, rules: OfferRules, now: datetime, *, held: bool = False) -> ShownOffer:
    """Return what readers may see of an offer at a moment.

    Availability ages as the price does. A ``held`` price waits for a person.
    """
    if offer.availability is Availability.WITHDRAWN:
        return ShownOffer(availability=Availability.WITHDRAWN, why=Why.WITHDRAWN)
    if held:
        return ShownOffer(why=Why.HELD)
    ends = offer.read_at + rules.limit
    if offer.until is not None:
        ends = min(ends, offer.until)
    if not offer.read_at - _CLOCKS_DIFFER <= now < ends:
        return ShownOffer(why=Why.OLD if offer.price is not None else Why.NO_PRICE)
    if offer.price is None or not rules.tells:
        why = Why.NO_PRICE if offer.price is None else Why.NOT_TOLD
        has_stock = offer.availability is not Availability.UNKNOWN
        return ShownOffer(availability=offer.availability, ends=ends if has_stock else None, why=why)
    is_less = offer.list_price is not None and offer.list_price > offer.price
    return ShownOffer(
        price=offer.price,
        list_price=offer.list_price if is_less else None,
        currency=offer.currency,
        availability=offer.availability,
        read_at=offer.read_at,
        ends=ends,
    )
