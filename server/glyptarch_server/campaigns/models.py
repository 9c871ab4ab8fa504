"""Campaigns and the revisions of their rules."""

from django.conf import settings
from django.db import models

__all__ = ["Campaign", "Revision"]


class Campaign(models.Model):
    """The name of a set of rules.

    The rules themselves are its latest revision.
    """

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="campaigns")
    slug = models.CharField(max_length=100)
    name = models.CharField(max_length=120)
    created_at = models.DateTimeField()
    # When it was archived; its posts stay.
    removed_at = models.DateTimeField(null=True, blank=True)
    # When its deletion was requested; a job carries it out.
    delete_asked_at = models.DateTimeField(null=True, blank=True)
    # When it runs (``Schedule`` in core), separate from the rules, so that a change makes no revision.
    schedule = models.JSONField(default=dict)
    paused = models.BooleanField(default=False)
    # Counts what people have changed of the schedule.
    schedule_version = models.PositiveIntegerField(default=1)
    # What language services get of it on a day at most (UTC), as its latest revision says.
    characters_a_day = models.PositiveIntegerField(null=True)
    # The next run; null for campaigns that are run by hand, paused, archived, or past their last day.
    next_run_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["blog", "slug"], name="campaign_slug_once")]
        indexes = [
            models.Index(
                fields=["next_run_at"], condition=models.Q(next_run_at__isnull=False), name="campaign_by_next_run"
            )
        ]


class Revision(models.Model):
    """One saved state of a campaign's rules. Never changed after it is made."""

    campaign = models.ForeignKey(Campaign, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    document = models.JSONField()
    note = models.CharField(max_length=300, blank=True)
    saved_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    saved_at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["campaign", "number"], name="revision_number_once"),
            models.CheckConstraint(condition=models.Q(number__gte=1), name="revision_counts_from_one"),
        ]
