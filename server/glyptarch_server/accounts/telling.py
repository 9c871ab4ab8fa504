"""Mails to the owner of an account about changes of its sign-in."""

from typing import TYPE_CHECKING

from glyptarch_server.common.address import public_address
from glyptarch_server.mail.actions import send

if TYPE_CHECKING:
    from glyptarch_server.accounts.models import User

__all__ = ["tell_owner"]


def tell_owner(user: "User", what: str, *, to: str = "") -> None:
    """Mail one sentence about a change to the account's address.

    ``to`` is another address to use, such as the former one. Accounts without an address get nothing.
    """
    where = f"{public_address()}/desk/" if public_address() else "the desk"
    send(
        to or user.email,
        "Your Glyptarch account was changed",
        f"{what} This concerns the account “{user.username}”.\n\n"
        f"If it was you, there is nothing to do. If not, set a new password at {where} (“Forgot your password?”), "
        "and tell whoever runs this installation.\n",
    )
