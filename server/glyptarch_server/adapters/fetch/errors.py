"""Why an address gave nothing."""

from enum import StrEnum

__all__ = ["FetchCode", "FetchError", "FetcherEndedError", "utf8"]


class FetchCode(StrEnum):
    """The kinds of failures that people can act on."""

    BAD_ADDRESS = "bad_address"
    PRIVATE_ADDRESS = "private_address"
    PORT = "port"
    UNKNOWN_HOST = "unknown_host"
    UNREACHABLE = "unreachable"
    TLS = "tls"
    NOT_FOUND = "not_found"
    GONE = "gone"
    SIGN_IN = "sign_in"
    REFUSED = "refused"
    TOO_MANY_REQUESTS = "too_many_requests"
    SERVER_ERROR = "server_error"
    STATUS = "status"
    NO_TARGET = "no_target"
    TOO_SLOW = "too_slow"
    TOO_LARGE = "too_large"
    REDIRECTS = "redirects"
    CUT_OFF = "cut_off"
    BAD_ENCODING = "bad_encoding"
    ROBOTS = "robots"


def utf8(text: str) -> str:
    """Return a text that UTF-8 can encode.

    The client returns invalid header bytes as lone surrogates.
    """
    return text.encode("utf-8", "replace").decode()


class FetchError(Exception):
    """A fetch without a body.

    ``code`` classifies the failure. ``retry_after`` is the server's requested pause in seconds, ``status`` its HTTP
    status; 0 where there is none.
    """

    def __init__(self, code: FetchCode, message: str, *, retry_after: int = 0, status: int = 0) -> None:
        self.code = code
        self.status = status
        self.retry_after = retry_after
        # The beginning of the body, where requested.
        self.body = b""
        super().__init__(utf8(message))


class FetcherEndedError(Exception):
    """Raised to who waits for answers when the process is told to end."""
