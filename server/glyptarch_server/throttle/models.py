"""The counts of tries."""

from django.db import models

__all__ = ["Window"]


class Window(models.Model):
    """The number of tries in a period. ``key`` names the limit and the client."""

    key = models.CharField(max_length=300, primary_key=True)
    count = models.PositiveIntegerField()
    ends_at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["ends_at"], name="window_by_end")]
