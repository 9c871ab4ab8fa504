"""Bringing in a list of feeds: all become sources, then all are read once."""

from collections.abc import Sequence
from datetime import datetime, timedelta

from django.db import IntegrityError, transaction
from glyptarch_core.item import Right
from glyptarch_core.readers.opml import ListedFeed, ListFault

from glyptarch_server.accounts.models import User
from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.feed_lists import queries
from glyptarch_server.feed_lists.lifecycle import EntryOutcome
from glyptarch_server.feed_lists.models import FeedList, ListEntry
from glyptarch_server.sources.adding import NewSource, add_sources
from glyptarch_server.sources.asking import ask_for, asked_of, take_readings
from glyptarch_server.sources.models import Source
from glyptarch_server.sources.queries import addresses_among
from glyptarch_server.tasks.actions import begin_task
from glyptarch_server.tasks.carrying import Carrier
from glyptarch_server.tasks.lifecycle import LaterError
from glyptarch_server.tasks.models import Task

__all__ = ["bring_in", "carry_out", "read_again"]

_AT_ONCE = 200
_LONGEST_LABEL = 60
_MOST_LABELS = 20
"""Those of one feed. A file can nest hundreds of folders around thousands of feeds."""
_LONGEST_WAIT = timedelta(minutes=30)
_SECONDS_BETWEEN_LOOKS = 5.0


def bring_in(
    blog: Blog,
    name: str,
    feeds: Sequence[ListedFeed],
    *,
    labels: Sequence[str],
    right: Right | None = None,
    by: User | None,
    now: datetime,
) -> FeedList:
    """Put a list of feeds on record, and begin to make them sources.

    ``labels`` are given to all of them, besides the names of their folders; ``right`` is what a person said that posts
    may carry of each. Raises Invalid for an empty list.
    """
    if not feeds:
        raise Invalid("This list names no feed: no entry has an address (xmlUrl).")
    with transaction.atomic():
        row = FeedList.objects.create(
            blog=blog, name=name.strip()[:200] or "List of feeds", right=right or "", by=by, made_at=now
        )
        entries = [_entry(row, place, feed, labels) for place, feed in enumerate(feeds, start=1)]
        ListEntry.objects.bulk_create(entries, batch_size=1000)
        record("feed_list.added", row.name, blog=blog.pk, after={"entries": len(entries)})
        _begin(row, by=by, now=now)
    return row


def _entry(row: FeedList, place: int, feed: ListedFeed, labels: Sequence[str]) -> ListEntry:
    bad = {None: EntryOutcome.WAITING, ListFault.DOUBLE: EntryOutcome.DOUBLE}
    cut = dict.fromkeys(label.strip()[:_LONGEST_LABEL].strip() for label in (*labels, *feed.folders))
    return ListEntry(
        feed_list=row,
        place=place,
        url=feed.url,
        title=feed.title,
        labels=[label for label in cut if label][:_MOST_LABELS],
        outcome=bad.get(feed.fault, EntryOutcome.BAD).value,
        code=feed.fault.value if feed.fault else "",
    )


def _begin(row: FeedList, *, by: User | None, now: datetime) -> None:
    total = row.entries.filter(outcome__in=[EntryOutcome.WAITING.value, EntryOutcome.ADDED.value]).count()
    try:
        with transaction.atomic():
            row.task = begin_task(
                "feed_list",
                row.pk,
                blog_id=row.blog_id,
                subject=row.name,
                now=now,
                path=f"feed-lists/{row.pk}",
                total=total,
                by_id=by.pk if by else None,
            )
    except IntegrityError as error:
        raise Conflict("This list is being read already.") from error
    row.save(update_fields=["task"])


def read_again(row: FeedList, *, by: User | None, now: datetime) -> int:
    """Read the sources of a list once more that could not be read. Return how many."""
    with transaction.atomic():
        left = row.entries.filter(outcome=EntryOutcome.FAILED.value, source__removed_at=None).exclude(source=None)
        number = left.update(outcome=EntryOutcome.ADDED.value, code="", detail="")
        waiting = row.entries.filter(outcome__in=[EntryOutcome.WAITING.value, EntryOutcome.ADDED.value])
        if waiting.exists():
            _begin(row, by=by, now=now)
    return number


def carry_out(task: Task, carrier: Carrier) -> None:
    """Make the entries of a list sources, have all read, and note what came.

    Safe to repeat after a crash.
    """
    row = FeedList.objects.select_related("blog").get(pk=task.ref)
    while _add_next(row, carrier):
        pass
    _have_them_read(row, task, carrier)
    _note_outcomes(row, task, carrier)


def _add_next(row: FeedList, carrier: Carrier) -> bool:
    """Make the next entries sources. Return whether there were any."""
    waiting = row.entries.filter(outcome=EntryOutcome.WAITING.value).order_by("place")
    entries = list(waiting[:_AT_ONCE])
    if not entries:
        return False
    with transaction.atomic():
        carrier.check()
        known = addresses_among(row.blog, [entry.url for entry in entries])
        said = Right(row.right) if row.right else None
        wanted = [
            NewSource(url=entry.url, title=entry.title or entry.url, labels=entry.labels, right=said)
            for entry in entries
        ]
        made = {source.url: source for source in add_sources(row.blog, wanted, now=carrier.now())}
        for entry in entries:
            entry.source = made.get(entry.url) or known.get(entry.url)
            entry.outcome = EntryOutcome.ADDED.value if entry.url in made else EntryOutcome.KNOWN.value
        _give_labels(entries)
        ListEntry.objects.bulk_update(entries, ["source", "outcome"], batch_size=_AT_ONCE)
    done = row.entries.exclude(outcome=EntryOutcome.WAITING.value).count()
    carrier.report(done, row.entries.count(), phase="adding")
    return True


def _give_labels(entries: Sequence[ListEntry]) -> None:
    """Add the labels of a list also to the sources that were there before."""
    changed: list[Source] = []
    for entry in entries:
        source = entry.source
        if source is not None and not set(entry.labels) <= set(source.labels):
            source.labels = sorted({*source.labels, *entry.labels})
            changed.append(source)
    Source.objects.bulk_update(changed, ["labels"], batch_size=_AT_ONCE)


def _have_them_read(row: FeedList, task: Task, carrier: Carrier) -> None:
    """Ask for a reading of each new source, and wait a bounded time for them.

    Raises LaterError while they are under way.
    """
    asked = asked_of(task.pk)
    if not asked.total:
        added = Source.objects.filter(pk__in=row.entries.filter(outcome=EntryOutcome.ADDED.value).values("source"))
        ask_for(task.pk, list(added.order_by("pk")))
        asked = asked_of(task.pk)
    carrier.report(asked.answered, asked.total, phase="gathering")
    if asked.answered < asked.total and carrier.now() - (task.begun_at or carrier.now()) < _LONGEST_WAIT:
        raise LaterError("its sources are being read", seconds=_SECONDS_BETWEEN_LOOKS)


def _note_outcomes(row: FeedList, task: Task, carrier: Carrier) -> None:
    with transaction.atomic():
        carrier.check()
        readings = {reading.source_id: reading for reading in take_readings(task.pk)}
        entries = list(queries.entries_of(row, outcome=EntryOutcome.ADDED))
        named: list[Source] = []
        for entry in entries:
            reading = readings.get(entry.source_id or 0)
            if reading is None or entry.source is None:
                entry.outcome, entry.code = EntryOutcome.FAILED.value, "not_read"
                continue
            entry.outcome = EntryOutcome.FAILED.value if reading.error else EntryOutcome.READ.value
            entry.code, entry.detail = reading.error, reading.detail
            if not entry.title and entry.source.state.title:
                # The list had no name for it.
                entry.source.title = entry.title = entry.source.state.title
                named.append(entry.source)
        ListEntry.objects.bulk_update(entries, ["outcome", "code", "detail", "title"], batch_size=500)
        Source.objects.bulk_update(named, ["title"], batch_size=500)
