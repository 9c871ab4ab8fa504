"""Inviting people, and changing roles."""

import secrets
from datetime import datetime, timedelta

from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db import transaction
from glyptarch_core.errors import Fault

from glyptarch_server.accounts.models import User
from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.actions import add_member
from glyptarch_server.blogs.models import Blog, Membership, Role
from glyptarch_server.common.problems import Conflict, Invalid, NotFound
from glyptarch_server.mail.actions import send
from glyptarch_server.people.models import Invitation
from glyptarch_server.people.queries import hash_of_key, invitation_by_key

__all__ = ["change_role", "invite", "join", "remove_member", "take_back"]

_LASTS = timedelta(days=7)


def invite(blog: Blog, email: str, role: Role, *, by: User, desk: str, now: datetime) -> tuple[Invitation, str]:
    """Invite an address.

    Return the invitation and its link. Ends an earlier one to the address. Raises Invalid for a bad address, Conflict
    where the person is a member already.
    """
    address = email.strip()
    try:
        validate_email(address)
    except ValidationError as error:
        message = f"“{address}” is no mail address. It looks like name@example.org."
        raise Invalid(message, faults=[Fault(path="email", message=message)]) from error
    if Membership.objects.filter(blog=blog, user__email__iexact=address).exists():
        raise Conflict(f"Somebody with the address {address} works on the blog already. Change the role in the list.")
    key = secrets.token_urlsafe(24)
    link = f"{desk}/join/{key}"
    with transaction.atomic():
        Invitation.objects.filter(blog=blog, email__iexact=address).delete()
        row = Invitation.objects.create(
            blog=blog, email=address, role=role.value, key_hash=hash_of_key(key), made_by=by, made_at=now,
            ends_at=now + _LASTS,
        )  # fmt: skip
        record("people.invited", address, blog=blog.pk, after={"role": role.value})
        send(
            address,
            f"{by.get_short_name() or by.username} invites you to work on “{blog.title}”",
            f"You are invited to work on the blog “{blog.title}” as {role.label.lower()}.\n\n"
            f"Join here within a week:\n\n{link}\n\nIf you do not know the sender, do nothing.\n",
        )
    return row, link


def take_back(row: Invitation) -> None:
    """End an invitation that nobody has taken."""
    with transaction.atomic():
        record("people.invitation_taken_back", row.email, blog=row.blog_id)
        row.delete()


def join(key: str, user: User, *, now: datetime) -> Membership:
    """Accept an invitation for a person, whose higher role stays.

    The link is used up. Raises NotFound where the link has expired.
    """
    with transaction.atomic():
        invitation = invitation_by_key(key, now=now)
        if not Invitation.objects.filter(pk=invitation.pk).delete()[0]:
            raise NotFound("This invitation has just been used. Ask for a new one.")
        membership = Membership.objects.filter(blog=invitation.blog, user=user).first()
        role = Role(invitation.role)
        if membership is None or Role(membership.role).rank < role.rank:
            add_member(invitation.blog, user, role)
        record("people.joined", user.username, blog=invitation.blog_id, after={"role": role.value})
    return Membership.objects.select_related("blog").get(blog=invitation.blog, user=user)


def _check_owner_left(blog: Blog, without: Membership) -> None:
    """Raise Conflict where the blog would have no owner. Its owners' rows stay locked."""
    owners = Membership.objects.select_for_update().filter(blog=blog, role=Role.OWNER).order_by("pk")
    if all(owner.pk == without.pk for owner in owners):
        raise Conflict("A blog needs an owner. Make somebody else an owner first.")


def change_role(row: Membership, role: Role) -> None:
    """Change a role. Raises Conflict where the blog would have no owner."""
    with transaction.atomic():
        if row.role == Role.OWNER and role is not Role.OWNER:
            _check_owner_left(row.blog, row)
        before, row.role = row.role, role.value
        row.save(update_fields=["role"])
        record("people.role", row.user.username, blog=row.blog_id, before=before, after=role.value)


def remove_member(row: Membership) -> None:
    """Remove a member. Raises Conflict where the blog would have no owner."""
    with transaction.atomic():
        if row.role == Role.OWNER:
            _check_owner_left(row.blog, row)
        record("people.removed", row.user.username, blog=row.blog_id, before=row.role)
        row.delete()
