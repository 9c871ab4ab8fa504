"""Reads about the people of a blog."""

import hashlib
from collections.abc import Sequence
from datetime import datetime

from glyptarch_server.blogs.models import Blog, Membership
from glyptarch_server.common.problems import NotFound
from glyptarch_server.people.models import Invitation

__all__ = ["hash_of_key", "invitation_by_key", "invitation_of", "invitations_of", "member_of", "members_of"]

_MOST = 500


def hash_of_key(key: str) -> str:
    """Return the stored form of an invitation's key.

    A plain hash is enough, since the key is long and random.
    """
    return hashlib.sha256(key.encode("utf-8", "surrogatepass")).hexdigest()


def members_of(blog: Blog) -> Sequence[Membership]:
    """Return the first 500 members of a blog by name."""
    rows = Membership.objects.filter(blog=blog).select_related("user")
    return list(rows.order_by("user__first_name", "user__username")[:_MOST])


def member_of(blog: Blog, number: int) -> Membership:
    """Return one membership. Raises NotFound."""
    row = Membership.objects.filter(blog=blog, pk=number).select_related("user").first()
    if row is None:
        raise NotFound("This person does not work on the blog. It may have been removed.")
    return row


def invitations_of(blog: Blog) -> Sequence[Invitation]:
    """Return the first 500 open invitations to a blog, newest first."""
    return list(Invitation.objects.filter(blog=blog).select_related("made_by").order_by("-made_at", "-pk")[:_MOST])


def invitation_of(blog: Blog, number: int) -> Invitation:
    """Return one invitation. Raises NotFound."""
    row = Invitation.objects.filter(blog=blog, pk=number).first()
    if row is None:
        raise NotFound("This invitation does not exist. It may have been used, or its time is over.")
    return row


def invitation_by_key(key: str, *, now: datetime) -> Invitation:
    """Return the invitation of a link. Raises NotFound where it is unknown or has expired."""
    invitation = Invitation.objects.filter(key_hash=hash_of_key(key), ends_at__gt=now).select_related("blog", "made_by")
    row = invitation.first()
    if row is None:
        raise NotFound("This invitation has been used, taken back, or its week is over. Ask for a new one.")
    return row
