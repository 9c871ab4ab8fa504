"""Writing the audit list."""

from datetime import datetime, timedelta
from typing import Any

from django.conf import settings
from django.db import connection, transaction

from glyptarch_server import wiring
from glyptarch_server.audit.models import Entry
from glyptarch_server.common.acting import acting_at, acting_person

__all__ = ["record", "thin_entries"]

_AT_ONCE = 500
_LEAST_DAYS = 366


def record(
    action: str,
    subject: str = "",
    *,
    blog: int | None = None,
    before: Any = None,  # noqa: ANN401 - whatever JSON can hold
    after: Any = None,  # noqa: ANN401
) -> None:
    """Record an action of the acting person: ``campaign.renamed``, from ``before`` to ``after``.

    Call it inside the transaction of the action, so that both are stored or neither. Actions of jobs and commands have
    no name.
    """
    person = acting_person()
    token = getattr(person, "token_name", "")
    name = (person.get_full_name() or person.get_username()) if person else ""
    Entry.objects.create(
        blog=blog,
        person=person.pk if person else None,
        name=(f"{name} (token “{token}”)" if token else name)[:200],
        action=action,
        subject=subject[:300],
        before=before,
        after=after,
        at=acting_at() or wiring.clock()(),
    )


def thin_entries(*, now: datetime) -> int:
    """Remove entries older than the settings keep them, and return how many.

    The database lets nobody remove one but a transaction that says it is thinning, and no entry younger than a year.
    """
    before = now - timedelta(days=max(_LEAST_DAYS, settings.GLYPTARCH_KEEP_AUDIT_DAYS))
    with transaction.atomic():
        numbers = list(Entry.objects.filter(at__lt=before).order_by("pk").values_list("pk", flat=True)[:_AT_ONCE])
        with connection.cursor() as cursor:
            cursor.execute("SET LOCAL glyptarch.thinning = 'on'")
            cursor.execute("DELETE FROM audit_entry WHERE id = ANY(%s)", [numbers])
    return len(numbers)
