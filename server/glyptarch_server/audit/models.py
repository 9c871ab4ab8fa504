"""The audit: actions, people and times."""

from django.db import models

__all__ = ["Entry"]


class Entry(models.Model):
    """One action. The database refuses to change or remove it (migration 0001).

    ``blog`` and ``person`` are numbers, not foreign keys, so that entries remain when a blog or a person is removed.
    """

    blog = models.BigIntegerField(null=True)
    person = models.BigIntegerField(null=True)
    # The person's name at that time.
    name = models.CharField(max_length=200, blank=True)
    action = models.CharField(max_length=60)
    subject = models.CharField(max_length=300, blank=True)
    before = models.JSONField(null=True)
    after = models.JSONField(null=True)
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["blog", "-at", "-id"], name="audit_by_blog")]
