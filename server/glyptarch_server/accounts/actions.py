"""Signing in and out."""

import hashlib
from datetime import datetime, timedelta

from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest

from glyptarch_server.accounts.models import SignInTry, User
from glyptarch_server.accounts.queries import failed_tries
from glyptarch_server.common.problems import Invalid, TooMany

__all__ = ["ensure_user", "sign_in", "sign_out"]

_WINDOW = timedelta(minutes=10)
_TRIES_BY_NAME = 8
_TRIES_BY_ADDRESS = 40


def sign_in(request: HttpRequest, name: str, password: str, *, now: datetime) -> User:
    """Sign a person in. Raises TooMany after repeated failures, Invalid when name and password do not fit."""
    name_hash = hashlib.sha256(name.strip().casefold().encode()).hexdigest()
    address = request.META.get("REMOTE_ADDR") or None
    by_name, by_address = failed_tries(name_hash, address, now - _WINDOW)
    if by_name >= _TRIES_BY_NAME or by_address >= _TRIES_BY_ADDRESS:
        raise TooMany("The sign-in failed too often. Wait ten minutes, then try again.")
    user = authenticate(request, username=name.strip(), password=password)
    if not isinstance(user, User):
        SignInTry.objects.create(name_hash=name_hash, address=address, at=now)
        raise Invalid("Name and password do not fit together.")
    SignInTry.objects.filter(name_hash=name_hash).delete()
    login(request, user)
    return user


def sign_out(request: HttpRequest) -> None:
    """End the session."""
    logout(request)


def ensure_user(name: str, password: str, *, full_name: str) -> User:
    """Make a user with this password, or give an existing one this password."""
    user, _ = User.objects.get_or_create(username=name, defaults={"first_name": full_name})
    user.set_password(password)
    user.save(update_fields=["password"])
    return user
