"""Sources, the log of their readings, and address templates."""

from django.contrib.postgres.fields import ArrayField
from django.contrib.postgres.indexes import GinIndex
from django.db import models

from glyptarch_server.common.versions import Versioned

__all__ = [
    "AddressPattern",
    "FullText",
    "PendingReading",
    "PlatformAsk",
    "ReadRequest",
    "Reading",
    "Source",
    "SourceAccess",
    "SourceState",
]


class _WithParts(models.Manager["Source"]):
    """Loads sources together with their parts."""

    def get_queryset(self) -> models.QuerySet["Source"]:
        return super().get_queryset().select_related("state", "access_row", "full_text_row", "ask_row")


class Source(Versioned):
    """A feed, site or platform of a blog: its identity, rights and labels.

    ``key`` names it in documents. A site has a page ``reader``, a platform an ``ask``. ``right`` is what may be
    republished. ``keyword`` is the search of a source that is a search. With ``reads_pages`` the page of a new item is
    fetched for its picture.
    """

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="sources")
    key = models.CharField(max_length=60)
    url = models.CharField(max_length=2000)
    title = models.CharField(max_length=300)
    # The page reader of a site without a feed.
    reader = models.ForeignKey("pages.Reader", null=True, on_delete=models.RESTRICT, related_name="sources")
    right = models.CharField(max_length=10, default="excerpt")
    # Whether a person has said so. Until then it is an excerpt.
    right_said = models.BooleanField(default=False)
    right_words = models.PositiveIntegerField(default=100)
    attribution = models.CharField(max_length=300, blank=True)
    keyword = models.CharField(max_length=80, blank=True)
    reads_pages = models.BooleanField(default=False)
    # Whether its pages are read after their scripts have run.
    rendered = models.BooleanField(default=False)
    # Further hosts that its pages may load from.
    rendered_hosts = ArrayField(models.CharField(max_length=200), default=list)
    # Labels set by people.
    labels = ArrayField(models.CharField(max_length=60), default=list)
    # Paused sources are not read.
    paused = models.BooleanField(default=False)
    # When it was withdrawn on request; it is not read, and its items are not decided.
    blocked_at = models.DateTimeField(null=True)
    # The address before it moved permanently.
    former_url = models.CharField(max_length=2000, blank=True)
    added_at = models.DateTimeField()
    removed_at = models.DateTimeField(null=True, blank=True)

    objects = _WithParts()

    class Meta:
        indexes = [
            GinIndex(fields=["labels"], name="source_by_label"),
        ]
        constraints = [
            models.CheckConstraint(condition=models.Q(right__in=["full", "excerpt", "link"]), name="right_is_known"),
            models.UniqueConstraint(fields=["blog", "key"], name="source_key_once"),
            models.UniqueConstraint(
                fields=["blog", "url"], condition=models.Q(removed_at__isnull=True), name="source_address_once"
            ),
        ]

    @property
    def ask(self) -> "PlatformAsk | None":
        """What it asks a platform for, None for a feed or a site."""
        return getattr(self, "ask_row", None)

    @property
    def access(self) -> "SourceAccess":
        """How its host is asked: as stored, or the usual way."""
        return getattr(self, "access_row", None) or SourceAccess(source=self)

    @property
    def full_text(self) -> "FullText":
        """How its items get the texts of their pages: as stored, or not at all."""
        return getattr(self, "full_text_row", None) or FullText(source=self)


class PlatformAsk(models.Model):
    """What a source asks a platform for, with which connection.

    ``parameters`` are those of ``platforms/`` in core.
    """

    source = models.OneToOneField(Source, on_delete=models.CASCADE, primary_key=True, related_name="ask_row")
    platform = models.CharField(max_length=20)
    connection = models.ForeignKey("platforms.Connection", null=True, on_delete=models.RESTRICT, related_name="asks")
    parameters = models.JSONField(default=dict)
    # Search lines: ``{"text": …, "on": …}``.
    search_words = models.JSONField(default=list)


class SourceAccess(models.Model):
    """How the host of a source is asked, where that is not the usual way."""

    source = models.OneToOneField(Source, on_delete=models.CASCADE, primary_key=True, related_name="access_row")
    # Request headers, user and password, encrypted (``common/seal.py``) and never returned.
    sealed = models.TextField(blank=True)
    # Whether an untrusted certificate is accepted.
    any_certificate = models.BooleanField(default=False)
    # The minimum pause between two requests to its host, in milliseconds.
    pause_ms = models.PositiveIntegerField(default=0)
    # How long an answer of it may take, in seconds; 0 for as long as any other.
    patience_s = models.PositiveSmallIntegerField(default=0)
    # How often it is asked in one reading, where a failure may pass.
    tries = models.PositiveSmallIntegerField(default=1)


class FullText(models.Model):
    """When and from where the items of a source get the texts of their pages."""

    source = models.OneToOneField(Source, on_delete=models.CASCADE, primary_key=True, related_name="full_text_row")
    # The text of a page is used where it has this many more words; 0 fetches no page.
    words = models.PositiveIntegerField(default=0)
    # The place of that text: a page reader, a selector, or (both empty) the main text.
    reader = models.ForeignKey("pages.Reader", null=True, on_delete=models.RESTRICT, related_name="full_texts")
    selector = models.CharField(max_length=500, blank=True)


class SourceState(models.Model):
    """What readings found out about a source, written by readers alone.

    People write the source itself, so neither waits for the other. A database trigger makes the row with its source.
    """

    source = models.OneToOneField(Source, on_delete=models.CASCADE, primary_key=True, related_name="state")
    format = models.CharField(max_length=40, blank=True)
    # What the feed calls itself.
    title = models.CharField(max_length=300, blank=True)
    link = models.CharField(max_length=2000, blank=True)
    language = models.CharField(max_length=35, blank=True)
    etag = models.CharField(max_length=500, blank=True)
    last_modified = models.CharField(max_length=100, blank=True)
    # By search line the page at which the last reading broke off.
    broken_off = models.JSONField(default=dict)
    # No schedule reads it before this time: it asked for a pause, failed, or is being read.
    next_read_at = models.DateTimeField(null=True)
    # Hours of the day (UTC) in which it asks not to be read.
    skip_hours = ArrayField(models.PositiveSmallIntegerField(), default=list)
    # Failures in a row and the first of them; ``gone_at`` is the time of a 410.
    failures = models.PositiveIntegerField(default=0)
    failing_since = models.DateTimeField(null=True)
    gone_at = models.DateTimeField(null=True)
    # The code of the last failed reading (``causes.py`` in core); empty after a good one.
    error = models.CharField(max_length=40, blank=True)
    # The last ten readings as bits, the latest in the lowest; a failed one is 1.
    lately = models.PositiveSmallIntegerField(default=0)
    # When it last gave something to read; an answer that nothing has changed does not count.
    given_at = models.DateTimeField(null=True)
    # The health (``health.py`` in core) after each reading, with its reasons.
    health = models.CharField(max_length=10, default="unread")
    health_data = models.JSONField(default=dict)
    judged_at = models.DateTimeField(null=True)
    # Whether its layout has changed under its reader; posts are then held.
    in_doubt = models.BooleanField(default=False)
    # The target of permanent redirects, and the number of readings in a row that led there.
    moved_to = models.CharField(max_length=2000, blank=True)
    moved_times = models.PositiveSmallIntegerField(default=0)
    # The hub and self link of its feed (WebSub 4); empty without a hub.
    hub = models.CharField(max_length=2000, blank=True)
    topic = models.CharField(max_length=2000, blank=True)
    # Until then a hub pushes news, and polling is rare.
    pushed_until = models.DateTimeField(null=True)
    # The number of its items, counted by a database trigger, since counting a million takes long.
    item_count = models.PositiveIntegerField(default=0, editable=False)

    class Meta:
        indexes = [models.Index(fields=["health"], name="source_by_health")]


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
    # HTTP status (RFC 9110, 15) and body size in bytes; 0 where nothing came.
    status = models.PositiveSmallIntegerField(default=0)
    size = models.PositiveIntegerField(default=0)

    class Meta:
        indexes = [
            models.Index(fields=["source", "-at"], name="reading_by_source"),
            models.Index(fields=["at"], name="reading_by_time"),
        ]


class PendingReading(models.Model):
    """A source that is to be read: once, for all that asked for it.

    A reader claims it for a short time and renews the claim while it reads. ``slow`` sources need several requests, and
    are read apart from plain feeds.
    """

    source = models.OneToOneField(Source, on_delete=models.CASCADE, primary_key=True, related_name="+")
    slow = models.BooleanField()
    # Its place among those that wait: the lowest comes first.
    turn = models.PositiveBigIntegerField()
    claimed_by = models.CharField(max_length=40, blank=True)
    claimed_until = models.DateTimeField(null=True)

    class Meta:
        indexes = [
            models.Index(fields=["slow", "turn", "source"], name="pending_by_turn"),
            models.Index(fields=["claimed_by"], name="pending_by_reader"),
        ]


class ReadRequest(models.Model):
    """A task's wish that a source be read, and the reading once it was.

    An answered one without a reading concerns a source that may not be read any more.
    """

    task = models.ForeignKey("tasks.Task", on_delete=models.CASCADE, related_name="+")
    source = models.ForeignKey(Source, on_delete=models.CASCADE, related_name="+")
    reading = models.ForeignKey(Reading, on_delete=models.SET_NULL, null=True, related_name="+")
    answered = models.BooleanField(default=False)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["task", "source"], name="read_request_once")]
        indexes = [
            models.Index(fields=["source"], condition=models.Q(answered=False), name="read_request_open"),
            models.Index(fields=["task", "answered"], name="read_request_by_task"),
        ]


class AddressPattern(models.Model):
    """An address template shared by many feeds: ``https://film.example/feed?channel={channel}``."""

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="address_patterns")
    name = models.CharField(max_length=100)
    address = models.CharField(max_length=2000)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["blog", "name"], name="address_pattern_once")]
