"""People and their credentials."""

from django.contrib.auth.models import AbstractUser
from django.db import models
from django.db.models.functions import Lower
from django.utils.crypto import salted_hmac

__all__ = ["ApiToken", "RecoveryCode", "User"]


class User(AbstractUser):
    """A person with a sign-in."""

    # Part of the session hash; incrementing it ends every session of the person.
    session_number = models.PositiveIntegerField(default=0)
    # The encrypted secret of the second factor (RFC 6238); empty where it is off.
    totp_secret = models.CharField(max_length=300, blank=True)
    # The time step of the last code, because no code is accepted twice (RFC 6238, 5.2).
    totp_step = models.BigIntegerField(default=0)

    # Set for requests with an API token: its name, and the highest role it may use.
    token_name = ""
    token_role = ""

    class Meta(AbstractUser.Meta):
        constraints = [
            # A reset link must reach one person.
            models.UniqueConstraint(Lower("email"), condition=~models.Q(email=""), name="mail_address_once")
        ]

    def _get_session_auth_hash(self, secret: str | None = None) -> str:
        value = f"{self.password}.{self.session_number}"
        return salted_hmac("glyptarch.accounts.session", value, secret=secret, algorithm="sha256").hexdigest()


class RecoveryCode(models.Model):
    """The hash of a code that replaces the second factor once."""

    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="recovery_codes")
    code_hash = models.CharField(max_length=64)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "code_hash"], name="recovery_code_once")]


class ApiToken(models.Model):
    """A key for programs that act as a person, limited to a role and a day.

    Only a plain hash of the key is stored; that is enough, since the key is long and random.
    """

    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="api_tokens")
    name = models.CharField(max_length=80)
    key_hash = models.CharField(max_length=64, unique=True)
    # The highest role that it may use, whatever the person's (``Role`` of the blogs).
    role = models.CharField(max_length=10)
    made_at = models.DateTimeField()
    ends_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)
