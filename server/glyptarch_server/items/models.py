"""Captured items."""

from django.db import models

__all__ = ["Item"]


class Item(models.Model):
    """One entry as a source gave it last, with what was read off it once.

    ``text``, ``summary_text``, ``folded`` (the words of the text), ``print`` and the keys are the
    item's features, as the core computes them.
    ``dated`` is the time it counts from: published, else updated, else captured.
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
    print = models.BinaryField(default=bytes)
    words = models.PositiveIntegerField(default=0)
    identity_key = models.CharField(max_length=2100, blank=True)
    link_key = models.CharField(max_length=4000, blank=True)
    title_key = models.CharField(max_length=1100, blank=True)
    content_hash = models.CharField(max_length=64)
    captured_at = models.DateTimeField()
    changed_at = models.DateTimeField()
    dated = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["source", "identity_hash"], name="item_once_in_a_source")]
        indexes = [models.Index(fields=["source", "-dated"], name="item_by_source")]
