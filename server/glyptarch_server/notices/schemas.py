"""API schemas of notices."""

from typing import Annotated

from ninja import Schema
from pydantic import StringConstraints

from glyptarch_server.notices.queries import Digest

__all__ = ["AddressIn", "AddressOut", "ChoiceIn", "ChoiceOut"]


class ChoiceIn(Schema):
    """The notices that a person wants about a blog."""

    problems: bool
    posts: bool
    digest: Digest


class ChoiceOut(ChoiceIn):
    """The notices of a person about a blog.

    None is sent without an ``address`` and a mail server.
    """

    address: str
    mail_is_set_up: bool


class AddressIn(Schema):
    """The address notified of a campaign's runs.

    Empty for none.
    """

    email: Annotated[str, StringConstraints(strip_whitespace=True, max_length=254)]


class AddressOut(AddressIn):
    """The address notified of a campaign's runs."""

    mail_is_set_up: bool
