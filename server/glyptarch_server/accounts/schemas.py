"""What the API takes and gives about sign-ins."""

from ninja import Schema
from pydantic import Field

__all__ = ["SessionOut", "SignInIn"]


class SignInIn(Schema):
    """Name and password."""

    name: str = Field(min_length=1, max_length=150)
    password: str = Field(min_length=1, max_length=200)


class SessionOut(Schema):
    """Who is signed in; no name when nobody is."""

    name: str | None
    csrf_token: str
