"""Connections to platforms, and the requests that were made with them."""

from django.db import models

from glyptarch_server.common.versions import Versioned

__all__ = ["Connection", "Usage"]


class Connection(Versioned):
    """Credentials for a platform.

    ``sealed`` are its encrypted fields (``common/seal.py``), never returned. ``state`` is the platform's last verdict;
    ``limit_a_day`` its stated number of requests.
    """

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="connections")
    key = models.CharField(max_length=60)
    platform = models.CharField(max_length=20)
    name = models.CharField(max_length=100)
    address = models.CharField(max_length=2000)
    sealed = models.TextField(blank=True)
    state = models.CharField(max_length=12, default="unchecked")
    detail = models.CharField(max_length=500, blank=True)
    checked_at = models.DateTimeField(null=True)
    limit_a_day = models.PositiveIntegerField(null=True)
    # The platform asked for a pause until then.
    waits_until = models.DateTimeField(null=True)
    # The claim of a worker that renews the token; others wait.
    renewing_until = models.DateTimeField(null=True)
    made_at = models.DateTimeField()
    removed_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["blog", "key"], name="connection_key_once")]


class Usage(models.Model):
    """The number of requests by one user of a connection's quota on a day (UTC)."""

    connection = models.ForeignKey(Connection, on_delete=models.CASCADE, related_name="usages")
    day = models.DateField()
    # The key of the requesting source; empty for checks and tests.
    who = models.CharField(max_length=60, blank=True)
    used = models.PositiveIntegerField(default=0)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["connection", "day", "who"], name="usage_once_a_day")]
        indexes = [models.Index(fields=["day"], name="usage_by_day")]
