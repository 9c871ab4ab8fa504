"""Days and months of a blog, as its readers see them."""

from datetime import date, datetime
from typing import NamedTuple
from zoneinfo import ZoneInfo

from django.db.models import Count
from django.db.models.functions import TruncMonth

from glyptarch_server.blogs.models import Blog
from glyptarch_server.posts.for_readers import posts_in_lists

__all__ = ["Day", "Month", "day_of", "months_of"]


class Month(NamedTuple):
    """A month of a blog with its number of posts."""

    month: date
    posts: int


def months_of(blog: Blog) -> list[Month]:
    """Return the months with posts for everybody, newest first, in the blog's time zone."""
    rows = posts_in_lists(blog).order_by()
    by_month = rows.annotate(month=TruncMonth("date", tzinfo=ZoneInfo(blog.time_zone))).values_list("month")
    counted = by_month.annotate(posts=Count("pk")).order_by("-month")
    # The day alone: as a moment it would be shown in the time zone of the server, one month early.
    return [Month(month.date(), posts) for month, posts in counted]


class Day(NamedTuple):
    """The newest day of a blog: how many posts it has, and from how many sources."""

    day: date
    posts: int
    sources: int


def day_of(blog: Blog, newest: datetime) -> Day:
    """Return the day of a blog's newest post, in its time zone.

    Only what everybody may read counts.
    """
    midnight = newest.astimezone(ZoneInfo(blog.time_zone)).replace(hour=0, minute=0, second=0, microsecond=0)
    of_day = posts_in_lists(blog, date__gte=midnight, date__lte=newest).order_by()
    counted = of_day.aggregate(posts=Count("pk"), sources=Count("source", distinct=True))
    return Day(midnight.date(), counted["posts"], counted["sources"])
