"""Keys of an installation, from the environment or created once beside its data."""

import os
import secrets
from collections.abc import Callable
from pathlib import Path

from cryptography.fernet import Fernet

__all__ = ["SecretError", "encryption_keys", "secret_key"]

_SHORTEST = 32
_FEWEST_LETTERS = 10


class SecretError(Exception):
    """A key that is missing or too weak to run with."""


def _stored_key(path: Path, make: Callable[[], str]) -> str:
    """Return the key in a file, created at first use."""
    path.parent.mkdir(parents=True, exist_ok=True)
    try:
        handle = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    except FileExistsError:
        return path.read_text().strip()
    with os.fdopen(handle, "w") as file:
        key = make()
        file.write(key)
    return key


def secret_key(var: Path, *, required: bool) -> str:
    """Return the key that signs sessions.

    ``GLYPTARCH_SECRET_KEY``, or the one stored in ``var``. With ``required`` it must come from the environment. Raises
    SecretError where it is then missing, or weak.
    """
    key = os.environ.get("GLYPTARCH_SECRET_KEY", "")
    if not key and not required:
        return _stored_key(var / "secret-key", lambda: secrets.token_urlsafe(48))
    if len(key) < _SHORTEST or len(set(key)) < _FEWEST_LETTERS:
        what = "is too weak" if key else "is not set"
        raise SecretError(
            f"GLYPTARCH_SECRET_KEY {what}. It needs at least {_SHORTEST} random characters: "
            "make one with  openssl rand -base64 48"
        )
    return key


def encryption_keys(var: Path, *, required: bool) -> tuple[str, ...]:
    """Return the keys for stored secrets, newest first.

    ``GLYPTARCH_ENCRYPTION_KEYS``, or the one stored in ``var``. Raises SecretError where one is no Fernet key (32 bytes
    in URL-safe Base64), or a ``required`` one is missing.
    """
    keys = tuple(key.strip() for key in os.environ.get("GLYPTARCH_ENCRYPTION_KEYS", "").split(",") if key.strip())
    if not keys and not required:
        return (_stored_key(var / "encryption-key", lambda: Fernet.generate_key().decode()),)
    if not keys:
        raise SecretError(
            "GLYPTARCH_ENCRYPTION_KEYS is not set. Make a key with  "
            "openssl rand -base64 32 | tr '+/' '-_'  and keep it: without it kept passwords cannot be read."
        )
    for place, key in enumerate(keys, start=1):
        try:
            Fernet(key)
        except ValueError as error:
            raise SecretError(
                f"Key {place} of GLYPTARCH_ENCRYPTION_KEYS is no 32 bytes in URL-safe Base64. "
                "Make one with  openssl rand -base64 32 | tr '+/' '-_'"
            ) from error
    return keys
