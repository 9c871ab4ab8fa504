"""The key that signs sessions: made once for each installation, kept beside its data."""

import os
import secrets
from pathlib import Path

__all__ = ["secret_key"]


def secret_key(var: Path) -> str:
    """Give the key from the environment, or the one kept in ``var``, made at first use."""
    given = os.environ.get("GLYPTARCH_SECRET_KEY")
    if given:
        return given
    var.mkdir(parents=True, exist_ok=True)
    path = var / "secret-key"
    try:
        handle = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    except FileExistsError:
        return path.read_text().strip()
    with os.fdopen(handle, "w") as file:
        key = secrets.token_urlsafe(48)
        file.write(key)
    return key
