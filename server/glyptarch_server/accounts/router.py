"""The API of sign-ins."""

from typing import TYPE_CHECKING

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from ninja import Router

from glyptarch_server import wiring
from glyptarch_server.accounts import actions, second_factor, tokens
from glyptarch_server.accounts.queries import signed_in
from glyptarch_server.accounts.schemas import (
    AccountIn,
    AccountOut,
    MadeTokenOut,
    NewPasswordIn,
    PasswordIn,
    RecoveryCodesOut,
    ResetAskIn,
    ResetIn,
    SecondFactorIn,
    SecondFactorOut,
    SessionOut,
    SignInIn,
    TokenIn,
    TokenOut,
)
from glyptarch_server.common.address import address_of
from glyptarch_server.common.fields import RowNumber
from glyptarch_server.common.session_auth import BrowserSession, check_token
from glyptarch_server.common.version import VERSION
from glyptarch_server.mail.actions import mail_is_set_up

if TYPE_CHECKING:
    from glyptarch_server.accounts.models import ApiToken, User

__all__ = ["router"]

router = Router(tags=["accounts"])
_BY_SESSION = BrowserSession()
"""What a program with a token may not do: change the sign-in of its person."""
_REMEMBERED = 365 * 24 * 3600


def _session(request: HttpRequest) -> SessionOut:
    user = request.user.username if request.user.is_authenticated else None
    name = (request.user.first_name or user) if request.user.is_authenticated else None
    return SessionOut(name=name, user=user, csrf_token=get_token(request), version=VERSION)


@router.get("/session", response=SessionOut, auth=None, operation_id="getSession")
def get_session(request: HttpRequest) -> SessionOut:
    """Return who is signed in, and the token that every change must carry."""
    return _session(request)


@router.post("/session", response=SessionOut, auth=None, operation_id="signIn")
def sign_in(request: HttpRequest, response: HttpResponse, payload: SignInIn) -> SessionOut:
    """Sign in.

    Where a second factor is on and its code is missing, the error names the field ``code``.
    """
    # Ninja checks no CSRF token without authentication, but sign-ins must not be forged either.
    check_token(request)
    actions.sign_in(request, payload.name, payload.password, payload.code)
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


@router.delete("/session", response=SessionOut, auth=_BY_SESSION, operation_id="signOut")
def sign_out(request: HttpRequest) -> SessionOut:
    """Sign out."""
    actions.sign_out(request)
    return _session(request)


@router.post("/password-resets", response={204: None}, auth=None, operation_id="askForReset")
def ask_for_reset(request: HttpRequest, payload: ResetAskIn) -> tuple[int, None]:
    """Send a link for a new password.

    The answer is the same for unknown addresses.
    """
    check_token(request)
    actions.ask_for_reset(request, payload.email, desk=address_of(request))
    return 204, None


@router.put("/password-resets", response=SessionOut, auth=None, operation_id="resetPassword")
def reset_password(request: HttpRequest, payload: ResetIn) -> SessionOut:
    """Set a new password by the link that was sent. Signing in with it comes after."""
    check_token(request)
    actions.reset_password(payload.person, payload.token, payload.password)
    return _session(request)


def _account(user: "User") -> AccountOut:
    return AccountOut(
        user_name=user.username,
        full_name=user.first_name,
        email=user.email,
        second_factor=bool(user.totp_secret),
        recovery_codes=user.recovery_codes.count(),
        mail_is_set_up=mail_is_set_up(),
    )


@router.get("/account", response=AccountOut, auth=_BY_SESSION, operation_id="getAccount")
def get_account(request: HttpRequest) -> AccountOut:
    """Return the account settings of the signed-in person."""
    return _account(signed_in(request))


@router.put("/account", response=AccountOut, auth=_BY_SESSION, operation_id="changeAccount")
def change_account(request: HttpRequest, payload: AccountIn) -> AccountOut:
    """Change full name and mail address.

    Another address needs the password.
    """
    user = signed_in(request)
    actions.change_account(user, full_name=payload.full_name, email=payload.email, password=payload.password)
    return _account(user)


@router.put("/account/password", response=SessionOut, auth=_BY_SESSION, operation_id="changePassword")
def change_password(request: HttpRequest, payload: NewPasswordIn) -> SessionOut:
    """Change the password and end all other sessions and all API tokens."""
    actions.change_password(request, signed_in(request), payload.old, payload.password)
    return _session(request)


@router.delete("/account/other-sessions", response=SessionOut, auth=_BY_SESSION, operation_id="endOtherSessions")
def end_other_sessions(request: HttpRequest) -> SessionOut:
    """End every session of the signed-in person but this one, and every API token."""
    actions.end_other_sessions(request, signed_in(request))
    return _session(request)


@router.post("/account/second-factor", response=SecondFactorOut, auth=_BY_SESSION, operation_id="beginSecondFactor")
def begin_second_factor(request: HttpRequest) -> SecondFactorOut:
    """Return a new secret for an authenticator app. Nothing is stored yet."""
    secret, address = second_factor.begin(signed_in(request))
    return SecondFactorOut(secret=secret, picture=second_factor.picture_of(address))


@router.put("/account/second-factor", response=RecoveryCodesOut, auth=_BY_SESSION, operation_id="confirmSecondFactor")
def confirm_second_factor(request: HttpRequest, payload: SecondFactorIn) -> RecoveryCodesOut:
    """Switch the second factor on.

    Needs the password and a code.
    """
    now, user = wiring.clock()(), signed_in(request)
    actions.check_password(user, payload.password)
    return RecoveryCodesOut(codes=second_factor.confirm(user, payload.secret, payload.code, now=now))


@router.post("/account/second-factor/off", response=AccountOut, auth=_BY_SESSION, operation_id="switchOffSecondFactor")
def switch_off_second_factor(request: HttpRequest, payload: PasswordIn) -> AccountOut:
    """Switch the second factor off.

    Needs the password.
    """
    user = signed_in(request)
    actions.check_password(user, payload.password)
    second_factor.switch_off(user)
    return _account(user)


def _token(row: "ApiToken") -> TokenOut:
    return TokenOut.model_validate(row, from_attributes=True)


@router.get("/account/tokens", response=list[TokenOut], auth=_BY_SESSION, operation_id="listTokens")
def list_tokens(request: HttpRequest) -> list[TokenOut]:
    """Return the API tokens of the signed-in person."""
    return [_token(row) for row in tokens.tokens_of(signed_in(request))]


@router.post("/account/tokens", response=MadeTokenOut, auth=_BY_SESSION, operation_id="makeToken")
def make_token(request: HttpRequest, payload: TokenIn) -> MadeTokenOut:
    """Make an API token."""
    now = wiring.clock()()
    row, key = tokens.make_token(signed_in(request), payload.name, payload.role, days=payload.days, now=now)
    return MadeTokenOut(token=_token(row), key=key)


@router.delete("/account/tokens/{int:number}", response={204: None}, auth=_BY_SESSION, operation_id="endToken")
def end_token(request: HttpRequest, number: RowNumber) -> tuple[int, None]:
    """Revoke an API token immediately."""
    tokens.end_token(signed_in(request), number)
    return 204, None
