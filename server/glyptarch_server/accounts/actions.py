"""Signing in and out, and a person's own account settings."""

import hashlib
import secrets

from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.contrib.auth.password_validation import validate_password
from django.contrib.auth.tokens import default_token_generator
from django.core.exceptions import ValidationError
from django.core.signing import BadSignature, Signer
from django.core.validators import validate_email
from django.db import IntegrityError, transaction
from django.db.models import F
from django.http import HttpRequest
from django.utils.http import urlsafe_base64_decode, urlsafe_base64_encode
from glyptarch_core.errors import Fault

from glyptarch_server import wiring
from glyptarch_server.accounts import second_factor
from glyptarch_server.accounts.models import User
from glyptarch_server.accounts.telling import tell_owner
from glyptarch_server.audit.actions import record
from glyptarch_server.common.client import client_of
from glyptarch_server.common.problems import Conflict, Invalid, TooMany
from glyptarch_server.mail.actions import send
from glyptarch_server.throttle.actions import clear, limit_of, take

__all__ = [
    "KNOWN_BROWSER",
    "ask_for_reset",
    "change_account",
    "change_password",
    "check_password",
    "end_other_sessions",
    "ensure_user",
    "known_browser_for",
    "make_user",
    "reset_password",
    "sign_in",
    "sign_in_as",
    "sign_out",
]

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
    """Return the cookie that marks a browser in which this name has signed in."""
    return _signer.sign(f"{_name_hash(name)[:32]}.{secrets.token_hex(8)}")


def _known_browser(request: HttpRequest, name: str) -> str:
    """Return the mark of a browser in which this name has signed in before.

    Empty for none.
    """
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


def sign_in(request: HttpRequest, name: str, password: str, code: str = "") -> User:
    """Sign a person in.

    Raises TooMany after repeated tries, Invalid when name and password do not fit, or the code of
    the second factor is missing (with a fault at ``code``) or wrong.
    """
    if not _may_try(request, name):
        raise TooMany("The sign-in was tried too often. Wait ten minutes, then try again.")
    user = authenticate(request, username=name.strip(), password=password)
    if not isinstance(user, User):
        raise Invalid("Name and password do not fit together.")
    if user.totp_secret:
        _check_code(user, code)
    clear(_BY_CLIENT_AND_NAME, client_of(request), _name_hash(name))
    if browser := _known_browser(request, name):
        clear(_BY_BROWSER, browser)
    login(request, user)
    record("account.signed_in", user.username)
    return user


def _check_code(user: User, code: str) -> None:
    if not code:
        message = "Type the code that your device shows."
        raise Invalid(message, faults=[Fault(path="code", message=message)])
    if not second_factor.takes(user, code, now=wiring.clock()()):
        message = "The code does not fit, or was used already. Type the next one."
        raise Invalid(message, faults=[Fault(path="code", message=message)])


def sign_in_as(request: HttpRequest, user: User) -> None:
    """Start a session for a person whose identity has been verified."""
    login(request, user)


def sign_out(request: HttpRequest) -> None:
    """End the session."""
    logout(request)


def ensure_user(name: str, password: str, *, full_name: str) -> User:
    """Make a user with this password, or give an existing one this password."""
    user, _ = User.objects.get_or_create(username=name, defaults={"first_name": full_name})
    user.set_password(password)
    user.save(update_fields=["password"])
    return user


def _checked_password(password: str, user: User) -> str:
    try:
        validate_password(password, user)
    except ValidationError as error:
        message = " ".join(error.messages)
        raise Invalid(message, faults=[Fault(path="password", message=message)]) from error
    return password


def _checked_address(address: str) -> str:
    text = address.strip()
    if not text:
        return ""
    try:
        validate_email(text)
    except ValidationError as error:
        message = f"“{text}” is no mail address. It looks like name@example.org."
        raise Invalid(message, faults=[Fault(path="email", message=message)]) from error
    return text


def make_user(name: str, password: str, *, full_name: str, email: str) -> User:
    """Create an account.

    Raises Conflict where name or address is taken, Invalid for a weak password.
    """
    user = User(username=name.strip(), first_name=full_name.strip()[:150], email=_checked_address(email))
    user.set_password(_checked_password(password, user))
    if User.objects.filter(username__iexact=user.username).exists():
        raise Conflict(f"The name “{user.username}” is taken. Choose another one.")
    _check_address_is_free(user)
    try:
        with transaction.atomic():
            user.save()
    except IntegrityError as error:
        raise Conflict(f"The name “{user.username}” or the address is taken. Choose another one.") from error
    return user


def _check_address_is_free(user: User) -> None:
    """Raise Conflict when another account has the address.

    A reset link must reach one person.
    """
    if user.email and User.objects.filter(email__iexact=user.email).exclude(pk=user.pk).exists():
        message = f"Another account has the address {user.email}. Use another one, or sign in there."
        raise Conflict(message, faults=[Fault(path="email", message=message)])


def change_account(user: User, *, full_name: str, email: str, password: str | None = None) -> None:
    """Change the full name and mail address of an account.

    Another address needs the present password, because reset links are sent there; a mail goes to the old address. Pass
    ``None`` after checking the password elsewhere. Raises Invalid for bad values, Conflict where another account has
    the address.
    """
    before = {"name": user.first_name, "email": user.email}
    address = _checked_address(email)
    if address != user.email and password is not None:
        check_password(user, password)
    user.first_name, user.email = full_name.strip(), address
    _check_address_is_free(user)
    with transaction.atomic():
        user.save(update_fields=["first_name", "email"])
        record("account.changed", user.username, before=before, after={"name": user.first_name, "email": user.email})
        if before["email"] and before["email"] != address:
            tell_owner(user, f"Mail for it goes to {address or 'no address'} from now on.", to=before["email"])


def check_password(user: User, password: str, *, field: str = "password") -> None:
    """Check the present password once more.

    Raises Invalid where it is wrong, TooMany after repeated tries.
    """
    if not take(_BY_NAME, _name_hash(user.username)):
        raise TooMany("The password was tried too often. Wait ten minutes, then try again.")
    if not user.check_password(password):
        message = "The present password does not fit."
        raise Invalid(message, faults=[Fault(path=field, message=message)])


def change_password(request: HttpRequest, user: User, old: str, new: str) -> None:
    """Change a password and end all other sessions and all API tokens.

    Raises Invalid where the old password is wrong.
    """
    check_password(user, old, field="old")
    user.set_password(_checked_password(new, user))
    with transaction.atomic():
        user.save(update_fields=["password"])
        user.api_tokens.all().delete()
        record("account.password_changed", user.username)
        tell_owner(user, "Its password was changed; all other sessions and API tokens have ended.")
    update_session_auth_hash(request, user)


def end_other_sessions(request: HttpRequest, user: User) -> None:
    """End every session of a person but this one, and every API token."""
    with transaction.atomic():
        User.objects.filter(pk=user.pk).update(session_number=F("session_number") + 1)
        user.api_tokens.all().delete()
        record("account.sessions_ended", user.username)
        tell_owner(user, "All its other sessions and API tokens were ended.")
    user.refresh_from_db(fields=["session_number"])
    update_session_auth_hash(request, user)


_RESETS = limit_of("5 per 60 minutes", "password-reset")


def ask_for_reset(request: HttpRequest, email: str, *, desk: str) -> None:
    """Send a link for a new password to the account with this address, if there is one.

    The caller cannot see whether there is one.
    """
    if not take(_RESETS, client_of(request)) or not take(_RESETS, email.strip().casefold()):
        raise TooMany("A new password was asked for too often. Wait an hour, then try again.")
    user = User.objects.filter(email__iexact=email.strip(), is_active=True).exclude(email="").first()
    if user is not None:
        link = f"{desk}/reset/{urlsafe_base64_encode(str(user.pk).encode())}/{default_token_generator.make_token(user)}"
        send(
            user.email,
            "A new password for Glyptarch",
            f"Somebody asked for a new password for “{user.username}”. Set it here within a day:\n\n{link}\n\n"
            "If it was not you, do nothing: your password stays as it is.\n",
        )


def reset_password(uid: str, token: str, password: str) -> User:
    """Set a new password by a mailed link and end all sessions and API tokens.

    Raises Invalid where the link has expired.
    """
    try:
        user = User.objects.filter(pk=int(urlsafe_base64_decode(uid)), is_active=True).first()
    except ValueError:
        user = None
    if user is None or not default_token_generator.check_token(user, token):
        raise Invalid("This link has been used, or its day is over. Ask for a new one.")
    user.set_password(_checked_password(password, user))
    with transaction.atomic():
        user.save(update_fields=["password"])
        user.api_tokens.all().delete()
        record("account.password_reset", user.username)
        tell_owner(user, "A new password was set by the link in a mail; all sessions and API tokens have ended.")
    return user
