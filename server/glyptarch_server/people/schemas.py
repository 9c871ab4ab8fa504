"""API schemas of people."""

from datetime import datetime
from typing import Annotated

from ninja import Schema
from pydantic import Field, StringConstraints

from glyptarch_server.blogs.queries import Role
from glyptarch_server.common.out import Out

__all__ = ["InvitationOut", "InviteIn", "InvitedOut", "JoinIn", "JoinedOut", "MemberOut", "PeopleOut", "RoleIn"]


class MemberOut(Out):
    """A person who works on the blog."""

    id: int
    name: str
    user_name: str
    email: str = Field(description="The mail address; owners alone see it.")
    role: Role
    you: bool
    second_factor: bool
    last_seen_at: datetime | None = Field(description="When the person last signed in.")


class InvitationOut(Out):
    """An invitation that nobody has taken yet."""

    id: int
    email: str
    role: Role
    by: str
    made_at: datetime
    ends_at: datetime


class PeopleOut(Out):
    """The members and invitations of a blog.

    Only owners see invitations.
    """

    members: list[MemberOut]
    invitations: list[InvitationOut]
    mail_is_set_up: bool


class InviteIn(Schema):
    """Whom to invite, and as what."""

    email: Annotated[str, StringConstraints(strip_whitespace=True, min_length=3, max_length=254)]
    role: Role


class InvitedOut(Out):
    """An invitation that has just been made, with its link, which is shown only now."""

    invitation: InvitationOut
    link: str


class RoleIn(Schema):
    """Another role."""

    role: Role


class JoinedOut(Out):
    """The blog that an invitation leads to."""

    blog: str
    title: str
    role: Role
    by: str
    email: str


class JoinIn(Schema):
    """The account of a new person.

    Empty where the signed-in person joins.
    """

    name: Annotated[str, StringConstraints(strip_whitespace=True, max_length=150, pattern=r"^[\w.@+-]*$")] = ""
    full_name: Annotated[str, StringConstraints(strip_whitespace=True, max_length=150)] = ""
    password: str = Field("", max_length=200)
