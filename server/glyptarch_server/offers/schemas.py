"""API schemas of products and of what a blog says of shops."""

from datetime import datetime
from enum import StrEnum

from glyptarch_core.offers import OfferDocument, OfferFault
from ninja import Schema
from pydantic import Field

from glyptarch_server.common.out import Out
from glyptarch_server.common.versions import Begun
from glyptarch_server.posts.lifecycle import PostState

__all__ = [
    "ClickOut",
    "ClicksOut",
    "HeldPriceOut",
    "OfferPageOut",
    "OfferRulesIn",
    "OfferRulesOut",
    "OfferSort",
    "OfferState",
    "PastOut",
    "PriceIn",
    "ProductOut",
    "ProductPageOut",
    "ShopOut",
    "ShowingPostOut",
    "SuccessorIn",
]


class OfferState(StrEnum):
    """What readers see of an offer: its price, or why they see none."""

    FRESH = "fresh"
    OLD = "old"
    HELD = "held"
    NO_PRICE = "no_price"
    NOT_TOLD = "not_told"
    WITHDRAWN = "withdrawn"


class OfferSort(StrEnum):
    """The orders of the list of products."""

    TITLE = "title"
    READ = "read"
    OLDEST = "oldest"
    PRICE = "price"
    DEAREST = "dearest"


class HeldPriceOut(Out):
    """A price that waits for a person, or that one has refused.

    Amounts are decimal numbers as text.
    """

    price: str
    list_price: str | None
    currency: str
    refused: bool = False


class ProductOut(Out):
    """A product with its newest offer. Amounts are decimal numbers as text.

    ``ends`` is when readers stop seeing the price. ``fault`` says why the last reading gave none, and ``said`` what the
    shop wrote in its place.
    """

    id: int
    key: str
    shop: str
    number: str
    title: str
    link: str
    picture: str
    state: OfferState
    price: str | None
    list_price: str | None
    currency: str
    availability: str
    rating: float | None
    rating_count: int | None
    read_at: datetime
    ends: datetime | None
    due_at: datetime | None
    fault: OfferFault | None
    said: str
    held: HeldPriceOut | None
    posts: int
    # Followed links of the last thirty days.
    clicks: int
    successor: str
    successor_title: str


class ShopOut(Out):
    """A shop and its number of products."""

    shop: str
    products: int


class ClickOut(Out):
    """How often the links of a post, a product, a block or a day were followed.

    ``key`` names it.
    """

    key: str
    name: str
    clicks: int


class ClicksOut(Out):
    """Followed links of some days: of each day, and by something else, at most two hundred."""

    total: int
    counts_links: bool
    days: list[ClickOut]
    rows: list[ClickOut]


class OfferPageOut(Out):
    """A page of the products of a blog."""

    rows: list[ProductOut]
    total: int
    states: dict[OfferState, int]
    shops: list[ShopOut]


class PastOut(Out):
    """What a product cost from a time on."""

    at: datetime
    price: str | None
    list_price: str | None
    currency: str
    availability: str


class ShowingPostOut(Out):
    """A post that shows a product."""

    id: int
    title: str
    state: PostState
    date: datetime


class ProductPageOut(Out):
    """A product with its history and the posts that show it, at most fifty."""

    product: ProductOut
    past: list[PastOut]
    posts: list[ShowingPostOut]


class PriceIn(Schema):
    """Whether a held price is right."""

    take: bool


class SuccessorIn(Schema):
    """The key of the product that takes a product's place. Empty for none."""

    key: str = Field(max_length=400)


class OfferRulesOut(Out):
    """What a blog says of shops.

    ``untagged_hosts`` are hosts of its products that have no partner link, ``shops`` those that have rules or products.
    """

    document: OfferDocument
    version: int
    shops: list[ShopOut]
    untagged_hosts: list[str]


class OfferRulesIn(Schema):
    """What a blog is to say of shops."""

    document: OfferDocument
    begun: Begun = None
