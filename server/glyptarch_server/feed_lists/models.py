"""Lists of feeds, and what became of each entry."""

from django.contrib.postgres.fields import ArrayField
from django.db import models

from glyptarch_server.feed_lists.lifecycle import EntryOutcome

__all__ = ["FeedList", "ListEntry"]


class FeedList(models.Model):
    """A list of feeds that a person brought in, with its latest task."""

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="feed_lists")
    name = models.CharField(max_length=200)
    # What posts may carry of its sources; empty where nobody has said so.
    right = models.CharField(max_length=10, blank=True)
    by = models.ForeignKey("accounts.User", on_delete=models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField()
    task = models.ForeignKey("tasks.Task", on_delete=models.SET_NULL, null=True, related_name="+")

    class Meta:
        indexes = [models.Index(fields=["blog", "-made_at"], name="feed_list_by_blog")]


class ListEntry(models.Model):
    """An entry of a list. ``place`` counts from 1.

    ``code`` and ``detail`` say why a reading failed, or what is wrong with the entry.
    """

    feed_list = models.ForeignKey(FeedList, on_delete=models.CASCADE, related_name="entries")
    place = models.PositiveIntegerField()
    url = models.CharField(max_length=2000)
    title = models.CharField(max_length=300, blank=True)
    labels = ArrayField(models.CharField(max_length=60), default=list)
    outcome = models.CharField(max_length=10, choices=[(outcome.value, outcome.value) for outcome in EntryOutcome])
    source = models.ForeignKey("sources.Source", on_delete=models.SET_NULL, null=True, related_name="+")
    code = models.CharField(max_length=40, blank=True)
    detail = models.CharField(max_length=500, blank=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["feed_list", "place"], name="list_entry_once")]
        indexes = [models.Index(fields=["feed_list", "outcome", "place"], name="list_entry_by_outcome")]
