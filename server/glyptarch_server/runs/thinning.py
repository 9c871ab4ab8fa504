"""Thinning old records: what was decided stays, how it came about is kept for a while only."""

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
    """Empty the traces of decisions that are older than the settings say, those of posts excepted. Gives how many.

    Verdict and reason stay, so that no item is decided twice and every count holds.
    """
    before = now - timedelta(days=settings.GLYPTARCH_KEEP_TRACES_DAYS)
    old = Decision.objects.filter(at__lt=before, post=None).exclude(trace=[])
    numbers = list(old.order_by("at").values_list("pk", flat=True)[:_AT_ONCE])
    return Decision.objects.filter(pk__in=numbers).update(trace=[])


def thin_readings(*, now: datetime) -> int:
    """Remove readings that are older than the settings say. Gives how many; the counts of runs stay."""
    before = now - timedelta(days=settings.GLYPTARCH_KEEP_READINGS_DAYS)
    numbers = list(Reading.objects.filter(at__lt=before).order_by("at").values_list("pk", flat=True)[:_AT_ONCE])
    return Reading.objects.filter(pk__in=numbers).delete()[0] and len(numbers)


def thin_changes(*, now: datetime) -> int:
    """Forget what posts were before and after changes of long ago, and return how many. Who did what and when stays.

    Such a change cannot be taken back any more. Posts in the bin are left: what they were is asked when they come back.
    """
    before = now - timedelta(days=settings.GLYPTARCH_KEEP_CHANGES_DAYS)
    old = PostChange.objects.filter(change__at__lt=before).exclude(before={}, after={})
    old = old.exclude(post__state=PostState.BINNED.value)
    numbers = list(old.order_by("pk").values_list("pk", flat=True)[:_AT_ONCE])
    return PostChange.objects.filter(pk__in=numbers).update(before={}, after={})


def thin_jobs(*, now: datetime) -> int:
    """Remove jobs that failed or were given up long ago, and return how many."""
    before = now - timedelta(days=settings.GLYPTARCH_KEEP_FAILED_JOBS_DAYS)
    old = ProcrastinateJob.objects.filter(status__in=_ENDED).exclude(procrastinateevent__at__gte=before)
    numbers = list(old.order_by("pk").values_list("pk", flat=True)[:_AT_ONCE])
    # The library's models read only; its table is PostgreSQL's as any other.
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM procrastinate_jobs WHERE id = ANY(%s)", [numbers])
    return len(numbers)


def thin_sessions(*, now: datetime) -> int:
    """Remove sessions that have ended, and return how many."""
    numbers = list(Session.objects.filter(expire_date__lt=now).values_list("pk", flat=True)[:_AT_ONCE])
    return Session.objects.filter(pk__in=numbers).delete()[0]


def thin_payloads(*, now: datetime) -> int:
    """Empty the raw payloads of items that were captured long ago and that no post rests on. Gives how many.

    Their texts stay, so that rules can still be proved on them and they are found as duplicates.
    """
    before = now - timedelta(days=settings.GLYPTARCH_KEEP_PAYLOADS_DAYS)
    old = Item.objects.filter(captured_at__lt=before).exclude(raw={})
    unused = old.exclude(Exists(Post.objects.filter(item=OuterRef("pk"))))
    numbers = list(unused.order_by("captured_at").values_list("pk", flat=True)[:_AT_ONCE])
    return Item.objects.filter(pk__in=numbers).update(raw={})
