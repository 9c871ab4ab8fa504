"""Sources, the log of their readings, and address templates."""

from django.contrib.postgres.fields import ArrayField
from django.contrib.postgres.indexes import GinIndex
from django.db import models

__all__ = ["AddressPattern", "Reading", "Source"]


class Source(models.Model):
    """A feed or site of a blog. ``key`` names it in documents.

    ``right`` is what may be republished. ``keyword`` is the search of a source that is a search. With ``reads_pages``
    the page of a new item is fetched for its picture.
    """

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="sources")
    key = models.CharField(max_length=60)
    url = models.CharField(max_length=2000)
    title = models.CharField(max_length=300)
    link = models.CharField(max_length=2000, blank=True)
    format = models.CharField(max_length=40, blank=True)
    # How its pages are read, where it is no feed.
    reader = models.ForeignKey("pages.Reader", null=True, on_delete=models.RESTRICT, related_name="sources")
    # The platform it is read from, with what connection, and what is asked of it (``platforms/`` in core).
    platform = models.CharField(max_length=20, blank=True)
    connection = models.ForeignKey("platforms.Connection", null=True, on_delete=models.RESTRICT, related_name="sources")
    parameters = models.JSONField(default=dict)
    # Lines of search words: ``{"text": …, "on": …}``.
    search_words = models.JSONField(default=list)
    language = models.CharField(max_length=35, blank=True)
    etag = models.CharField(max_length=500, blank=True)
    last_modified = models.CharField(max_length=100, blank=True)
    right = models.CharField(max_length=10, default="full")
    right_words = models.PositiveIntegerField(default=100)
    attribution = models.CharField(max_length=300, blank=True)
    keyword = models.CharField(max_length=80, blank=True)
    reads_pages = models.BooleanField(default=False)
    # The text of the page that an item links to is taken where it has so many words more; 0 where no page is asked.
    full_text_words = models.PositiveIntegerField(default=0)
    # Where that text stands: by a page reader, at a selector, or (both empty) by how the page is built.
    text_reader = models.ForeignKey(
        "pages.Reader", null=True, on_delete=models.RESTRICT, related_name="completed_sources"
    )
    text_selector = models.CharField(max_length=500, blank=True)
    # Whether its pages are read as they stand after their scripts have run.
    rendered = models.BooleanField(default=False)
    # Hosts that they may be given from besides their own.
    rendered_hosts = ArrayField(models.CharField(max_length=200), default=list)
    # Whether the layout of its site has changed under its reader: its posts are held until a person has looked.
    in_doubt = models.BooleanField(default=False)
    # A person's own grouping.
    labels = ArrayField(models.CharField(max_length=60), default=list)
    # No run reads it while it is paused.
    paused = models.BooleanField(default=False)
    # It was asked to be withdrawn: nothing reads it, and no campaign decides its items.
    blocked_at = models.DateTimeField(null=True)
    # The least pause between two requests to its host, in milliseconds.
    pause_ms = models.PositiveIntegerField(default=0)
    # Whether a certificate is taken that nobody vouches for.
    any_certificate = models.BooleanField(default=False)
    # Own request headers, user and password, encrypted (``common/seal.py``). Never given out again.
    access_sealed = models.TextField(blank=True)
    # Where permanent redirects have led, and at how many readings in a row.
    moved_to = models.CharField(max_length=2000, blank=True)
    moved_times = models.PositiveSmallIntegerField(default=0)
    # The address it was read at before it moved for good.
    former_url = models.CharField(max_length=2000, blank=True)
    added_at = models.DateTimeField()
    # How many items it has. The database itself counts (a trigger on the items), since counting a million takes long.
    item_count = models.PositiveIntegerField(default=0, editable=False)
    removed_at = models.DateTimeField(null=True, blank=True)
    # Before this time no schedule reads it: it asked to be left alone, failed, or is being read now.
    next_read_at = models.DateTimeField(null=True)
    # The hub that its feed names, and what the feed calls itself there (WebSub 4); none where it names no hub.
    hub = models.CharField(max_length=2000, blank=True)
    topic = models.CharField(max_length=2000, blank=True)
    # Until when a hub pushes what is new, so that it is read by itself only now and then.
    pushed_until = models.DateTimeField(null=True)
    # Hours of the day (UTC) at which it asks not to be read.
    skip_hours = ArrayField(models.PositiveSmallIntegerField(), default=list)
    # Readings that failed in a row, and since when; ``gone_at`` is when it answered 410.
    failures = models.PositiveIntegerField(default=0)
    failing_since = models.DateTimeField(null=True)
    gone_at = models.DateTimeField(null=True)
    # How it does (``health.py`` in core), judged after each reading, with the values that say why.
    health = models.CharField(max_length=10, default="unread")
    health_data = models.JSONField(default=dict)
    judged_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [
            models.Index(fields=["blog", "health"], name="source_by_health"),
            GinIndex(fields=["labels"], name="source_by_label"),
        ]
        constraints = [
            models.CheckConstraint(condition=models.Q(right__in=["full", "excerpt", "link"]), name="right_is_known"),
            models.UniqueConstraint(fields=["blog", "key"], name="source_key_once"),
            models.UniqueConstraint(
                fields=["blog", "url"], condition=models.Q(removed_at__isnull=True), name="source_address_once"
            ),
        ]


class Reading(models.Model):
    """One attempt to read a source. ``error`` is a code.

    Empty on success.
    """

    source = models.ForeignKey(Source, on_delete=models.CASCADE, related_name="readings")
    at = models.DateTimeField()
    milliseconds = models.PositiveIntegerField(default=0)
    not_modified = models.BooleanField(default=False)
    found = models.PositiveIntegerField(default=0)
    fresh = models.PositiveIntegerField(default=0)
    error = models.CharField(max_length=40, blank=True)
    detail = models.CharField(max_length=500, blank=True)
    warnings = models.JSONField(default=list)
    # What the server answered with (RFC 9110, 15), and how many bytes the body had; 0 where nothing came.
    status = models.PositiveSmallIntegerField(default=0)
    size = models.PositiveIntegerField(default=0)

    class Meta:
        indexes = [
            models.Index(fields=["source", "-at"], name="reading_by_source"),
            models.Index(fields=["at"], name="reading_by_time"),
        ]


class AddressPattern(models.Model):
    """An address template shared by many feeds: ``https://film.example/feed?channel={channel}``."""

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="address_patterns")
    name = models.CharField(max_length=100)
    address = models.CharField(max_length=2000)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["blog", "name"], name="address_pattern_once")]
