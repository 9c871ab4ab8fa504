"""Asking for readings: which sources are to be read, in which order, and for whom."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from django.db import transaction
from django.db.models import Count, Exists, Max, Min, OuterRef, Q

from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.sources.models import PendingReading, Reading, ReadRequest, Source
from glyptarch_server.tasks.actions import hold, note_progress, wake

__all__ = [
    "CLAIMED_FOR",
    "Asked",
    "answer",
    "any_pending",
    "ask_by_plan",
    "ask_for",
    "asked_of",
    "claim",
    "release",
    "renew",
    "take_readings",
]

CLAIMED_FOR = timedelta(seconds=30)

_UNASKED = timedelta(hours=1)
"""A source that nothing has asked for this long, though it may be read, is read by its own plan."""


def _is_slow(source: Source) -> bool:
    """Whether reading a source takes several requests: a site, a platform, a feed with pages."""
    return bool(source.reader_id or source.ask or source.reads_pages or source.full_text.words)


def ask_for(task_id: int, sources: Sequence[Source]) -> None:
    """Ask for a reading of sources on behalf of a task.

    A source that several tasks ask for is read once. The first source of a new task comes before the second of any
    other: start-time fair queuing (Goyal, Vin, Cheng 1996), by task.
    """
    with transaction.atomic():
        ReadRequest.objects.bulk_create(
            [ReadRequest(task_id=task_id, source=source) for source in sources], ignore_conflicts=True, batch_size=1000
        )
        first = PendingReading.objects.aggregate(turn=Min("turn"))["turn"] or 0
        numbers = [source.pk for source in sources]
        earlier = dict(PendingReading.objects.filter(AnyOf("source", numbers)).values_list("source", "turn"))
        wanted = {source.pk: (source, first + place) for place, source in enumerate(sources)}
        rows = [
            PendingReading(source=source, slow=_is_slow(source), turn=min(turn, earlier.get(pk, turn)))
            for pk, (source, turn) in sorted(wanted.items())
        ]
        PendingReading.objects.bulk_create(
            rows, update_conflicts=True, unique_fields=["source"], update_fields=["turn"], batch_size=1000
        )


def ask_by_plan(*, now: datetime, most: int) -> int:
    """Ask for sources that may have been read for an hour, without anything asking for them.

    Returns their number.
    So items are on record for the bench before a campaign runs, and health is known of sources without a schedule.
    These come after all that tasks ask for. Platforms are left out, since each request counts against their quota.
    ``next_read_at`` has no index: each reading would write it, and this is asked once a minute.
    """
    waiting = PendingReading.objects.filter(source=OuterRef("pk"))
    due = Q(state__next_read_at__lte=now - _UNASKED) | Q(state__next_read_at=None, added_at__lte=now - _UNASKED)
    open_to_all = Q(paused=False, blocked_at=None, removed_at=None, blog__removed_at=None, state__gone_at=None)
    sources = Source.objects.filter(due, open_to_all, ~Exists(waiting), ask_row=None).order_by("state__next_read_at")
    with transaction.atomic():
        last = PendingReading.objects.aggregate(turn=Max("turn"))["turn"] or 0
        rows = [
            PendingReading(source=source, slow=_is_slow(source), turn=last + place)
            for place, source in enumerate(sources[:most], 1)
        ]
        PendingReading.objects.bulk_create(rows, ignore_conflicts=True, batch_size=1000)
    return len(rows)


def any_pending() -> bool:
    """Whether any source is to be read."""
    return PendingReading.objects.exists()


def claim(*, by: str, slow: bool, most: int, now: datetime) -> list[Source]:
    """Claim the next sources to read, each for one reader only.

    Requests for sources that may not be read any more are answered without a reading.
    """
    with transaction.atomic():
        free = PendingReading.objects.filter(Q(claimed_until=None) | Q(claimed_until__lt=now), slow=slow)
        chosen = free.order_by("turn", "source").select_for_update(skip_locked=True)[:most]
        order = list(chosen.values_list("source", flat=True))
        PendingReading.objects.filter(source__in=order).update(claimed_by=by, claimed_until=now + CLAIMED_FOR)
    rows = Source.objects.filter(pk__in=order, paused=False, blocked_at=None, removed_at=None, blog__removed_at=None)
    readable = {source.pk: source for source in rows}
    answer({number: None for number in order if number not in readable}, by=by, now=now)
    return [readable[number] for number in order if number in readable]


def renew(sources: Collection[int], *, by: str, now: datetime) -> None:
    """Hold the claims of a reader on sources, by number, for longer."""
    rows = PendingReading.objects.filter(AnyOf("source_id", list(sources)), claimed_by=by)
    rows.update(claimed_until=now + CLAIMED_FOR)


def release(*, by: str) -> None:
    """End the claims of a reader, so that another one reads these sources."""
    PendingReading.objects.filter(claimed_by=by).update(claimed_by="", claimed_until=None)


def answer(readings: Mapping[int, Reading | None], *, by: str, now: datetime) -> None:
    """Answer the requests for sources, by number, with their readings.

    Tasks that have all of theirs go on.
    """
    if not readings:
        return
    with transaction.atomic():
        PendingReading.objects.filter(AnyOf("source", list(readings)), claimed_by=by).delete()
        waiting = ReadRequest.objects.filter(AnyOf("source", list(readings)), answered=False).order_by("pk")
        # Two readers that answer the last two sources of a task must each see what the other has answered.
        tasks = hold(waiting.values_list("task", flat=True))
        requests = list(waiting.select_for_update())
        for request in requests:
            request.answered, request.reading = True, readings[request.source_id]
        ReadRequest.objects.bulk_update(requests, ["answered", "reading"], batch_size=500)
        for task in tasks:
            asked = asked_of(task.pk)
            note_progress(task, asked.answered, asked.total, phase="gathering", now=now)
            if asked.answered == asked.total:
                wake(task, priority=-task.turn)


@dataclass(frozen=True, slots=True)
class Asked:
    """How many sources a task asked for, and how many of them are answered."""

    answered: int
    total: int


def asked_of(task_id: int) -> Asked:
    """Return how far the readings are that a task asked for."""
    counts = ReadRequest.objects.filter(task=task_id).aggregate(
        answered=Count("pk", filter=Q(answered=True)), total=Count("pk")
    )
    return Asked(counts["answered"], counts["total"])


def take_readings(task_id: int) -> list[Reading]:
    """Return the readings that a task asked for, and end its waiting for the others.

    Sources that no other task waits for are not read any more.
    """
    with transaction.atomic():
        requests = list(ReadRequest.objects.filter(task=task_id).select_related("reading"))
        ReadRequest.objects.filter(task=task_id).delete()
        unanswered = [request.source_id for request in requests if not request.answered]
        if unanswered:
            wanted = ReadRequest.objects.filter(source=OuterRef("source"), answered=False)
            PendingReading.objects.filter(~Exists(wanted), AnyOf("source_id", unanswered)).delete()
    return [request.reading for request in requests if request.reading is not None]
