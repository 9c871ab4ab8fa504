"""Stored secrets, encrypted with keys outside the database (Fernet)."""

from functools import cache

from cryptography.fernet import Fernet, InvalidToken, MultiFernet
from django.conf import settings

from glyptarch_server.common.problems import Conflict

__all__ = ["seal", "seal_anew", "unseal"]


@cache
def _box() -> MultiFernet:
    return MultiFernet([Fernet(key) for key in settings.GLYPTARCH_ENCRYPTION_KEYS])


def seal(text: str) -> str:
    """Encrypt a text with the newest key."""
    return _box().encrypt(text.encode()).decode()


def unseal(sealed: str) -> str:
    """Decrypt a text. Raises Conflict where the key that encrypted it is missing."""
    try:
        return _box().decrypt(sealed.encode()).decode()
    except InvalidToken as error:
        raise Conflict(
            "A kept secret cannot be read: the key that it was encrypted with is missing from "
            "GLYPTARCH_ENCRYPTION_KEYS. Add that key, or enter the secret again."
        ) from error


def seal_anew(sealed: str) -> str:
    """Encrypt a sealed text again with the newest key. Raises Conflict where its key is missing."""
    return seal(unseal(sealed))
