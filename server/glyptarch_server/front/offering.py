"""Offers as readers see them.

Every price on a page comes from here, with the time until which the page may be kept.
"""

from collections.abc import Collection, Iterator, Sequence
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, field, replace
from datetime import datetime
from decimal import Decimal
from typing import TYPE_CHECKING

from babel.numbers import format_decimal, format_percent
from django.template.loader import render_to_string
from django.utils.translation import gettext, gettext_noop
from glyptarch_core.item import Review, Right
from glyptarch_core.offers import (
    Availability,
    Block,
    Place,
    ProductDetails,
    ShownOffer,
    Why,
    details_of,
    filled,
    is_partner,
    offers_of,
    places_in,
    region_of,
    tagged,
    with_partner_links,
)

from glyptarch_server.common.page_cache import ANY_GOODS
from glyptarch_server.front.past_prices import History, history_of
from glyptarch_server.front.saying import locale_in_force, said_moment, said_money
from glyptarch_server.front.tokens import Leaving, sign_for_basket, sign_leaving
from glyptarch_server.offers.queries import best_products, past_with_key, products_with_key, shown_for

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Blog
    from glyptarch_server.offers.models import OfferPast, Product
    from glyptarch_server.posts.for_readers import ListedPost
    from glyptarch_server.posts.models import Post

__all__ = [
    "OfferView",
    "PageGoods",
    "Shelf",
    "ends_at",
    "keys_in",
    "noting_goods",
    "page_goods",
    "places_price",
    "show_any_goods",
]

_MOST_NAMED = 300


@dataclass(slots=True)
class PageGoods:
    """What a page that is being made shows of products.

    ``ends`` are the times at which something on it ceases to be true, such as a price. ``rows`` are its products, and
    ``any`` says that it has a list which any product of the blog can enter.
    """

    ends: list[datetime] = field(default_factory=list)
    rows: set[int] = field(default_factory=set)
    any: bool = False

    @property
    def end(self) -> datetime | None:
        """When the page may no longer be shown. None for never."""
        return min(self.ends, default=None)

    @property
    def named(self) -> str:
        """The products as a header names them (``GOODS_HEADER``). Empty for none."""
        return ANY_GOODS if self.any or len(self.rows) > _MOST_NAMED else " ".join(map(str, sorted(self.rows)))


_page: ContextVar[PageGoods] = ContextVar("page_goods")


@contextmanager
def noting_goods() -> Iterator[None]:
    """Note, inside the block, what a page shows of products."""
    token = _page.set(PageGoods())
    try:
        yield
    finally:
        _page.reset(token)


def page_goods() -> PageGoods:
    """Return what the page that is being made shows of products, so far."""
    return _page.get(PageGoods())


def ends_at(moment: datetime) -> None:
    """Note until when the page that is being made may be shown."""
    page_goods().ends.append(moment)


def show_any_goods() -> None:
    """Note that any product of the blog could come onto the page that is being made."""
    page_goods().any = True


def keys_in(markup: str) -> set[str]:
    """Return the keys of the products that a text shows."""
    return {key for place in places_in(markup) for key in place.products}


def places_price(markup: str) -> bool:
    """Whether a text has a place for a price of its own."""
    return any(place.block is Block.PRICE for place in places_in(markup))


@dataclass(frozen=True, slots=True, kw_only=True)
class OfferView:
    """An offer for templates: all values as the language of the blog writes them.

    ``price`` is empty where none may be shown. ``link`` is the way to the shop, which the blog may count, ``shop_link``
    the shop's own address with the blog's tag.
    """

    title: str
    number: str
    shop: str
    link: str
    shop_link: str
    rel: str
    price: str = ""
    list_price: str = ""
    less: str = ""
    at: str = ""
    stock: str = ""
    condition: str = ""
    is_gone: bool = False
    rating: str = ""
    rating_share: int = 0
    ratings: int = 0
    picture: str = ""
    # For linked data (schema.org): the same values, as machines write them.
    amount: str = ""
    currency: str = ""
    availability: str = ""
    until: str = ""
    rating_value: float | None = None
    # What the form signs that puts it on a reader's list; empty where the blog has none.
    for_basket: str = ""
    basket: str = ""
    # Only where the rights of the source allow its texts and pictures.
    details: ProductDetails = field(default_factory=ProductDetails)

    @property
    def features(self) -> Sequence[str]:
        """Its features, as the shop lists them."""
        return self.details.features

    @property
    def pictures(self) -> Sequence[str]:
        """The addresses of its pictures."""
        return self.details.pictures

    @property
    def reviews(self) -> "list[ReviewView]":
        """Excerpts of its reviews."""
        return [_review(review) for review in self.details.reviews]

    @property
    def wording(self) -> str:
        """The words of the button where the template has none of its own."""
        if self.price:
            return gettext("To the shop")
        return gettext("See the price at {shop}").format(shop=self.shop)


@dataclass(frozen=True, slots=True, kw_only=True)
class ReviewView:
    """An excerpt of a review.

    ``stars`` are as the language of the blog writes them, ``share`` is in percent.
    """

    text: str
    by: str
    stars: str
    value: float | None
    share: int


def _review(review: Review) -> ReviewView:
    stars = format_decimal(review.stars, format="0.#", locale=locale_in_force()) if review.stars is not None else ""
    share = round((review.stars or 0) / _BEST * 100)
    return ReviewView(text=review.text, by=review.by, stars=stars, value=review.stars, share=share)


_STOCK = {
    Availability.IN_STOCK: gettext_noop("In stock"),
    Availability.OUT_OF_STOCK: gettext_noop("Out of stock"),
    Availability.ON_ORDER: gettext_noop("On order"),
    Availability.WITHDRAWN: gettext_noop("No longer sold"),
}
_CONDITIONS = {
    "new": gettext_noop("New"),
    "used": gettext_noop("Used"),
    "refurbished": gettext_noop("Refurbished"),
    "damaged": gettext_noop("Damaged"),
}
_SCHEMA_STOCK = {
    Availability.IN_STOCK: "https://schema.org/InStock",
    Availability.OUT_OF_STOCK: "https://schema.org/OutOfStock",
    Availability.ON_ORDER: "https://schema.org/PreOrder",
    Availability.WITHDRAWN: "https://schema.org/Discontinued",
}
_NOT_SOLD = frozenset({Availability.WITHDRAWN, Availability.OUT_OF_STOCK})
_BEST = 5
_BEST_SHOWN = 5
_REL = "sponsored nofollow noopener"


def _said(word: str) -> str:
    """Return a word in the language of the blog.

    For an empty one the catalogue would say something of itself.
    """
    return gettext(word) if word else ""


class Shelf:
    """The offers of a page.

    They cost one query for all products, and one for their histories where they are shown.

    With ``tells`` false no price is shown, for what is kept elsewhere, such as entries of feeds. ``post`` is the number
    of the post whose links may be counted.
    """

    def __init__(
        self, blog: "Blog", keys: Collection[str], *, now: datetime, tells: bool = True, post: int | None = None
    ) -> None:
        self._blog, self._now, self._tells, self._post = blog, now, tells, post
        self._document = offers_of(blog.offers)
        self._products = products_with_key(blog, keys)
        self._past: dict[str, list[OfferPast]] | None = None
        self.partner_links = 0
        self.disclosed = False
        self._shows_reviews = False

    def of_post(self, post: "Post | ListedPost") -> OfferView | None:
        """Return the offer of a post that shows one product.

        It has the reviews of the texts filled so far, so that linked data tells of no others. None for other posts: a
        comparison is no offer itself.
        """
        offer = self.offer(post.product, quiet=post.quiet_goods) if post.product else None
        if offer is None or self._shows_reviews:
            return offer
        return replace(offer, details=replace(offer.details, reviews=()))

    def offer(self, key: str, block: Block = Block.PRICE, *, quiet: bool = False) -> OfferView | None:
        """Return an offer as it may be shown now, for a block of the text.

        With ``quiet`` nothing says that it cannot be bought. None for an unknown product.
        """
        product = self._products.get(key)
        if product is None:
            # It may come in later.
            show_any_goods()
            return None
        page_goods().rows.add(product.pk)
        return self.view(product.successor or product, block, quiet=quiet)

    def view(self, product: "Product", block: Block = Block.PRICE, *, quiet: bool = False) -> OfferView:
        """Return the offer of a product as it may be shown now."""
        shown = shown_for(product, self._document, self._now)
        if quiet and shown.availability in _NOT_SOLD:
            shown = replace(shown, availability=Availability.UNKNOWN)
        if not self._tells:
            shown = ShownOffer(why=Why.NOT_TOLD, availability=_gone_only(shown.availability))
        page = page_goods()
        page.rows.add(product.pk)
        if shown.ends is not None:
            page.ends.append(shown.ends)
        return self._view(product, shown, block)

    def _way_out(self, product: "Product", block: Block) -> str:
        """Return the address of the button.

        It is counted where the blog counts, else the shop's with the blog's tag.
        """
        if self._post is None or not self._document.counts_links:
            return tagged(product.link, self._document.partners, region_of(product.shop))
        token = sign_leaving(self._blog, Leaving(post=self._post, product=product.pk, block=block.value))
        return f"/blog/{self._blog.slug}/to/{token}/"

    def _for_basket(self, product: "Product", shown: ShownOffer) -> str:
        can_be_bought = shown.availability is not Availability.WITHDRAWN
        if self._post is None or not self._document.has_basket or not can_be_bought:
            return ""
        return sign_for_basket(self._blog, product.pk)

    def _view(self, product: "Product", shown: ShownOffer, block: Block) -> OfferView:
        partners = self._document.partners
        paid = is_partner(product.link, partners, region_of(product.shop)) is not None
        self.partner_links += paid
        view = OfferView(
            title=product.title,
            number=product.number,
            shop=product.source.title if product.source else product.shop,
            link=self._way_out(product, block),
            shop_link=tagged(product.link, partners, region_of(product.shop)),
            rel=_REL if paid else "nofollow noopener",
            stock=_said(_STOCK.get(shown.availability, "")),
            condition=_said(_CONDITIONS.get(product.condition, "")),
            is_gone=shown.availability is Availability.WITHDRAWN,
            picture=product.picture,
            for_basket=self._for_basket(product, shown),
            basket=f"/blog/{self._blog.slug}/basket/",
            availability=_SCHEMA_STOCK.get(shown.availability, ""),
            details=_details(product),
        )
        if product.rating is not None:
            view = replace(
                view,
                rating=format_decimal(product.rating, format="0.#", locale=locale_in_force()),
                rating_value=product.rating,
                rating_share=round(product.rating / _BEST * 100),
                ratings=product.rating_count or 0,
            )
        if shown.price is None or shown.read_at is None or shown.ends is None:
            return view
        return replace(
            view,
            price=said_money(shown.price, shown.currency),
            list_price=said_money(shown.list_price, shown.currency) if shown.list_price is not None else "",
            less=format_percent(-shown.saves / 100, locale=locale_in_force()) if shown.saves else "",
            at=said_moment(shown.read_at, self._now),
            amount=f"{shown.price:f}".rstrip("0").rstrip("."),
            currency=shown.currency,
            until=shown.ends.isoformat(),
        )

    def fill(self, markup: str, *, quiet: bool = False) -> str:
        """Return a sanitised text with its offers and partner links."""
        text = filled(markup, lambda place: self._block(place, quiet=quiet))
        body, number = with_partner_links(text, self._document.partners)
        self.partner_links += number
        return body

    @property
    def disclosure(self) -> str:
        """The line to add under the text.

        It is the blog's own, where the page has partner links and its text does not place it.
        """
        return self._document.disclosure if self.partner_links and not self.disclosed else ""

    def _block(self, place: Place, *, quiet: bool) -> str:
        if place.block is Block.DISCLOSURE:
            self.disclosed = bool(self._document.disclosure)
            return render_to_string("front/offers/disclosure.html", {"line": self._document.disclosure})
        keys = self._best() if place.block is Block.BEST else place.products
        offers = [offer for key in keys if (offer := self.offer(key, place.block, quiet=quiet)) is not None]
        if not offers:
            return ""
        self._shows_reviews |= place.block is Block.REVIEWS
        if place.block is Block.COMPARE:
            offers.sort(key=lambda offer: (not offer.amount, Decimal(offer.amount or 0)))
        context: dict[str, object] = {"offer": offers[0], "offers": offers, "wording": place.wording}
        if place.block is Block.HISTORY:
            if not self._tells:
                return ""
            context["past"] = self._history(place.products[0])
        if place.block is Block.COMPARE:
            context["rows"] = _compared(offers)
        return render_to_string(f"front/offers/{place.block.value}.html", context).strip()

    def _best(self) -> list[str]:
        """Return the keys of the best rated products of the blog that have a fresh price."""
        if not self._tells:
            return []
        show_any_goods()
        products = best_products(self._blog, self._document, self._now, most=_BEST_SHOWN)
        self._products |= products
        return list(products)

    def _history(self, key: str) -> History | None:
        if self._past is None:
            self._past = past_with_key(self._products.values())
        return history_of(self._past.get(key, []))


def _details(product: "Product") -> ProductDetails:
    """Return the texts and pictures of a shop, where its source allows full texts."""
    source = product.source
    return details_of(product.details) if source is not None and source.right == Right.FULL else ProductDetails()


def _gone_only(availability: Availability) -> Availability:
    """Return what of an availability does not age: that something is no longer sold."""
    return availability if availability is Availability.WITHDRAWN else Availability.UNKNOWN


@dataclass(frozen=True, slots=True, kw_only=True)
class RowOfFacts:
    """A row of a comparison. ``differs`` says that the products have different values."""

    name: str
    values: Sequence[str]
    differs: bool


def _compared(offers: Sequence[OfferView]) -> list[RowOfFacts]:
    """Return the rows of a comparison that have any value."""
    columns = (
        (gettext("Price"), [offer.price or "–" for offer in offers]),
        (gettext("Stock"), [offer.stock or "–" for offer in offers]),
        (gettext("Condition"), [offer.condition or "–" for offer in offers]),
        (gettext("Rating"), [offer.rating or "–" for offer in offers]),
        (gettext("Shop"), [offer.shop for offer in offers]),
    )
    rows = [RowOfFacts(name=name, values=values, differs=len(set(values)) > 1) for name, values in columns]
    return [row for row in rows if set(row.values) != {"–"}]
