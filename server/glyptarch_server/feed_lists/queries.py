"""Reads about lists of feeds."""

from collections.abc import Mapping

from django.db.models import Count, Q, QuerySet

from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.problems import NotFound
from glyptarch_server.feed_lists.lifecycle import EntryOutcome
from glyptarch_server.feed_lists.models import FeedList, ListEntry

__all__ = ["counted", "entries_of", "feed_list_of", "feed_lists_of", "labels_among"]


def feed_lists_of(blog: Blog) -> QuerySet[FeedList]:
    """Return the lists of a blog, newest first."""
    return FeedList.objects.filter(blog=blog).select_related("by", "task").order_by("-made_at", "-pk")


def feed_list_of(blog: Blog, number: int) -> FeedList:
    """Return a list by its number. Raises NotFound."""
    row = feed_lists_of(blog).filter(pk=number).first()
    if row is None:
        raise NotFound("There is no such list of feeds in this blog.")
    return row


def counted(feed_list: FeedList) -> Mapping[str, int]:
    """Return how many entries each outcome has."""
    rows = feed_list.entries.order_by().values("outcome").annotate(number=Count("pk"))
    return {row["outcome"]: row["number"] for row in rows}


def entries_of(feed_list: FeedList, *, outcome: EntryOutcome | None = None, search: str = "") -> QuerySet[ListEntry]:
    """Return the entries of a list in its order."""
    rows = feed_list.entries.select_related("source__state").order_by("place")
    if outcome is not None:
        rows = rows.filter(outcome=outcome.value)
    if search:
        rows = rows.filter(Q(title__icontains=search) | Q(url__icontains=search))
    return rows


_MOST_LABELS = 200


def labels_among(feed_list: FeedList) -> list[str]:
    """Return the labels that a list gives, in alphabetical order."""
    labels: set[str] = set()
    for row in feed_list.entries.order_by().values_list("labels", flat=True).distinct():
        labels |= set(row)
    return sorted(labels)[:_MOST_LABELS]
