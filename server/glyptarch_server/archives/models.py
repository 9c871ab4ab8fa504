"""Walks back through archives."""

from django.db import models

from glyptarch_server.archives.lifecycle import UNDER_WAY, WalkState

__all__ = ["Walk"]


class Walk(models.Model):
    """Reading older items of a source, page by page, back to a day.

    A source has at most one under way.
    """

    source = models.ForeignKey("sources.Source", on_delete=models.CASCADE, related_name="walks")
    # Items older than this day are not read.
    floor = models.DateField()
    # An address with {page}, for feeds that name no older pages.
    pattern = models.CharField(max_length=2000, blank=True)
    state = models.CharField(max_length=10, choices=[(state.value, state.value) for state in WalkState])
    task = models.ForeignKey("tasks.Task", on_delete=models.SET_NULL, null=True, related_name="+")
    next_url = models.CharField(max_length=2000, blank=True)
    page = models.PositiveIntegerField(default=0)
    found = models.PositiveIntegerField(default=0)
    fresh = models.PositiveIntegerField(default=0)
    oldest = models.DateTimeField(null=True)
    asked_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    why_ended = models.CharField(max_length=500, blank=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["source"],
                condition=models.Q(state__in=sorted(state.value for state in UNDER_WAY)),
                name="one_walk_under_way",
            )
        ]
