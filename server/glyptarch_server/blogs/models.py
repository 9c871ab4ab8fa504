"""A blog, how its posts are ordered, and who works on it."""

from django.conf import settings
from django.db import models

__all__ = ["Blog", "Byline", "Category", "Membership", "Role", "Tag", "TermTable", "WordList"]


class Blog(models.Model):
    """A publication that posts go to, served by Glyptarch itself."""

    slug = models.SlugField(max_length=60, unique=True)
    title = models.CharField(max_length=200)
    tagline = models.CharField(max_length=300, blank=True)
    language = models.CharField(max_length=35, default="en")
    # A name of the IANA time zone database: schedules go by it.
    time_zone = models.CharField(max_length=64, default="UTC")
    # The rules that a new campaign begins with; none where the product's own are meant.
    defaults = models.JSONField(null=True)
    created_at = models.DateTimeField()


class Role(models.TextChoices):
    """What a person may do on a blog."""

    OWNER = "owner"
    EDITOR = "editor"


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
    """Something of a blog that is known by its name."""

    blog = models.ForeignKey(Blog, on_delete=models.CASCADE)
    name = models.CharField(max_length=80)
    # The name as it is compared (``name_key`` in core): PostgreSQL and Python fold letters differently.
    key = models.CharField(max_length=300)
    slug = models.CharField(max_length=100)

    class Meta:
        abstract = True
        constraints = [
            models.UniqueConstraint(fields=["blog", "key"], name="%(class)s_key_once"),
            models.UniqueConstraint(fields=["blog", "slug"], name="%(class)s_slug_once"),
        ]


class Category(_Named):
    """A section of the blog."""


class Tag(_Named):
    """A word that posts are gathered under."""


class Byline(_Named):
    """A name that posts are published under."""


class WordList(models.Model):
    """Terms kept for the blog, which the rules of several campaigns can share. ``key`` names it in documents."""

    blog = models.ForeignKey(Blog, on_delete=models.CASCADE, related_name="word_lists")
    key = models.CharField(max_length=60)
    name = models.CharField(max_length=80)
    words = models.JSONField(default=list)
    changed_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["blog", "key"], name="word_list_key_once")]


class TermTable(models.Model):
    """Terms with what is put in their place, kept for the blog. ``rows`` are ``[what, by, link]``."""

    blog = models.ForeignKey(Blog, on_delete=models.CASCADE, related_name="term_tables")
    key = models.CharField(max_length=60)
    name = models.CharField(max_length=80)
    rows = models.JSONField(default=list)
    changed_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["blog", "key"], name="term_table_key_once")]


class CommonText(models.Model):
    """How often runs of words stand in the stories of a blog, as :class:`CommonShingles` packs them."""

    blog = models.OneToOneField(Blog, on_delete=models.CASCADE, related_name="common_text")
    counts = models.BinaryField(default=bytes)
    learned_at = models.DateTimeField()
