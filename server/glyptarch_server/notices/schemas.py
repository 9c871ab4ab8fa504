"""What the API takes and gives about messages."""

from typing import Annotated

from ninja import Schema
from pydantic import StringConstraints

from glyptarch_server.notices.queries import Digest

__all__ = ["AddressIn", "AddressOut", "ChoiceIn", "ChoiceOut"]


class ChoiceIn(Schema):
    """What a person wants to be told about a blog."""

    problems: bool
    posts: bool
    digest: Digest


class ChoiceOut(ChoiceIn):
    """What a person is told about a blog; nothing goes out without an ``address`` and a mail server."""

    address: str
    mail_is_set_up: bool


class AddressIn(Schema):
    """The address that is told of the runs of a campaign; empty for none."""

    email: Annotated[str, StringConstraints(strip_whitespace=True, max_length=254)]


class AddressOut(AddressIn):
    """The address that is told of the runs of a campaign."""

    mail_is_set_up: bool
