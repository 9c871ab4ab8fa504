"""Reading the offers that are due, within the quota of their shop."""

import logging
from collections import defaultdict
from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import TYPE_CHECKING

from django.core.cache import cache
from glyptarch_core.errors import ParseError
from glyptarch_core.item import Item
from glyptarch_core.offers import ToRead, chosen_to_read, keeps_fresh, number_of, offers_of
from glyptarch_core.pages.desk import RawPage, article_item, article_of
from glyptarch_core.pages.document import ReaderDocument
from glyptarch_core.pages.reading import ArticleRead
from glyptarch_core.platforms import platform_of
from glyptarch_core.platforms.asking import Source as Asked
from glyptarch_core.platforms.model import PlatformPage

from glyptarch_server import wiring
from glyptarch_server.common.problems import Conflict
from glyptarch_server.offers.actions import note_missing, note_readings, put_off
from glyptarch_server.offers.queries import all_seen, claim_due, number_read_with, seen_of
from glyptarch_server.pages.fetching import fetch_pages
from glyptarch_server.pages.queries import document_of
from glyptarch_server.platforms.actions import note_answer, take_request
from glyptarch_server.platforms.gathering import first_answer
from glyptarch_server.platforms.queries import keys_sharing, limit_of
from glyptarch_server.sources.access import request_for
from glyptarch_server.wiring import FetchCode, FetchError, FetchPortal, FetchRequest

if TYPE_CHECKING:
    from glyptarch_server.offers.models import Product
    from glyptarch_server.platforms.models import Connection

__all__ = ["read_due"]

_log = logging.getLogger("glyptarch.offers")

_WHO = "offers"
"""The name under which refreshing uses the quota of a connection, beside its sources."""
_AGAIN_AFTER_A_FAULT = timedelta(minutes=15)
_KEPT_SECONDS = 600
_PAGES_AT_ONCE = 20
"""Pages of shops read in one round: each may take seconds, and a claim holds for five minutes."""
_GONE = frozenset({FetchCode.NOT_FOUND, FetchCode.GONE})


def read_due(fetcher: FetchPortal, *, now: datetime) -> int:
    """Read the products that are due. Return how many were read.

    Each is claimed by one worker. Products that no published post shows are put off without a request.
    """
    claimed = claim_due(now)
    read = 0
    by_blog: dict[int, list[Product]] = defaultdict(list)
    for product in claimed:
        by_blog[product.blog_id].append(product)
    for blog, products in by_blog.items():
        seen = seen_of(blog, [product.key for product in products])
        put_off([product for product in products if product.key not in seen], now=now)
        by_shop: dict[tuple[int | None, str], list[Product]] = defaultdict(list)
        for product in products:
            if product.key in seen:
                by_shop[product.connection_id, product.shop].append(product)
        for (number, shop), of_shop in by_shop.items():
            connection = of_shop[0].connection
            if number is not None and connection is not None and _together(connection):
                read += _read_of_shop(shop, connection, of_shop, seen, fetcher, now=now)
            else:
                read += sum(_read_page(product, fetcher, now=now) for product in of_shop[:_PAGES_AT_ONCE])
                put_off(of_shop[_PAGES_AT_ONCE:], now=now, until=now)
    return read


def _together(connection: "Connection") -> int:
    platform = platform_of(connection.platform)
    return platform.products_together if platform else 0


def _within_quota(
    connection: "Connection", products: "Sequence[Product]", seen: dict[str, int], shared: int
) -> "list[Product]":
    """Return the products that the quota can keep fresh, what ends soonest first."""
    by_key = {product.key: product for product in products}
    limit = limit_of(connection)
    rules = offers_of(products[0].blog.offers).of_shop(products[0].shop).rules
    if limit:
        room = keeps_fresh(limit // (shared + 1), together=_together(connection), limit=rules.limit)
        if number_read_with(connection) > room:
            kept = _kept_fresh(connection, room)
            by_key = {key: product for key, product in by_key.items() if key in kept}
    due = [ToRead(key=key, ends=product.read_at, seen=seen[key]) for key, product in by_key.items()]
    return [by_key[one.key] for one in chosen_to_read(due, room=len(due))]


def _kept_fresh(connection: "Connection", room: int) -> frozenset[str]:
    """Return the keys of the products that a quota keeps fresh.

    They are the same ones for long, so that some are fresh every day. Finding them reads all posts of the blog, so each
    worker does it every ten minutes at most.
    """

    def find() -> frozenset[str]:
        now = wiring.clock()()
        seen = all_seen(connection, now)
        ranked = [ToRead(key=key, ends=now, seen=number) for key, number in seen.items()]
        return frozenset(product.key for product in chosen_to_read(ranked, room=room))

    kept: frozenset[str] | None = cache.get_or_set(f"offers-kept-{connection.pk}-{room}", find, _KEPT_SECONDS)
    return kept or frozenset()


def _read_of_shop(
    shop: str,
    connection: "Connection",
    products: "Sequence[Product]",
    seen: dict[str, int],
    fetcher: FetchPortal,
    *,
    now: datetime,
) -> int:
    sharing = keys_sharing(connection)
    kept = _within_quota(connection, products, seen, len(sharing))
    chosen = {product.pk for product in kept}
    put_off([product for product in products if product.pk not in chosen], now=now)
    read, together = 0, _together(connection)
    for first in range(0, len(kept), together):
        some = kept[first : first + together]
        refused = take_request(connection, _WHO, [*sharing, _WHO], now=now)
        if refused is not None:
            put_off(kept[first:], now=now, until=refused.until)
            break
        if not _read_some(shop, connection, some, fetcher):
            put_off(kept[first:], now=now, until=now + _AGAIN_AFTER_A_FAULT)
            break
        read += len(some)
    return read


def _read_some(shop: str, connection: "Connection", products: "Sequence[Product]", fetcher: FetchPortal) -> bool:
    """Read some products with one request. Return whether the shop answered."""
    platform = platform_of(connection.platform)
    region = shop.partition("@")[2]
    numbers = [product.number for product in products]
    parameters = platform.parameters_for(numbers, region) if platform else {}
    try:
        answer, page = first_answer(
            Asked(platform=connection.platform, parameters=parameters), "", connection, fetcher=fetcher
        )
    except (ParseError, Conflict):
        _log.warning("The offers of “%s” could not be asked for.", connection.key, exc_info=True)
        return False
    note_answer(connection, answer, now=wiring.clock()())
    if not isinstance(page, PlatformPage):
        return False
    at = wiring.clock()()
    stated = {number_of(item.facts, item.link): item for item in page.items}
    items = {product.key: stated[product.number] for product in products if product.number in stated}
    note_readings(products[0].blog_id, items, now=at)
    note_missing(products[0].blog_id, [product.key for product in products if product.number not in stated], now=at)
    return True


def _read_page(product: "Product", fetcher: FetchPortal, *, now: datetime) -> bool:
    """Read a product by its page, with the page reader of its source.

    Return whether it was read.
    """

    def request(url: str) -> FetchRequest:
        return request_for(product.source, url=url) if product.source else FetchRequest(url=url)

    (answer,) = fetch_pages([product.link], request_for=request, fetcher=fetcher, now=now)
    if isinstance(answer, FetchError):
        if answer.code in _GONE:
            note_missing(product.blog_id, [product.key], now=wiring.clock()())
        else:
            put_off([product], now=now, until=now + _AGAIN_AFTER_A_FAULT)
        return False
    item = _item_on(product, RawPage(body=answer.body, url=answer.url, content_type=answer.content_type), now=now)
    if item is None:
        put_off([product], now=now, until=now + _AGAIN_AFTER_A_FAULT)
        return False
    note_readings(product.blog_id, {product.key: item}, now=wiring.clock()())
    return True


def _item_on(product: "Product", raw: RawPage, *, now: datetime) -> Item | None:
    reader = product.source.reader if product.source else None
    document = document_of(reader) if reader else ReaderDocument()
    try:
        read = wiring.apart().ask(article_of, raw, document.article, now)
        if not isinstance(read, ArticleRead):
            return None
        made = wiring.apart().ask(article_item, read, product.source.key if product.source else "", None, "", ())
    except ParseError:
        return None
    return made.item
