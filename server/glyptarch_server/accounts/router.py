"""The API of sign-ins."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from ninja import Router
from ninja.utils import check_csrf

from glyptarch_server.accounts import actions
from glyptarch_server.accounts.schemas import SessionOut, SignInIn
from glyptarch_server.common.problems import Forbidden

__all__ = ["router"]

router = Router(tags=["accounts"])
_REMEMBERED = 365 * 24 * 3600


def _session(request: HttpRequest) -> SessionOut:
    name = (request.user.first_name or request.user.username) if request.user.is_authenticated else None
    return SessionOut(name=name, csrf_token=get_token(request))


@router.get("/session", response=SessionOut, auth=None, operation_id="getSession")
def get_session(request: HttpRequest) -> SessionOut:
    """Say who is signed in, and give the token that every change must carry."""
    return _session(request)


@router.post("/session", response=SessionOut, auth=None, operation_id="signIn")
def sign_in(request: HttpRequest, response: HttpResponse, payload: SignInIn) -> SessionOut:
    """Sign in."""
    # Without authentication ninja asks for no token; a sign-in must not be forged either.
    if check_csrf(request) is not None:
        raise Forbidden("The page is too old to sign in from. Load it again.")
    actions.sign_in(request, payload.name, payload.password)
    response.set_cookie(
        actions.KNOWN_BROWSER,
        actions.known_browser_for(payload.name),
        max_age=_REMEMBERED,
        path="/api/session",
        httponly=True,
        samesite="Strict",
        secure=settings.SESSION_COOKIE_SECURE,
    )
    return _session(request)


@router.delete("/session", response=SessionOut, operation_id="signOut")
def sign_out(request: HttpRequest) -> SessionOut:
    """Sign out."""
    actions.sign_out(request)
    return _session(request)
