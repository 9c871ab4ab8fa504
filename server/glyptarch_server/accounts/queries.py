"""Reads about sign-ins."""

from datetime import datetime

from django.db.models import Q
from django.http import HttpRequest

from glyptarch_server.accounts.models import SignInTry, User

__all__ = ["failed_tries", "person_of"]


def failed_tries(name_hash: str, address: str | None, since: datetime) -> tuple[int, int]:
    """Give how often since then a sign-in failed for this name, and from this address."""
    by_name = SignInTry.objects.filter(name_hash=name_hash, at__gte=since).count()
    by_address = SignInTry.objects.filter(Q(address=address), at__gte=since).count() if address else 0
    return by_name, by_address


def person_of(request: HttpRequest) -> User | None:
    """Give the person who has signed in."""
    return request.user if isinstance(request.user, User) else None
