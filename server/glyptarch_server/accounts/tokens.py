"""API tokens: making, ending and using them."""

import hashlib
import secrets
from collections.abc import Sequence
from datetime import datetime, timedelta

from django.db import transaction

from glyptarch_server.accounts.models import ApiToken, User
from glyptarch_server.accounts.telling import tell_owner
from glyptarch_server.audit.actions import record
from glyptarch_server.common.problems import Conflict, NotFound

__all__ = ["end_token", "make_token", "tokens_of", "user_of_token"]

_PREFIX = "glyptarch_"
_MOST = 50
_USE_NOTED_EVERY = timedelta(minutes=5)


def _hash(key: str) -> str:
    return hashlib.sha256(key.encode("utf-8", "surrogatepass")).hexdigest()


def make_token(user: User, name: str, role: str, *, days: int, now: datetime) -> tuple[ApiToken, str]:
    """Create a token.

    Return it with its key, which is never shown again. Raises Conflict beyond 50.
    """
    key = _PREFIX + secrets.token_urlsafe(32)
    with transaction.atomic():
        if user.api_tokens.count() >= _MOST:
            raise Conflict(f"You have {_MOST} tokens, the most there can be. End one that is not used any more.")
        row = ApiToken.objects.create(
            user=user, name=name, key_hash=_hash(key), role=role, made_at=now, ends_at=now + timedelta(days=days)
        )
        record("account.token_made", name, after={"role": role, "days": days})
        tell_owner(user, f"An API token, “{name}”, was made: a program that has it acts as you for {days} days.")
    return row, key


def tokens_of(user: User) -> Sequence[ApiToken]:
    """Return the tokens of a person, newest first."""
    return list(user.api_tokens.order_by("-made_at", "-pk"))


def end_token(user: User, number: int) -> None:
    """Revoke a token immediately. Raises NotFound."""
    row = user.api_tokens.filter(pk=number).first()
    if row is None:
        raise NotFound("You have no such token.")
    with transaction.atomic():
        row.delete()
        record("account.token_ended", row.name)


def user_of_token(key: str, *, now: datetime) -> User | None:
    """Return the person a key acts for, limited to the token's role.

    None for an unknown or expired key.
    """
    token = (
        ApiToken.objects.select_related("user")
        .filter(key_hash=_hash(key), ends_at__gt=now, user__is_active=True)
        .first()
    )
    if token is None:
        return None
    if token.used_at is None or now - token.used_at > _USE_NOTED_EVERY:
        ApiToken.objects.filter(pk=token.pk).update(used_at=now)
    user = token.user
    user.token_name, user.token_role = token.name, token.role
    return user
