"""API schemas of platforms and connections."""

from datetime import datetime
from typing import Annotated, Any

from ninja import Schema
from pydantic import Field, StringConstraints

from glyptarch_server.common.out import Out
from glyptarch_server.common.versions import Begun
from glyptarch_server.platforms.states import ConnectionState

__all__ = [
    "AskSampleOut",
    "AskTestIn",
    "AskTestOut",
    "ConnectionIn",
    "ConnectionOut",
    "PlatformOut",
    "SaveConnectionIn",
    "SecretOut",
    "SignInOut",
    "UseOut",
    "WiderOut",
]

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=100)]
Words = Annotated[str, StringConstraints(strip_whitespace=True, max_length=200)]
Fields = Annotated[
    dict[Annotated[str, StringConstraints(max_length=40)], Annotated[str, StringConstraints(max_length=2000)]],
    Field(max_length=10),
]


class SecretOut(Out):
    """A field of a connection, and whether its stored value is hidden."""

    name: str
    label: str
    hidden: bool


class PlatformOut(Out):
    """A platform: its purpose, connection fields, and the JSON Schema of its parameters."""

    key: str
    name: str
    purpose: str
    secrets: list[SecretOut]
    limit_a_day: int = Field(description="Requests a day with one connection; 0 where no limit is known.")
    signs_in: bool = Field(description="Whether a person signs in at the platform (OAuth 2).")
    by_words: bool = Field(description="Whether its sources have lines of search words.")
    form: dict[str, Any]


class ConnectionIn(Schema):
    """A new connection."""

    platform: str = Field(max_length=20)
    name: Name
    address: Annotated[str, StringConstraints(strip_whitespace=True, max_length=2000)]
    fields: Fields


class SaveConnectionIn(Schema):
    """A changed connection.

    An empty secret keeps its value.
    """

    name: Name
    address: Annotated[str, StringConstraints(strip_whitespace=True, max_length=2000)]
    fields: Fields = {}
    version: Begun = None


class SignInOut(Out):
    """The address at which a person signs in at the platform."""

    address: str


class UseOut(Out):
    """The requests of today by user.

    An empty name means checks and tests.
    """

    who: str
    used: int


class ConnectionOut(Out):
    """A connection without its secrets."""

    key: str
    version: int
    platform: str
    name: str
    address: str
    state: ConnectionState
    detail: str
    checked_at: datetime | None
    waits_until: datetime | None
    limit_a_day: int = Field(description="0 where no limit is known.")
    used: list[UseOut]
    sources: int


class AskTestIn(Schema):
    """Parameters to test with one request."""

    platform: str = Field(max_length=20)
    connection: str = Field(default="", max_length=60)
    parameters: dict[str, Any]
    words: Words = ""


class AskSampleOut(Out):
    """One item of a test."""

    title: str
    link: str
    published: datetime | None
    words: int
    picture: str


class WiderOut(Out):
    """Parameters to ask for instead where an answer is empty, and what that is called."""

    name: str
    parameters: dict[str, Any]


class AskTestOut(Out):
    """One test answer: items, total, filled fields, or the error.

    ``answer`` is the answer itself where it is JSON and not too large.
    """

    described: str
    items: list[AskSampleOut]
    total: int | None
    more: bool
    fields: dict[str, int]
    answer: Any
    error: str
    wider: WiderOut | None = None
