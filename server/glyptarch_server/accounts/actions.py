"""Signing in and out."""

import hashlib
import secrets

from django.contrib.auth import authenticate, login, logout
from django.core.signing import BadSignature, Signer
from django.http import HttpRequest

from glyptarch_server.accounts.models import User
from glyptarch_server.common.client import client_of
from glyptarch_server.common.problems import Invalid, TooMany
from glyptarch_server.throttle.actions import clear, limit_of, take

__all__ = ["KNOWN_BROWSER", "ensure_user", "known_browser_for", "sign_in", "sign_out"]

KNOWN_BROWSER = "known-browser"
"""The name of the cookie that a browser keeps after a sign-in."""

_BY_BROWSER = limit_of("8 per 10 minutes", "sign-in-by-browser")
_BY_CLIENT_AND_NAME = limit_of("8 per 10 minutes", "sign-in-by-client-and-name")
_BY_CLIENT = limit_of("40 per 10 minutes", "sign-in-by-client")
_BY_NAME = limit_of("100 per 10 minutes", "sign-in-by-name")

_signer = Signer(salt="glyptarch.accounts.known-browser")


def _name_hash(name: str) -> str:
    return hashlib.sha256(name.strip().casefold().encode()).hexdigest()


def known_browser_for(name: str) -> str:
    """Give what a browser keeps to show that somebody has signed in there under this name."""
    return _signer.sign(f"{_name_hash(name)[:32]}.{secrets.token_hex(8)}")


def _known_browser(request: HttpRequest, name: str) -> str:
    """Give the mark of a browser in which this name has signed in before, or nothing."""
    try:
        mark = _signer.unsign(request.COOKIES.get(KNOWN_BROWSER, ""))
    except BadSignature:
        return ""
    return mark if mark.startswith(f"{_name_hash(name)[:32]}.") else ""


def _may_try(request: HttpRequest, name: str) -> bool:
    """Count a try, and tell whether it may be made.

    A browser in which the name has signed in before has a count of its own, so that nobody can
    lock a person out of it by guessing elsewhere (OWASP, “Slow down online guessing attacks with
    device cookies”). All others are counted by client, and by name over all clients.
    """
    browser, client = _known_browser(request, name), client_of(request)
    if browser:
        return take(_BY_BROWSER, browser)
    counts = (
        take(_BY_CLIENT, client),
        take(_BY_CLIENT_AND_NAME, client, _name_hash(name)),
        take(_BY_NAME, _name_hash(name)),
    )
    return all(counts)


def sign_in(request: HttpRequest, name: str, password: str) -> User:
    """Sign a person in. Raises TooMany after repeated tries, Invalid when name and password do not fit."""
    if not _may_try(request, name):
        raise TooMany("The sign-in was tried too often. Wait ten minutes, then try again.")
    user = authenticate(request, username=name.strip(), password=password)
    if not isinstance(user, User):
        raise Invalid("Name and password do not fit together.")
    clear(_BY_CLIENT_AND_NAME, client_of(request), _name_hash(name))
    if browser := _known_browser(request, name):
        clear(_BY_BROWSER, browser)
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
