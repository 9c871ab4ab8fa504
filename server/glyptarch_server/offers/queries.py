"""Reads about products and their offers."""

from collections import Counter
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from enum import StrEnum
from typing import Any

from django.db import transaction
from django.db.models import Case, CharField, Count, Exists, F, Func, OuterRef, Q, QuerySet, Subquery, Sum, Value, When
from django.db.models.expressions import OrderBy
from glyptarch_core.offers import (
    DAY,
    Availability,
    Condition,
    Offer,
    OfferDocument,
    ShownOffer,
    Why,
    is_partner,
    shown_offer,
)

from glyptarch_server.blogs.models import Blog, Category
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.common.problems import NotFound
from glyptarch_server.offers.models import LinkCount, OfferPast, Product, reduction
from glyptarch_server.platforms.models import Connection
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import Post

__all__ = [
    "MOST_SHOPS",
    "SORTS",
    "ClicksBy",
    "GoodsWanted",
    "all_seen",
    "best_products",
    "by_key",
    "claim_due",
    "click_rows",
    "clicks_of",
    "clicks_on",
    "counts_of",
    "goods_in_order",
    "held_prices",
    "keys_by_offer",
    "listed_products",
    "newest_goods",
    "number_read_with",
    "offer_of",
    "old_prices",
    "past_of",
    "past_with_key",
    "posts_showing",
    "product_of",
    "product_shown_by",
    "products_by_row",
    "products_with_key",
    "sections_with_goods",
    "seen_of",
    "shops_of",
    "shown_for",
    "untagged_hosts",
]

SORTS: Mapping[str, Sequence[str | OrderBy]] = {
    "title": ("title", "pk"),
    "read": ("-read_at", "-pk"),
    "oldest": ("read_at", "pk"),
    "price": (F("price").asc(nulls_last=True), "pk"),
    "dearest": (F("price").desc(nulls_last=True), "pk"),
}
MOST_SHOPS = 200
_MOST_SECTIONS = 100
_MOST_PAST = 400
_MOST_OLD = 300
_SHOWN = (
    *("key", "blog_id", "shop", "number", "title", "link", "picture", "price", "list_price", "currency"),
    *("availability", "condition", "rating", "rating_count", "read_at", "until", "held"),
    *("details", "source__title", "source__right"),
)


def offer_of(product: Product) -> Offer:
    """Return the offer of a product in the core's form."""
    return Offer(
        read_at=product.read_at,
        price=product.price,
        list_price=product.list_price,
        currency=product.currency,
        availability=Availability(product.availability),
        condition=Condition(product.condition),
        rating=product.rating,
        rating_count=product.rating_count,
        until=product.until,
    )


def shown_for(product: Product, document: OfferDocument, now: datetime) -> ShownOffer:
    """Return what readers may see of a product's offer."""
    rules = document.of_shop(product.shop).rules
    return shown_offer(offer_of(product), rules, now, held=product.held is not None)


def products_with_key(blog: Blog, keys: Collection[str]) -> dict[str, Product]:
    """Return products by their keys, with what takes their place. One query, none without keys."""
    if not keys:
        return {}
    rows = Product.objects.filter(AnyOf("key", list(keys)), blog=blog)
    joined = rows.select_related("source", "successor__source").only(
        *_SHOWN, *(f"successor__{name}" for name in _SHOWN)
    )
    return {product.key: product for product in joined}


def products_by_row(blog: Blog, numbers: Collection[int]) -> dict[int, Product]:
    """Return products of a blog by their rows. One query, none without numbers."""
    if not numbers:
        return {}
    rows = Product.objects.filter(AnyOf("pk", list(numbers)), blog=blog)
    return {row.pk: row for row in rows.select_related("source", "successor__source")}


def past_with_key(products: Iterable[Product]) -> dict[str, list[OfferPast]]:
    """Return what products cost, by their keys, newest first. One query."""
    past: dict[str, list[OfferPast]] = {product.key: [] for product in products}
    rows = OfferPast.objects.filter(product__in=products).order_by("-at").select_related("product")
    for row in rows[: _MOST_PAST * max(1, len(past))]:
        past[row.product.key].append(row)
    return past


def by_key(blog: Blog, key: str) -> Product:
    """Return a product by its key. Raises NotFound."""
    row = Product.objects.filter(blog=blog, key=key).select_related("successor", "source", "connection").first()
    if row is None:
        raise NotFound(f"This blog has no product “{key}”.")
    return row


def product_of(blog: Blog, number: int) -> Product:
    """Return a product by its row. Raises NotFound."""
    rows = Product.objects.select_related("successor", "source", "connection")
    row = rows.filter(blog=blog, pk=number).first()
    if row is None:
        raise NotFound("This blog has no such product.")
    return row


def _old(document: OfferDocument, now: datetime) -> Q:
    """Return the condition for prices that are past their limit, which differs by shop."""
    old = Q(read_at__lte=now - DAY) & ~Q(shop__in=[shop.shop for shop in document.shops])
    for shop in document.shops:
        old |= Q(shop=shop.shop, read_at__lte=now - shop.rules.limit)
    return old | Q(until__lte=now)


def _beginnings(document: OfferDocument, now: datetime) -> Mapping[str, Q]:
    """Return what puts a product into a state, in the order in which it is asked.

    Else its price is fresh.
    """
    return {
        Why.WITHDRAWN.value: Q(availability=Availability.WITHDRAWN.value),
        Why.HELD.value: Q(held__isnull=False),
        Why.NO_PRICE.value: Q(price=None),
        Why.OLD.value: _old(document, now),
        Why.NOT_TOLD.value: Q(shop__in=[shop.shop for shop in document.shops if not shop.tells_prices]),
    }


def _in_state(document: OfferDocument, now: datetime) -> Mapping[str, Q]:
    """Return the condition of each state alone."""
    states: dict[str, Q] = {}
    before = Q()
    for name, condition in _beginnings(document, now).items():
        states[name] = before & condition
        before &= ~condition
    return {"fresh": before, **states}


def listed_products(
    blog: Blog, document: OfferDocument, now: datetime, *, search: str = "", state: str | None = None, shop: str = ""
) -> QuerySet[Product]:
    """Return the products of a blog, narrowed by words, state and shop."""
    rows = Product.objects.filter(blog=blog)
    if search:
        rows = rows.filter(Q(title__icontains=search) | Q(number__icontains=search))
    if shop:
        rows = rows.filter(shop=shop)
    if state is not None:
        rows = rows.filter(_in_state(document, now)[state])
    return rows


def counts_of(blog: Blog, document: OfferDocument, now: datetime) -> dict[tuple[str, str], int]:
    """Return the number of products by shop and state, in one pass over them."""
    # Each product is in one state, so that the first condition that holds is the only one.
    cases = [When(condition, then=Value(name)) for name, condition in _beginnings(document, now).items()]
    state = Case(*cases, default=Value("fresh"), output_field=CharField())
    rows = Product.objects.filter(blog=blog).annotate(in_state=state).values_list("shop", "in_state").order_by()
    return {(shop, name): number for shop, name, number in rows.annotate(number=Count("pk"))}


def shops_of(blog: Blog) -> list[tuple[str, int]]:
    """Return the shops of a blog with their number of products, at most 200."""
    rows = Product.objects.filter(blog=blog).values_list("shop").annotate(number=Count("pk")).order_by("shop")
    return list(rows[:MOST_SHOPS])


def seen_of(blog: Blog | int, keys: Sequence[str]) -> dict[str, int]:
    """Return, by key, how many published posts show a product, also in the place of another.

    Three queries.
    """
    if not keys:
        return {}
    rows_of = {
        number: (key, after or key)
        for number, key, after in Product.objects.filter(AnyOf("key", list(keys)), blog=blog).values_list(
            "pk", "key", "successor__key"
        )
    }
    replaced = Product.objects.filter(AnyOf("successor_id", list(rows_of))).values_list("key", "successor__key")
    # By the key that stands in a text, the key that is shown.
    shown = {**dict(rows_of.values()), **{key: str(after) for key, after in replaced}}
    rows = Post.objects.filter(blog=blog, state=PostState.PUBLISHED.value, products__overlap=list(shown))
    named = rows.annotate(key=Func("products", function="unnest")).values("key").annotate(number=Count("pk"))
    seen: Counter[str] = Counter()
    for row in named.order_by():
        if row["key"] in shown:
            seen[shown[row["key"]]] += row["number"]
    return {key: seen[key] for key in keys if key in seen}


def posts_showing(product: Product, *, most: int) -> list[Post]:
    """Return the newest posts that show a product, in any state but the bin."""
    rows = Post.objects.filter(blog=product.blog_id, products__contains=[product.key])
    rows = rows.exclude(state=PostState.BINNED.value).order_by("-date", "-pk")
    return list(rows.only("pk", "title", "slug", "state", "date", "blog_id")[:most])


def held_prices(blog: Blog) -> QuerySet[Product]:
    """Return the products whose price waits for a person."""
    return Product.objects.filter(blog=blog, held__isnull=False).exclude(held__has_key="refused")


def old_prices(blog: Blog, document: OfferDocument, now: datetime) -> QuerySet[Product]:
    """Return the products that published posts show and whose price is past its limit.

    They are looked for among the three hundred whose price ended last by its age, and as many by its own end.
    """
    key = Func(OuterRef("key"), function="ARRAY", template="%(function)s[%(expressions)s]::varchar(400)[]")
    showing = Post.objects.filter(blog=blog, state=PostState.PUBLISHED.value, products__contains=key)
    old = Product.objects.filter(_in_state(document, now)[Why.OLD.value], blog=blog, due_at__isnull=False)
    # Each is looked up among the posts, so the work is bounded. No price is old before the shortest limit has passed.
    shortest = min([DAY, *(shop.rules.limit for shop in document.shops)])
    by_age = old.filter(read_at__lte=now - shortest).order_by("-read_at", "-pk").values("pk")[:_MOST_OLD]
    by_end = old.filter(until__lte=now).order_by("-until").values("pk")[:_MOST_OLD]
    return Product.objects.filter(Exists(showing), pk__in=by_age.union(by_end))


def product_shown_by(blog: Blog, post: int, number: int) -> Product | None:
    """Return a product that a published post shows, or that takes the place of such a one.

    None for any other.
    """
    shown = Post.objects.filter(blog=blog, pk=post, state=PostState.PUBLISHED.value).values_list("products", flat=True)
    keys = shown.first()
    product = Product.objects.filter(blog=blog, pk=number).first()
    if not keys or product is None:
        return None
    replaced = Product.objects.filter(AnyOf("key", keys), blog=blog, successor=product)
    return product if product.key in keys or replaced.exists() else None


class ClicksBy(StrEnum):
    """What followed links are counted by."""

    POST = "post"
    PRODUCT = "product"
    BLOCK = "block"
    DAY = "day"


_CLICK_NAMES = {
    ClicksBy.POST: ("post_id", "post__title"),
    ClicksBy.PRODUCT: ("product_id", "product__title"),
    ClicksBy.BLOCK: ("block", "block"),
    ClicksBy.DAY: ("day", "day"),
}


def clicks_of(blog: Blog, since: date, by: ClicksBy, *, most: int) -> list[tuple[Any, str, int]]:
    """Return key, name and number of the followed links since a day, most first.

    Days in order.
    """
    key, name = _CLICK_NAMES[by]
    rows = LinkCount.objects.filter(blog=blog, day__gte=since).values_list(key, name).annotate(clicks=Sum("count"))
    ordered = rows.order_by("day") if by is ClicksBy.DAY else rows.order_by("-clicks", key)
    return [(number, str(title), clicks) for number, title, clicks in ordered[:most]]


_MOST_CLICK_ROWS = 50_000


def click_rows(blog: Blog, since: date) -> list[tuple[str, ...]]:
    """Return the followed links since a day, at most 50,000 rows.

    Each has day, post, product, number, block and clicks.
    """
    rows = LinkCount.objects.filter(blog=blog, day__gte=since).order_by("day", "post", "product", "block")
    named = rows.values_list("day", "post__title", "product__title", "product__number", "block", "count")
    return [tuple(map(str, row)) for row in named[:_MOST_CLICK_ROWS]]


_MOST_HOSTS = 50


def untagged_hosts(blog: Blog, document: OfferDocument) -> list[str]:
    """Return the hosts of a blog's products that have no partner link, at most 50."""
    host = Func("link", Value("^https?://([^/?#]+)"), function="substring", output_field=CharField())
    rows = Product.objects.filter(blog=blog).annotate(host=host).order_by("host").values_list("host", flat=True)
    hosts = [name for name in rows.distinct()[: _MOST_HOSTS * 4] if name]
    return [name for name in hosts if is_partner(f"https://{name}/", document.partners) is None][:_MOST_HOSTS]


def best_products(blog: Blog, document: OfferDocument, now: datetime, *, most: int) -> dict[str, Product]:
    """Return, by key, the best rated products with a fresh price.

    Of equal ones those with most ratings come first.
    """
    rows = Product.objects.filter(_in_state(document, now)["fresh"], blog=blog, rating__isnull=False)
    best = rows.order_by("-rating", F("rating_count").desc(nulls_last=True), "pk").select_related(
        "source", "successor__source"
    )
    return {product.key: product for product in best[:most]}


def keys_by_offer(blog: Blog, document: OfferDocument, now: datetime, *, reduced: bool, most: int) -> list[str]:
    """Return the keys of the products that are reduced most, or else cost least.

    Only fresh prices count.
    """
    return list(_by_price(blog, document, now, reduced=reduced).values_list("key", flat=True)[:most])


def _by_price(blog: Blog, document: OfferDocument, now: datetime, *, reduced: bool) -> QuerySet[Product]:
    rows = Product.objects.filter(_in_state(document, now)["fresh"], blog=blog)
    if not reduced:
        return rows.order_by("price", "pk")
    return rows.filter(list_price__gt=F("price")).order_by(reduction().desc(), "pk")


@dataclass(frozen=True, slots=True, kw_only=True)
class GoodsWanted:
    """Which goods are listed by price: those reduced most first, or else the cheapest."""

    document: OfferDocument
    now: datetime
    reduced: bool
    in_stock: bool


def newest_goods(rows: QuerySet[Post], window: slice, *, in_stock: bool) -> list[int]:
    """Return the numbers of the posts about one product each, in the order of ``rows``."""
    goods = rows.exclude(product="")
    if in_stock:
        there = Product.objects.filter(blog=OuterRef("blog"), key=OuterRef("product"))
        goods = goods.filter(Exists(there.filter(availability=Availability.IN_STOCK.value)))
    return list(goods.values_list("pk", flat=True)[window])


def goods_in_order(blog: Blog, rows: QuerySet[Post], wanted: GoodsWanted, window: slice) -> list[int]:
    """Return the numbers of posts about products with a fresh price, in the order of the prices.

    Of each product it is the newest post among ``rows``.
    """
    products = _by_price(blog, wanted.document, wanted.now, reduced=wanted.reduced)
    if wanted.in_stock:
        products = products.filter(availability=Availability.IN_STOCK.value)
    about = rows.filter(product=OuterRef("key")).exclude(product="")
    newest = about.order_by("-date", "-pk").values("pk")[:1]
    shown = products.annotate(post=Subquery(newest)).filter(post__isnull=False)
    return list(shown.values_list("post", flat=True)[window])


def sections_with_goods(blog: Blog) -> list[Category]:
    """Return the categories of public posts about one product, by name, at most 100."""
    public = Post.objects.filter(blog=blog, state=PostState.PUBLISHED.value, categories=OuterRef("pk"))
    goods = public.exclude(visibility="private").exclude(product="")
    rows = Category.objects.filter(blog=blog).annotate(found=Subquery(goods.values("pk")[:1]))
    return list(rows.filter(found__isnull=False).order_by("name")[:_MOST_SECTIONS])


def past_of(product: Product) -> list[OfferPast]:
    """Return what a product cost, newest first, at most 400 changes."""
    return list(product.past.order_by("-at")[:_MOST_PAST])


_CLAIM = timedelta(minutes=5)
_AT_ONCE = 200


def claim_due(now: datetime) -> list[Product]:
    """Return the products that are due, what is due longest first.

    No other worker gets them for five minutes.
    """
    with transaction.atomic():
        due = Product.objects.filter(due_at__lte=now).order_by("due_at")
        numbers = list(due.select_for_update(skip_locked=True).values_list("pk", flat=True)[:_AT_ONCE])
        Product.objects.filter(pk__in=numbers).update(due_at=now + _CLAIM)
    rows = Product.objects.filter(pk__in=numbers).select_related("connection", "blog", "source__reader")
    return sorted(rows, key=lambda product: numbers.index(product.pk))


_CLICKS_OF = timedelta(days=30)


def clicks_on(products: Collection[Product], now: datetime) -> dict[int, int]:
    """Return, by row, how often the links of products were followed lately.

    That is in thirty days. One query.
    """
    counts = LinkCount.objects.filter(
        AnyOf("product_id", [row.pk for row in products]), day__gte=(now - _CLICKS_OF).date()
    )
    return dict(counts.values_list("product_id").annotate(clicks=Sum("count")))


def all_seen(connection: Connection, now: datetime) -> dict[str, int]:
    """Return, by key, how much each product of a connection is seen.

    Published posts that show it count, and links followed lately.
    """
    of_connection = Product.objects.filter(connection=connection)
    places = {key: after or key for key, after in of_connection.values_list("key", "successor__key")}
    shown = Post.objects.filter(blog=connection.blog_id, state=PostState.PUBLISHED.value, products__len__gt=0)
    named = shown.annotate(key=Func("products", function="unnest")).values("key").annotate(number=Count("pk"))
    seen: Counter[str] = Counter()
    for row in named.order_by():
        if row["key"] in places:
            seen[places[row["key"]]] += row["number"]
    followed = LinkCount.objects.filter(product__connection=connection, day__gte=(now - _CLICKS_OF).date())
    for key, clicks in followed.values_list("product__key").annotate(clicks=Sum("count")):
        if key in seen:
            seen[key] += clicks
    return dict(seen)


def number_read_with(connection: Connection) -> int:
    """Return the number of products that are read with a connection."""
    return Product.objects.filter(connection=connection, due_at__isnull=False).count()
