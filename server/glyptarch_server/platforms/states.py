"""The state of a connection, from the platform's answers."""

from enum import StrEnum
from http import HTTPStatus

from glyptarch_core.text.foreign_json import load_json

from glyptarch_server.wiring import Fetched, FetchError

__all__ = ["ConnectionState", "state_after"]


class ConnectionState(StrEnum):
    """Whether a connection works, as far as is known."""

    UNCHECKED = "unchecked"
    # A person has to sign in at the platform, and nobody has done so yet.
    UNSIGNED = "unsigned"
    VALID = "valid"
    WRONG = "wrong"
    EXPIRED = "expired"
    NOT_ENABLED = "not_enabled"
    OVER_LIMIT = "over_limit"
    UNREACHABLE = "unreachable"


_WORDS = {
    ConnectionState.WRONG: "The platform does not know this key. Look it up there, and enter it again.",
    ConnectionState.EXPIRED: "The key has expired. Make a new one at the platform, and enter it here.",
    ConnectionState.NOT_ENABLED: "The key may not be used for this. Enable reading for it at the platform.",
    ConnectionState.OVER_LIMIT: "The platform was asked too often. It is asked again later, by itself.",
}


def state_after(answer: Fetched | FetchError) -> tuple[ConnectionState, str]:
    """Return the state after an answer, and the remedy in plain words."""
    if isinstance(answer, Fetched):
        return ConnectionState.VALID, ""
    code = _code(answer.body).lower()
    state = ConnectionState.UNREACHABLE
    if answer.status == HTTPStatus.UNAUTHORIZED or "expired" in code:
        state = ConnectionState.EXPIRED if "expired" in code else ConnectionState.WRONG
    elif answer.status == HTTPStatus.FORBIDDEN:
        state = ConnectionState.NOT_ENABLED
    elif answer.status == HTTPStatus.TOO_MANY_REQUESTS:
        state = ConnectionState.OVER_LIMIT
    return state, _WORDS.get(state, str(answer))


def _code(body: bytes) -> str:
    """Return the error code of a platform: ``{"error": {"code": …}}`` or ``{"error": …}``."""
    try:
        data = load_json(body)
    except ValueError:
        return ""
    error = data.get("error") if isinstance(data, dict) else None
    code = error.get("code") if isinstance(error, dict) else error
    return code if isinstance(code, str) else ""
