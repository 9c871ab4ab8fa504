"""The state of a source after a reading: next time, health, log, and moved address."""

from collections.abc import Callable, Sequence
from dataclasses import asdict, dataclass
from datetime import datetime, timedelta

from django.db import IntegrityError, transaction
from django.db.models import Q, QuerySet
from glyptarch_core.errors import ParseError
from glyptarch_core.health import Report
from glyptarch_core.polling import after_failure, after_success
from glyptarch_core.readers import Feed

from glyptarch_server.audit.actions import record
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.sources import queries
from glyptarch_server.sources.gathering import Outcome, SourceAnswer
from glyptarch_server.sources.models import Reading, Source, SourceState
from glyptarch_server.wiring import (
    FetchCode,
    Fetched,
    FetchError,
    may_share_secrets,
)

__all__ = [
    "Logged",
    "due_for_schedule",
    "keep_health",
    "lock_sources",
    "log_readings",
    "log_unchanged",
    "set_pushed_until",
]

_PLAN = ["next_read_at", "failures", "failing_since", "gone_at", "skip_hours", "error", "lately", "given_at"]
_LAST_TEN = 0b11_1111_1111

_WHILE_PUSHED = timedelta(hours=1)
"""How long is waited between two readings of a source whose news a hub pushes."""
_LONGEST_ADDRESS = 2000
_MOVED_AFTER = 3
"""Readings in a row that a permanent redirect must hold before it is believed."""


def _follow_move(source: Source, moved_to: str) -> None:
    """Adopt the target of a permanent redirect (RFC 9110, 15.4.2), unless another source has it.

    A source with credentials or an untrusted certificate follows to no other host automatically, because its secrets
    would be sent there.
    """
    trusted = source.access.sealed or source.access.any_certificate
    if len(moved_to) > _LONGEST_ADDRESS or (trusted and not may_share_secrets(source.url, moved_to)):
        moved_to = ""
    if moved_to != source.state.moved_to:
        source.state.moved_to, source.state.moved_times = moved_to, 0
    if moved_to:
        source.state.moved_times += 1
    if source.state.moved_times >= _MOVED_AFTER and queries.address_taken_by_id(source.blog_id, moved_to) is None:
        _move(source, moved_to)
    source.state.save(update_fields=["moved_to", "moved_times"])


def _move(source: Source, to: str) -> None:
    before = source.url
    try:
        with transaction.atomic():
            Source.objects.filter(pk=source.pk).update(url=to, former_url=before)
            record("source.moved", source.title, blog=source.blog_id, before=before, after=to)
    except IntegrityError:
        # Another source took the address meanwhile, so this one keeps its own.
        return
    source.former_url, source.url = before, to
    source.state.moved_to, source.state.moved_times = "", 0


def _plan_next_read(source: Source, outcome: Outcome, now: datetime) -> None:
    """Set the earliest next reading of a source from the outcome of the last one."""
    if isinstance(outcome, Feed | Fetched):
        read = isinstance(outcome, Feed)
        wished = outcome.wished if isinstance(outcome, Feed) else timedelta(seconds=outcome.max_age)
        skip = outcome.skip_hours if isinstance(outcome, Feed) else frozenset(source.state.skip_hours)
        if read:
            source.state.skip_hours = sorted(skip)
        source.state.failures, source.state.failing_since, source.state.gone_at = 0, None, None
        if source.state.pushed_until and source.state.pushed_until > now:
            wished = max(wished, _WHILE_PUSHED)
        source.state.next_read_at = now + after_success(wished=wished, now=now, skip_hours=skip)
    else:
        asked = timedelta(seconds=outcome.retry_after if isinstance(outcome, FetchError) else 0)
        source.state.failures += 1
        source.state.failing_since = source.state.failing_since or now
        source.state.next_read_at = now + after_failure(source.state.failures, source.key, asked=asked)
        if isinstance(outcome, FetchError) and outcome.code is FetchCode.GONE:
            source.state.gone_at = source.state.gone_at or now


def _note_outcome(source: Source, outcome: Outcome, now: datetime) -> None:
    """Note what health and lists need to know of a reading."""
    failed = not isinstance(outcome, Feed | Fetched)
    source.state.lately = (source.state.lately << 1 | failed) & _LAST_TEN
    source.state.error = ""
    if isinstance(outcome, Feed):
        source.state.given_at = now
    elif isinstance(outcome, FetchError):
        source.state.error = outcome.code.value
    elif isinstance(outcome, ParseError):
        source.state.error = outcome.code


_A_LITTLE_EARLY = timedelta(seconds=15)
"""A schedule of a minute meets sources that ask for a minute: their plan begins when the reading has ended."""


def _readable(sources: Sequence[Source]) -> QuerySet[Source]:
    return Source.objects.filter(AnyOf("pk", [source.pk for source in sources]), paused=False, blocked_at=None)


def due_for_schedule(sources: Sequence[Source], *, now: datetime) -> list[Source]:
    """Return the sources that a schedule may have read now, by their own plan.

    Gone (410), paused and withdrawn sources are left out.
    """
    due = Q(state__next_read_at=None) | Q(state__next_read_at__lte=now + _A_LITTLE_EARLY)
    numbers = set(_readable(sources).filter(due, state__gone_at=None).values_list("pk", flat=True))
    return [source for source in sources if source.pk in numbers]


def readable_by_hand(sources: Sequence[Source]) -> list[Source]:
    """Return the sources that a person may have read now: neither paused nor withdrawn."""
    numbers = set(_readable(sources).values_list("pk", flat=True))
    return [source for source in sources if source.pk in numbers]


def lock_sources(sources: Sequence[Source]) -> set[int]:
    """Lock the states of sources in order of their numbers.

    Concurrent writers of answers wait. Returns the numbers of the sources that were not removed or withdrawn meanwhile.
    """
    rows = SourceState.objects.filter(AnyOf("source_id", [source.pk for source in sources])).order_by("source_id")
    locked = set(rows.select_for_update(no_key=True).values_list("source_id", flat=True))
    # Asked after the lock: a takedown takes it as well.
    kept = Source.objects.filter(AnyOf("pk", locked), blocked_at=None, removed_at=None)
    return set(kept.values_list("pk", flat=True))


def keep_health(source: Source, report: Report, *, now: datetime) -> None:
    """Store the health of a source."""
    source.state.health, source.state.health_data, source.state.judged_at = report.health.value, dict(report.data), now
    source.state.save(update_fields=_HEALTH)


_HEALTH = ["health", "health_data", "judged_at"]
_SAID = ["etag", "last_modified", "format", "language", "link", "title", "pushed_until"]


def set_pushed_until(source: Source, until: datetime | None) -> None:
    """Set until when a hub pushes a source.

    None where it does not.
    """
    source.state.pushed_until = until
    source.state.save(update_fields=["pushed_until"])


def log_unchanged(pairs: Sequence[tuple[Source, SourceAnswer]], *, now: datetime) -> list[Reading]:
    """Log unchanged answers of sources in few statements."""
    for source, answer in pairs:
        _plan_next_read(source, answer.outcome, now)
    # They did not fail before, so only the next time differs, and many share it.
    by_time: dict[datetime | None, list[int]] = {}
    for source, _ in pairs:
        by_time.setdefault(source.state.next_read_at, []).append(source.pk)
    for at, numbers in by_time.items():
        SourceState.objects.filter(AnyOf("source_id", numbers)).update(next_read_at=at)
    return Reading.objects.bulk_create(
        Reading(source=source, at=now, milliseconds=answer.milliseconds, not_modified=True, status=answer.status)
        for source, answer in pairs
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Logged:
    """One reading: the source's answer, and the number of new items."""

    source: Source
    answer: SourceAnswer
    fresh: int


def log_readings(logged: Sequence[Logged], *, now: datetime, judged: Callable[[Source], Report]) -> list[Reading]:
    """Log readings, with validators for the next ones and the ``judged`` health.

    Each source appears once, and its row is locked or used by nobody else.
    """
    readings: list[Reading] = []
    changed: dict[tuple[str, ...], list[Source]] = {}
    for entry in logged:
        reading, names = _take_over(entry, now)
        report = judged(entry.source)
        entry.source.state.health, entry.source.state.health_data = report.health.value, dict(report.data)
        entry.source.state.judged_at = now
        changed.setdefault((*names, *_HEALTH), []).append(entry.source)
        readings.append(reading)
    for fields, sources in changed.items():
        _save(sources, fields)
    return Reading.objects.bulk_create(readings)


def _save(sources: list[Source], names: Sequence[str]) -> None:
    """Update these fields of existing states.

    Several rows in one statement.
    """
    if len(sources) == 1:
        sources[0].state.save(update_fields=names)
    else:
        states = [source.state for source in sources]
        SourceState.objects.bulk_create(states, update_conflicts=True, unique_fields=["source"], update_fields=names)


def _take_over(logged: Logged, now: datetime) -> tuple[Reading, list[str]]:
    """Copy an answer's state into its source.

    Return the reading and the fields to save.
    """
    source, answer, outcome = logged.source, logged.answer, logged.answer.outcome
    reading = Reading(
        source=source,
        at=now,
        milliseconds=answer.milliseconds,
        fresh=logged.fresh,
        status=answer.status,
        size=answer.size,
    )
    _plan_next_read(source, outcome, now)
    _note_outcome(source, outcome, now)
    changed = [*_PLAN]
    if answer.moved_to or source.state.moved_to:
        _follow_move(source, answer.moved_to)
    match outcome:
        case Feed():
            reading.found = len(outcome.items) + outcome.unchanged
            reading.warnings = [asdict(warning) for warning in outcome.warnings[:20]]
            source.state.format, source.state.language = outcome.format[:40], outcome.language[:35]
            source.state.link, source.state.title = outcome.link[:2000], outcome.title[:300]
            source.state.hub, source.state.topic = outcome.hub[:2000], (outcome.self_link or source.url)[:2000]
            if not outcome.hub:
                source.state.topic = ""
            if logged.fresh and source.state.pushed_until and not answer.pushed:
                # The hub should have pushed these, so it has fallen silent and polling resumes.
                source.state.pushed_until = None
            # A push has only news; whether the feed names a hub is known from reading it.
            changed += _SAID if answer.pushed else [*_SAID, "hub", "topic"]
        case Fetched():
            reading.not_modified = True
            if source.state.given_at is None:
                # It has given nothing that could be unchanged: the next reading asks for all of it.
                source.state.etag, source.state.last_modified = "", ""
                changed += ["etag", "last_modified"]
        case FetchError():
            reading.error, reading.detail = outcome.code.value, str(outcome)[:500]
        case ParseError():
            reading.error, reading.detail = outcome.code, str(outcome)[:500]
    return reading, changed
