"""Asking language services: batch by batch, each request on record before it is sent.

So a killed worker sends the same request again, with the same ``Idempotency-Key`` (IETF draft “The Idempotency-Key HTTP
Header Field”): a service that knows it counts it once.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, time, timedelta
from time import monotonic

from django.db import transaction
from django.db.models import F
from glyptarch_core.editions import asked_of, checked
from glyptarch_core.editions.described import (
    AnswerError,
    ServiceDocument,
    ServiceRequest,
    can_do,
    job_of,
    request_for,
    texts_of,
)
from glyptarch_core.language_services import Answer, Ask, TextTask

from glyptarch_server.services.access import key_of
from glyptarch_server.services.models import Service, ServiceUse, TextRequest, TextRow
from glyptarch_server.services.queries import (
    ask_of_row,
    document_of_service,
    sent_on,
    services_by_key,
    spent_campaigns,
    unanswered,
)
from glyptarch_server.tasks.carrying import Carrier
from glyptarch_server.tasks.lifecycle import LaterError, TaskError
from glyptarch_server.tasks.models import Task
from glyptarch_server.wiring import FetchError, FetchPortal, FetchRequest

__all__ = ["Tried", "carry_texts", "try_service"]

_LOOKED_AT = 500
_MOST_TRIES = 2
"""How often one service is asked about one text: once more after an answer that cannot be used."""
_MOST_SENT = 3
_SECONDS_BETWEEN_POLLS = 2.0
_SECONDS_AFTER_A_FAILURE = 20.0
_SECONDS = 60.0
_MOST_BYTES = 4 << 20
_LONGEST_WAIT = timedelta(minutes=2)
_LONGEST_JOB = timedelta(minutes=10)
_DAY = timedelta(days=1)
_REST = timedelta(minutes=30)
_KEY_REFUSED = frozenset({401, 403})
_TRIED_WORDS = 40
_UNREADABLE = "unreadable"


@dataclass(frozen=True, slots=True, kw_only=True)
class _Batch:
    """A request under way: its texts in their order, their questions, and the service."""

    request: TextRequest
    service: Service
    document: ServiceDocument
    rows: Sequence[TextRow]
    asks: Sequence[Ask]


def carry_texts(task: Task, carrier: Carrier) -> None:
    """Ask services about all texts of a blog that have no answer.

    Raises TaskError where none of the services can answer today, LaterError where one wants a pause.
    """
    answered = 0
    while True:
        waiting = unanswered(task.ref).count()
        carrier.report(answered, answered + waiting, phase="asking")
        if not waiting:
            return
        # Nothing more is paid for a blog that was removed, or for a person who may no longer ask.
        carrier.check()
        batch = _under_way(task.ref) or _next(task.ref, carrier.now())
        if batch is not None:
            answered += _ask(batch, carrier)


def _batch(request: TextRequest, service: Service, rows: Sequence[TextRow]) -> _Batch:
    return _Batch(
        request=request,
        service=service,
        document=document_of_service(service),
        rows=rows,
        asks=[ask_of_row(row.ask) for row in rows],
    )


def _under_way(blog_id: int) -> _Batch | None:
    """Return a request that was made before, and has no answer yet."""
    request = TextRequest.objects.filter(service__blog=blog_id).select_related("service").order_by("made_at").first()
    if request is None:
        return None
    rows = list(request.texts.filter(answered_at=None).order_by("pk"))
    if not rows or request.service.removed_at is not None:
        request.delete()
        return None
    return _batch(request, request.service, rows)


def _next(blog_id: int, now: datetime) -> _Batch | None:
    """Put the next request on record: the first text that waits, and others like it.

    None where texts got another service, or none. Raises TaskError or LaterError where no service can be asked now.
    """
    services, until = services_by_key(blog_id), list[datetime]()
    with transaction.atomic():
        spent = spent_campaigns(blog_id, now.astimezone(UTC).date())
        if spent:
            until.append(_tomorrow(now))
        rows = list(unanswered(blog_id).exclude(campaign__in=spent).select_for_update()[:_LOOKED_AT])
        for first in rows:
            ask = ask_of_row(first.ask)
            service = services.get(ask.services[first.place]) if first.place < len(ask.services) else None
            if service is None or not can_do(document_of_service(service), ask):
                _to_the_next_service(first, "no_service", now)
                return None
            if (pause := _rests_until(service, now)) is None:
                chosen = _alike(rows, first, ask, service)
                request = TextRequest.objects.create(service=service, made_at=now)
                TextRow.objects.filter(pk__in=[row.pk for row in chosen]).update(request=request)
                return _batch(request, service, chosen)
            if first.place + 1 < len(ask.services):
                _to_the_next_service(first, "no_service", now)
                return None
            until.append(pause)
    if not until:
        return None
    soonest = min(until)
    if soonest - now <= _LONGEST_WAIT:
        raise LaterError("a language service wants a pause", seconds=(soonest - now).total_seconds())
    raise TaskError(
        f"No language service can be asked before {soonest:%Y-%m-%d %H:%M} UTC; “Language services” says why, or a "
        "campaign has sent what it may on a day. The texts that are left are asked about in a later run; what is "
        "answered stays."
    )


def _rests_until(service: Service, now: datetime) -> datetime | None:
    """Return until when a service may not be asked. None where it may."""
    if service.waits_until is not None and service.waits_until > now:
        return service.waits_until
    day = now.astimezone(UTC).date()
    if service.most_a_day is not None and sent_on(service, day) >= service.most_a_day:
        return _tomorrow(now)
    return None


def _tomorrow(now: datetime) -> datetime:
    return datetime.combine(now.astimezone(UTC).date() + _DAY, time(), tzinfo=UTC)


def _alike(rows: Sequence[TextRow], first: TextRow, ask: Ask, service: Service) -> list[TextRow]:
    """Return texts for one request. One that had a fault is asked about alone."""
    document = document_of_service(service)
    chosen, characters = [first], first.characters
    for row in rows:
        if len(chosen) >= document.most_texts or first.tries:
            break
        if row.pk == first.pk or row.tries or row.place != first.place or row.request_id is not None:
            continue
        if document.is_chat and row.origin != first.origin:
            continue
        other = ask_of_row(row.ask)
        same = (other.task, other.services, other.source, other.target, other.words)
        if same != (ask.task, ask.services, ask.source, ask.target, ask.words):
            continue
        if characters + row.characters <= document.characters_at_once:
            chosen.append(row)
            characters += row.characters
    return sorted(chosen, key=lambda row: row.pk)


def _to_the_next_service(row: TextRow, fault: str, now: datetime) -> None:
    """Let the next service of the chain answer. Without one the text stays, for this fault."""
    row.place, row.tries, row.request = row.place + 1, 0, None
    if row.place >= len(row.ask["services"]):
        row.fault, row.answered_at = fault, now
    row.save(update_fields=["place", "tries", "request", "fault", "by", "answered_at"])


def _ask(batch: _Batch, carrier: Carrier) -> int:
    """Send a request, or ask for its job. Return how many texts are answered."""
    request, service = batch.request, batch.service
    polls = bool(request.job)
    TextRequest.objects.filter(pk=request.pk).update(tries=F("tries") + (0 if polls else 1))
    wanted = (
        ServiceRequest(url=batch.document.poll.replace("{job}", request.job), headers=())
        if polls
        else request_for(batch.document, batch.asks)
    )
    (answer,) = carrier.fetcher.fetch_all([_fetch_request(wanted, batch)])
    now = carrier.now()
    if isinstance(answer, FetchError):
        return _failed(batch, answer, now)
    if batch.document.poll and not polls:
        try:
            job = job_of(batch.document, answer.body)
        except AnswerError as error:
            return _unread(batch, str(error), now)
        TextRequest.objects.filter(pk=request.pk).update(job=job)
        return 0
    try:
        texts, charged = texts_of(batch.document, answer.body, len(batch.rows))
    except AnswerError as error:
        return _unread(batch, str(error), now)
    if texts is None:
        if now - request.made_at > _LONGEST_JOB:
            return _unread(batch, "The job was not done within ten minutes.", now)
        raise LaterError("a language service works on it", seconds=_SECONDS_BETWEEN_POLLS)
    answers = [checked(ask, text, by=service.key) for ask, text in zip(batch.asks, texts, strict=True)]
    return _keep(batch, answers, charged, now)


def _fetch_request(wanted: ServiceRequest, batch: _Batch) -> FetchRequest:
    headers = {"Accept": "application/json", **dict(wanted.headers)}
    if wanted.body:
        headers["Idempotency-Key"] = f'"{batch.request.pk}"'
    if key := key_of(batch.service):
        headers[batch.document.key_header] = batch.document.key_form.replace("{key}", key)
    return FetchRequest(
        url=wanted.url,
        headers=tuple(headers.items()),
        body=wanted.body,
        keeps_error=True,
        seconds=_SECONDS,
        most_bytes=_MOST_BYTES,
    )


def _keep(batch: _Batch, answers: Sequence[Answer], charged: int, now: datetime) -> int:
    """Write the answers, and what they cost, in one transaction."""
    answered = 0
    with transaction.atomic():
        if not TextRequest.objects.filter(pk=batch.request.pk).delete()[0]:
            return 0
        for row, answer in zip(batch.rows, answers, strict=True):
            row.request = None
            if not answer.fault:
                row.text, row.fault, row.by, row.answered_at = answer.text, "", answer.by, now
                answered += 1
            elif row.tries + 1 < _MOST_TRIES:
                row.tries += 1
            else:
                row.by = answer.by
                _to_the_next_service(row, answer.fault, now)
                answered += row.answered_at is not None
        TextRow.objects.bulk_update(batch.rows, ["request", "text", "fault", "by", "tries", "answered_at"])
        _count(batch, charged, now)
        if any(answer.fault != _UNREADABLE for answer in answers):
            _note_state(batch.service, "valid", "", None, now)
    return answered


def _count(batch: _Batch, charged: int, now: datetime) -> None:
    """Add a request to the bill: to each campaign its texts, to the first one the request."""
    day = now.astimezone(UTC).date()
    first = True
    for campaign in dict.fromkeys(row.campaign_id for row in batch.rows):
        rows = [row for row in batch.rows if row.campaign_id == campaign]
        use, _ = ServiceUse.objects.get_or_create(service=batch.service, day=day, campaign_id=campaign)  # type: ignore[misc]
        ServiceUse.objects.filter(pk=use.pk).update(
            requests=F("requests") + int(first),
            texts=F("texts") + len(rows),
            characters=F("characters") + sum(row.characters for row in rows),
            charged=F("charged") + charged * first,
        )
        first = False


def _failed(batch: _Batch, error: FetchError, now: datetime) -> int:
    """Note why a service gave no answer, and who is asked now.

    A service that is used up or does not know the key rests, and the next one of the chain is asked. Any other failure
    says nothing of what it has done: the same request is sent again, three times, before it rests.
    """
    request = batch.request
    if _note_failure(batch, error, now):
        request.delete()
        return 0
    if 400 <= error.status < 500:  # noqa: PLR2004 - the service refuses this request (RFC 9110, 15.5)
        return _unread(batch, str(error), now)
    if request.tries + 1 < _MOST_SENT and now - request.made_at < _LONGEST_JOB:
        raise LaterError("a language service does not answer", seconds=_SECONDS_AFTER_A_FAILURE)
    return _give_up(batch, now)


def _note_failure(batch: _Batch, error: FetchError, now: datetime) -> bool:
    """Note the state of a service after a failure. Return whether it rests from now on."""
    used_up = error.status in batch.document.used_up
    if used_up or error.status in _KEY_REFUSED:
        pause = timedelta(seconds=error.retry_after) if error.retry_after else _REST
        state, until = ("over_limit", now + pause) if used_up else ("wrong", now + _REST)
        _note_state(batch.service, state, _WORDS[state], until, now)
        return True
    _note_state(batch.service, "unreachable", str(error), None, now)
    return False


def _unread(batch: _Batch, why: str, now: datetime) -> int:
    """Count an answer that cannot be read as a fault of each of its texts."""
    _note_state(batch.service, _UNREADABLE, why, None, now)
    return _keep(batch, [Answer(fault=_UNREADABLE, by=batch.service.key) for _ in batch.rows], 0, now)


def _give_up(batch: _Batch, now: datetime) -> int:
    """Let a service rest that does not answer.

    Its texts wait for it, or go to the next service. A text that it never answers goes there the second time, so that
    it holds up no other.
    """
    answered = 0
    with transaction.atomic():
        batch.request.delete()
        Service.objects.filter(pk=batch.service.pk).update(waits_until=now + _REST)
        for row in batch.rows:
            row.tries, row.by = row.tries + 1, batch.service.key
            if row.tries < _MOST_TRIES:
                TextRow.objects.filter(pk=row.pk).update(tries=row.tries)
            else:
                _to_the_next_service(row, "unreachable", now)
                answered += row.answered_at is not None
    return answered


_WORDS = {
    "over_limit": "The service is used up, or was asked too often. It is asked again later, by itself.",
    "wrong": "The service does not know this key, or does not allow it to be used so. Look it up there.",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Tried:
    """What a service answered to a trial."""

    answer: str = ""
    fault: str = ""
    detail: str = ""
    charged: int = 0
    milliseconds: int = 0


def try_service(
    service: Service, *, task: TextTask, text: str, source: str, target: str, fetcher: FetchPortal, now: datetime
) -> Tried:
    """Ask a service about one text, check the answer, and note its state.

    Nothing is kept in the text memory. Of a service that answers later, only the job is asked for.
    """
    document, begun = document_of_service(service), monotonic()
    asked = asked_of(
        text, text, task=task, services=(service.key,), source=source, target=target, words=_TRIED_WORDS, glossary=()
    )
    if not can_do(document, asked):
        return Tried(fault="no_service", detail="Its description does not name this task, or these languages.")
    rests = _rests_until(service, now)
    if rests is not None:
        return Tried(fault="no_service", detail=f"It is used up until {rests:%Y-%m-%d %H:%M} UTC.")
    batch = _Batch(
        request=TextRequest(service=service, made_at=now),
        service=service,
        document=document,
        rows=[TextRow(characters=len(text))],
        asks=[asked],
    )
    (answer,) = fetcher.fetch_all([_fetch_request(request_for(document, [asked]), batch)])
    passed = round((monotonic() - begun) * 1000)
    if isinstance(answer, FetchError):
        _note_failure(batch, answer, now)
        return Tried(fault="unreachable", detail=Service.objects.get(pk=service.pk).detail, milliseconds=passed)
    _count(batch, 0, now)
    try:
        if document.poll:
            return Tried(answer=job_of(document, answer.body), milliseconds=passed)
        texts, charged = texts_of(document, answer.body, 1)
    except AnswerError as error:
        _note_state(service, _UNREADABLE, str(error), None, now)
        return Tried(fault=_UNREADABLE, detail=str(error), milliseconds=passed)
    _note_state(service, "valid", "", None, now)
    said = (texts or [""])[0]
    return Tried(answer=said, fault=checked(asked, said, by=service.key).fault, charged=charged, milliseconds=passed)


def _note_state(service: Service, state: str, detail: str, until: datetime | None, now: datetime) -> None:
    Service.objects.filter(pk=service.pk).update(state=state, detail=detail[:500], checked_at=now, waits_until=until)
