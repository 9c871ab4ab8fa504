"""The second factor of a sign-in: time-based codes (RFC 6238) and recovery codes."""

import hashlib
import secrets
from datetime import datetime

import pyotp
import segno
from django.db import transaction

from glyptarch_server.accounts.models import RecoveryCode, User
from glyptarch_server.accounts.telling import tell_owner
from glyptarch_server.audit.actions import record
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.common.seal import seal, unseal

__all__ = ["begin", "confirm", "picture_of", "switch_off", "takes"]

_RECOVERY_CODES = 8
_STEP = 30


def _hash(code: str) -> str:
    return hashlib.sha256(code.replace("-", "").strip().lower().encode()).hexdigest()


def begin(user: User) -> tuple[str, str]:
    """Return a new secret and its address for an app. Nothing is stored until it is confirmed."""
    secret = pyotp.random_base32()
    return secret, pyotp.TOTP(secret).provisioning_uri(name=user.username, issuer_name="Glyptarch")


def picture_of(address: str) -> str:
    """Return an address as a QR code (ISO/IEC 18004) in SVG, as a data URI for ``src``."""
    picture: str = segno.make(address, micro=False).svg_data_uri(scale=4, border=4, light="#fff")
    return picture


def confirm(user: User, secret: str, code: str, *, now: datetime) -> list[str]:
    """Switch the second factor on with this secret.

    Return the recovery codes, shown only once. Raises Invalid where the code is wrong, Conflict where a second factor
    is on already.
    """
    if user.totp_secret:
        raise Conflict("A second factor is in use already. Switch it off first.")
    try:
        step = _step_of(secret, code, now)
    except ValueError as error:
        raise Invalid("The secret is not one of ours. Begin again.") from error
    if step is None:
        raise Invalid("The code does not fit. Look whether the clock of your device is right, then type the next one.")
    codes = [f"{secrets.token_hex(2)}-{secrets.token_hex(2)}-{secrets.token_hex(2)}" for _ in range(_RECOVERY_CODES)]
    with transaction.atomic():
        user.totp_secret, user.totp_step = seal(secret), step
        user.save(update_fields=["totp_secret", "totp_step"])
        user.recovery_codes.all().delete()
        RecoveryCode.objects.bulk_create([RecoveryCode(user=user, code_hash=_hash(code)) for code in codes])
        record("account.second_factor_on", user.username)
        tell_owner(user, "A second factor is asked for at each sign-in from now on.")
    return codes


def switch_off(user: User) -> None:
    """Ask for no codes any more."""
    with transaction.atomic():
        user.totp_secret = ""
        user.save(update_fields=["totp_secret"])
        user.recovery_codes.all().delete()
        record("account.second_factor_off", user.username)
        tell_owner(user, "Its second factor was switched off.")


def _step_of(secret: str, code: str, now: datetime) -> int | None:
    """Return the time step of a code.

    The present step and its neighbours count, for clocks that are slightly off.
    """
    present = int(now.timestamp()) // _STEP
    generator = pyotp.TOTP(secret)
    digits = "".join(code.split())
    for step in (present, present - 1, present + 1):
        if secrets.compare_digest(generator.generate_otp(step), digits) if digits.isascii() else False:
            return step
    return None


def takes(user: User, code: str, *, now: datetime) -> bool:
    """Whether a code is right.

    A right code is used up.
    """
    with transaction.atomic():
        row = User.objects.select_for_update().get(pk=user.pk)
        step = _step_of(unseal(row.totp_secret), code, now)
        if step is not None and step > row.totp_step:
            row.totp_step = step
            row.save(update_fields=["totp_step"])
            return True
        return bool(row.recovery_codes.filter(code_hash=_hash(code)).delete()[0])
