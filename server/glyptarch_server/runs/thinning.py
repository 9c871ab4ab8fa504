"""Thinning old records: outcomes stay, their details are kept for a limited time."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta
from statistics import mean

from django.conf import settings
from django.contrib.sessions.models import Session
from django.db import connection, transaction
from django.db.models import Exists, F, Func, IntegerField, OuterRef, QuerySet
from procrastinate.contrib.django.models import ProcrastinateJob

from glyptarch_server.audit.models import Entry
from glyptarch_server.blogs.keeping import Record
from glyptarch_server.blogs.models import Blog
from glyptarch_server.blogs.queries import kept_for
from glyptarch_server.items.models import Item
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import Post, PostChange
from glyptarch_server.runs.models import Decision
from glyptarch_server.sources.models import Reading

__all__ = [
    "Freed",
    "freed_by",
    "thin_changes",
    "thin_entries",
    "thin_jobs",
    "thin_payloads",
    "thin_readings",
    "thin_sessions",
    "thin_traces",
]

_AT_ONCE = 500
_ENDED = ("failed", "aborted", "cancelled")


@dataclass(frozen=True, slots=True)
class _Kind:
    """A kind of record: its rows before a time, the way to their blog, and their order.

    ``columns`` are those that are freed.
    """

    before: "Callable[[datetime], QuerySet]"  # type: ignore[type-arg]  # of rows of different models
    blog: str
    order: str
    columns: tuple[str, ...]


def _traces(before: datetime) -> QuerySet[Decision]:
    return Decision.objects.filter(at__lt=before, post=None).exclude(trace=[])


def _readings(before: datetime) -> QuerySet[Reading]:
    return Reading.objects.filter(at__lt=before)


def _payloads(before: datetime) -> QuerySet[Item]:
    old = Item.objects.filter(captured_at__lt=before).exclude(raw={})
    return old.exclude(Exists(Post.objects.filter(item=OuterRef("pk"))))


def _changes(before: datetime) -> QuerySet[PostChange]:
    old = PostChange.objects.filter(change__at__lt=before).exclude(before={}, after={})
    # Restoring a binned post needs its changes.
    return old.exclude(post__state=PostState.BINNED.value)


def _binned(before: datetime) -> QuerySet[Post]:
    return Post.objects.filter(state=PostState.BINNED.value, binned_at__lt=before)


def _entries(before: datetime) -> QuerySet[Entry]:
    return Entry.objects.filter(at__lt=before)


_KINDS = {
    Record.TRACES: _Kind(_traces, "campaign__blog", "at", ("trace",)),
    Record.READINGS: _Kind(_readings, "source__blog", "at", ("warnings", "detail")),
    Record.PAYLOADS: _Kind(_payloads, "source__blog", "captured_at", ("raw",)),
    Record.CHANGES: _Kind(_changes, "post__blog", "pk", ("before", "after")),
    Record.BIN: _Kind(_binned, "blog", "binned_at", ("body", "excerpt", "fields", "found_by")),
    Record.AUDIT: _Kind(_entries, "blog", "pk", ("before", "after")),
}


def _next(record: Record, now: datetime) -> list[int]:
    """Return the numbers of the next rows that are older than their blog keeps them."""
    kind, numbers = _KINDS[record], list[int]()
    for days, of in kept_for(record, kind.blog):
        rows = kind.before(now - timedelta(days=days)).filter(of).order_by(kind.order)
        numbers += rows.values_list("pk", flat=True)[: _AT_ONCE - len(numbers)]
    return numbers


@dataclass(frozen=True, slots=True)
class Freed:
    """What keeping records for fewer days frees: their number, and about their bytes."""

    number: int
    size: int


_COUNTED = 100_000
_MEASURED = 200
# What a row takes besides its large columns: its header and the small ones.
_OF_A_ROW = 120


class _Size(Func):
    """The bytes that a value takes in the database, compressed as it is."""

    function = "pg_column_size"
    output_field = IntegerField()


def freed_by(blog: Blog, record: Record, days: int, *, now: datetime) -> Freed:
    """Return what a blog frees when it keeps records for so many days.

    At most a hundred thousand are counted. The size is that of the oldest two hundred, in proportion.
    """
    kind = _KINDS[record]
    rows = kind.before(now - timedelta(days=days)).filter(**{kind.blog: blog.pk}).order_by(kind.order)
    number = rows[:_COUNTED].count()
    if not number:
        return Freed(0, 0)
    measured = rows.values_list(*(_Size(F(name)) for name in kind.columns))[:_MEASURED]
    size = mean(_OF_A_ROW + sum(column or 0 for column in columns) for columns in measured)
    return Freed(number, round(number * size))


def thin_traces(*, now: datetime) -> int:
    """Empty the traces of old decisions without a post.

    Return how many. Verdict and reason stay, so that no item is decided twice and every count remains.
    """
    return Decision.objects.filter(pk__in=_next(Record.TRACES, now)).update(trace=[])


def thin_readings(*, now: datetime) -> int:
    """Delete old readings.

    Return how many. The counts of runs stay.
    """
    numbers = _next(Record.READINGS, now)
    return Reading.objects.filter(pk__in=numbers).delete()[0] and len(numbers)


def thin_changes(*, now: datetime) -> int:
    """Empty the values of old changes.

    Return how many. Person, kind and time stay. Such a change can no longer be taken back. Changes of binned posts
    stay, because restoring a post needs them.
    """
    return PostChange.objects.filter(pk__in=_next(Record.CHANGES, now)).update(before={}, after={})


def thin_entries(*, now: datetime) -> int:
    """Remove entries of the audit that are older than they are kept, and return how many.

    The database lets nobody remove one but a transaction that says it is thinning, and no entry younger than a year.
    """
    with transaction.atomic():
        numbers = _next(Record.AUDIT, now)
        with connection.cursor() as cursor:
            cursor.execute("SET LOCAL glyptarch.thinning = 'on'")
            cursor.execute("DELETE FROM audit_entry WHERE id = ANY(%s)", [numbers])
    return len(numbers)


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
    return Item.objects.filter(pk__in=_next(Record.PAYLOADS, now)).update(raw={})
