"""Reads about people."""

from django.http import HttpRequest

from glyptarch_server.accounts.models import User
from glyptarch_server.common.problems import Forbidden

__all__ = ["full_session", "person_of", "signed_in"]


def person_of(request: HttpRequest) -> User | None:
    """Return the signed-in person of a request.

    None for none.
    """
    return request.user if isinstance(request.user, User) else None


def signed_in(request: HttpRequest) -> User:
    """Return the signed-in person. Raises Forbidden where nobody has signed in."""
    user = person_of(request)
    if user is None:
        raise Forbidden("Sign in first.")
    return user


def full_session(request: HttpRequest) -> User:
    """Return the person of an interactive session, never of an API token. Raises Forbidden."""
    user = signed_in(request)
    if user.token_role not in {"", "owner"}:
        raise Forbidden("The token may not do this. Make one that may act as owner.")
    return user
