"""The API of people: who works on a blog, invitations, and joining."""

from typing import TYPE_CHECKING

from django.db import transaction
from django.http import HttpRequest
from ninja import Router

from glyptarch_server import wiring
from glyptarch_server.accounts.actions import make_user, sign_in_as
from glyptarch_server.accounts.queries import person_of, signed_in
from glyptarch_server.blogs.queries import Role, blog_for, role_of
from glyptarch_server.common.address import address_of
from glyptarch_server.common.fields import RowNumber
from glyptarch_server.common.problems import Forbidden
from glyptarch_server.common.session_auth import check_token
from glyptarch_server.mail.actions import mail_is_set_up
from glyptarch_server.people import actions, queries
from glyptarch_server.people.schemas import (
    InvitationOut,
    InvitedOut,
    InviteIn,
    JoinedOut,
    JoinIn,
    MemberOut,
    PeopleOut,
    RoleIn,
)
from glyptarch_server.throttle.actions import limit_of, take

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Membership
    from glyptarch_server.people.models import Invitation

__all__ = ["router"]

router = Router(tags=["people"])
_INVITATIONS = limit_of("60 per 60 minutes", "invitations")


def _member(row: "Membership", *, you: bool, whole: bool) -> MemberOut:
    return MemberOut(
        id=row.pk,
        name=row.user.first_name or row.user.username,
        user_name=row.user.username,
        email=row.user.email if whole or you else "",
        role=Role(row.role),
        you=you,
        second_factor=bool(row.user.totp_secret),
        last_seen_at=row.user.last_login,
    )


def _invitation(row: "Invitation") -> InvitationOut:
    by = (row.made_by.first_name or row.made_by.username) if row.made_by else ""
    return InvitationOut(
        id=row.pk, email=row.email, role=Role(row.role), by=by, made_at=row.made_at, ends_at=row.ends_at
    )


@router.get("/blogs/{blog}/people", response=PeopleOut, operation_id="listPeople")
def list_people(request: HttpRequest, blog: str) -> PeopleOut:
    """Return the members and invitations of a blog."""
    row = blog_for(request.user, blog)
    owner = role_of(request.user, row) is Role.OWNER
    members = queries.members_of(row)
    return PeopleOut(
        members=[_member(member, you=member.user_id == request.user.pk, whole=owner) for member in members],
        invitations=[_invitation(invitation) for invitation in queries.invitations_of(row)] if owner else [],
        mail_is_set_up=mail_is_set_up(),
    )


@router.post("/blogs/{blog}/invitations", response=InvitedOut, operation_id="invite")
def invite(request: HttpRequest, blog: str, payload: InviteIn) -> InvitedOut:
    """Invite an address by mail.

    The link is returned as well.
    """
    owned = blog_for(request.user, blog, Role.OWNER)
    by = signed_in(request)
    if not take(_INVITATIONS, str(by.pk)):
        raise Forbidden("You have sent 60 invitations within an hour. Wait a while, then send more.")
    row, link = actions.invite(
        owned, payload.email, payload.role, by=by, desk=address_of(request), now=wiring.clock()()
    )
    return InvitedOut(invitation=_invitation(row), link=link)


@router.delete("/blogs/{blog}/invitations/{int:number}", response={204: None}, operation_id="takeBackInvitation")
def take_back_invitation(request: HttpRequest, blog: str, number: RowNumber) -> tuple[int, None]:
    """End an invitation that nobody has taken."""
    actions.take_back(queries.invitation_of(blog_for(request.user, blog, Role.OWNER), number))
    return 204, None


@router.patch("/blogs/{blog}/people/{int:number}", response=MemberOut, operation_id="changeRole")
def change_role(request: HttpRequest, blog: str, number: RowNumber, payload: RoleIn) -> MemberOut:
    """Change a person's role."""
    row = queries.member_of(blog_for(request.user, blog, Role.OWNER), number)
    actions.change_role(row, payload.role)
    return _member(row, you=row.user_id == request.user.pk, whole=True)


@router.delete("/blogs/{blog}/people/{int:number}", response={204: None}, operation_id="removeMember")
def remove_member(request: HttpRequest, blog: str, number: RowNumber) -> tuple[int, None]:
    """Remove a member.

    Everybody may remove themselves.
    """
    row = queries.member_of(blog_for(request.user, blog), number)
    if row.user_id != request.user.pk:
        blog_for(request.user, blog, Role.OWNER)
    actions.remove_member(row)
    return 204, None


@router.get("/invitations/{key}", response=JoinedOut, auth=None, operation_id="getInvitation")
def get_invitation(request: HttpRequest, key: str) -> JoinedOut:
    """Return what a link invites to."""
    del request
    row = queries.invitation_by_key(key, now=wiring.clock()())
    by = (row.made_by.first_name or row.made_by.username) if row.made_by else ""
    return JoinedOut(blog=row.blog.slug, title=row.blog.title, role=Role(row.role), by=by, email=row.email)


@router.post("/invitations/{key}", response=JoinedOut, auth=None, operation_id="join")
def join(request: HttpRequest, key: str, payload: JoinIn) -> JoinedOut:
    """Join a blog as the signed-in person, or as a new person, who is then signed in."""
    check_token(request)
    now = wiring.clock()()
    invitation = queries.invitation_by_key(key, now=now)
    user = person_of(request)
    with transaction.atomic():
        if user is None:
            user = make_user(payload.name, payload.password, full_name=payload.full_name, email=invitation.email)
            sign_in_as(request, user)
        membership = actions.join(key, user, now=now)
    return JoinedOut(
        blog=membership.blog.slug, title=membership.blog.title, role=Role(membership.role), by="", email=user.email
    )
