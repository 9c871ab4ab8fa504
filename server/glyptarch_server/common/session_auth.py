"""Authentication of a browser by its session, with the CSRF token of every change checked."""

from django.http import HttpRequest
from ninja.security import SessionAuth
from ninja.utils import check_csrf

from glyptarch_server.common.problems import OldToken

__all__ = ["BrowserSession", "check_token"]


def check_token(request: HttpRequest) -> None:
    """Raise OldToken where a change has no token, or one that is older than the sign-in."""
    if check_csrf(request) is not None:
        raise OldToken


class BrowserSession(SessionAuth):
    """A person who has signed in."""

    def __init__(self) -> None:
        super().__init__(csrf=False)

    def _get_key(self, request: HttpRequest) -> str | None:
        check_token(request)
        key: str | None = super()._get_key(request)
        return key
