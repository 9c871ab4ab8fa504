"""Products of shops with their newest offers, and what they cost before."""

from decimal import Decimal

from django.contrib.postgres.indexes import GinIndex, OpClass
from django.db import models
from django.db.models.expressions import CombinedExpression, OrderBy
from django.db.models.functions import Upper

__all__ = ["LinkCount", "OfferPast", "Product", "reduction"]


def reduction() -> CombinedExpression:
    """Return by what share of its list price a product is reduced, which an index has in order."""
    share = (models.F("list_price") - models.F("price")) / models.F("list_price")
    assert isinstance(share, CombinedExpression)  # noqa: S101 - the stubs know only that it can be combined
    return share


def _amount() -> "models.DecimalField[Decimal | None, Decimal | None]":
    return models.DecimalField(max_digits=14, decimal_places=4, null=True)


class Product(models.Model):
    """A product of a shop with its newest offer.

    One row, however many posts show it. ``shop`` is the key of a connection, with ``@`` and a region where prices
    differ by it, or the key of a source whose pages are read. ``key`` is how posts name it. ``read_at`` is the time of
    the reading that the offer is from; the newer reading wins.
    """

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="products")
    shop = models.CharField(max_length=70)
    number = models.CharField(max_length=80)
    key = models.CharField(max_length=400)
    # Where it was found first; its page is read again by it, where the shop has no connection.
    source = models.ForeignKey("sources.Source", on_delete=models.SET_NULL, null=True, related_name="+")
    connection = models.ForeignKey("platforms.Connection", on_delete=models.SET_NULL, null=True, related_name="+")
    title = models.CharField(max_length=300)
    link = models.CharField(max_length=4000)
    picture = models.CharField(max_length=4000, blank=True)
    price = _amount()
    list_price = _amount()
    currency = models.CharField(max_length=3, blank=True)
    availability = models.CharField(max_length=20, blank=True)
    condition = models.CharField(max_length=20, blank=True)
    rating = models.FloatField(null=True)
    rating_count = models.PositiveIntegerField(null=True)
    read_at = models.DateTimeField()
    # The shop's own end of the price.
    until = models.DateTimeField(null=True)
    # Features, pictures and reviews (``ProductDetails.stored`` in core).
    details = models.JSONField(default=dict, db_default={})
    # Why the last reading gave no price, with what the shop wrote; both empty after a good one.
    fault = models.CharField(max_length=20, blank=True)
    said = models.CharField(max_length=100, blank=True)
    # A price that differs so much that a person must look at it: {"price", "list_price", "currency"}.
    held = models.JSONField(null=True)
    # When to read it again.
    due_at = models.DateTimeField(null=True)
    # Readings in a row in which the shop did not have it.
    missing = models.PositiveSmallIntegerField(default=0)
    # The number of the product that takes its place, as the shop last stated it.
    replaced_by = models.CharField(max_length=80, blank=True, db_default="")
    # The product that takes its place in posts.
    successor = models.ForeignKey("self", on_delete=models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["blog", "key"], name="product_once_in_a_blog"),
            models.CheckConstraint(
                condition=models.Q(price=None) | (models.Q(price__gt=0) & ~models.Q(currency="")),
                name="a_price_is_positive_and_has_a_currency",
            ),
        ]
        indexes = [
            models.Index(fields=["due_at"], condition=models.Q(due_at__isnull=False), name="product_due"),
            models.Index(fields=["blog", "title", "id"], name="product_by_title"),
            models.Index(fields=["blog", "-read_at", "-id"], name="product_by_reading"),
            models.Index(fields=["blog", "price", "id"], name="product_by_price"),
            models.Index(
                "blog",
                OrderBy(reduction(), descending=True),
                "id",
                condition=models.Q(list_price__gt=models.F("price")),
                name="product_by_reduction",
            ),
            models.Index(fields=["blog", "fault"], condition=~models.Q(fault=""), name="product_with_fault"),
            models.Index(fields=["connection", "due_at"], name="product_by_connection"),
            models.Index(fields=["blog", "id"], condition=models.Q(held__isnull=False), name="product_held"),
            models.Index(fields=["blog", "-until"], condition=models.Q(until__isnull=False), name="product_until"),
            GinIndex(OpClass(Upper("title"), name="gin_trgm_ops"), name="product_title_search"),
            GinIndex(OpClass(Upper("number"), name="gin_trgm_ops"), name="product_number_search"),
        ]


class OfferPast(models.Model):
    """What a product cost from a time on: a row for each change."""

    product = models.ForeignKey(Product, on_delete=models.CASCADE, related_name="past")
    at = models.DateTimeField()
    price = _amount()
    list_price = _amount()
    currency = models.CharField(max_length=3, blank=True)
    availability = models.CharField(max_length=20, blank=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["product", "at"], name="past_once_at_a_time")]


class LinkCount(models.Model):
    """How often the link of an offer was followed on a day, from a block of a post."""

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="+")
    post = models.ForeignKey("posts.Post", on_delete=models.CASCADE, related_name="+")
    product = models.ForeignKey(Product, on_delete=models.CASCADE, related_name="+")
    block = models.CharField(max_length=12)
    day = models.DateField()
    count = models.PositiveIntegerField(default=0)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["post", "product", "block", "day"], name="link_counted_once_a_day")
        ]
        indexes = [models.Index(fields=["blog", "day"], name="link_count_by_day")]
