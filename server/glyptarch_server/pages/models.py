"""Readers of pages, and pages as they were when they were read."""

from django.db import models

from glyptarch_server.common.versions import Versioned

__all__ = ["Reader", "Site", "Snapshot"]


class Reader(Versioned):
    """A page reader: its document, and the history of its readings.

    ``tallies`` are the counts of the last readings, ``known`` the values of the newest articles, ``drift`` the counts
    that have dropped since the layout changed; empty while all is well.
    """

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="readers")
    key = models.CharField(max_length=60)
    name = models.CharField(max_length=300)
    url = models.CharField(max_length=2000)
    document = models.JSONField()
    made_at = models.DateTimeField()
    changed_at = models.DateTimeField()
    tallies = models.JSONField(default=list)
    known = models.JSONField(default=list)
    drift = models.JSONField(default=list)
    drifted_at = models.DateTimeField(null=True)
    # The list where the change was seen; a reader may read several of one site.
    drifted_of = models.CharField(max_length=2000, blank=True)
    # Whether a certain repair is applied automatically, and reported.
    mends_itself = models.BooleanField(default=False)
    mended_at = models.DateTimeField(null=True)
    removed_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["blog", "key"], name="reader_key_once")]


class Site(models.Model):
    """The texts of a site's last articles as keys, so that what repeats is seen."""

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="sites")
    # With its port, in lower case.
    host = models.CharField(max_length=255)
    pages = models.JSONField(default=list)
    changed_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["blog", "host"], name="site_once")]
        indexes = [models.Index(fields=["blog", "-changed_at"], name="site_by_blog")]


class Snapshot(models.Model):
    """A stored page, compressed (zlib). ``reader`` is the reader that stored it.

    None for pages opened by a person.
    """

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="snapshots")
    reader = models.ForeignKey(Reader, null=True, on_delete=models.CASCADE, related_name="snapshots")
    url = models.CharField(max_length=2000)
    content_type = models.CharField(max_length=200, blank=True)
    body = models.BinaryField()
    size = models.PositiveIntegerField()
    taken_at = models.DateTimeField()
    # Whether it is a list; otherwise it is an article.
    lists = models.BooleanField(default=False)

    class Meta:
        indexes = [
            models.Index(fields=["blog", "-taken_at"], name="snapshot_by_blog"),
            models.Index(fields=["reader", "-taken_at"], name="snapshot_by_reader"),
        ]
