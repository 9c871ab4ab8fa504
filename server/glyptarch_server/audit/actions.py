"""Writing the audit list."""

from typing import Any

from glyptarch_server import wiring
from glyptarch_server.audit.models import Entry
from glyptarch_server.common.acting import acting_at, acting_person

__all__ = ["record"]


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
