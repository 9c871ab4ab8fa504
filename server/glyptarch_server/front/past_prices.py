"""What a product cost: a line and a table."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal
from itertools import pairwise
from typing import TYPE_CHECKING

from glyptarch_server.front.saying import said_day, said_money

if TYPE_CHECKING:
    from glyptarch_server.offers.models import OfferPast

__all__ = ["History", "PastPrice", "history_of"]


@dataclass(frozen=True, slots=True, kw_only=True)
class PastPrice:
    """A price of the past, from a day on."""

    day: str
    price: str


@dataclass(frozen=True, slots=True, kw_only=True)
class History:
    """The prices of a product, as a line in a box of 240 by 48 and as a table."""

    points: str
    prices: Sequence[PastPrice]


_WIDTH, _HEIGHT, _EDGE = 240, 48, 4


def history_of(past: "Sequence[OfferPast]") -> History | None:
    """Return the history of a price. None for fewer than two prices of one currency."""
    priced = [(row.at, row.price, row.currency) for row in reversed(past) if row.price is not None]
    known = [(at, price) for at, price, currency in priced if currency == priced[-1][2]]
    if len(known) < 2:  # noqa: PLR2004 - a line needs two points
        return None
    first, last = known[0][0], known[-1][0]
    low, high = min(price for _, price in known), max(price for _, price in known)
    span, room = (last - first).total_seconds() or 1.0, float(high - low) or 1.0

    def point(at: datetime, price: Decimal) -> tuple[float, float]:
        across = (at - first).total_seconds() / span * (_WIDTH - 2 * _EDGE) + _EDGE
        return across, _HEIGHT - _EDGE - float(price - low) / room * (_HEIGHT - 2 * _EDGE)

    places = [point(at, price) for at, price in known]
    # A price holds until the next one, so the line goes across before it goes up or down.
    steps = [places[0], *(step for (_, y), (x, z) in pairwise(places) for step in ((x, y), (x, z)))]
    prices = [PastPrice(day=said_day(at), price=said_money(price, priced[-1][2])) for at, price in known]
    return History(points=" ".join(f"{x:.1f},{y:.1f}" for x, y in steps), prices=prices)
