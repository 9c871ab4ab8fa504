"""The secret key of a language service, sealed."""

import json

from glyptarch_core.errors import Fault

from glyptarch_server.common.problems import Invalid
from glyptarch_server.common.seal import seal, unseal
from glyptarch_server.services.models import Service

__all__ = ["key_of", "sealed_key"]

_LONGEST_KEY = 2000


def key_of(service: Service) -> str:
    """Return the secret key of a service, empty for none.

    Raises Conflict where the key that sealed it is missing.
    """
    return str(json.loads(unseal(service.sealed))["key"]) if service.sealed else ""


def sealed_key(key: str) -> str:
    """Return a secret key sealed, empty for none. Raises Invalid."""
    if not key:
        return ""
    if len(key) > _LONGEST_KEY or not key.isascii() or not key.isprintable():
        message = "The key must be one line of plain letters (ASCII)."
        raise Invalid(message, faults=[Fault(path="secret", message=message)])
    return seal(json.dumps({"key": key}))
