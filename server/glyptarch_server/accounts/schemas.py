"""API schemas of accounts."""

from datetime import datetime
from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field, StringConstraints

from glyptarch_server.common.out import Out

__all__ = [
    "AccountIn",
    "AccountOut",
    "MadeTokenOut",
    "NewPasswordIn",
    "PasswordIn",
    "RecoveryCodesOut",
    "ResetAskIn",
    "ResetIn",
    "SecondFactorIn",
    "SecondFactorOut",
    "SessionOut",
    "SignInIn",
    "TokenIn",
    "TokenOut",
    "TokenRole",
]

TokenRole = Literal["viewer", "reviewer", "editor", "owner"]


class SignInIn(Schema):
    """Name and password, and the code of the second factor where one is in use."""

    name: str = Field(min_length=1, max_length=150)
    password: str = Field(min_length=1, max_length=200)
    code: str = Field("", max_length=20)


class SessionOut(Out):
    """The signed-in person.

    An empty name where nobody has signed in.
    """

    name: str | None
    user: str | None = Field(description="The name that the person signs in with, which no other person has.")
    csrf_token: str
    version: str = Field(description="The version of Glyptarch.")


class AccountOut(Out):
    """A person's own account settings."""

    user_name: str
    full_name: str
    email: str
    second_factor: bool
    recovery_codes: int = Field(description="How many recovery codes are left.")
    mail_is_set_up: bool = Field(description="Whether this installation can send mail.")


class AccountIn(Schema):
    """The full name and mail address of a person."""

    full_name: Annotated[str, StringConstraints(strip_whitespace=True, max_length=150)]
    email: Annotated[str, StringConstraints(strip_whitespace=True, max_length=254)]
    password: str = Field("", max_length=200, description="The present password, needed for another mail address.")


class NewPasswordIn(Schema):
    """The present password and the next one."""

    old: str = Field(max_length=200)
    password: str = Field(max_length=200)


class PasswordIn(Schema):
    """The present password, asked for once more before something that matters."""

    password: str = Field(max_length=200)


class ResetAskIn(Schema):
    """The address for a reset link."""

    email: str = Field(min_length=3, max_length=254)


class ResetIn(Schema):
    """The two parts of the link that was sent, and the new password."""

    person: str = Field(max_length=40)
    token: str = Field(max_length=100)
    password: str = Field(max_length=200)


class SecondFactorOut(Out):
    """A new secret as text and as a QR code, not used until it is confirmed."""

    secret: str
    picture: str


class SecondFactorIn(Schema):
    """A secret with a code that was made from it."""

    secret: str = Field(max_length=64)
    code: str = Field(max_length=20)
    password: str = Field(max_length=200, description="The present password.")


class RecoveryCodesOut(Out):
    """Codes that each replace the second factor once. They are shown only here."""

    codes: list[str]


class TokenIn(Schema):
    """A token that is to be made."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
    role: TokenRole
    days: int = Field(ge=1, le=366)


class TokenOut(Out):
    """A token, without its key."""

    id: int
    name: str
    role: TokenRole
    made_at: datetime
    ends_at: datetime
    used_at: datetime | None


class MadeTokenOut(Out):
    """A token that has just been made, with its key, which is shown only now."""

    token: TokenOut
    key: str
