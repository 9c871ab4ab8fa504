"""Thinning old records: outcomes stay, their details are kept for a limited time."""

from datetime import datetime, timedelta

from django.conf import settings
from django.contrib.sessions.models import Session
from django.db import connection
from django.db.models import Exists, OuterRef
from procrastinate.contrib.django.models import ProcrastinateJob

from glyptarch_server.items.models import Item
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import Post, PostChange
from glyptarch_server.runs.models import Decision
from glyptarch_server.sources.models import Reading

__all__ = ["thin_changes", "thin_jobs", "thin_payloads", "thin_readings", "thin_sessions", "thin_traces"]

_AT_ONCE = 500
_ENDED = ("failed", "aborted", "cancelled")


def thin_traces(*, now: datetime) -> int:
    """Empty the traces of old decisions without a post.

    Return how many. Verdict and reason stay, so that no item is decided twice and every count remains.
    """
    before = now - timedelta(days=settings.GLYPTARCH_KEEP_TRACES_DAYS)
    old = Decision.objects.filter(at__lt=before, post=None).exclude(trace=[])
    numbers = list(old.order_by("at").values_list("pk", flat=True)[:_AT_ONCE])
    return Decision.objects.filter(pk__in=numbers).update(trace=[])


def thin_readings(*, now: datetime) -> int:
    """Delete old readings.

    Return how many. The counts of runs stay.
    """
    before = now - timedelta(days=settings.GLYPTARCH_KEEP_READINGS_DAYS)
    numbers = list(Reading.objects.filter(at__lt=before).order_by("at").values_list("pk", flat=True)[:_AT_ONCE])
    return Reading.objects.filter(pk__in=numbers).delete()[0] and len(numbers)


def thin_changes(*, now: datetime) -> int:
    """Empty the values of old changes.

    Return how many. Person, kind and time stay. Such a change can no longer be taken back. Changes of binned posts
    stay, because restoring a post needs them.
    """
    before = now - timedelta(days=settings.GLYPTARCH_KEEP_CHANGES_DAYS)
    old = PostChange.objects.filter(change__at__lt=before).exclude(before={}, after={})
    old = old.exclude(post__state=PostState.BINNED.value)
    numbers = list(old.order_by("pk").values_list("pk", flat=True)[:_AT_ONCE])
    return PostChange.objects.filter(pk__in=numbers).update(before={}, after={})


def thin_jobs(*, now: datetime) -> int:
    """Delete old failed and aborted jobs.

    Return how many.
    """
    before = now - timedelta(days=settings.GLYPTARCH_KEEP_FAILED_JOBS_DAYS)
    old = ProcrastinateJob.objects.filter(status__in=_ENDED).exclude(procrastinateevent__at__gte=before)
    numbers = list(old.order_by("pk").values_list("pk", flat=True)[:_AT_ONCE])
    # procrastinate's models are read-only, so its table is changed by SQL.
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM procrastinate_jobs WHERE id = ANY(%s)", [numbers])
    return len(numbers)


def thin_sessions(*, now: datetime) -> int:
    """Remove sessions that have ended, and return how many."""
    numbers = list(Session.objects.filter(expire_date__lt=now).values_list("pk", flat=True)[:_AT_ONCE])
    return Session.objects.filter(pk__in=numbers).delete()[0]


def thin_payloads(*, now: datetime) -> int:
    """Empty the payloads of old items without a post.

    Return how many. Their texts stay, so that they can be used in proofs and are found as duplicates.
    """
    before = now - timedelta(days=settings.GLYPTARCH_KEEP_PAYLOADS_DAYS)
    old = Item.objects.filter(captured_at__lt=before).exclude(raw={})
    unused = old.exclude(Exists(Post.objects.filter(item=OuterRef("pk"))))
    numbers = list(unused.order_by("captured_at").values_list("pk", flat=True)[:_AT_ONCE])
    return Item.objects.filter(pk__in=numbers).update(raw={})
