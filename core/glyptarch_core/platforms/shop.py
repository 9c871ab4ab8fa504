"""A shop: products by words, category or number, with price, rating and reviews."""

from collections.abc import Mapping, Sequence
from enum import StrEnum
from html import escape
from typing import Annotated, Any

from pydantic import Field, StringConstraints

from glyptarch_core.item import Item, Review
from glyptarch_core.platforms.model import Answer, Ask, Parameters, Platform, PlatformPage
from glyptarch_core.platforms.values import Row, loaded
from glyptarch_core.readers.model import identity_of, resolve, stated

__all__ = ["PLATFORMS"]

_A_PAGE = 20


class ShopOrder(StrEnum):
    """In which order products come."""

    RELEVANT = "relevant"
    NEWEST = "newest"
    CHEAPEST = "cheapest"
    BEST_RATED = "best_rated"


class ShopParameters(Parameters):
    """Parameters of the shop."""

    category: Annotated[str, StringConstraints(strip_whitespace=True, max_length=80)] = Field(
        default="", title="Category", description="For example eyepieces; empty for all."
    )
    numbers: tuple[Annotated[str, StringConstraints(strip_whitespace=True, max_length=40)], ...] = Field(
        default=(), max_length=50, title="Product numbers", description="Only these products; with commas between."
    )
    region: Annotated[str, StringConstraints(pattern=r"^$|^[a-z]{2}$")] = Field(
        default="", title="Region", description="Whose prices are asked for: two letters (ISO 3166-1)."
    )
    order: ShopOrder = Field(default=ShopOrder.NEWEST, title="Order", description="Which products come first.")
    reviews: int = Field(default=2, ge=0, le=10, title="Reviews", description="How many reviews are quoted of each.")


class Shop(Platform[ShopParameters]):
    """The shop."""

    key = "shop"
    name = "Shop"
    purpose = "Products with prices, availability, ratings and reviews."
    header = "X-Shop-Key"
    limit_a_day = 1000
    products_together = _A_PAGE
    parameters = ShopParameters

    def parameters_for(self, numbers: Sequence[str], region: str) -> Mapping[str, Any]:
        """Return the parameters that ask for products by their numbers."""
        return {"numbers": list(numbers), "region": region, "reviews": 0}

    def ask(self, parameters: ShopParameters, words: str, cursor: str) -> Ask:
        """Ask for a page by how many products come before it."""
        query = {"words": words, "category": parameters.category, "numbers": ",".join(parameters.numbers)}
        query |= {
            "region": parameters.region,
            "order": parameters.order.value,
            "offset": cursor or "0",
            "limit": str(_A_PAGE),
        }
        return Ask(path="/products", query={name: value for name, value in query.items() if value})

    def read(self, answer: Answer, parameters: ShopParameters, *, source: str, cursor: str) -> PlatformPage:
        """Read a page of products."""
        page = loaded(answer.body, answer.content_type)
        rows = page.required_list("products")
        items = tuple(_item(row, answer.url, source, parameters.reviews) for row in rows if row.text("title"))
        before, total = int(cursor or 0) + len(rows), page.whole("total")
        more = bool(rows) and (before < total if total is not None else len(rows) == _A_PAGE)
        return PlatformPage(items=items, next=str(before) if more else "", total=total)


_AVAILABLE = {"in": "in stock", "out": "out of stock", "soon": "on order"}


def _item(row: Row, base: str, source: str, reviews: int) -> Item:
    link, title, number = resolve(base, row.text("link")), row.plain("title"), row.text("number")
    features = tuple(row.texts("features"))
    listed = "".join(f"<li>{escape(text)}</li>" for text in features)
    told = tuple(_review(review) for review in row.rows("reviews") if review.text("text"))
    media = tuple(medium for photo in row.rows("photos") for medium in photo.picture("", base, alt=title))
    return Item(
        source=source,
        identity=identity_of(number, link, title, ""),
        link=link,
        title=title,
        summary=row.markup("description"),
        body=row.markup("description")
        + (f"<ul>{listed}</ul>" if listed else "")
        + "".join(map(_quoted, told[:reviews])),
        categories=(row.text("category"),) if row.text("category") else (),
        published=row.moment("listed"),
        media=media,
        facts=stated(
            price=row.price("price.amount"),
            currency=row.text("price.currency"),
            list_price=row.text("price.before"),
            price_until=row.text("price.until"),
            availability=_AVAILABLE.get(row.text("stock"), row.text("stock")),
            condition=row.text("condition"),
            rating=row.number("stars"),
            rating_count=row.text("ratings"),
            sku=number,
            gtin=row.text("gtin"),
            replaced_by=row.text("replaced_by"),
            read_from="the API",
        ),
        raw=row.value if isinstance(row.value, dict) else {},
        features=features,
        reviews=told,
    )


def _review(row: Row) -> Review:
    return Review(text=row.plain("text"), by=row.text("who"), stars=row.number("stars"))


def _quoted(review: Review) -> str:
    stars = f"{review.stars:g} of 5" if review.stars is not None else ""
    by = ", ".join(part for part in (review.by, stars) if part)
    return f"<blockquote><p>{escape(review.text)}</p>{f'<p>{escape(by)}</p>' if by else ''}</blockquote>"


PLATFORMS = (Shop(),)
