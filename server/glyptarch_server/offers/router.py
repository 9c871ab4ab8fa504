"""The API of products and their offers."""

from collections import Counter
from collections.abc import Mapping, Sequence
from datetime import date, datetime, timedelta
from decimal import Decimal
from typing import TYPE_CHECKING, Annotated, Any
from zoneinfo import ZoneInfo

from django.http import HttpRequest, HttpResponse
from glyptarch_core.offers import OfferDocument, OfferFault, offers_of
from ninja import Router
from pydantic import Field

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.common.csv_file import csv_lines
from glyptarch_server.common.paging import PAGE, Limit, Offset, page_of
from glyptarch_server.offers import actions, queries, successors
from glyptarch_server.offers.schemas import (
    ClickOut,
    ClicksOut,
    HeldPriceOut,
    OfferPageOut,
    OfferRulesIn,
    OfferRulesOut,
    OfferSort,
    OfferState,
    PastOut,
    PriceIn,
    ProductOut,
    ProductPageOut,
    ShopOut,
    ShowingPostOut,
    SuccessorIn,
)
from glyptarch_server.posts.lifecycle import PostState

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Blog
    from glyptarch_server.offers.models import Product

__all__ = ["router"]

router = Router(tags=["offers"])
_POSTS = 50
_CLICK_ROWS = 200
_CLICK_HEADS = ("day", "post", "product", "number", "block", "clicks")


def _amount(amount: Decimal | None) -> str | None:
    return None if amount is None else f"{amount.normalize():f}"


def _product(
    row: "Product", document: OfferDocument, seen: Mapping[str, int], clicks: Mapping[int, int], now: datetime
) -> ProductOut:
    shown = queries.shown_for(row, document, now)
    return ProductOut(
        id=row.pk,
        key=row.key,
        shop=row.shop,
        number=row.number,
        title=row.title,
        link=row.link,
        picture=row.picture,
        state=OfferState(shown.why.value) if shown.why else OfferState.FRESH,
        price=_amount(row.price),
        list_price=_amount(row.list_price),
        currency=row.currency,
        availability=row.availability,
        rating=row.rating,
        rating_count=row.rating_count,
        read_at=row.read_at,
        ends=shown.ends,
        due_at=row.due_at,
        fault=OfferFault(row.fault) if row.fault else None,
        said=row.said,
        held=HeldPriceOut(**row.held) if row.held else None,
        posts=seen.get(row.key, 0),
        clicks=clicks.get(row.pk, 0),
        successor=row.successor.key if row.successor else "",
        successor_title=row.successor.title if row.successor else "",
    )


@router.get("/blogs/{blog}/offers", response=OfferPageOut, operation_id="listOffers")
def list_offers(
    request: HttpRequest,
    blog: str,
    search: str = "",
    state: OfferState | None = None,
    shop: str = "",
    sort: OfferSort = OfferSort.TITLE,
    limit: Limit = PAGE,
    offset: Offset = 0,
) -> OfferPageOut:
    """Return the products of a blog with their offers."""
    owned = blog_for(request.user, blog)
    document, now = offers_of(owned.offers), wiring.clock()()
    wanted = state.value if state else None
    rows = queries.listed_products(owned, document, now, search=search, state=wanted, shop=shop)
    states, shops, listed = Counter[str](), Counter[str](), 0
    for (of_shop, in_state), number in queries.counts_of(owned, document, now).items():
        states[in_state] += number
        shops[of_shop] += number
        listed += number if shop in {"", of_shop} and wanted in {None, in_state} else 0
    total = None if search else listed
    page, total = page_of(rows.order_by(*queries.SORTS[sort.value]), limit=limit, offset=offset, total=total)
    seen, clicks = queries.seen_of(owned, [row.key for row in page]), queries.clicks_on(page, now)
    return OfferPageOut(
        rows=[_product(row, document, seen, clicks, now) for row in page],
        total=total,
        states={name: states[name.value] for name in OfferState},
        shops=[ShopOut(shop=name, products=shops[name]) for name in sorted(shops)[: queries.MOST_SHOPS]],
    )


def _shops(blog: "Blog") -> list[ShopOut]:
    return [ShopOut(shop=shop, products=number) for shop, number in queries.shops_of(blog)]


def _page(blog: "Blog", number: int) -> ProductPageOut:
    row = queries.product_of(blog, number)
    document, now = offers_of(blog.offers), wiring.clock()()
    posts = queries.posts_showing(row, most=_POSTS)
    return ProductPageOut(
        product=_product(row, document, queries.seen_of(blog, [row.key]), queries.clicks_on([row], now), now),
        past=[
            PastOut(
                at=past.at,
                price=_amount(past.price),
                list_price=_amount(past.list_price),
                currency=past.currency,
                availability=past.availability,
            )
            for past in queries.past_of(row)
        ],
        posts=[
            ShowingPostOut(id=post.pk, title=post.title, state=PostState(post.state), date=post.date) for post in posts
        ],
    )


@router.get("/blogs/{blog}/offers/{int:number}", response=ProductPageOut, operation_id="getOffer")
def get_offer(request: HttpRequest, blog: str, number: int) -> ProductPageOut:
    """Return a product with its history and the posts that show it."""
    return _page(blog_for(request.user, blog), number)


@router.post("/blogs/{blog}/offers/{int:number}/reading", response=ProductPageOut, operation_id="readOffer")
def read_offer(request: HttpRequest, blog: str, number: int) -> ProductPageOut:
    """Let a product be read at the next round, within twenty seconds."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    actions.read_soon(queries.product_of(owned, number), now=wiring.clock()())
    return _page(owned, number)


@router.post("/blogs/{blog}/offers/{int:number}/price", response=ProductPageOut, operation_id="decidePrice")
def decide_price(request: HttpRequest, blog: str, number: int, payload: PriceIn) -> ProductPageOut:
    """Take over a price that is held, or refuse it until the next reading."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    actions.decide_price(queries.product_of(owned, number), take=payload.take, now=wiring.clock()())
    return _page(owned, number)


@router.put("/blogs/{blog}/offers/{int:number}/successor", response=ProductPageOut, operation_id="nameSuccessor")
def name_successor(request: HttpRequest, blog: str, number: int, payload: SuccessorIn) -> ProductPageOut:
    """Let another product take a product's place in all posts."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    successors.name_successor(owned, queries.product_of(owned, number), payload.key)
    return _page(owned, number)


Days = Annotated[int, Field(ge=1, le=400)]


def _clicks(rows: Sequence[tuple[Any, str, int]]) -> list[ClickOut]:
    return [ClickOut(key=str(key), name=name, clicks=clicks) for key, name, clicks in rows]


def _first_day(blog: "Blog", days: int) -> date:
    return wiring.clock()().astimezone(ZoneInfo(blog.time_zone)).date() - timedelta(days=days - 1)


@router.get("/blogs/{blog}/offer-clicks", response=ClicksOut, operation_id="listOfferClicks")
def list_offer_clicks(
    request: HttpRequest, blog: str, days: Days = 30, by: queries.ClicksBy = queries.ClicksBy.POST
) -> ClicksOut:
    """Return how often the links of offers were followed."""
    owned = blog_for(request.user, blog)
    since = _first_day(owned, days)
    by_day = {key: clicks for key, _, clicks in queries.clicks_of(owned, since, queries.ClicksBy.DAY, most=days)}
    each_day = [since + timedelta(days=place) for place in range(days)]
    return ClicksOut(
        total=sum(by_day.values()),
        counts_links=offers_of(owned.offers).counts_links,
        days=[ClickOut(key=str(day), name=str(day), clicks=by_day.get(day, 0)) for day in each_day],
        rows=_clicks(queries.clicks_of(owned, since, by, most=_CLICK_ROWS)),
    )


@router.get("/blogs/{blog}/offer-clicks.csv", operation_id="exportOfferClicks")
def export_offer_clicks(request: HttpRequest, blog: str, days: Days = 30) -> HttpResponse:
    """Return followed links as CSV (RFC 4180): day, post, product, block, clicks."""
    owned = blog_for(request.user, blog)
    rows = queries.click_rows(owned, _first_day(owned, days))
    answer = HttpResponse(csv_lines([_CLICK_HEADS, *rows]), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{owned.slug}-clicks.csv"'
    return answer


def _rules(blog: "Blog") -> OfferRulesOut:
    document = offers_of(blog.offers)
    return OfferRulesOut(
        document=document,
        version=blog.version,
        shops=_shops(blog),
        untagged_hosts=queries.untagged_hosts(blog, document),
    )


@router.get("/blogs/{blog}/offer-rules", response=OfferRulesOut, operation_id="getOfferRules")
def get_offer_rules(request: HttpRequest, blog: str) -> OfferRulesOut:
    """Return what a blog says of shops."""
    return _rules(blog_for(request.user, blog, Role.OWNER))


@router.put("/blogs/{blog}/offer-rules", response=OfferRulesOut, operation_id="saveOfferRules")
def save_offer_rules(request: HttpRequest, blog: str, payload: OfferRulesIn) -> OfferRulesOut:
    """Save what a blog says of shops."""
    owned = blog_for(request.user, blog, Role.OWNER)
    actions.save_offers(owned, payload.document, begun=payload.begun)
    return _rules(owned)
