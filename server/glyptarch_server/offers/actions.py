"""Noting what shops state of their products, and what people decide about it."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from datetime import date, datetime, timedelta
from typing import Any

from django.db import transaction
from django.db.models import F
from glyptarch_core.item import Item, MediaKind, Right, Rights, features_of
from glyptarch_core.offers import (
    Availability,
    Offer,
    OfferDocument,
    OfferFault,
    OfferReading,
    is_jump,
    next_reading,
    number_of,
    offers_of,
    product_key,
    read_details,
    read_offer,
    states_offer,
)
from glyptarch_core.release import Goods
from glyptarch_core.source_words import TemplateWords

from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.queries import document_of, latest_revision
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.common.problems import Conflict
from glyptarch_server.common.queue import defer
from glyptarch_server.common.versions import lock_version
from glyptarch_server.offers.models import LinkCount, OfferPast, Product
from glyptarch_server.offers.queries import offer_of
from glyptarch_server.offers.successors import follow_statements
from glyptarch_server.posts.actions import move_post
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import Post
from glyptarch_server.sources.models import Source
from glyptarch_server.sources.queries import load_states, shop_of

__all__ = [
    "count_link",
    "decide_price",
    "let_posts_follow",
    "note_items",
    "note_missing",
    "note_readings",
    "put_off",
    "read_soon",
    "save_offers",
    "thin_offers",
]

_OF_OFFER = ("price", "list_price", "currency", "availability", "condition", "rating", "rating_count", "until")
_CHANGED = (
    *_OF_OFFER,
    *("title", "link", "picture", "details", "read_at", "fault", "said", "held", "due_at", "missing"),
)
_MISSING_UNTIL_GONE = 3
# When to ask again, in limits of the shop: a shop that forgets its goods for an hour must not lose its posts.
_AGAIN_WHEN_MISSING, _AGAIN_WHEN_GONE = 0.25, 7
_HELD = ("price", "list_price", "currency")
_KEPT = timedelta(days=731)


def note_items(source: Source, items: Sequence[Item], now: datetime) -> None:
    """Note the offers that the items of a reading state, with their products."""
    stating = [item for item in items if states_offer(item.facts) and item.link and item.title]
    if not stating:
        return
    load_states([source])
    shop = shop_of(source)
    by_number = {number_of(item.facts, item.link): item for item in stating}
    keys = {product_key(shop, number): number for number in by_number}
    with transaction.atomic():
        known = set(Product.objects.filter(AnyOf("key", list(keys)), blog=source.blog_id).values_list("key", flat=True))
        Product.objects.bulk_create(
            [
                _new(source, shop, number, key, by_number[number], now)
                for key, number in keys.items()
                if key not in known
            ],
            ignore_conflicts=True,
        )
        note_readings(source.blog_id, {key: by_number[number] for key, number in keys.items()}, now=now)


def _new(source: Source, shop: str, number: str, key: str, item: Item, now: datetime) -> Product:
    ask = source.ask
    return Product(
        blog_id=source.blog_id,
        shop=shop,
        number=number,
        key=key,
        source=source,
        connection=ask.connection if ask else None,
        title=_title(source, item),
        link=item.link[:4000],
        picture=_picture(item),
        # Before any reading of it, so that the first one is newer.
        read_at=datetime.fromtimestamp(0, tz=now.tzinfo),
        due_at=now,
        made_at=now,
    )


def _title(source: Source | None, item: Item) -> str:
    """Return the title of a product, no longer than the rights of its source allow."""
    if source is None or source.right == Right.FULL.value:
        return item.title[:300]
    rights = Rights(right=Right(source.right), words=source.right_words)
    return TemplateWords(rights, item, features_of(item)).title(item.title)[:300]


def _picture(item: Item) -> str:
    return next((medium.url for medium in item.media if medium.kind is MediaKind.PICTURE), "")[:4000]


@transaction.atomic
def note_readings(blog: int, items: dict[str, Item], *, now: datetime) -> None:
    """Note what was read of products, by their keys.

    A reading older than the noted one changes nothing.
    """
    rows = _locked(blog, items)
    if not rows:
        return
    document = offers_of(Blog.objects.values_list("offers", flat=True).get(pk=blog))
    past: list[OfferPast] = []
    changed: list[Product] = []
    were = {row.pk: row.availability for row in rows}
    for row in rows:
        if row.read_at >= now:
            continue
        item = items[row.key]
        before = offer_of(row) if row.price is not None else None
        reading = read_offer(item.facts, read_at=now, number=_stated_number(row), before=before)
        row.title, row.link, row.picture = _title(row.source, item), item.link[:4000], _picture(item)
        row.details, row.missing = read_details(item).stored(), 0
        past += _take(row, reading, before, document)
        changed.append(row)
    Product.objects.bulk_update(changed, _CHANGED, batch_size=200)
    _ask_posts_to_follow([row for row in changed if row.availability != were[row.pk]])
    follow_statements({row: str(items[row.key].facts.get("replaced_by", "")) for row in changed}, now=now)
    OfferPast.objects.bulk_create(past, ignore_conflicts=True)


def _stated_number(row: Product) -> str:
    """Return the number that a reading must state. Empty where the address stands in its place."""
    return "" if row.number == number_of({}, row.link) else row.number


def _locked(blog: int, keys: Iterable[str]) -> list[Product]:
    rows = Product.objects.filter(AnyOf("key", list(keys)), blog=blog).order_by("pk")
    return list(rows.select_related("source").select_for_update(of=("self",), no_key=True))


def _take(row: Product, reading: OfferReading, before: Offer | None, document: OfferDocument) -> list[OfferPast]:
    """Take the offer of a reading over into a product.

    Return its entry in the history, where something has changed.
    """
    rules = document.of_shop(row.shop)
    offer, fault = reading.offer, reading.fault
    was_held, row.held = row.held, None
    if fault is None and is_jump(before, offer, rules.jump_percent / 100):
        # The former price is no longer true, and the new one may be a mistake of the shop.
        row.held = {name: str(value) if (value := getattr(offer, name)) is not None else None for name in _HELD}
        if was_held and was_held.get("refused") and was_held["price"] == row.held["price"]:
            row.held["refused"] = True
        offer, fault = replace(offer, price=None, list_price=None), OfferFault.JUMP
        _give(row, offer)
        row.price, row.list_price, row.currency = (
            before.price if before else None,
            None,
            before.currency if before else "",
        )
    else:
        _give(row, offer)
    row.fault, row.said = (fault.value if fault else ""), reading.said
    row.due_at = next_reading(row.key, offer.read_at, rules.rules.limit)
    if fault is None and (before is None or _differs(before, offer)):
        return [
            OfferPast(
                product=row,
                at=offer.read_at,
                price=offer.price,
                list_price=offer.list_price,
                currency=offer.currency,
                availability=offer.availability.value,
            )
        ]
    return []


def _differs(before: Offer, offer: Offer) -> bool:
    kept = ("price", "list_price", "currency", "availability")
    return any(getattr(before, name) != getattr(offer, name) for name in kept)


def _give(row: Product, offer: Offer) -> None:
    row.price, row.list_price, row.currency = offer.price, offer.list_price, offer.currency
    row.availability, row.condition = offer.availability.value, offer.condition.value
    row.rating, row.rating_count = offer.rating, offer.rating_count
    row.until, row.read_at = offer.until, offer.read_at


@transaction.atomic
def note_missing(blog: int, keys: Sequence[str], *, now: datetime) -> None:
    """Note that a shop did not have products that it was asked for.

    After three readings they are withdrawn.
    """
    rows = [row for row in _locked(blog, keys) if row.read_at < now]
    document = offers_of(Blog.objects.values_list("offers", flat=True).get(pk=blog))
    for row in rows:
        row.missing += 1
        row.fault = OfferFault.MISSING.value
        limit = document.of_shop(row.shop).rules.limit
        row.due_at = now + limit * _AGAIN_WHEN_MISSING
        if row.missing >= _MISSING_UNTIL_GONE:
            # It may come back.
            row.availability, row.due_at = Availability.WITHDRAWN.value, now + limit * _AGAIN_WHEN_GONE
    Product.objects.bulk_update(rows, ["missing", "fault", "availability", "due_at"], batch_size=200)
    _ask_posts_to_follow([row for row in rows if row.missing == _MISSING_UNTIL_GONE])


_WHY = {
    Availability.WITHDRAWN: "The shop no longer sells it.",
    Availability.OUT_OF_STOCK: "It is sold out at the shop.",
}
_TOLD_TOGETHER = 200
_SAYS_SO = {Goods.MARK: True, Goods.KEEP: False}
_MOVES = {Goods.HOLD: PostState.HELD, Goods.TAKE_DOWN: PostState.BINNED}


def _ask_posts_to_follow(products: Sequence[Product]) -> None:
    """Queue the job of posts about products that cannot be bought any more.

    It is queued with the change. Readings hold rows of products, and posts wait for the turn of their blog.
    """
    gone = [row for row in products if Availability(row.availability) in _WHY]
    for first in range(0, len(gone), _TOLD_TOGETHER):
        numbers = ",".join(str(row.pk) for row in gone[first : first + _TOLD_TOGETHER])
        defer("let_posts_follow", blog=gone[0].blog_id, products=numbers)


def let_posts_follow(blog: int, products: Sequence[int], *, now: datetime) -> None:
    """Hold or bin the posts about products that cannot be bought any more, as they are now.

    Their campaigns say which.
    """
    rows = Product.objects.filter(blog=blog, pk__in=products, availability__in=[state.value for state in _WHY])
    gone = {row.key: Availability(row.availability) for row in rows}
    if not gone:
        return
    # A comparison stays: its other products can still be bought.
    about = Post.objects.filter(
        AnyOf("product", list(gone)), blog=blog, state=PostState.PUBLISHED.value, campaign__isnull=False
    )
    wanted: dict[int, Mapping[Availability, Goods]] = {}
    for post in about.select_related("campaign", "blog").defer("found_by", "body"):
        if post.campaign is None:
            continue
        if post.campaign.pk not in wanted:
            release = document_of(latest_revision(post.campaign)).release
            wanted[post.campaign.pk] = {
                Availability.WITHDRAWN: release.withdrawn,
                Availability.OUT_OF_STOCK: release.sold_out,
            }
        availability = gone[post.product]
        choice = wanted[post.campaign.pk][availability]
        if choice in _MOVES:
            move_post(post, _MOVES[choice], why=_WHY[availability], now=now)
        elif post.quiet_goods is _SAYS_SO[choice]:
            Post.objects.filter(pk=post.pk).update(quiet_goods=not _SAYS_SO[choice])


def thin_offers(*, now: datetime) -> None:
    """Remove what was priced and counted more than two years ago."""
    OfferPast.objects.filter(at__lt=now - _KEPT).delete()
    LinkCount.objects.filter(day__lt=(now - _KEPT).date()).delete()


def put_off(products: Sequence[Product], *, now: datetime, until: datetime | None = None) -> None:
    """Let products wait until a time.

    Without one, for half of the limit of their shop.
    """
    if until is not None:
        Product.objects.filter(pk__in=[product.pk for product in products], due_at__isnull=False).update(due_at=until)
        return
    for product in products:
        limit = offers_of(product.blog.offers).of_shop(product.shop).rules.limit
        product.due_at = now + limit / 2
    Product.objects.bulk_update(products, ["due_at"], batch_size=200)


def count_link(blog: Blog, *, post: int, product: int, block: str, day: date) -> None:
    """Count a followed link."""
    of_day = {"post_id": post, "product_id": product, "block": block, "day": day}
    if not LinkCount.objects.filter(**of_day).update(count=F("count") + 1):
        LinkCount.objects.bulk_create([LinkCount(blog=blog, **of_day)], ignore_conflicts=True)
        LinkCount.objects.filter(**of_day).update(count=F("count") + 1)


def read_soon(product: Product, *, now: datetime) -> None:
    """Let a product be read at the next round."""
    Product.objects.filter(pk=product.pk).update(due_at=now)


def decide_price(product: Product, *, take: bool, now: datetime) -> None:
    """Take over a held price, or show none until the shop asks another.

    Raises Conflict for none.
    """
    with transaction.atomic():
        row = Product.objects.select_for_update().get(pk=product.pk)
        if row.held is None:
            raise Conflict(f"No price of “{row.title}” waits any more.")
        held, row.held = row.held, None
        if take:
            row.price, row.list_price, row.currency = held["price"], held["list_price"], held["currency"]
            row.fault = ""
            OfferPast.objects.update_or_create(
                product=row,
                at=row.read_at,
                defaults={name: held[name] for name in _HELD} | {"availability": row.availability},
            )
        else:
            # The former price stays, so that the next reading is compared with it.
            row.held, row.due_at = {**held, "refused": True}, now
        row.save(update_fields=["held", "price", "list_price", "currency", "fault", "due_at"])
        record("offer.price_taken" if take else "offer.price_refused", row.title, blog=row.blog_id, after=held["price"])
    product.refresh_from_db()


def save_offers(blog: Blog, document: OfferDocument, *, begun: int | None) -> None:
    """Save what a blog says of shops.

    Raises Conflict where somebody has changed the blog's settings since.
    """
    before = blog.offers
    after: dict[str, Any] = document.model_dump(mode="json", exclude_defaults=True)
    with transaction.atomic():
        lock_version(blog, begun, blog.title)
        blog.offers = after
        blog.save(update_fields=["offers", "version"])
        record("offers.changed", blog.title, blog=blog.pk, before=before, after=after)
