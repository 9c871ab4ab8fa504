"""A blog, how its posts are ordered, and who works on it."""

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models

from glyptarch_server.blogs.roles import Role
from glyptarch_server.common.versions import Versioned

__all__ = [
    "Blog",
    "Byline",
    "Category",
    "CommonText",
    "FormerName",
    "Membership",
    "NameKind",
    "Role",
    "Tag",
    "TermTable",
    "WordList",
]


class Blog(Versioned):
    """A publication that posts go to, served by Glyptarch itself."""

    slug = models.SlugField(max_length=60, unique=True)
    title = models.CharField(max_length=200)
    tagline = models.CharField(max_length=300, blank=True)
    language = models.CharField(max_length=35, default="en")
    # An IANA time zone, used by schedules.
    time_zone = models.CharField(max_length=64, default="UTC")
    # Hosts whose players its posts may show.
    player_hosts = ArrayField(models.CharField(max_length=200), default=list)
    # Whether its feeds carry whole texts instead of excerpts.
    full_feeds = models.BooleanField(default=False)
    # The WebSub hub that is told of new posts; empty for none.
    hub = models.CharField(max_length=2000, blank=True, db_default="")
    # The look of its pages (``appearance`` in core); what is not there has the usual value.
    appearance = models.JSONField(default=dict)
    # What it says of shops (``offers`` in core); what is not there has the usual value.
    offers = models.JSONField(default=dict)
    # Its languages beside the usual one (``editions`` in core), and how editions are made.
    languages = models.JSONField(default=dict, db_default={})
    # For how many days it keeps its records (``keeping.py``); what is not there has the usual value.
    keeping = models.JSONField(default=dict, db_default={})
    # The rules of new campaigns; null for the product's defaults.
    defaults = models.JSONField(null=True)
    created_at = models.DateTimeField()
    # When it was removed. A job deletes it after a month.
    removed_at = models.DateTimeField(null=True, blank=True)

    reading: str = ""
    """The language in which its pages are read (``read_in``); empty for the usual one. It is not stored."""
    usual_language: str = ""
    """Its usual language while it is read in another."""

    @property
    def root(self) -> str:
        """The path of its pages in the usual language."""
        return f"/blog/{self.slug}/"

    @property
    def home(self) -> str:
        """The path of its pages in the language in which they are read."""
        return f"{self.root}{self.reading}/" if self.reading else self.root


class Membership(models.Model):
    """A person's role on a blog."""

    blog = models.ForeignKey(Blog, on_delete=models.CASCADE, related_name="members")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=10, choices=Role.choices)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["user", "blog"], name="one_role_on_a_blog"),
            models.CheckConstraint(condition=models.Q(role__in=Role.values), name="role_is_known"),
        ]


class _Named(models.Model):
    """A row of a blog that is identified by its name."""

    blog = models.ForeignKey(Blog, on_delete=models.CASCADE)
    name = models.CharField(max_length=80)
    # The comparison form of the name (``name_key`` in core), because PostgreSQL and Python fold letters differently.
    key = models.CharField(max_length=300)
    slug = models.CharField(max_length=100)

    class Meta:
        abstract = True
        constraints = [
            models.UniqueConstraint(fields=["blog", "key"], name="%(class)s_key_once"),
            models.UniqueConstraint(fields=["blog", "slug"], name="%(class)s_slug_once"),
        ]


class Category(_Named):
    """A section of the blog. Its page has the posts of the categories under it as well."""

    parent = models.ForeignKey("self", on_delete=models.SET_NULL, null=True, related_name="children")


class Tag(_Named):
    """A word that posts are gathered under."""


class Byline(_Named):
    """A name that posts are published under."""


class NameKind(models.TextChoices):
    """The kinds of names on a blog."""

    CATEGORY = "category"
    TAG = "tag"
    BYLINE = "byline"


class FormerName(models.Model):
    """A former name of a category, tag or byline.

    Rules that use it mean the present row. ``target`` is the number of the row, ``kind`` its table.
    """

    blog = models.ForeignKey(Blog, on_delete=models.CASCADE, related_name="former_names")
    kind = models.CharField(max_length=10, choices=NameKind.choices)
    key = models.CharField(max_length=300)
    target = models.BigIntegerField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["blog", "kind", "key"], name="former_name_once")]
        indexes = [models.Index(fields=["kind", "target"], name="former_name_by_target")]


class WordList(Versioned):
    """Terms shared by the rules of a blog's campaigns. ``key`` refers to it in documents."""

    blog = models.ForeignKey(Blog, on_delete=models.CASCADE, related_name="word_lists")
    key = models.CharField(max_length=60)
    name = models.CharField(max_length=80)
    words = models.JSONField(default=list)
    changed_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["blog", "key"], name="word_list_key_once")]


class TermTable(Versioned):
    """Terms with replacements, shared by a blog's campaigns.

    ``rows`` are ``[term, replacement, link]``.
    """

    blog = models.ForeignKey(Blog, on_delete=models.CASCADE, related_name="term_tables")
    key = models.CharField(max_length=60)
    name = models.CharField(max_length=80)
    rows = models.JSONField(default=list)
    changed_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["blog", "key"], name="term_table_key_once")]


class CommonText(models.Model):
    """The counts of common passages of a blog, packed by :class:`CommonShingles`."""

    blog = models.OneToOneField(Blog, on_delete=models.CASCADE, related_name="common_text")
    counts = models.BinaryField(default=bytes)
    learned_at = models.DateTimeField()
