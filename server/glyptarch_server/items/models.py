"""Captured items."""

from django.contrib.postgres.indexes import GinIndex, OpClass
from django.db import models
from django.db.models.functions import Upper

__all__ = ["Block", "Item", "Sample"]


class Item(models.Model):
    """The latest state of one entry of a source, with its features.

    ``text``, ``summary_text``, ``folded`` (the words of the text), ``fingerprint`` and the keys are the features
    computed by the core. ``dated`` is published, else updated, else captured. ``page_asked_at`` is when the linked page
    was fetched for picture or text, ``page`` the outcome for the text.
    """

    source = models.ForeignKey("sources.Source", on_delete=models.CASCADE, related_name="items")
    identity = models.CharField(max_length=2000)
    identity_hash = models.CharField(max_length=64)
    link = models.CharField(max_length=4000, blank=True)
    title = models.CharField(max_length=1000, blank=True)
    summary = models.TextField(blank=True)
    body = models.TextField(blank=True)
    authors = models.JSONField(default=list)
    categories = models.JSONField(default=list)
    published = models.DateTimeField(null=True)
    updated = models.DateTimeField(null=True)
    media = models.JSONField(default=list)
    language = models.CharField(max_length=35, blank=True)
    credit = models.JSONField(null=True)
    facts = models.JSONField(default=dict)
    raw = models.JSONField(default=dict)
    text = models.TextField(blank=True)
    summary_text = models.TextField(blank=True)
    folded = models.TextField(blank=True)
    fingerprint = models.BinaryField(default=bytes)
    words = models.PositiveIntegerField(default=0)
    # As its text shows it, only where its source states none.
    found_language = models.CharField(max_length=8, blank=True, db_default="")
    identity_key = models.CharField(max_length=2100, blank=True)
    link_key = models.CharField(max_length=4000, blank=True)
    title_key = models.CharField(max_length=1100, blank=True)
    # The version of the features above (``FEATURES_VERSION`` in core).
    features_version = models.PositiveSmallIntegerField(default=1)
    content_hash = models.CharField(max_length=64)
    # The mark by which an unchanged entry is recognised without reading it; empty to read it each time.
    entry_mark = models.CharField(max_length=32, blank=True)
    captured_at = models.DateTimeField()
    changed_at = models.DateTimeField()
    # When its source last corrected it, or its page gave a longer text.
    corrected_at = models.DateTimeField(null=True)
    dated = models.DateTimeField()
    page_asked_at = models.DateTimeField(null=True)
    page = models.CharField(max_length=12, blank=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["source", "identity_hash"], name="item_once_in_a_source"),
            # Without features no rule would find a duplicate. Version 0 is computed again by a job.
            models.CheckConstraint(
                condition=~models.Q(link__startswith="http") | ~models.Q(link_key="") | models.Q(features_version=0),
                name="item_has_features",
            ),
        ]
        indexes = [
            models.Index(fields=["source", "-dated"], name="item_by_source"),
            models.Index(fields=["features_version"], name="item_by_features_version"),
            GinIndex(OpClass(Upper("title"), name="gin_trgm_ops"), name="item_title_search"),
            models.Index(fields=["captured_at"], condition=~models.Q(raw={}), name="item_with_payload"),
            models.Index(
                fields=["corrected_at"], condition=models.Q(corrected_at__isnull=False), name="item_corrected"
            ),
            models.Index(
                fields=["source", "-dated"], condition=models.Q(page_asked_at=None), name="item_with_a_page_to_ask"
            ),
        ]


class Sample(models.Model):
    """A feed for proofs only: pasted, uploaded or fetched once. It is not a source."""

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="samples")
    name = models.CharField(max_length=300)
    url = models.CharField(max_length=2000, blank=True)
    content_type = models.CharField(max_length=200, blank=True)
    body = models.BinaryField()
    items = models.PositiveIntegerField(default=0)
    made_at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["blog", "-made_at"], name="sample_by_blog")]


class Block(models.Model):
    """A link that no campaign of a blog may import, because its withdrawal was requested."""

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="+")
    link_key = models.CharField(max_length=4000)
    link_hash = models.CharField(max_length=64)
    at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["blog", "link_hash"], name="block_once")]
