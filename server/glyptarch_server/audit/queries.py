"""Reads of the audit list."""

from django.db.models import Q, QuerySet

from glyptarch_server.audit.models import Entry

__all__ = ["entries_of", "last_done"]


def entries_of(blog: int, *, search: str = "", action: str = "") -> QuerySet[Entry]:
    """Return the entries of a blog, newest first.

    They are filtered by a word or a kind of action (``campaign``).
    """
    rows = Entry.objects.filter(blog=blog).order_by("-at", "-pk")
    if action:
        rows = rows.filter(action__startswith=f"{action}.")
    if search:
        rows = rows.filter(Q(subject__icontains=search) | Q(name__icontains=search) | Q(action__icontains=search))
    return rows


def last_done(blog: int, action: str, subject: str) -> Entry | None:
    """Return the latest entry of an action on a subject.

    None for none.
    """
    return Entry.objects.filter(blog=blog, action=action, subject=subject).order_by("-at", "-pk").first()
