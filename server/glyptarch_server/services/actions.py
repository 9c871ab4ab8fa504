"""Changes of language services, and noting what items ask of them."""

from collections.abc import Mapping, Sequence
from datetime import datetime
from decimal import Decimal
from typing import Any, NamedTuple

from django.db import transaction
from glyptarch_core.editions.described import ServiceDocument
from glyptarch_core.errors import Fault
from glyptarch_core.language_services import Ask
from glyptarch_core.text import slugify
from glyptarch_core.trace import Decision
from pydantic import ValidationError

from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.common.problems import Invalid
from glyptarch_server.common.versions import lock_version
from glyptarch_server.services.access import sealed_key
from glyptarch_server.services.models import Service, TextRow
from glyptarch_server.services.queries import unanswered
from glyptarch_server.tasks.actions import begin_task
from glyptarch_server.tasks.models import Task
from glyptarch_server.tasks.queries import active_task

__all__ = [
    "TASK",
    "AskedText",
    "ask_again",
    "ask_for",
    "begin_asking",
    "checked_document",
    "go_on",
    "make_service",
    "note_asks",
    "note_texts",
    "remove_service",
    "save_service",
]

_MOST_AT_ONCE = 2000
_MOST_AGAIN = 10_000
_SUBJECT = "Texts of language services"
TASK = "services"
"""The kind of the task that asks services. Its row is the blog."""


def checked_document(values: Mapping[str, Any]) -> ServiceDocument:
    """Return a description of a service. Raises Invalid for one that cannot work."""
    try:
        return ServiceDocument.model_validate(values)
    except ValidationError as error:
        faults = [
            Fault(
                path=".".join(["document", *(str(part) for part in fault["loc"])]),
                message=fault["msg"].removeprefix("Value error, "),
            )
            for fault in error.errors()
        ]
        raise Invalid(f"The description is not valid: {faults[0].message}.", faults=faults) from error


def _free_key(blog: Blog, name: str) -> str:
    taken = set(Service.objects.filter(blog=blog).values_list("key", flat=True))
    stem = (slugify(name) or "service")[:50]
    return next(key for number in range(len(taken) + 1) if (key := f"{stem}-{number}" if number else stem) not in taken)


def make_service(
    blog: Blog,
    *,
    name: str,
    document: Mapping[str, Any],
    secret: str,
    most_a_day: int | None,
    price: Decimal | None,
    currency: str,
    now: datetime,
) -> Service:
    """Store a language service. Raises Invalid."""
    checked = checked_document(document)
    with transaction.atomic():
        row = Service.objects.create(
            blog=blog,
            key=_free_key(blog, name),
            name=name,
            document=checked.model_dump(mode="json"),
            sealed=sealed_key(secret.strip()),
            most_a_day=most_a_day,
            price=price,
            currency=currency if price is not None else "",
            made_at=now,
        )
        record("service.made", row.name, blog=blog.pk, after=checked.address)
    return row


def save_service(
    service: Service,
    *,
    name: str,
    document: Mapping[str, Any],
    secret: str,
    most_a_day: int | None,
    price: Decimal | None,
    currency: str,
    begun: int | None = None,
) -> None:
    """Change a language service.

    An empty secret keeps its value, unless the service is at another host now. Texts that are there stay. Raises
    Invalid, and Conflict where somebody has changed it since.
    """
    checked = checked_document(document)
    before = ServiceDocument.model_validate(service.document)
    with transaction.atomic():
        lock_version(service, begun, service.name)
        if secret.strip():
            service.sealed = sealed_key(secret.strip())
        elif checked.origin != before.origin:
            service.sealed = ""
        service.name, service.document = name, checked.model_dump(mode="json")
        service.most_a_day, service.price = most_a_day, price
        service.currency = currency if price is not None else ""
        service.state, service.detail, service.waits_until = "unchecked", "", None
        service.save()
        record("service.changed", service.name, blog=service.blog_id, before=before.address, after=checked.address)


def remove_service(service: Service, *, now: datetime) -> None:
    """Remove a language service with its key. Its answers stay in the text memory."""
    with transaction.atomic():
        service.sealed, service.removed_at = "", now
        service.save(update_fields=["sealed", "removed_at"])
        record("service.removed", service.name, blog=service.blog_id)


class AskedText(NamedTuple):
    """What is asked about a text, the source that it is from, and the campaign that pays for it."""

    ask: Ask
    origin: str
    campaign: int | None


def note_asks(blog_id: int, campaign_id: int, decisions: Sequence[Decision], *, now: datetime) -> int:
    """Put what decisions ask on record where it is not there yet.

    Return how many of these have no answer.
    """
    asked = [
        AskedText(ask, decision.captured.item.source, campaign_id) for decision in decisions for ask in decision.asks
    ]
    return note_texts(blog_id, asked, now=now)


def ask_for(blog_id: int, asked: Sequence[AskedText], *, now: datetime) -> None:
    """Note what is asked about texts, and have services asked for it. Call it in a transaction.

    The present task is locked until then, so that it does not end without having seen them: see ``go_on``.
    """
    if not asked:
        return
    tasks = Task.objects.select_for_update(of=("self",)).filter(kind=TASK, ref=blog_id, ended_at=None)
    under_way = tasks.first()
    if note_texts(blog_id, asked, now=now) and under_way is None:
        begin_asking(blog_id, now=now)


def go_on(task: Task, *, now: datetime) -> None:
    """Begin another task where texts have come since the last look of one that is done."""
    if unanswered(task.ref).exists():
        begin_asking(task.ref, now=now)


def note_texts(blog_id: int, asked: Sequence[AskedText], *, now: datetime) -> int:
    """Put what is asked about texts on record where it is not there yet.

    Return how many of these have no answer. One that another campaign has asked is answered with its own; one that had
    a fault is asked about by the services that are in the chain now.
    """
    by_key = {text.ask.key: text for text in asked}
    if not by_key:
        return 0
    rows = [
        TextRow(
            blog_id=blog_id,
            campaign_id=campaign,
            key=key,
            ask={
                "task": ask.task.value,
                "services": list(ask.services),
                "text": ask.text,
                "source": ask.source,
                "target": ask.target,
                "words": ask.words,
                "names": list(ask.names),
                "fixed": [[list(word.forms), list(word.by)] for word in ask.fixed],
            },
            origin=origin[:60],
            characters=len(ask.text),
            asked_at=now,
        )
        for key, (ask, origin, campaign) in by_key.items()
    ]
    failed = list(TextRow.objects.filter(AnyOf("key", list(by_key)), blog=blog_id).exclude(fault=""))
    for row in failed:
        row.ask["services"] = list(by_key[row.key].ask.services)
        _open_again(row, now)
    TextRow.objects.bulk_update(failed, ["ask", *_OPENED], batch_size=_MOST_AT_ONCE)
    TextRow.objects.bulk_create(rows, batch_size=_MOST_AT_ONCE, ignore_conflicts=True)
    return TextRow.objects.filter(AnyOf("key", list(by_key)), blog=blog_id, answered_at=None).count()


_OPENED = ("fault", "by", "answered_at", "place", "tries", "request", "asked_at")


def _open_again(row: TextRow, now: datetime) -> None:
    """Forget the fault of a text, so that it is asked about again."""
    row.fault, row.by, row.answered_at, row.place, row.tries, row.request, row.asked_at = "", "", None, 0, 0, None, now


def begin_asking(blog_id: int, *, now: datetime, by_id: int | None = None) -> Task:
    """Begin the task that asks services about the texts of a blog.

    One that is under way takes them as well.
    """
    under_way = active_task(TASK, blog_id)
    if under_way is not None:
        return under_way
    return begin_task(TASK, blog_id, blog_id=blog_id, subject=_SUBJECT, now=now, path="services", by_id=by_id)


def ask_again(blog: Blog, *, now: datetime) -> int:
    """Forget the faults of a blog's texts, so that they are asked about again. Return how many.

    Posts that were made without them follow when their campaign is replayed.
    """
    with transaction.atomic():
        rows = list(TextRow.objects.select_for_update().filter(blog=blog).exclude(fault="")[:_MOST_AGAIN])
        for row in rows:
            _open_again(row, now)
        TextRow.objects.bulk_update(rows, _OPENED, batch_size=_MOST_AT_ONCE)
        if rows:
            record("services.again", blog.title, blog=blog.pk, after=len(rows))
    return len(rows)
