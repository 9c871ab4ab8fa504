"""Secrets that are kept: encrypted with keys that lie outside the database (Fernet, of the library cryptography)."""

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
    """Decrypt a text. Raises Conflict where none of the keys fits: the one it was sealed with is missing."""
    try:
        return _box().decrypt(sealed.encode()).decode()
    except InvalidToken as error:
        raise Conflict(
            "A kept secret cannot be read: the key that it was encrypted with is missing from "
            "GLYPTARCH_ENCRYPTION_KEYS. Add that key, or enter the secret again."
        ) from error


def seal_anew(sealed: str) -> str:
    """Encrypt with the newest key what was encrypted with any of them. Raises Conflict where none of the keys fits."""
    return seal(unseal(sealed))
