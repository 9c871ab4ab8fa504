"""Products that take the place of others in posts: named by a person, or stated by the shop."""

from collections.abc import Mapping
from datetime import datetime

from django.db import transaction
from glyptarch_core.offers import number_of, product_key

from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.common.problems import Invalid
from glyptarch_server.offers.models import Product
from glyptarch_server.offers.queries import by_key

__all__ = ["follow_statements", "name_successor"]

_NEVER_READ = 0


def name_successor(blog: Blog, product: Product, key: str) -> None:
    """Let another product take a product's place in all posts, or none for an empty key.

    Raises Invalid for itself.
    """
    successor = by_key(blog, key) if key else None
    if successor is not None and product.pk in {successor.pk, successor.successor_id}:
        raise Invalid("A product cannot take its own place.")
    with transaction.atomic():
        _put_in_place(product, successor)


def follow_statements(stated: Mapping[Product, str], *, now: datetime) -> None:
    """Follow the shop where a reading states by which number a product is replaced.

    Each statement counts once, so that what a person decides afterwards stays. A product that is not on record yet is
    put there, where its shop can be asked for it by number.
    """
    new = {row: number_of({"sku": number}, "") for row, number in stated.items() if number}
    new = {row: number for row, number in new.items() if number not in {row.replaced_by, row.number}}
    if not new:
        return
    keys = {row: product_key(row.shop, number) for row, number in new.items()}
    found = _on_record(new, keys, now)
    for row, number in new.items():
        successor = found.get((row.blog_id, keys[row]))
        if successor is None or successor.successor_id == row.pk:
            continue
        row.replaced_by = number
        row.save(update_fields=["replaced_by"])
        if row.successor_id is None:
            _put_in_place(row, successor)


def _on_record(
    new: Mapping[Product, str], keys: Mapping[Product, str], now: datetime
) -> dict[tuple[int, str], Product]:
    """Return the products of these keys, by blog and key.

    New ones are made for those that can be asked for.
    """
    blogs = {row.blog_id for row in new}
    Product.objects.bulk_create(
        [
            Product(
                blog_id=row.blog_id,
                shop=row.shop,
                number=number,
                key=keys[row],
                source_id=row.source_id,
                connection_id=row.connection_id,
                # Until it is read itself, it is known by what it replaces only.
                title=row.title,
                link=row.link,
                read_at=datetime.fromtimestamp(_NEVER_READ, tz=now.tzinfo),
                due_at=now,
                made_at=now,
            )
            for row, number in new.items()
            if row.connection_id is not None
        ],
        ignore_conflicts=True,
    )
    rows = Product.objects.filter(AnyOf("key", list(keys.values())), blog__in=blogs)
    return {(row.blog_id, row.key): row for row in rows}


def _put_in_place(product: Product, successor: Product | None) -> None:
    """Let a product be replaced, with all that it replaces itself: pages look one step far."""
    last = (successor.successor or successor) if successor is not None else None
    product.successor = last
    product.save(update_fields=["successor"])
    if last is not None:
        Product.objects.filter(successor=product).exclude(pk=last.pk).update(successor=last)
    record("offer.successor", product.title, blog=product.blog_id, after=last.title if last else "")
