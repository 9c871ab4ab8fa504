"""The counts of tries, and turns at hosts."""

from django.db import models

__all__ = ["HostTurn", "Window"]


class Window(models.Model):
    """The number of tries in a period. ``key`` names the limit and the client."""

    key = models.CharField(max_length=300, primary_key=True)
    count = models.PositiveIntegerField()
    ends_at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["ends_at"], name="window_by_end")]


class HostTurn(models.Model):
    """A connection to a host that one process may have open.

    ``key`` is a hash of the host with the number of the connection. The table is unlogged: after a crash of the
    database it is empty, and nobody has a connection.
    """

    key = models.CharField(max_length=40, primary_key=True)
    holder = models.CharField(max_length=16)
    ends_at = models.DateTimeField()
