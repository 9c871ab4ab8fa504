"""Sign-in at platforms by OAuth 2, with PKCE and refresh.

RFC 6749, 4.1 and 6; RFC 7636.
"""

import base64
import hashlib
import json
import secrets
import time
from datetime import datetime, timedelta
from http import HTTPStatus
from typing import Any
from urllib.parse import quote_plus, urlencode

from django.core import signing
from django.db import transaction
from django.db.models import Q
from glyptarch_core.platforms import platform_of
from glyptarch_core.platforms.model import SignIn
from glyptarch_core.text import clean_line
from glyptarch_core.text.foreign_json import load_json

from glyptarch_server.audit.actions import record
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.common.seal import seal
from glyptarch_server.platforms.access import fields_of
from glyptarch_server.platforms.models import Connection
from glyptarch_server.platforms.states import ConnectionState
from glyptarch_server.wiring import FetchCode, Fetched, FetchError, FetchPortal, FetchRequest

__all__ = [
    "begin_sign_in",
    "connection_of_state",
    "drop_sign_in",
    "end_sign_in",
    "refusal_of",
    "with_fresh_token",
]

_SALT = "glyptarch.platforms.signing_in"
_SECONDS_TO_SIGN_IN = 15 * 60
# A token is renewed a little early, so that it does not expire during a request.
_BEFORE_ITS_END = timedelta(seconds=60)
_USUAL_SECONDS = 3600
_RENEWING = timedelta(seconds=30)
_LOOKED_AGAIN_AFTER = 0.2
_PENDING = frozenset({"state", "verifier", "redirect"})
_LONGEST_TOKEN = 8192
"""Characters of a token (RFC 6749 sets no limit; web servers take headers of about this length)."""
_NOBODY = "Nobody has signed in yet. Press “Sign in” at the connection."
_UNKNOWN_CLIENT = "The platform does not know this client id and secret. Look them up there, and enter them again."
_ENDED = "The sign-in has ended. Press “Sign in” at the connection."


def _beneath(connection: Connection, path: str) -> str:
    return f"{connection.address.rstrip('/')}{path}"


def begin_sign_in(connection: Connection, *, redirect: str) -> str:
    """Return the address where a person signs in. Raises Conflict for platforms without OAuth."""
    platform = platform_of(connection.platform)
    if platform is None or platform.sign_in is not SignIn.OAUTH:
        raise Conflict("This platform is not signed in to. It takes a key.")
    fields = fields_of(connection)
    verifier = secrets.token_urlsafe(48)
    state = signing.dumps({"connection": connection.pk, "nonce": secrets.token_urlsafe(12)}, salt=_SALT)
    _keep(connection, {**fields, "state": state, "verifier": verifier, "redirect": redirect})
    challenge = base64.urlsafe_b64encode(hashlib.sha256(verifier.encode()).digest()).rstrip(b"=").decode()
    query = {
        "response_type": "code",
        "client_id": fields.get("client", ""),
        "redirect_uri": redirect,
        "scope": platform.scope,
        "state": state,
        "code_challenge": challenge,
        "code_challenge_method": "S256",
    }
    address = fields.get("sign_in_address") or _beneath(connection, platform.authorize_path)
    return f"{address}{'&' if '?' in address else '?'}{urlencode(query)}"


def _keep(connection: Connection, fields: dict[str, str]) -> None:
    connection.sealed = seal(json.dumps(fields))
    connection.save(update_fields=["sealed"])


def connection_of_state(state: str) -> Connection:
    """Return the connection of a sign-in's state. Raises Invalid for a foreign or expired state."""
    try:
        number = signing.loads(state, salt=_SALT, max_age=_SECONDS_TO_SIGN_IN)["connection"]
        return Connection.objects.select_related("blog").get(pk=number, removed_at=None)
    except (signing.BadSignature, Connection.DoesNotExist, KeyError, TypeError) as error:
        raise Invalid("This sign-in was begun too long ago, or elsewhere. Begin it again.") from error


_REFUSALS = {
    "access_denied": "You did not allow it there. Press “Sign in” to begin again.",
    "temporarily_unavailable": "The platform cannot take sign-ins just now. Try again later.",
    "server_error": "The platform failed. Try again later.",
}


def refusal_of(error: str) -> str:
    """Return in words why a platform did not let a person in (RFC 6749, 4.1.2.1)."""
    return _REFUSALS.get(error, f"The platform refused the sign-in: {clean_line(error, 100)}.")


def drop_sign_in(connection: Connection, *, state: str) -> None:
    """Forget a sign-in that the platform refused, so that its state is good for nothing more."""
    fields = fields_of(connection)
    if secrets.compare_digest(fields.get("state", ""), state):
        _keep(connection, {name: value for name, value in fields.items() if name not in _PENDING})


def end_sign_in(connection: Connection, *, state: str, code: str, fetcher: FetchPortal, now: datetime) -> None:
    """Exchange the code of a platform for tokens. Raises Invalid where that fails."""
    fields = fields_of(connection)
    if not secrets.compare_digest(fields.get("state", ""), state) or not code:
        raise Invalid("This sign-in has been used already, or another one was begun since. Begin it again.")
    tokens = _tokens(
        connection,
        {
            "grant_type": "authorization_code",
            "code": code,
            "redirect_uri": fields.get("redirect", ""),
            "client_id": fields.get("client", ""),
            "code_verifier": fields.get("verifier", ""),
        },
        fetcher=fetcher,
    )
    kept = {name: value for name, value in fields.items() if name not in _PENDING}
    if isinstance(tokens, FetchError):
        _keep(connection, kept)
        raise Invalid(f"The platform gave no access: {tokens}")
    with transaction.atomic():
        _keep(connection, {**kept, **_fields_of_tokens(tokens, now, "")})
        record("connection.signed_in", connection.name, blog=connection.blog_id)


def _tokens(connection: Connection, form: dict[str, str], *, fetcher: FetchPortal) -> dict[str, Any] | FetchError:
    platform, fields = platform_of(connection.platform), fields_of(connection)
    headers = [("Accept", "application/json")]
    if fields.get("secret"):
        # RFC 6749, 2.3.1: both parts are encoded as in a form.
        pair = f"{quote_plus(fields.get('client', ''))}:{quote_plus(fields['secret'])}"
        headers.append(("Authorization", f"Basic {base64.b64encode(pair.encode()).decode()}"))
    request = FetchRequest(
        url=fields.get("token_address") or _beneath(connection, platform.token_path if platform else ""),
        form=tuple(form.items()),
        headers=tuple(headers),
        keeps_error=True,
    )
    (answer,) = fetcher.fetch_all([request])
    if isinstance(answer, FetchError):
        return answer
    return _read(answer)


def _read(answer: Fetched) -> dict[str, Any] | FetchError:
    try:
        data = load_json(answer.body)
    except ValueError:
        data = None
    token = data.get("access_token") if isinstance(data, dict) else None
    if isinstance(token, str) and token.isascii() and token.isprintable() and 0 < len(token) <= _LONGEST_TOKEN:
        return dict(data)
    return FetchError(FetchCode.REFUSED, "The platform's answer holds no access token.")


def _fields_of_tokens(data: dict[str, Any], now: datetime, refresh_before: str) -> dict[str, str]:
    seconds = data.get("expires_in")
    lasts = seconds if isinstance(seconds, int) and not isinstance(seconds, bool) and seconds > 0 else _USUAL_SECONDS
    refresh = data.get("refresh_token")
    is_usable = isinstance(refresh, str) and 0 < len(refresh) <= _LONGEST_TOKEN
    return {
        "access": data["access_token"],
        "refresh": refresh if is_usable else refresh_before,
        "ends": (now + timedelta(seconds=min(lasts, 10**8))).isoformat(),
    }


def with_fresh_token(connection: Connection, *, fetcher: FetchPortal, now: datetime) -> FetchError | None:
    """Renew a token about to expire.

    Return the error where the connection cannot be used. A refresh token may work only once, so one worker renews and
    the others wait. No transaction is open during the request.
    """
    platform = platform_of(connection.platform)
    if platform is None or platform.sign_in not in {SignIn.OAUTH, SignIn.CLIENT}:
        return None
    by_itself = platform.sign_in is SignIn.CLIENT
    until = time.monotonic() + _RENEWING.total_seconds()
    while True:
        row = Connection.objects.get(pk=connection.pk)
        fields = fields_of(row)
        if not fields.get("access") and not by_itself:
            return _note_state(row, connection, ConnectionState.UNSIGNED, _NOBODY)
        if fields.get("access") and now + _BEFORE_ITS_END < datetime.fromisoformat(fields["ends"]):
            connection.sealed = row.sealed
            return None
        if _claim_renewal(row, now):
            if by_itself:
                return _sign_in_again(row, connection, fetcher=fetcher, now=now)
            return _renew(row, connection, fields, fetcher=fetcher, now=now)
        if time.monotonic() > until:
            return FetchError(FetchCode.TOO_SLOW, "The sign-in is being renewed, and that takes too long.")
        time.sleep(_LOOKED_AGAIN_AFTER)


def _claim_renewal(row: Connection, now: datetime) -> bool:
    """Claim a token's renewal for this worker.

    The claim of a dead worker expires.
    """
    free = Q(renewing_until=None) | Q(renewing_until__lt=now)
    return bool(Connection.objects.filter(free, pk=row.pk).update(renewing_until=now + _RENEWING))


def _sign_in_again(
    row: Connection, connection: Connection, *, fetcher: FetchPortal, now: datetime
) -> FetchError | None:
    """Get a token for the program itself (client credentials; RFC 6749, 4.4)."""
    answer = _tokens(row, {"grant_type": "client_credentials"}, fetcher=fetcher)
    with transaction.atomic():
        row = Connection.objects.select_for_update().get(pk=row.pk)
        row.renewing_until = None
        row.save(update_fields=["renewing_until"])
        if isinstance(answer, FetchError):
            if answer.status >= HTTPStatus.INTERNAL_SERVER_ERROR or not answer.status:
                return answer
            return _note_state(row, connection, ConnectionState.WRONG, _UNKNOWN_CLIENT)
        _keep(row, {**fields_of(row), **_fields_of_tokens(answer, now, "")})
        connection.sealed = row.sealed
    return None


def _renew(
    row: Connection, connection: Connection, fields: dict[str, str], *, fetcher: FetchPortal, now: datetime
) -> FetchError | None:
    form = {"grant_type": "refresh_token", "refresh_token": fields["refresh"], "client_id": fields.get("client", "")}
    answer = _tokens(row, form, fetcher=fetcher)
    with transaction.atomic():
        row = Connection.objects.select_for_update().get(pk=row.pk)
        row.renewing_until = None
        row.save(update_fields=["renewing_until"])
        present = fields_of(row)
        if present.get("refresh") != fields["refresh"]:
            # A new sign-in happened meanwhile, and its token counts.
            connection.sealed = row.sealed
            return None
        if isinstance(answer, FetchError):
            if answer.status >= HTTPStatus.INTERNAL_SERVER_ERROR or not answer.status:
                return answer
            return _note_state(row, connection, ConnectionState.EXPIRED, _ENDED)
        _keep(row, {**present, **_fields_of_tokens(answer, now, fields["refresh"])})
        connection.sealed = row.sealed
    return None


def _note_state(row: Connection, connection: Connection, state: ConnectionState, detail: str) -> FetchError:
    row.state = connection.state = state.value
    row.detail = connection.detail = detail
    row.save(update_fields=["state", "detail"])
    return FetchError(FetchCode.REFUSED, detail)
