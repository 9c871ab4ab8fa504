"""Reads about people."""

from django.http import HttpRequest

from glyptarch_server.accounts.models import User

__all__ = ["person_of"]


def person_of(request: HttpRequest) -> User | None:
    """Give the person who has signed in."""
    return request.user if isinstance(request.user, User) else None
